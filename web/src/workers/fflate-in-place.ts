import { unzipSync, zipSync, type Unzipped, type Zippable } from 'fflate';

// What packages ask of fflate, done where it is asked. For larger files fflate itself starts workers out of addresses that it makes up,
// which the content security policy forbids, and then waits for them without end.

export * from 'fflate';

type Done<T> = (fault: Error | null, data: T) => void;

function inPlace<T>(task: () => T, done: Done<T>): () => void {
  queueMicrotask(() => {
    let data: T;
    try {
      data = task();
    } catch (thrown) {
      return done(thrown as Error, undefined as T);
    }
    done(null, data);
  });
  return () => undefined;
}

export function zip(files: Zippable, options: object | Done<Uint8Array>, done?: Done<Uint8Array>): () => void {
  const told = typeof options === 'function' ? (options as Done<Uint8Array>) : done!;
  return inPlace(() => zipSync(files, typeof options === 'function' ? {} : options), told);
}

export function unzip(bytes: Uint8Array, options: object | Done<Unzipped>, done?: Done<Unzipped>): () => void {
  const told = typeof options === 'function' ? (options as Done<Unzipped>) : done!;
  return inPlace(() => unzipSync(bytes, typeof options === 'function' ? {} : options), told);
}
