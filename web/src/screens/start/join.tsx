import { useCallback, useState } from 'react';
import type { WorkspaceEntry } from '../../data/database';
import { answerInvitation, openFile, setUpByJobSheet } from '../../data/sealed-files';
import { save } from '../../data/workspaces';
import { AnsweredList } from '../../parts/answered-list';
import { OpenFiles } from '../../parts/open-files';

/** For whoever was invited by a studio: the invitation is answered, the codes are compared, and a job sheet sets up a workspace. */
export function Join({ onStarted }: { onStarted: (entry: WorkspaceEntry) => void }) {
  const [fresh, setFresh] = useState<string | null>(null);
  const take = useCallback(
    async (file: File) => {
      const opened = await openFile(file);
      if (opened.kind === 'invitation') {
        const { id, reply, posted } = await answerInvitation(opened.invitation);
        if (!posted) save(reply.blob, reply.name);
        setFresh(id);
        const where = posted ? 'went to them by their relay' : `was saved as ${reply.name}`;
        return `You are invited by ${opened.invitation.studio.name}. Your reply ${where}.`;
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
      <AnsweredList fresh={fresh} onStarted={onStarted} />
    </>
  );
}
