import { explainDraft, explainLine, type Pricer } from '@half-penny/core/billing';
import { needText, readAll, type Quote, type QuoteBasis, type QuoteLine } from '@half-penny/core/model';
import { currencyDigits, inStyle, readDecimal, showDecimal } from '@half-penny/core/money';
import { linesOfTasks, quoteSums } from '@half-penny/core/quotes';
import { X } from 'lucide-react';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { newId } from '../../data/registry';
import { AddLine } from '../../parts/add-line';
import { Check } from '../../parts/check';
import { DayField } from '../../parts/day-field';
import { SavedField } from '../../parts/field';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { SavedSelect, Select } from '../../parts/select';
import { Button } from '../../parts/button';

const BASES: readonly (readonly [QuoteBasis, string])[] = [
  ['fixed', 'fixed'],
  ['estimate', 'as worked'],
];

/** Where a quote is written: what it is for, until when, and its lines. */
export function QuoteWriting({ pricer, quote }: { pricer: Pricer; quote: Quote }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const save = (fields: Partial<Pick<Quote, 'title' | 'intro' | 'note' | 'validUntil' | 'projectId' | 'lines'>>) =>
    run('quote.edit', { id: quote.id, ...fields });
  const put = (key: string, fields: Partial<QuoteLine>) =>
    save({ lines: quote.lines.map((line) => (line.key === key ? { ...line, ...fields } : line)) });
  const offered = quote.projectId === null ? [] : linesOfTasks(pricer, quote, today, newId);
  return (
    <div className="mb-8 print:hidden">
      <div className="mb-5 grid gap-3 md:grid-cols-3">
        <SavedField label="What it is for" value={quote.title} save={(title) => save({ title })} />
        <ProjectField {...{ pricer, quote }} save={(projectId) => save({ projectId })} />
        <DayField
          label="Valid until"
          value={quote.validUntil}
          onPick={(validUntil) => void attempt('quote.edit', { id: quote.id, validUntil })}
        />
        <SavedField
          label="Before the lines"
          lines={2}
          className="md:col-span-2"
          value={quote.intro}
          save={(intro) => save({ intro })}
        />
        <SavedField label="Terms, below them" lines={2} value={quote.note} save={(note) => save({ note })} />
      </div>
      <Section
        title="Lines"
        actions={
          offered.length > 0 && (
            <Button onClick={() => void attempt('quote.edit', { id: quote.id, lines: [...quote.lines, ...offered] })}>
              Add {offered.length} from its tasks
            </Button>
          )
        }
      >
        <Ledger
          label="Lines of the quote"
          rows={quote.lines}
          rowId={(line) => line.key}
          rowName={(line) => line.text.slice(0, 60)}
          columns={columnsOf(pricer, quote, today, put, (key) =>
            attempt('quote.edit', { id: quote.id, lines: quote.lines.filter((line) => line.key !== key) }),
          )}
          onDelete={({ key }) =>
            void attempt('quote.edit', { id: quote.id, lines: quote.lines.filter((line) => line.key !== key) })
          }
          footLabel="Before tax"
          empty="Nothing is offered yet."
        />
        <AddLine
          label="Add a line"
          button="Add the line"
          fields={[
            { key: 'text', label: 'What', className: 'min-w-44 flex-1' },
            { key: 'quantity', label: 'Quantity', inputMode: 'decimal', className: 'w-24', start: '1' },
            { key: 'unitName', label: 'Unit', className: 'w-20', placeholder: 'h' },
            { key: 'price', label: `Price, ${quote.currency}`, inputMode: 'decimal', className: 'w-32' },
            { key: 'basis', label: 'Price is', className: 'w-32', options: BASES, start: 'fixed' },
          ]}
          add={({ text = '', quantity = '', unitName = '', price = '', basis = 'fixed' }) => {
            const read = readAll({
              text: () => needText(text, 'Say what is offered.'),
              quantity: () => readDecimal(quantity),
              price: () => readDecimal(price, 'price'),
            });
            const line = {
              key: newId(),
              unitName: unitName.trim(),
              taxId: quote.taxId,
              optional: false,
              costCodeId: null,
            };
            return save({ lines: [...quote.lines, { ...line, ...read, basis: basis as QuoteBasis }] });
          }}
        />
      </Section>
    </div>
  );
}

