import { publicKeysOf } from '@half-penny/formats/sealed-files';
import { useEffect, useState } from 'react';
import type { AnsweredInvitation, WorkspaceEntry } from '../data/database';
import { wordsOf } from '../data/in-words';
import { answerInvitation, forgetInvitation, useAnswered } from '../data/sealed-files';
import { save } from '../data/workspaces';
import { Button } from './button';
import { ShortCode } from './short-code';

interface AnsweredListProps {
  /** The member whose reply was made just now. */
  fresh: string | null;
  /** Told of a workspace that was set up by what came to its mailbox; where one is open already its own is looked into. */
  onStarted?: (entry: WorkspaceEntry) => void;
}

/** Invitations that were answered in this browser, until their job sheets come. */
export function AnsweredList({ fresh, onStarted }: AnsweredListProps) {
  const answered = useAnswered();
  return answered?.map((each) => (
    <Waiting key={each.id} answered={each} isFresh={each.id === fresh} onStarted={onStarted} />
  ));
}

interface WaitingProps {
  onStarted: AnsweredListProps['onStarted'] | undefined;
  answered: AnsweredInvitation;
  isFresh: boolean;
}

/** Sets up the workspace as soon as its job sheet is at the relay. @returns why what came did not fit */
function useJobSheetThatComes(
  answered: AnsweredInvitation,
  onStarted: AnsweredListProps['onStarted'] | undefined,
): string | undefined {
  const [refused, setRefused] = useState<string>();
  const isWaited = answered.posted === true && onStarted !== undefined;
  useEffect(() => {
    if (!isWaited) return;
    const left = new AbortController();
    const say = (thrown: unknown) => {
      if (!left.signal.aborted) setRefused(wordsOf(thrown));
    };
    import('../data/mailbox-join')
      .then(({ setUpFromMailbox }) => setUpFromMailbox(answered, say, left.signal))
      .then(onStarted, say);
    return () => left.abort(new Error('Left.'));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the invitation is the same for as long as its keys are
  }, [isWaited, answered.keys.signing]);
  return refused;
}

/** An invitation that was answered: what is to be done until the job sheet comes. */
function Waiting({ answered, isFresh, onStarted }: WaitingProps) {
  const { invitation, keys, posted } = answered;
  const refused = useJobSheetThatComes(answered, onStarted);
  const { studio, member } = invitation;
  const again = () => void answerInvitation(invitation).then(({ reply }) => save(reply.blob, reply.name));
  return (
    <section aria-label={`Invited by ${studio.name}`} className="mt-6">
      <h2 className="mb-2 text-lg font-semibold">
        {studio.name} invites {member.name}
      </h2>
      <ol className="mb-4 flex list-decimal flex-col gap-1 pl-5">
        <li>
          {posted
            ? 'Your reply went to them by their relay.'
            : `Send your reply back to them${isFresh ? '; it was saved just now' : ''}.`}{' '}
          <Button kind="quiet" onClick={again}>
            {posted ? 'Save it as a file too' : 'Save it once more'}
          </Button>
        </li>
        <li>Call them, and read these figures to one another. Where they differ, stop: somebody is in between.</li>
        <li>
          {posted
            ? 'Their job sheet comes here by itself; leave this page open until it has.'
            : 'They send you a job sheet. Open it here.'}
        </li>
      </ol>
      {refused !== undefined && (
        <p role="alert" className="mb-4 text-fault">
          {refused}
        </p>
      )}
      <div className="max-w-md">
        <ShortCode studio={studio.keys} member={publicKeysOf(keys)} />
      </div>
      <p className="mt-3 text-sm">
        <Button kind="quiet" onClick={() => void forgetInvitation(answered.id)}>
          Forget this invitation
        </Button>
      </p>
    </section>
  );
}
