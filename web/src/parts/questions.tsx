import type { Asked } from '../state/questions';
import { Button } from './button';
import { Dialog } from './dialog';

/** What a change asks before it is made. Closing the window says no: nothing is changed, and what was typed stays. */
export default function Questions({ asked: { question, answer } }: { asked: Asked }) {
  return (
    <Dialog title="Is that right?" about={question.message} open onClose={() => answer(false)}>
      <div className="flex justify-end gap-2">
        <Button onClick={() => answer(false)}>Change it</Button>
        <Button kind="main" onClick={() => answer(true)}>
          {question.yes}
        </Button>
      </div>
    </Dialog>
  );
}