function ProjectField({
  pricer,
  quote,
  save,
}: {
  pricer: Pricer;
  quote: Quote;
  save: (projectId: string | null) => Promise<unknown>;
}) {
  const projects = pricer.book.projects.filter((row) => row.clientId === quote.clientId && !row.finished);
  return (
    <SavedSelect
      label="Project"
      value={quote.projectId ?? ''}
      options={[['', 'New work'], ...projects.map(({ id }) => [id, pricer.tree.pathOf(id)] as const)]}
      save={(id) => save(id || null)}
    />
  );
}

function columnsOf(
  pricer: Pricer,
  quote: Quote,
  today: string,
  put: (key: string, fields: Partial<QuoteLine>) => Promise<unknown>,
  remove: (key: string) => Promise<unknown>,
): Column<QuoteLine>[] {
  const { firm, options } = quoteSums(pricer, quote, today);
  const priced = new Map([...firm.lines, ...options.lines].map((line) => [line.key, line]));
  const digits = currencyDigits(quote.currency);
  return [
    {
      key: 'text',
      head: 'What',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: (line) => <span className="written clamp-2">{line.text}</span>,
      edit: {
        text: (line) => line.text,
        save: (line, text) => put(line.key, { text: needText(text, 'Say what is offered.') }),
      },
    },
    {
      key: 'quantity',
      head: 'Quantity',
      width: '84px',
      align: 'end',
      cell: (line) => <span className="font-mono text-sm">{inStyle(line.quantity)}</span>,
      edit: {
        text: (line) => inStyle(line.quantity),
        save: (line, typed) => put(line.key, { quantity: readDecimal(typed) }),
      },
    },
    {
      key: 'unit',
      head: 'Unit',
      width: '60px',
      cell: (line) => line.unitName,
      edit: {
        text: (line) => line.unitName,
        save: (line, unitName) => put(line.key, { unitName: unitName.trim() }),
      },
    },
    {
      key: 'price',
      head: 'Price',
      width: '96px',
      align: 'end',
      cell: (line) => <span className="font-mono text-sm">{showDecimal(line.price, digits)}</span>,
      edit: {
        text: (line) => inStyle(line.price),
        save: (line, typed) => put(line.key, { price: readDecimal(typed, 'price') }),
      },
    },
    {
      key: 'basis',
      head: 'Price is',
      width: '112px',
      cell: (line) => (
        <Select
          look="word"
          name={`Price of ${line.text.slice(0, 40)} is`}
          value={line.basis}
          options={BASES}
          onPick={(basis) => void put(line.key, { basis: basis as QuoteBasis })}
        />
      ),
    },
    {
      key: 'optional',
      head: 'Optional',
      width: '76px',
      align: 'center',
      cell: (line) => (
        <Check
          aria-label={`${line.text.slice(0, 40)} is optional`}
          checked={line.optional}
          save={(optional) => put(line.key, { optional })}
        />
      ),
    },
    {
      key: 'amount',
      head: 'Amount',
      width: '116px',
      align: 'end',
      cell: (line) => {
        const own = priced.get(line.key);
        return (
          own && (
            <Worth
              amount={own.amount}
              currency={quote.currency}
              of={line.text}
              className={line.optional ? 'text-soft italic' : ''}
              working={() => explainLine(pricer, own, quote.currency)}
            />
          )
        );
      },
      foot: (
        <Worth
          amount={firm.totals.net}
          currency={quote.currency}
          of={`${quote.title}, before tax`}
          strong
          working={() => explainDraft(pricer, firm, false, quote.title)}
        />
      ),
    },
    {
      key: 'remove',
      head: 'Remove',
      quietHead: true,
      width: '40px',
      align: 'end',
      cell: (line) => (
        <button
          type="button"
          className="rounded-sm p-1 text-soft hover:text-ink"
          aria-label={`Remove ${line.text.slice(0, 40)}`}
          onClick={() => void remove(line.key)}
        >
          <X size={14} />
        </button>
      ),
    },
  ];
}
