import { X } from 'lucide-react';
import { Link } from 'react-router';
import { understood } from '../state/shell';
import { useAppDispatch } from '../state/store';

/** Says once, until it is put away, that all of this is made up. */
export function DemoLine({ name }: { name: string }) {
  const dispatch = useAppDispatch();
  return (
    <section
      aria-label="This is the demo"
      className="flex items-center gap-x-4 bg-time-ground px-3 py-1 text-sm lg:px-5 print:hidden"
    >
      <p className="min-w-0 flex-1">
        <b>This is the demo.</b> {name} is made up: press anything, change anything.
      </p>
      <Link to="/start" className="shrink-0 font-semibold text-time underline underline-offset-2">
        Start your own
      </Link>
      <button
        type="button"
        aria-label="Put this line away"
        className="-mr-1 grid size-7 shrink-0 place-content-center rounded-sm text-soft hover:text-ink pointer-coarse:size-11"
        onClick={() => dispatch(understood('demo'))}
      >
        <X size={15} aria-hidden />
      </button>
    </section>
  );
}
