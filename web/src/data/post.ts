import { useCallback, useEffect, useState } from 'react';
import { wordsOf } from './in-words';
import { askServer } from './server';

/** How the local server sends letters. Its password is never told. */
export interface PostSettings {
  host: string;
  port: number;
  secure: 'tls' | 'starttls' | 'none';
  user: string;
  from: string;
  fromName: string;
  hasPassword: boolean;
}

interface Kept {
  settings: PostSettings | null;
  /** Letters go to the box on this machine, and nowhere else. */
  simulated: boolean;
}

const asked = async (path: string, method = 'GET', body?: object): Promise<Kept> => {
  const response = await askServer(path, {
    method,
    ...(body && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
  });
  return (await response.json()) as Kept;
};

export const readPost = (): Promise<Kept> => asked('/post/settings');
export const savePost = (settings: Omit<PostSettings, 'hasPassword'> & { password?: string }): Promise<Kept> =>
  asked('/post/settings', 'PUT', settings);
export const simulatePost = (from: string, fromName: string): Promise<Kept> =>
  asked('/post/simulated', 'PUT', { from, fromName });

export async function testPost(to: string): Promise<void> {
  const headers = { 'content-type': 'application/json' };
  await askServer('/post/test', { method: 'POST', headers, body: JSON.stringify({ to }) });
}

/** The mail settings of the local server; what keeps them from being read stands in `fault`. */
export function usePost() {
  const [kept, setKept] = useState<Kept>();
  const [fault, setFault] = useState<string>();
  const read = useCallback(() => {
    readPost().then(
      (told) => {
        setKept(told);
        setFault(undefined);
      },
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  }, []);
  useEffect(read, [read]);
  return { kept, fault, read, setKept };
}
