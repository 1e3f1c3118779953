import { publicKeysOf } from '@half-penny/formats/sealed-files';
import { useCallback, useState } from 'react';
import type { AnsweredInvitation, WorkspaceEntry } from '../../data/database';
import { answerInvitation, forgetInvitation, openFile, setUpByJobSheet, useAnswered } from '../../data/sealed-files';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { OpenFiles } from '../../parts/open-files';
import { ShortCode } from '../../parts/short-code';

/** For whoever was invited by a studio: the invitation is answered, the codes are compared, and a job sheet sets up a workspace. */
export function Join({ onStarted }: { onStarted: (entry: WorkspaceEntry) => void }) {
  const answered = useAnswered();
  const [fresh, setFresh] = useState<string | null>(null);
  const take = useCallback(
    async (file: File) => {
      const opened = await openFile(file);
      if (opened.kind === 'invitation') {
        const { id, reply } = await answerInvitation(opened.invitation);
        save(reply.blob, reply.name);
        setFresh(id);
        return `You are invited by ${opened.invitation.studio.name}. Your reply was saved as ${reply.name}.`;
      }
      onStarted(await setUpByJobSheet(opened));
      return 'Your workspace is set up.';
    },
    [onStarted],
  );
  return (
    <>
      <p className="mb-4 max-w-2xl text-soft">
        A studio that you work for sent you an invitation. You record here, in a workspace of your own; the studio gets
        what you hand in, and nothing else.
      </p>
      <OpenFiles main take={take} hint="the invitation, and later the job sheet; or drop or paste it here" />
      {answered?.map((each) => (
        <Waiting key={each.id} answered={each} isFresh={each.id === fresh} />
      ))}
    </>
  );
}

/** An invitation that was answered: what is to be done until the job sheet comes. */
function Waiting({ answered, isFresh }: { answered: AnsweredInvitation; isFresh: boolean }) {
  const { invitation, keys } = answered;
  const { studio, member } = invitation;
  const again = () => void answerInvitation(invitation).then(({ reply }) => save(reply.blob, reply.name));
  return (
    <section aria-label={`Invited by ${studio.name}`} className="mt-6">
      <h2 className="mb-2 text-lg font-semibold">
        {studio.name} invites {member.name}
      </h2>
      <ol className="mb-4 flex list-decimal flex-col gap-1 pl-5">
        <li>
          Send your reply back to them{isFresh ? '; it was saved just now' : ''}.{' '}
          <Button kind="quiet" onClick={again}>
            Save it once more
          </Button>
        </li>
        <li>Call them, and read these figures to one another. Where they differ, stop: somebody is in between.</li>
        <li>They send you a job sheet. Open it here.</li>
      </ol>
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
