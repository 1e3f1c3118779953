import { secondsDecided, showRate, type Pricer } from '@half-penny/core/billing';
import type { Id, RateLine } from '@half-penny/core/model';
import { ALWAYS, showLength } from '@half-penny/core/time';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useToBill } from '../data/billing';
import { Button } from './button';
import { showShortDay } from './days';
import { Ledger, type Column } from './ledger';
import { Section } from './page';
import { RateDialog } from './rate-dialog';
import { RemoveRate } from './remove-rate';

/** Where a rate holds: null everywhere is the whole studio. */
export interface Place {
  clientId: Id | null;
  contractId: Id | null;
  projectId: Id | null;
  taskId: Id | null;
  name: string;
}

export const anywhere: Omit<Place, 'name'> = { clientId: null, contractId: null, projectId: null, taskId: null };

interface RateCardProps {
  pricer: Pricer;
  title: string;
  lines: readonly RateLine[];
  /** Where a new rate can hold; the first is offered. */
  places: readonly Place[];
  currency: string;
  /** Whose hours to bill are counted; everybody's where none is given. */
  clientId?: Id;
}

const whoOf = (pricer: Pricer, line: RateLine): string =>
  line.memberId !== null ? (pricer.member.get(line.memberId)?.name ?? '') : (line.role ?? 'Anyone');

function placeOf(pricer: Pricer, line: RateLine): string {
  if (line.taskId !== null) return pricer.task.get(line.taskId)?.name ?? '';
  if (line.projectId !== null) return pricer.tree.pathOf(line.projectId);
  if (line.contractId !== null) return `Contract: ${pricer.contract.get(line.contractId)?.name ?? ''}`;
  if (line.clientId !== null) return pricer.client.get(line.clientId)?.name ?? '';
  return pricer.book.workspace.name;
}

/** Rates as one table: where, who, what, from when, how much, and how many hours to bill each decides now. */
export function RateCard({ pricer, title, lines, places, currency, clientId }: RateCardProps) {
  const [removing, setRemoving] = useState<RateLine | null>(null);
  const [open, setOpen] = useState<RateLine | 'new' | null>(null);
  const clients = useToBill(pricer, clientId ? { clientId } : 'every client');
  const decided = useMemo(() => clients && secondsDecided(clients.flatMap((client) => client.items)), [clients]);
  const sorted = lines.toSorted(
    (a, b) =>
      placeOf(pricer, a).localeCompare(placeOf(pricer, b)) ||
      whoOf(pricer, a).localeCompare(whoOf(pricer, b)) ||
      (a.from < b.from ? 1 : -1),
  );
  const columns: Column<RateLine>[] = [
    {
      key: 'where',
      head: 'Where',
      width: 'minmax(0,1fr)',
      cell: (line) => <span className="written clamp-2">{placeOf(pricer, line)}</span>,
    },
    { key: 'who', head: 'Who', width: 'minmax(0,0.7fr)', cell: (line) => whoOf(pricer, line) },
    {
      key: 'what',
      head: 'Service',
      width: 'minmax(0,0.7fr)',
      wideOnly: true,
      cell: (line) => (line.serviceId === null ? 'Any' : pricer.service.get(line.serviceId)?.name),
    },
    {
      key: 'from',
      head: 'From',
      width: '104px',
      wideOnly: true,
      cell: (line) => (line.from <= ALWAYS ? 'always' : showShortDay(line.from)),
    },
    {
      key: 'decides',
      head: 'Decides, to bill',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (line) => {
        const seconds = decided?.get(line.id) ?? 0;
        if (!decided) return '';
        if (seconds === 0) return <span className="text-soft">none now</span>;
        return <span className="font-mono text-time">{showLength(seconds)} h</span>;
      },
    },
    {
      key: 'price',
      head: 'Rate',
      width: '170px',
      align: 'end',
      cell: (line) => (
        <button
          type="button"
          className="rounded-sm font-mono font-semibold whitespace-nowrap text-money decoration-dotted underline-offset-4 hover:underline"
          aria-label={`Rate of ${placeOf(pricer, line)}, ${whoOf(pricer, line)}: ${rateInWords(line)}. Change`}
          onClick={() => setOpen(line)}
        >
          {rateInWords(line)}
        </button>
      ),
    },
  ];
  return (
    <Section
      title={title}
      actions={
        <Button icon={<Plus size={16} />} onClick={() => setOpen('new')}>
          Add a rate
        </Button>
      }
    >
      <Ledger
        label={title}
        rows={sorted}
        rowId={(line) => line.id}
        rowName={(line) => `${placeOf(pricer, line)}, ${whoOf(pricer, line)}`}
        columns={columns}
        onOpen={setOpen}
        onDelete={setRemoving}
        empty="No rates here yet. The next level up decides: task, project, parent projects, contract, client, then studio."
      />
      {sorted.length > 0 && (
        <p className="mt-2 px-2 text-xs text-soft">
          The most specific rate in force on the day of the work applies. Enter changes a rate, Delete removes it.
        </p>
      )}
      {removing && (
        <RemoveRate
          pricer={pricer}
          line={removing}
          name={`${placeOf(pricer, removing)}, ${whoOf(pricer, removing)}`}
          {...(clientId ? { clientId } : {})}
          onClose={() => setRemoving(null)}
        />
      )}
      {open && (
        <RateDialog
          {...{ pricer, places, currency }}
          {...(clientId ? { clientId } : {})}
          line={open === 'new' ? null : open}
          onClose={() => setOpen(null)}
        />
      )}
    </Section>
  );
}

/** "78.00 GBP /h", "cost + 62.5 %". */
const rateInWords = (line: RateLine): string =>
  line.currency === null ? showRate(line) : showRate(line).replace(' /', ` ${line.currency} /`);
