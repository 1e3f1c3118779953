import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { useSubmit } from '../../parts/use-submit';
import { StillToBill } from './still-to-bill';

interface ClosingDialogProps {
  title: string;
  /** What becomes of it, in a sentence. */
  about: string;
  /** What the button says: "Archive", "Bring back". */
  verb: string;
  many: boolean;
  /** What is still to bill of it; null where it is brought back, undefined until it is read. */
  open: readonly { name: string; minor: number; currency: string }[] | null | undefined;
  run: () => Promise<unknown>;
  onClose: () => void;
}

/** Takes work out of the pickers or brings it back, with what is still to bill of it shown first. */
export function ClosingDialog({ title, about, verb, many, open, run, onClose }: ClosingDialogProps) {
  const { fault, submit } = useSubmit(async () => {
    await run();
    onClose();
  });
  return (
    <Dialog open onClose={onClose} title={title} about={about}>
      <form onSubmit={submit} className="flex flex-col gap-4">
        {open !== null && <StillToBill rows={open ?? []} ready={open !== undefined} />}
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex gap-2">
          <Button type="submit" kind="main">
            {verb}
          </Button>
          <Button onClick={onClose}>Leave {many ? 'them' : 'it'}</Button>
        </div>
      </form>
    </Dialog>
  );
}
