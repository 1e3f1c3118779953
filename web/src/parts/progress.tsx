import { Button } from './button';
import { Dialog } from './dialog';

/** Long work: what is being done, how far it is where that can be known, and a way to stop it. */
export function Progress({ title, share, onStop }: { title: string; share: number | null; onStop: () => void }) {
  return (
    <Dialog title={title} open onClose={onStop}>
      <progress
        className="h-2 w-full accent-time"
        {...(share === null ? {} : { value: share })}
        max={1}
        aria-label={title}
      />
      <div className="mt-4 flex items-center">
        <span className="text-soft" role="status">
          {share === null ? 'Working…' : `${Math.round(share * 100)} %`}
        </span>
        <Button className="ml-auto" onClick={onStop}>
          Stop
        </Button>
      </div>
    </Dialog>
  );
}
