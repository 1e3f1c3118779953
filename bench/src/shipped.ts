import { build } from 'vite';
import { join } from 'node:path';
import { root } from './browser';

/** A file of the bench as one module of plain JavaScript, made by the tool that makes what is shipped; where it stands. */
export async function shipped(entry: string, folder: string): Promise<string> {
  const name = 'run.mjs';
  await build({
    configFile: false,
    logLevel: 'error',
    root,
    build: {
      ssr: join(root, 'bench/src', entry),
      outDir: folder,
      emptyOutDir: false,
      rolldownOptions: { output: { entryFileNames: name } },
    },
    ssr: { noExternal: true },
  });
  return join(folder, name);
}
