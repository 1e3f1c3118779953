import type { Pricer } from '@half-penny/core/billing';
import { explainPriced } from '@half-penny/core/billing';
import { placeOn, type Outcome } from '@half-penny/core/capture';
import { noJob, type Job } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { showAbout } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { Check, ChevronDown } from 'lucide-react';
import type { ReactNode } from 'react';
import { CoinButton } from '../../parts/coin-button';
import { Length, SoftLength, Worth } from '../../parts/figures';
import { JobPicker } from '../../parts/job-picker';
import { JobLine } from '../../parts/jobs';
import type { Column } from '../../parts/ledger';
import { showSpan, showTime } from '../../parts/spans';
import { Tallies } from '../../parts/tallies';
import type { Acts, StretchLine } from './acts';
import { percentOf, reasonOf, showOutcome, sumOfEvidence } from './evidence';
import type { SiftLine } from './use-sift';
import type { WorthSeen } from '../../data/worth-seen';

interface ColumnsInput {
  pricer: Pricer;
  /** What of its worth may be seen. */
  seen: WorthSeen;
  member: Member;
  acts: Acts;
  lines: readonly SiftLine[];
  workspaceId: string;
  /** What can be done with a row, at the row. */
  menu: (line: StretchLine) => ReactNode;
}

const isPlaced = (line: SiftLine) => line.kind === 'stretch' && line.placed !== null;

/** The columns of Sift: when, what was seen, where it goes, how long, what it is worth. */
export function siftColumns({
  pricer,
  seen,
  member,
  acts,
  lines,
  workspaceId,
  menu,
}: ColumnsInput): Column<SiftLine>[] {
  const { lengthStyle, currency } = pricer.book.workspace;
  const placed = lines.filter((line) => line.kind === 'stretch').filter(isPlaced);
  const isSettled = (line: StretchLine) => isPlaced(line) || line.posted !== null;
  const sumOf = (of: (line: StretchLine) => number) => placed.reduce((sum, line) => sum + of(line), 0);
  return [
    {
      key: 'when',
      head: 'When',
      width: '76px',
      wideOnly: true,
      cell: (line) => (
        <span className="font-mono text-sm">
          {line.kind === 'away' ? showSpan(line.span, member.zone) : whenOf(line.row.stretch.spans, member)}
        </span>
      ),
    },
    {
      key: 'what',
      head: 'What was seen',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: (line) => {
        if (line.kind === 'away')
          return (
            <>
              <Narrow>{showSpan(line.span, member.zone)}</Narrow>
              <span className="text-soft italic">Away. What was it?</span>
            </>
          );
        const { stretch, note, overlap } = line.row;
        return (
          <>
            <Narrow>{whenOf(stretch.spans, member)}</Narrow>
            <span className="written clamp-1">{note || <span className="text-soft italic">no sentence yet</span>}</span>
            <span className="written clamp-1 text-xs text-soft">
              {stretch.evidence.length > 0 ? sumOfEvidence(stretch.evidence) : 'nobody was at the computer'}
              {overlap >= 1000 && (
                <span className="text-attention">
                  {' '}
                  · {Math.max(1, Math.round(overlap / 60_000))} min already recorded
                </span>
              )}
            </span>
          </>
        );
      },
      edit: {
        when: (line) => line.kind === 'stretch' && line.posted === null,
        text: (line) => (line.kind === 'stretch' ? line.row.note : ''),
        save: async (line, note) => line.kind === 'stretch' && acts.note(line, note),
      },
    },
    {
      key: 'job',
      head: 'Place on',
      width: 'minmax(0,1.1fr)',
      cell: (line) => <PlaceOn {...{ line, pricer, acts, workspaceId }} />,
    },
    {
      key: 'seen',
      head: 'Seen',
      width: '84px',
      align: 'end',
      cell: (line) =>
        line.kind === 'away' ? (
          <SoftLength seconds={Math.floor((line.span.end - line.span.start) / 1000)} style={lengthStyle} />
        ) : (
          <>
            <Length seconds={Math.floor(line.row.stretch.seen / 1000)} style={lengthStyle} whole />
            {line.priced.price && (
              <span className={`block text-xs whitespace-nowrap text-soft ${isSettled(line) ? '' : 'italic'}`}>
                billed {showLength(line.priced.billed, lengthStyle)}
              </span>
            )}
          </>
        ),
      foot: (
        <>
          <Length seconds={sumOf(({ priced }) => priced.entry.seconds)} style={lengthStyle} whole />
          <span className="block text-xs font-normal text-soft">
            billed{' '}
            {showLength(
              sumOf(({ priced }) => (priced.price ? priced.billed : 0)),
              lengthStyle,
            )}
          </span>
        </>
      ),
    },
    {
      key: 'worth',
      head: seen.any ? 'Worth' : 'Billable',
      width: '104px',
      wideOnly: true,
      align: 'end',
      cell: (line) => {
        if (line.kind === 'away') return null;
        const { amount, price } = line.priced;
        if (!isPlaced(line) && !line.posted)
          return (
            price && (
              <span className="text-sm whitespace-nowrap text-money italic" title="If placed as offered">
                about {showAbout(amount, price.currency)}
              </span>
            )
          );
        return (
          <span className="inline-flex items-center gap-1.5">
            {!line.posted && pricer.clientOf(line.placed!.projectId) && (
              <CoinButton
                seconds={line.priced.entry.seconds}
                billableSeconds={line.priced.entry.billableSeconds}
                save={async (billableSeconds) => acts.bill(line, billableSeconds)}
              />
            )}
            {price && (
              <Worth
                amount={amount}
                currency={price.currency}
                of={line.row.note}
                working={() => explainPriced(pricer, line.priced)}
              />
            )}
          </span>
        );
      },
      foot: seen.any && (
        <Tallies
          of="what is placed"
          home={currency}
          parts={placed.flatMap((line) =>
            line.kind === 'stretch' && line.priced.price
              ? [{ label: line.row.note, amount: line.priced.amount, currency: line.priced.price.currency }]
              : [],
          )}
        />
      ),
    },
    {
      key: 'acts',
      head: 'Do',
      quietHead: true,
      width: '36px',
      align: 'center',
      cell: (line) => (line.kind === 'stretch' && line.posted === null ? menu(line) : null),
    },
  ];
}

