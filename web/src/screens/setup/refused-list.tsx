import type { Reader } from '@half-penny/core/engine';
import type { Refused } from '@half-penny/core/shared-log';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { useRead } from '../../data/read';
import { useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';

/** What was done here and did not fit any more when its turn came: why, and what can be done about it. */
export function RefusedList({ refused, zone }: { refused: readonly Refused[]; zone: string }) {
  const { executor } = useSession();
  const about = useRead((reader) => namesOf(reader, refused), [refused]);
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const attempt = (op: string, task: Promise<unknown>) => {
    task.then(
      () => setFaults(({ [op]: _, ...rest }) => rest),
      (thrown: unknown) => setFaults((now) => ({ ...now, [op]: wordsOf(thrown) })),
    );
  };
  return (
    <section aria-label="Did not fit" className="mb-6 border-l-[3px] border-attention bg-attention-ground/40 px-3 py-2">
      <h3 className="font-semibold">Did not fit any more</h3>
      <p className="mb-2 max-w-2xl text-sm text-soft">
        Others were first. What you did is kept here until you do it again or let it go.
      </p>
      <ul>
        {refused.map(({ op, title, at, why, done }) => (
          <li key={op} className="flex flex-wrap items-start gap-x-4 gap-y-1 border-t border-rule py-2">
            <div className="min-w-56 flex-1">
              <p>
                {title} <span className="text-sm text-soft">{showMoment(at, zone)}</span>
              </p>
              <p className="written text-sm text-soft">{[about?.get(op), what(done)].filter(Boolean).join(': ')}</p>
              <p className="text-sm text-fault">{faults[op] ?? why}</p>
            </div>
            <Button aria-label={`Do again: ${title}`} onClick={() => attempt(op, executor.doAgain(op))}>
              Do it again
            </Button>
            <Button kind="quiet" aria-label={`Let go: ${title}`} onClick={() => attempt(op, executor.letGo(op))}>
              Let go
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Tables whose rows people know by a name or a note. */
const NAMED = ['entries', 'timers', 'costs', 'invoices', 'projects', 'tasks', 'clients'] as const;

/** What each was about, as far as it is still there: the note of the entry, the name of the client. */
async function namesOf(reader: Reader, refused: readonly Refused[]): Promise<ReadonlyMap<string, string>> {
  const names = new Map<string, string>();
  for (const { op, done } of refused) {
    const id = 'command' in done ? idIn(done.input) : null;
    for (const table of id === null ? [] : NAMED) {
      const row = (await reader.get(table, id!)) as {
        note?: string;
        name?: string;
        frozen?: { number: string } | null;
      };
      const name = row && (row.name ?? row.note ?? row.frozen?.number);
      if (name) names.set(op, name);
    }
  }
  return names;
}

/** The id of what an input changes. */
function idIn(input: unknown): string | null {
  const { id, ids } = (input ?? {}) as { id?: unknown; ids?: readonly unknown[] };
  const found = id ?? ids?.[0];
  return typeof found === 'string' ? found : null;
}

const MOST = 160;

/** What was typed, as far as it is words: so nobody has to remember what it was. */
function what(done: Refused['done']): string {
  if (!('command' in done)) return '';
  const found: string[] = [];
  const look = (value: unknown) => {
    if (typeof value === 'string' && /\s|^[A-Z]/.test(value) && value.length > 1) found.push(value);
    else if (value !== null && typeof value === 'object') Object.values(value).forEach(look);
  };
  look(done.input);
  const text = [...new Set(found)].join(', ');
  return text.length > MOST ? `${text.slice(0, MOST)}…` : text;
}
