import type { Pricer } from '@half-penny/core/billing';
import type { Id, KeyHolder, Member } from '@half-penny/core/model';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../../data/in-words';
import type { KnownKeys } from '../../data/keys';
import type { MadeFile } from '../../data/database';
import { makeInvitation, makeSealed } from '../../data/sealed-files';
import { useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showMoment } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { CompareDialog } from './compare-dialog';
import { MadeDialog, type Made } from './made-dialog';
import { PartDialog } from './part-dialog';
import { pageFor } from './sealed-words';

interface SealedMembersProps {
  pricer: Pricer;
  known: KnownKeys;
  own: KeyHolder;
  /** Whose code is to be compared now. */
  comparing: Id | null;
  onCompare: (memberId: Id | null) => void;
}

/** Everybody with whom the studio can exchange sealed files: how far they are met, and what went and came. */
export function SealedMembers({ pricer, known, own, comparing, onCompare }: SealedMembersProps) {
  const session = useSession();
  const [parting, setParting] = useState<Member | null>(null);
  const [made, setMade] = useState<Made | null>(null);
  const [fault, setFault] = useState<string>();
  const studio = pricer.book.workspace.name;
  const self = session.memberId;
  const others = pricer.book.members.filter(({ id }) => id !== self).sort((a, b) => (a.id < b.id ? -1 : 1));
  const compared = known.ofMember.get(comparing ?? '');

  const make = (title: string, kind: 'invitation' | 'job sheet' | 'answer', member: Member) => {
    setFault(undefined);
    const reader = known.ofMember.get(member.id);
    const file: Promise<MadeFile> =
      kind === 'invitation'
        ? makeInvitation(session, { name: studio, holder: own }, member)
        : makeSealed(session, { kind, memberId: member.id }, { own, reader: reader!, studio });
    file.then(
      (found) => {
        save(found.blob, found.name);
        setMade({ title, file: found, page: pageFor(kind, { studio, member: member.name, file: found.name }) });
      },
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  };

  const columns: Column<Member>[] = [
    {
      key: 'name',
      head: 'Member',
      width: 'minmax(0,1fr)',
      cell: ({ name }) => <span className="written clamp-2">{name}</span>,
    },
    {
      key: 'met',
      head: 'How far',
      width: 'minmax(0,1fr)',
      cell: (member) => <HowFar {...{ member }} holder={known.ofMember.get(member.id)} />,
    },
    {
      key: 'last',
      head: 'Last went and came',
      width: 'minmax(0,1.3fr)',
      wideOnly: true,
      cell: (member) => <LastFiles {...{ known, member }} />,
    },
    {
      key: 'acts',
      head: 'What to do',
      quietHead: true,
      width: 'minmax(0,1.6fr)',
      align: 'end',
      ownLine: true,
      cell: (member) => {
        const holder = known.ofMember.get(member.id);
        const of = <span className="sr-only"> for {member.name}</span>;
        if (!holder || holder.standing === 'invited')
          return (
            <Button onClick={() => make(`The invitation for ${member.name}`, 'invitation', member)}>
              {holder ? 'Invite again…' : 'Invite…'}
              {of}
            </Button>
          );
        if (holder.standing === 'to compare')
          return (
            <Button kind="main" onClick={() => onCompare(member.id)}>
              Compare the codes…{of}
            </Button>
          );
        return (
          <span className="flex flex-wrap justify-end gap-2">
            <Button onClick={() => make(`A job sheet for ${member.name}`, 'job sheet', member)}>Job sheet{of}</Button>
            <Button onClick={() => make(`An answer for ${member.name}`, 'answer', member)}>Answer{of}</Button>
            <Button kind="quiet" onClick={() => setParting(member)}>
              Take no more{of}
            </Button>
          </span>
        );
      },
    },
  ];
  return (
    <Section title="Members">
      <Ledger
        label="Members and their files"
        rows={others}
        rowId={({ id }) => id}
        rowName={({ name }) => name}
        columns={columns}
        empty={
          <>
            There is nobody to exchange files with. Add members under{' '}
            <Link to="/setup/people" className="text-time underline">
              Setup, People
            </Link>
            .
          </>
        }
      />
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
      {parting && <PartDialog member={parting} onClose={() => setParting(null)} />}
      {made && <MadeDialog made={made} onClose={() => setMade(null)} />}
      {compared?.standing === 'to compare' && (
        <CompareDialog
          member={{ id: comparing!, name: pricer.member.get(comparing!)?.name ?? '' }}
          studio={own.keys!}
          keys={compared.keys!}
          onClose={() => onCompare(null)}
        />
      )}
    </Section>
  );
}

function HowFar({ member, holder }: { member: Member; holder: KeyHolder | undefined }) {
  if (!holder) return <span className="text-soft">not invited</span>;
  const when = showMoment(holder.at, member.zone);
  if (holder.standing === 'invited') return <span>invited, {when}</span>;
  if (holder.standing === 'to compare') return <span className="text-attention">answered; codes not compared</span>;
  return <span>met, {when}</span>;
}

function LastFiles({ known, member }: { known: KnownKeys; member: Member }) {
  const own = known.files.filter(({ memberId }) => memberId === member.id);
  const last = [own.find(({ sent }) => sent), own.find(({ sent }) => !sent)].filter((file) => file !== undefined);
  if (last.length === 0) return <span className="text-soft">nothing yet</span>;
  return (
    <ul className="text-sm">
      {last.map((file) => (
        <li key={file.id}>
          {file.kind} {file.sent ? 'made' : 'taken'}, {showMoment(file.at, member.zone)}
        </li>
      ))}
    </ul>
  );
}
