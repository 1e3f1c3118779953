import { marginOf } from '@half-penny/core/rates';
import { showMarkup, type Pricer } from '@half-penny/core/billing';
import { costTypes, type Markup } from '@half-penny/core/model';
import { inStyle } from '@half-penny/core/money';
import { useToday } from '../data/queries';
import { useChanges } from '../data/session';
import { Check } from './check';
import { AddLine } from './add-line';
import { showShortDay } from './days';
import { Ledger, type Column } from './ledger';
import { Section } from './page';
import type { Place } from './rate-card';
import { typedMarkup } from './read-price';

interface MarkupsProps {
  pricer: Pricer;
  markups: readonly Markup[];
  /** Where a new markup can hold; the first is offered. */
  places: readonly Pick<Place, 'clientId' | 'contractId' | 'projectId' | 'name'>[];
}

/** What is added to costs by their type, with the margin it comes to and the sentence agreed with the client. */
export function Markups({ pricer, markups, places }: MarkupsProps) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const columns: Column<Markup>[] = [
    {
      key: 'type',
      head: 'Cost type',
      width: '112px',
      cell: (row) => row.costType,
    },
    {
      key: 'where',
      head: 'Where',
      width: 'minmax(0,0.8fr)',
      wideOnly: true,
      cell: (row) => <span className="written clamp-2">{placeOf(pricer, row)}</span>,
    },
    { key: 'from', head: 'From', width: '104px', wideOnly: true, cell: (row) => showShortDay(row.from) },
    {
      key: 'markup',
      head: 'Markup',
      width: '92px',
      align: 'end',
      cell: (row) => <span className="font-mono font-semibold text-money">{showMarkup(row.percent)}</span>,
      edit: {
        text: (row) => inStyle(row.percent),
        save: (row, text) => run('markup.edit', { id: row.id, percent: readPercent(text) }),
      },
    },
    {
      key: 'margin',
      head: 'Margin',
      width: '84px',
      align: 'end',
      cell: (row) => <span className="font-mono text-soft">{inStyle(marginOf(row.percent) ?? '–')} %</span>,
    },
    {
      key: 'sentence',
      head: 'As agreed',
      width: 'minmax(0,1.2fr)',
      wideOnly: true,
      cell: (row) => (
        <span className="written clamp-2 text-sm">{row.sentence || <span className="text-soft">–</span>}</span>
      ),
      edit: {
        text: (row) => row.sentence,
        save: (row, sentence) => run('markup.edit', { id: row.id, sentence }),
      },
    },
    {
      key: 'printed',
      head: 'Printed',
      width: '72px',
      align: 'center',
      wideOnly: true,
      cell: (row) => (
        <Check
          aria-label={`Print what was agreed on ${row.costType}`}
          checked={row.printed}
          save={(checked) => attempt('markup.edit', { id: row.id, printed: checked })}
        />
      ),
    },
  ];
  const sorted = markups.toSorted(
    (a, b) => costTypes.indexOf(a.costType) - costTypes.indexOf(b.costType) || (a.from < b.from ? 1 : -1),
  );
  return (
    <Section title="Markups on costs">
      <Ledger
        label="Markups on costs"
        rows={sorted}
        rowId={(row) => row.id}
        rowName={(row) => `${row.costType}, ${placeOf(pricer, row)}`}
        columns={columns}
        onDelete={(row) => void attempt('markup.remove', { id: row.id })}
        empty="No markups here. The next level up decides: project, contract, client, then studio. Labour is marked up on the rate card."
      />
      <AddLine
        label="Add a markup"
        button="Add the markup"
        fields={[
          {
            key: 'costType',
            label: 'Cost type',
            className: 'w-36',
            options: costTypes.filter((type) => type !== 'labour').map((type) => [type, type] as const),
            start: 'material',
          },
          ...(places.length > 1
            ? [
                {
                  key: 'place',
                  label: 'Where',
                  className: 'w-48',
                  options: places.map((place, index) => [String(index), place.name] as const),
                  start: '0',
                },
              ]
            : []),
          { key: 'percent', label: 'Markup, %', placeholder: '15', inputMode: 'decimal', className: 'w-24' },
          { key: 'from', label: 'From', type: 'date', start: `${today.slice(0, 4)}-01-01`, className: 'w-40' },
          { key: 'sentence', label: 'As agreed with the client', className: 'min-w-52 flex-1' },
        ]}
        add={({ costType, place = '0', percent = '', from = '', sentence = '' }) => {
          const { clientId, contractId, projectId } = places[Number(place)] ?? places[0]!;
          return run('markup.add', {
            ...{ clientId, contractId, projectId, from, sentence },
            costType: costType as Markup['costType'],
            percent: readPercent(percent),
            printed: sentence.trim() !== '',
          });
        }}
      />
    </Section>
  );
}

function readPercent(text: string): string {
  try {
    return typedMarkup(text.replace('−', '-'));
  } catch (thrown) {
    throw Object.assign(thrown as Error, { path: 'percent' });
  }
}

function placeOf(pricer: Pricer, row: Markup): string {
  if (row.projectId !== null) return pricer.tree.pathOf(row.projectId);
  if (row.contractId !== null) return `Contract: ${pricer.contract.get(row.contractId)?.name ?? ''}`;
  if (row.clientId !== null) return pricer.client.get(row.clientId)?.name ?? '';
  return pricer.book.workspace.name;
}
