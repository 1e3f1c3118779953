import { useMemo } from 'react';
import { hoursLines } from '@half-penny/formats/hours';
import { byWhen, type Pricer } from '@half-penny/core/billing';
import { isDay } from '@half-penny/core/time';
import { firstOfMonth, lastOfMonth, type Day } from '@half-penny/core/time';
import { Download } from 'lucide-react';
import { useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useSeenMembers, useTimeBetween, useToday } from '../../data/queries';
import { save } from '../../data/workspaces';
import { useWorthSeen } from '../../data/worth-seen';
import { Button } from '../../parts/button';
import { SelectField } from '../../parts/select';
import { Length } from '../../parts/figures';
import { Loading, Page, Section } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';
import { Progress } from '../../parts/progress';
import { useWork } from '../../parts/use-work';
import { writeHours } from '../../workers/hours';
import type { OutKind } from '../../workers/hours.worker';

const kinds: readonly { kind: OutKind; name: string; about: string }[] = [
  { kind: 'csv', name: 'CSV', about: 'for any program; opens in every spreadsheet' },
  { kind: 'xlsx', name: 'XLSX', about: 'days and lengths as a spreadsheet counts them, ready to be summed' },
  { kind: 'ics', name: 'iCalendar', about: 'each stretch of work an event, for a calendar' },
];

/** Hours as files that other programs read. */
export default function HoursOut() {
  const pricer = usePricer();
  if (!pricer)
    return (
      <Page title="Export hours">
        <Loading />
      </Page>
    );
  return <Sheet pricer={pricer} />;
}

function Sheet({ pricer }: { pricer: Pricer }) {
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const dayOr = (name: string, otherwise: Day) => (isDay(params.get(name) ?? '') ? params.get(name)! : otherwise);
  const from = dayOr('from', firstOfMonth(today));
  const to = dayOr('to', lastOfMonth(today));
  const who = params.get('member') ?? '';
  const clientId = params.get('client') ?? '';
  const work = useWork();
  const seen = useSeenMembers(pricer);
  const worth = useWorthSeen(pricer);
  const set = (changes: Record<string, string>) =>
    setParams({ from, to, member: who, client: clientId, ...changes }, { replace: true });
  const all = useTimeBetween(from, to);
  const entries = useMemo(
    () =>
      all
        ?.filter(
          (entry) =>
            seen.some(({ id }) => id === entry.memberId) &&
            (!who || entry.memberId === who) &&
            (!clientId || pricer.clientOf(entry.projectId)?.id === clientId),
        )
        .sort(byWhen),
    [all, who, clientId, pricer, seen],
  );
  const seconds = entries?.reduce((sum, entry) => sum + entry.seconds, 0) ?? 0;
  const write = (kind: OutKind) =>
    work.start(
      `Writing ${entries!.length} entries`,
      () => writeHours(hoursLines(pricer, entries!, worth.of), kind, Date.now()),
      (blob) => save(blob, `hours-${from}-${to}.${kind}`),
    );
  return (
    <Page title="Export hours">
      <Section title="Which hours">
        <div className="flex flex-wrap items-end gap-4 border-t border-ink pt-3">
          <PeriodPicker
            workspace={pricer.book.workspace}
            today={today}
            {...{ from, to }}
            onPick={(first, last) => set({ from: first, to: last })}
          />
          {seen.length > 1 && (
            <SelectField
              label="Whose"
              value={who}
              onPick={(picked) => set({ member: picked })}
              options={[['', 'Everybody’s'], ...seen.map((member) => [member.id, member.name] as const)]}
            />
          )}
          <SelectField
            label="For"
            value={clientId}
            onPick={(picked) => set({ client: picked })}
            options={[
              ['', 'All clients and internal'],
              ...pricer.book.clients.map((client) => [client.id, client.name] as const),
            ]}
          />
        </div>
      </Section>
      <Section title="As a file">
        <p className="border-t border-ink py-3">
          {entries === undefined ? (
            'Reading…'
          ) : entries.length === 0 ? (
            <span className="text-soft">Nothing is recorded on these days.</span>
          ) : (
            <>
              <Length seconds={seconds} whole /> in {entries.length === 1 ? 'one entry' : `${entries.length} entries`}
            </>
          )}
        </p>
        <ul>
          {kinds.map(({ kind, name, about }) => (
            <li key={kind} className="flex flex-wrap items-center gap-4 border-t border-rule py-2">
              <Button
                icon={<Download size={16} />}
                disabled={!entries || entries.length === 0}
                onClick={() => write(kind)}
                className="w-32"
              >
                {name}
              </Button>
              <span className="text-soft">{about}</span>
            </li>
          ))}
        </ul>
        {work.fault && (
          <p role="alert" className="mt-3 text-fault">
            {work.fault}
          </p>
        )}
      </Section>
      {work.title && <Progress title={work.title} share={null} onStop={work.stop} />}
    </Page>
  );
}
