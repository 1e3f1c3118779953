import type { Pricer } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { addDays, firstOfMonth, type Day } from '@half-penny/core/time';
import { useSearchParams } from 'react-router';
import { Select, type Option } from '../../parts/select';
import { kindNames, kindOrder, sumOf, type BillItem, type BillKind } from './bill-item';

/** What of everything to bill is looked at; kept in the address. */
export interface BillFilter {
  kind: BillKind | '';
  project: string;
  member: string;
  heading: string;
  period: string;
}

const filterOf = (valueOf: (field: keyof BillFilter) => string): BillFilter => ({
  kind: valueOf('kind') as BillFilter['kind'],
  project: valueOf('project'),
  member: valueOf('member'),
  heading: valueOf('heading'),
  period: valueOf('period'),
});

export function useBillFilter(): [BillFilter, (field: keyof BillFilter, value: string) => void, () => void] {
  const [params, setParams] = useSearchParams();
  const filter = filterOf((field) => params.get(field) ?? '');
  const set = (field: keyof BillFilter, value: string) =>
    setParams(
      (now) => {
        if (value) now.set(field, value);
        else now.delete(field);
        return now;
      },
      { replace: true },
    );
  return [filter, set, () => setParams({}, { replace: true })];
}

/** Periods to pick by, with their first and last day. */
const periods: Record<string, { name: string; of: (today: Day) => [Day, Day] }> = {
  month: { name: 'This month', of: (today) => [firstOfMonth(today), '9999-12-31'] },
  last: { name: 'Last month', of: (today) => [firstOfMonth(today, -1), addDays(firstOfMonth(today), -1)] },
  before: { name: 'Before this month', of: (today) => ['', addDays(firstOfMonth(today), -1)] },
  old: { name: 'Older than 60 days', of: (today) => ['', addDays(today, -61)] },
};

export function passes(item: BillItem, filter: BillFilter, today: Day): boolean {
  const [from, to] = periods[filter.period]?.of(today) ?? ['', '9999-12-31'];
  return (
    (!filter.kind || item.kind === filter.kind) &&
    (!filter.project || item.projectId === filter.project) &&
    (!filter.member || item.memberId === filter.member) &&
    (!filter.heading || (item.costCodeId ?? 'none') === filter.heading) &&
    item.day >= from &&
    item.day <= to
  );
}

interface BillFiltersProps {
  pricer: Pricer;
  items: readonly BillItem[];
  currency: string;
  filter: BillFilter;
  today: Day;
  set: (field: keyof BillFilter, value: string) => void;
}

/** Kinds with what each comes to as the other filters have it, and by what else they can be narrowed; only what there is. */
export function BillFilters({ pricer, items, currency, filter, today, set }: BillFiltersProps) {
  const kinds = kindOrder.filter((kind) => items.some((item) => item.kind === kind));
  const distinct = (of: (item: BillItem) => string | null): string[] => [
    ...new Set(items.map(of).filter((each) => each !== null)),
  ];
  const projects = distinct((item) => item.projectId);
  const members = distinct((item) => item.memberId);
  const headings = distinct((item) => item.costCodeId ?? 'none');
  const choice = (field: keyof BillFilter, label: string, all: string, options: readonly Option[]) =>
    options.length > 1 && (
      <Select
        name={label}
        className="w-auto! max-w-52"
        value={filter[field]}
        onPick={(picked) => set(field, picked)}
        options={[['', all], ...options]}
      />
    );
  return (
    <div className="mb-3 flex flex-col gap-3">
      <div role="group" aria-label="Kinds" className="flex flex-wrap gap-x-5 gap-y-1 border-b border-ink pb-2">
        {(['', ...kinds] as const).map((kind) => {
          const own = items.filter((item) => passes(item, { ...filter, kind }, today));
          return (
            <button
              key={kind}
              type="button"
              aria-pressed={filter.kind === kind}
              onClick={() => set('kind', kind)}
              className={`py-0.5 text-left ${filter.kind === kind ? 'font-bold text-time' : 'text-soft hover:text-ink'}`}
            >
              {kind ? kindNames[kind] : 'All'}{' '}
              <span className="font-mono text-xs">
                {own.length} ·{' '}
                {showAmount(
                  sumOf(own, (item) => item.amount),
                  currency,
                )}
              </span>
            </button>
          );
        })}
      </div>
      <div className="flex flex-wrap gap-2">
        {choice(
          'period',
          'Period',
          'Any time',
          Object.entries(periods).map(([value, { name }]): Option => [value, name]),
        )}
        {choice(
          'project',
          'Project',
          'All projects',
          projects.map((id): Option => [id, pricer.tree.pathOf(id)]),
        )}
        {choice(
          'heading',
          'Cost code',
          'All cost codes',
          headings.map((id): Option => [id, pricer.costCode.get(id)?.name ?? 'No cost code']),
        )}
        {choice(
          'member',
          'Person',
          'Everybody',
          members.map((id): Option => [id, pricer.member.get(id)?.name ?? '']),
        )}
      </div>
    </div>
  );
}
