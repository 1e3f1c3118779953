import type { Pricer } from '@half-penny/core/billing';
import { Fault, lateLaws, type LateLaw, type LatePayment as Terms } from '@half-penny/core/model';
import { readDecimal } from '@half-penny/core/money';
import { isDay } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { useSettingChange } from '../../data/setting-change';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { SavedSelect } from '../../parts/select';

const lawNames: Record<LateLaw, string> = {
  UK: 'UK: Late Payment of Commercial Debts',
  EU: 'EU: directive 2011/7',
};
const hints: Record<LateLaw, string> = {
  UK: '8 points over the Bank of England’s base rate of the 30 June or 31 December before it was late, and £40, £70 or £100.',
  EU: '8 points over the reference rate of the first day of each half-year, and €40. Write the rate of your country’s central bank.',
};

type BaseRate = Terms['baseRates'][number];

/** By whose law late invoices bear interest, and the base rates that it adds to. */
export function LatePayment({ pricer }: { pricer: Pricer }) {
  const { attempt } = useChanges();
  const change = useSettingChange();
  const terms = pricer.book.workspace.latePayment ?? null;
  return (
    <Section title="Late payment">
      <div className="max-w-lg border-t border-ink px-2 pt-3">
        <SavedSelect
          label="Interest by law"
          value={terms?.law ?? ''}
          save={(law) =>
            change('latePayment', (now) =>
              law === '' ? null : { law: law as LateLaw, baseRates: now?.baseRates ?? [] },
            )
          }
          options={[['', 'None'], ...lateLaws.map((law) => [law, lawNames[law]] as const)]}
          hint={
            terms
              ? hints[terms.law]
              : 'What a late invoice may be charged stands beside it, with its working. Private persons are left out.'
          }
        />
      </div>
      {terms && (
        <div className="mt-4">
          <Ledger
            label="Base rates"
            rows={terms.baseRates.toSorted((one, other) => (one.from < other.from ? 1 : -1))}
            rowId={(rate) => rate.from}
            rowName={(rate) => `${rate.percent} % from ${rate.from}`}
            columns={columns}
            onDelete={(rate) =>
              void change(
                'latePayment',
                (now) => now && { ...now, baseRates: now.baseRates.filter((each) => each.from !== rate.from) },
                attempt,
              )
            }
            empty="No base rate yet: without one no interest can be told."
          />
          <AddLine
            label="Add a base rate"
            button="Add the base rate"
            fields={[
              { key: 'from', label: 'In force from', placeholder: '2026-02-05', className: 'w-36' },
              { key: 'percent', label: 'Per cent a year', placeholder: '3.75', className: 'w-32' },
            ]}
            add={async ({ from = '', percent = '' }) => {
              const rate = { from: needDay(from), percent: readDecimal(percent.replace(/\s*%\s*$/, ''), 'rate') };
              await change('latePayment', (now) => {
                const others = (now ?? terms).baseRates.filter((each) => each.from !== rate.from);
                return { ...(now ?? terms), baseRates: [...others, rate] };
              });
            }}
          />
        </div>
      )}
    </Section>
  );
}

function needDay(text: string): string {
  const day = text.trim();
  if (isDay(day)) return day;
  throw new Fault('not-a-day', `“${day.slice(0, 20)}” is not a day. Write it as 2026-02-05.`, 'from');
}

const columns: Column<BaseRate>[] = [
  { key: 'from', head: 'In force from', width: 'minmax(0,1fr)', cell: (rate) => showShortDay(rate.from) },
  {
    key: 'percent',
    head: 'Per cent a year',
    width: '140px',
    align: 'end',
    cell: (rate) => <span className="font-mono">{rate.percent}</span>,
  },
];
