import type { Question } from '@half-penny/core/model';

// Questions that a change asks before it is made. One at a time; the shell shows it.

export interface Asked {
  question: Question;
  answer: (yes: boolean) => void;
}

let asked: readonly Asked[] = [];
const watchers = new Set<() => void>();

function put(next: readonly Asked[]): void {
  asked = next;
  for (const watcher of watchers) watcher();
}

/** Asks the person; resolves with whether it is to be done. */
export function askPerson(question: Question): Promise<boolean> {
  return new Promise((resolve) => {
    const one: Asked = {
      question,
      answer(yes) {
        put(asked.filter((each) => each !== one));
        resolve(yes);
      },
    };
    put([...asked, one]);
  });
}

/** The question that is open, for useSyncExternalStore. */
export const openQuestion = (): Asked | null => asked[0] ?? null;

export function watchQuestions(watcher: () => void): () => void {
  watchers.add(watcher);
  return () => void watchers.delete(watcher);
}
