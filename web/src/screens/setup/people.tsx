import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { readDay } from '@half-penny/core/entries';
import { ALWAYS, readLength, showLength } from '@half-penny/core/time';
import { useToday } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { useRights } from '../../data/rights';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Checking } from './checking';
import { CostRates } from './cost-rates';
import { RightsPart } from './rights';
import { MembersMore } from './members-more';

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;

/** Everybody who records time, and who is working in this browser. */
export function People({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const { memberId, workAs } = useSession();
  const today = useToday();
  const rights = useRights();
  const setsUp = rights.has('setup');
  // A member’s own workspace is worked in by them alone.
  const isOwn = pricer.book.workspace.ofMember !== undefined;
  const all: Column<Member>[] = [
    {
      key: 'self',
      head: 'Here',
      width: '90px',
      cell: (member) =>
        member.id === memberId ? (
          <span className="font-semibold text-time">works here</span>
        ) : isOwn ? null : (
          <Button kind="quiet" onClick={() => void workAs(member.id)}>
            Work as
          </Button>
        ),
    },
    {
      key: 'name',
      head: 'Name',
      width: 'minmax(0,1fr)',
      cell: (member) => <span className="written clamp-2">{member.name}</span>,
      edit: { text: (member) => member.name, save: (member, name) => run('member.edit', { id: member.id, name }) },
    },
    {
      key: 'role',
      head: 'Role',
      width: 'minmax(0,0.8fr)',
      cell: (member) => <span className="written clamp-2">{member.role}</span>,
      edit: { text: (member) => member.role, save: (member, role) => run('member.edit', { id: member.id, role }) },
    },
    {
      key: 'owesFrom',
      head: 'Owes from',
      width: '104px',
      wideOnly: true,
      cell: (member) =>
        member.owesFrom === undefined ? <span className="text-soft">always</span> : showShortDay(member.owesFrom),
      edit: {
        text: (member) => (member.owesFrom === undefined ? '' : showShortDay(member.owesFrom)),
        save: async (member, text) =>
          run('member.edit', { id: member.id, owesFrom: text.trim() === '' ? ALWAYS : readDay(text, today) }),
      },
    },
    ...weekdays.map((weekday, index): Column<Member> => ({
      key: weekday,
      head: weekday,
      width: '54px',
      align: 'end',
      wideOnly: true,
      cell: (member) => (
        <span className="font-mono text-sm text-time">{member.owed[index] ? showLength(member.owed[index]) : '–'}</span>
      ),
      edit: {
        text: (member) => (member.owed[index] ? showLength(member.owed[index]) : ''),
        save: async (member, text) => {
          const seconds = text.trim() === '' || text.trim() === '0' ? 0 : readLength(text).seconds;
          return run('member.edit', { id: member.id, owed: member.owed.with(index, seconds) });
        },
      },
    })),
  ];
  // Whoever does not set the studio up says here who they are, and sees who else there is.
  const columns = setsUp ? all : all.slice(0, 3).map(({ edit: _, ...column }) => column);
  return (
    <>
      <Section title={setsUp ? 'Members and the hours they owe' : 'Members'}>
        <Ledger
          label="Members"
          rows={pricer.book.members.toSorted((a, b) => (a.id < b.id ? -1 : 1))}
          rowId={(member) => member.id}
          rowName={(member) => member.name}
          columns={columns}
          {...(setsUp && { onDelete: (member: Member) => void attempt('member.remove', { id: member.id }) })}
          empty="No members yet."
        />
        {setsUp && (
          <AddLine
            label="Add a member"
            button="Add the member"
            fields={[
              { key: 'name', label: 'New member', className: 'min-w-44 flex-1' },
              { key: 'role', label: 'Role', className: 'w-44' },
            ]}
            add={({ name = '', role = '' }) => {
              const { daySeconds, zone } = pricer.book.workspace;
              return run('member.add', {
                name,
                role,
                zone,
                owed: [...Array.from({ length: 5 }, () => daySeconds), 0, 0],
                owesFrom: today,
              });
            }}
          />
        )}
      </Section>
      {rights.has('see cost') && <CostRates pricer={pricer} />}
      {setsUp && <MembersMore pricer={pricer} />}
      {setsUp && pricer.book.members.length > 1 && (
        <>
          <RightsPart pricer={pricer} />
          <Checking pricer={pricer} />
        </>
      )}
    </>
  );
}
