import type { Pricer } from '@half-penny/core/billing';
import type { Id } from '@half-penny/core/model';
import { useCallback, useState } from 'react';
import { beginKeys, useKnownKeys } from '../../data/keys';
import { useRights } from '../../data/rights';
import { answerInvitation, openFile, takeOpened } from '../../data/sealed-files';
import { useChanges, useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { AnsweredList } from '../../parts/answered-list';
import { Button } from '../../parts/button';
import { KeysKept } from '../../parts/keys-kept';
import { OpenFiles } from '../../parts/open-files';
import { Loading, Section } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';
import { ByRelay } from './by-relay';
import { SealedMembers } from './sealed-members';
import { SealedOwn } from './sealed-own';

/** What travels between the studio and its members: opened, made, and who is met. */
export function SealedPart({ pricer }: { pricer: Pricer }) {
  const session = useSession();
  const known = useKnownKeys();
  const rights = useRights();
  const [comparing, setComparing] = useState<Id | null>(null);
  const [answered, setAnswered] = useState<Id | null>(null);
  const take = useCallback(
    async (file: File) => {
      const took = await takeOpened(session, await openFile(file));
      if (took.compare !== undefined) setComparing(took.compare);
      if (took.answer) {
        const { id, reply, posted } = await answerInvitation(took.answer);
        if (!posted) save(reply.blob, reply.name);
        setAnswered(id);
      }
      return took.said;
    },
    [session],
  );
  if (!known) return <Loading />;
  const { own, studio, ownerId } = known;
  const member = pricer.member.get(ownerId ?? '');
  if (member && own && studio)
    return (
      <>
        <div className="mb-6">
          <OpenFiles main take={take} hint="a job sheet or an answer from the studio; or drop or paste it here" />
          <AnsweredList fresh={answered} />
        </div>
        <SealedOwn {...{ pricer, member, known, own, studio }} />
        <ByRelay {...{ own, zone: member.zone }} forMember />
        <KeysKept
          own={own}
          whenLost="Should they get lost, ask the studio to invite you again, and open the invitation here."
        />
      </>
    );
  if (!own) return <Begin />;
  return (
    <>
      <div className="mb-6">
        <OpenFiles take={take} hint="replies and timesheets of members, one or many; or drop or paste them here" />
      </div>
      <SealedMembers {...{ pricer, known, own, comparing }} onCompare={setComparing} />
      {rights.has('setup') && <ByRelay {...{ own, zone: pricer.book.workspace.zone }} />}
      {rights.has('setup') && (
        <KeysKept own={own} whenLost="Should they get lost, the studio makes new ones and meets everybody again." />
      )}
      {rights.has('setup') && <MakeNew />}
    </>
  );
}

/** Before anything can be exchanged. */
function Begin() {
  const changes = useChanges();
  const rights = useRights();
  const { fault, submit } = useSubmit(() => beginKeys(changes));
  return (
    <Section title="Members in browsers of their own">
      <p className="mb-3 max-w-2xl text-soft">
        Members can record in their own browser, wherever they are. You send each a job sheet; they send back what they
        hand in; you send what became of it. The files are signed and sealed: only who they are for can read them, and
        they travel any way you like. Nobody’s trail is ever in them.
      </p>
      {rights.has('setup') ? (
        <Button kind="main" onClick={() => submit()}>
          Make the studio’s keys
        </Button>
      ) : (
        <p>Whoever sets the studio up makes its keys first.</p>
      )}
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
    </Section>
  );
}

/** Where keys are lost, or somebody else may have them. */
function MakeNew() {
  const changes = useChanges();
  const [sure, setSure] = useState(false);
  const { fault, submit } = useSubmit(() => beginKeys(changes).then(() => setSure(false)));
  return (
    <p className="text-sm text-soft">
      Somebody else may have the keys, or they are lost?{' '}
      {sure ? (
        <>
          Everybody has to be invited again.{' '}
          <Button kind="quiet" onClick={() => submit()}>
            Make new keys now
          </Button>{' '}
          <Button kind="quiet" onClick={() => setSure(false)}>
            Leave them
          </Button>
        </>
      ) : (
        <Button kind="quiet" onClick={() => setSure(true)}>
          Make new ones…
        </Button>
      )}
      {fault && <span className="text-fault"> {fault}</span>}
    </p>
  );
}
