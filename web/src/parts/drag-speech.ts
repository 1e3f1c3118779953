import type { Announcements } from '@dnd-kit/core';

/** What screen readers hear while something is dragged: names, as ids tell nobody anything. */
export function dragSpeech(nameOf: (id: string) => string): Announcements {
  const over = (id: string | number | undefined) => (id === undefined ? '' : nameOf(String(id)));
  return {
    onDragStart: ({ active }) => `${nameOf(String(active.id))} is picked up.`,
    onDragOver: ({ active, over: target }) =>
      target
        ? `${nameOf(String(active.id))} is over ${over(target.id)}.`
        : `${nameOf(String(active.id))} is over nothing.`,
    onDragEnd: ({ active, over: target }) =>
      target
        ? `${nameOf(String(active.id))} was dropped on ${over(target.id)}.`
        : `${nameOf(String(active.id))} was dropped.`,
    onDragCancel: ({ active }) => `${nameOf(String(active.id))} stays where it was.`,
  };
}