/** Where there is no room for a column of its own. */
const Narrow = ({ children }: { children: ReactNode }) => (
  <span className="block font-mono text-xs text-soft md:hidden">{children}</span>
);

/** From the first to the last moment; how often it was broken off is told by the slip. */
function whenOf(spans: readonly { start: number; end: number }[], member: Member): string {
  return `${showTime(spans[0]!.start, member.zone)}–${showTime(spans.at(-1)!.end, member.zone)}`;
}

const awayChoices: readonly (readonly [string, string, Outcome | null])[] = [
  ['Meeting', 'Meeting', null],
  ['Call', 'Call', null],
  ['Break', '', { act: 'not work' }],
  ['Private', '', { act: 'private' }],
];

function PlaceOn({
  line,
  pricer,
  acts,
  workspaceId,
}: {
  line: SiftLine;
  pricer: Pricer;
  acts: Acts;
  workspaceId: string;
}) {
  if (line.kind === 'away') {
    const name = (job: Job, note: string) => acts.nameAway(line, placeOn({ ...job, workspaceId }), note);
    return (
      <span className="flex flex-wrap gap-x-3">
        {awayChoices.map(([label, note, outcome]) =>
          outcome ? (
            <button
              key={label}
              type="button"
              className="text-time underline-offset-2 hover:underline"
              onClick={() => void acts.nameAway(line, outcome, '')}
            >
              {label}
            </button>
          ) : (
            <JobPicker
              key={label}
              pricer={pricer}
              value={noJob}
              label={`Job of the ${label.toLowerCase()}`}
              onPick={(job) => void name(job, note)}
              className="text-time"
            >
              {label}…
            </JobPicker>
          ),
        )}
      </span>
    );
  }
  const { row, posted, placed } = line;
  const { outcome } = row.stretch;
  if (posted) {
    return (
      <>
        <JobLine pricer={pricer} job={posted} />
        <span className="block text-xs text-soft">posted</span>
      </>
    );
  }
  const pick = (job: Job) => void acts.place([line], job);
  if (outcome && !placed) {
    return (
      <JobPicker pricer={pricer} value={noJob} label="Job" onPick={pick}>
        <span className="text-soft">{showOutcome(pricer, outcome)}</span>
      </JobPicker>
    );
  }
  if (placed) {
    return (
      <>
        <JobPicker pricer={pricer} value={placed} label="Job" onPick={pick} />
        {row.stretch.rule && !row.stretch.placing?.outcome && (
          <span className="written clamp-1 text-xs text-soft">{reasonOf(pricer, row)}</span>
        )}
      </>
    );
  }
  return (
    <>
      <span className="flex min-w-0 items-baseline gap-3">
        {row.offer && (
          <button
            type="button"
            className="flex min-w-0 items-baseline gap-1.5 rounded-sm text-left font-semibold text-time underline-offset-2 hover:underline"
            onClick={() => void acts.accept([line])}
            title="Place as offered"
            aria-label={`Place as offered: ${showOutcome(pricer, row.offer.outcome)}`}
          >
            <Check size={13} aria-hidden className="shrink-0 self-center" />
            <span className="written clamp-1">{showOutcome(pricer, row.offer.outcome)}</span>
            {row.offer.confidence !== null && (
              <span className="font-mono text-xs font-normal whitespace-nowrap">
                {percentOf(row.offer.confidence)} %
              </span>
            )}
          </button>
        )}
        <JobPicker pricer={pricer} value={noJob} label="Job" onPick={pick} className="shrink-0">
          {row.offer ? (
            <span className="text-soft" title="Another job…">
              <span className="sr-only">Another job…</span>
              <ChevronDown size={14} aria-hidden />
            </span>
          ) : (
            <span className="font-semibold text-attention">Choose a job…</span>
          )}
        </JobPicker>
      </span>
      <span className="written clamp-1 text-xs text-soft" title={reasonOf(pricer, row)}>
        {row.offer ? row.offer.reasons.join(', ') : reasonOf(pricer, row)}
      </span>
    </>
  );
}
