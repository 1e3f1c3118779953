import type { Pricer } from '@half-penny/core/billing';
import { isHandedIn, standingOfPeriod, type PeriodStanding } from '@half-penny/core/checking';
import type { Id, KeyHolder, Member, Timesheet } from '@half-penny/core/model';
import { daysFrom } from '@half-penny/core/time';
import { useState } from 'react';
import { Link } from 'react-router';
import { wordsOf } from '../../data/in-words';
import type { KnownKeys } from '../../data/keys';
import { useRead } from '../../data/read';
import { makeSealed } from '../../data/sealed-files';
import { useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showMoment, showShortDay, showShortestDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { StandingWay } from '../../parts/standing-way';
import { MadeDialog, type Made } from './made-dialog';
import { pageFor } from './sealed-words';

interface OwnSheet {
  sheet: Timesheet;
  standing: PeriodStanding;
  handInId: Id | undefined;
}

/** The weeks or billing periods that a member handed in, the latest first, with how far each is. */
function useOwnSheets(memberId: string): OwnSheet[] | undefined {
  return useRead(
    async (reader) => {
      const sheets = await reader.by('timesheets', 'memberId', [memberId]);
      const closings = await reader.all('closings');
      const costs = await reader.by('costs', 'memberId', [memberId]);
      const keys = sheets.flatMap(({ from, to }) => daysFrom(from, to).map((day) => [memberId, day] as const));
      const entries = await reader.by('entries', 'memberId+day', keys);
      const handIns = await reader.by(
        'handIns',
        'timesheetId',
        sheets.map(({ id }) => id),
      );
      const latest = new Map(handIns.sort((a, b) => a.at - b.at).map((each) => [each.timesheetId, each.id]));
      return sheets
        .sort((a, b) => (a.from < b.from ? 1 : -1))
        .map((sheet) => {
          const checked = [...entries, ...costs].filter(({ day }) => sheet.from <= day && day <= sheet.to);
          const standing = standingOfPeriod(memberId, sheet, { sheets, closings, checked });
          return { sheet, standing, handInId: latest.get(sheet.id) };
        });
    },
    [memberId],
  );
}

interface SealedOwnProps {
  pricer: Pricer;
  member: Member;
  known: KnownKeys;
  own: KeyHolder;
  studio: KeyHolder;
}

/** In a member's own workspace: what they handed in, as files for the studio. */
export function SealedOwn({ pricer, member, known, own, studio }: SealedOwnProps) {
  const session = useSession();
  const sheets = useOwnSheets(member.id);
  const [made, setMade] = useState<Made | null>(null);
  const [fault, setFault] = useState<string>();
  const name = pricer.book.workspace.name;
  const make = ({ sheet }: OwnSheet) => {
    setFault(undefined);
    const days = daysOf(sheet);
    makeSealed(session, { kind: 'timesheet', timesheetId: sheet.id }, { own, reader: studio, studio: name }).then(
      (file) => {
        save(file.blob, file.name);
        const about = { studio: name, member: member.name, file: file.name, days };
        setMade({ title: `Your timesheet for ${days}`, file, page: pageFor('timesheet', about) });
      },
      (thrown: unknown) => setFault(wordsOf(thrown)),
    );
  };
  const columns: Column<OwnSheet>[] = [
    {
      key: 'days',
      head: 'Days',
      width: 'minmax(0,1fr)',
      cell: ({ sheet }) => (
        <Link to={`/week?day=${sheet.from}`} className="text-time underline">
          {daysOf(sheet)}
        </Link>
      ),
    },
    {
      key: 'standing',
      head: 'How far',
      width: 'minmax(0,1.4fr)',
      ownLine: true,
      cell: ({ standing }) => <StandingWay standing={standing} />,
    },
    {
      key: 'made',
      head: 'Sent as a file',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ sheet, handInId }) => {
        const handedIn = sheet.steps.findLast(({ kind }) => kind === 'handed in')?.at ?? 0;
        const file = known.files.find((each) => each.sent && each.from === sheet.from && each.at >= handedIn);
        if (file) return showMoment(file.at, member.zone);
        if (known.files.some(({ answers }) => answers?.includes(handInId ?? ''))) return 'the studio has it';
        return isHandedIn(sheet) ? <span className="text-attention">not yet</span> : '–';
      },
    },
    {
      key: 'acts',
      head: 'What to do',
      quietHead: true,
      width: '170px',
      align: 'end',
      cell: (row) =>
        isHandedIn(row.sheet) && (
          <Button onClick={() => make(row)}>
            Make the file<span className="sr-only"> for {daysOf(row.sheet)}</span>
          </Button>
        ),
    },
  ];
  return (
    <Section title="What you handed in">
      <Ledger
        label="What you handed in"
        rows={sheets ?? []}
        reading={sheets === undefined}
        rowId={({ sheet }) => sheet.id}
        rowName={({ sheet }) => daysOf(sheet)}
        columns={columns}
        empty={
          <>
            Nothing is handed in yet. Hand in a week under{' '}
            <Link to="/week" className="text-time underline">
              Week
            </Link>
            ; its file for the studio is made here.
          </>
        }
      />
      {fault && (
        <p role="alert" className="mt-3 text-fault">
          {fault}
        </p>
      )}
      {made && <MadeDialog made={made} onClose={() => setMade(null)} />}
    </Section>
  );
}

const daysOf = ({ from, to }: Timesheet): string => `${showShortestDay(from)} – ${showShortDay(to)}`;
