import type { ReactNode } from 'react';
import { useAtOnce } from './use-at-once';
import { CheckBox } from './check';

interface ChecksProps<T extends string> {
  options: readonly { id: T; name: ReactNode; /** Cannot be changed. */ fixed?: boolean }[];
  chosen: readonly T[];
  /** Saves which are chosen now, in the order of the options unless `ordered`. */
  save: (chosen: T[]) => Promise<unknown>;
  /** What is chosen stays in the order in which it was. */
  ordered?: boolean;
  className?: string;
}

/** Several of a few, as check boxes that save by themselves: each press builds on what the one before it left. */
export function Checks<T extends string>({ options, chosen, save, ordered = false, className }: ChecksProps<T>) {
  const [shown, set] = useAtOnce(chosen, (next) => save([...next]));
  const toggle = (id: T) => {
    const next = shown.includes(id) ? shown.filter((each) => each !== id) : [...shown, id];
    const offered = options.map((option) => option.id);
    set(ordered ? next : [...next].sort((a, b) => offered.indexOf(a) - offered.indexOf(b)));
  };
  return (
    <div className={className ?? 'flex flex-wrap gap-x-4 gap-y-1'}>
      {options.map(({ id, name, fixed = false }) => (
        <label key={id} className="flex items-center gap-2">
          <CheckBox checked={shown.includes(id)} disabled={fixed} onChange={() => toggle(id)} />
          <span className="written">{name}</span>
        </label>
      ))}
    </div>
  );
}
