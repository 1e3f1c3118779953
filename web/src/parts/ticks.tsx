import type { ReactNode } from 'react';
import { Checks } from './checks';
import { clipped } from './figures';
import { Opener } from './opener';

interface TicksProps {
  /** What is chosen for whom: "Projects that Maud Ferrier answers for". */
  label: string;
  options: readonly { id: string; name: string }[];
  chosen: readonly string[];
  save: (ids: string[]) => Promise<unknown>;
  /** What stands there while nothing is chosen. */
  none: ReactNode;
  /** What is said where there is nothing to choose from. */
  empty: string;
}

/** Several of a short list: shown as names, chosen in a list of check boxes that a press opens. */
export function Ticks({ label, options, chosen, save, none, empty }: TicksProps) {
  const names = options.filter((option) => chosen.includes(option.id)).map((option) => option.name);
  return (
    <Opener
      label={clipped(label)}
      trigger={{
        'aria-label': `${clipped(label)}: ${names.length > 0 ? clipped(names.join(', ')) : 'none'}`,
        className: 'written clamp-2 rounded-sm text-left decoration-dotted underline-offset-4 hover:underline',
        children: names.length > 0 ? names.join(', ') : <span className="text-soft">{none}</span>,
      }}
      align="start"
      className="flex max-h-72 w-72 flex-col gap-1 overflow-auto p-3"
    >
      {options.length === 0 && <p className="text-soft">{empty}</p>}
      <Checks options={options} chosen={chosen} save={save} ordered className="flex flex-col gap-1" />
    </Opener>
  );
}
