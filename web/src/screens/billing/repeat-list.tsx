import type { Pricer } from '@half-penny/core/billing';
import { needText, readAll, type Repeat, type RepeatKind } from '@half-penny/core/model';
import { inStyle, readDecimal } from '@half-penny/core/money';
import { nextDay, usualRules } from '@half-penny/core/repeats';
import { showLength } from '@half-penny/core/time';
import { readHours } from './invoiced-ahead';
import { useState } from 'react';
import { newId } from '../../data/registry';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Check } from '../../parts/check';
import { DayField } from '../../parts/day-field';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

const ruleWords = (rule: string): string => usualRules.find(([each]) => each === rule)?.[1] ?? rule;

interface RepeatListProps {
  pricer: Pricer;
  repeats: readonly Repeat[];
  today: string;
}

/** What is invoiced again and again, by agreement. */
export function RepeatList({ pricer, repeats, today }: RepeatListProps) {
  const { attempt } = useChanges();
  const [adding, setAdding] = useState(false);
  const columns: Column<Repeat>[] = [
    {
      key: 'name',
      head: 'Recurring',
      ownLine: true,
      width: 'minmax(0,3fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2 font-semibold">{row.name}</span>
          <span className="written block truncate text-xs text-soft">{pricer.client.get(row.clientId)?.name}</span>
        </>
      ),
    },
    {
      key: 'what',
      head: 'What',
      width: 'minmax(0,3fr)',
      cell: (row) => (
        <span className="written clamp-2">
          {row.kind === 'worked'
            ? 'what was worked and spent'
            : row.ahead
              ? `retainer ${row.lines.map((line) => inStyle(line.price)).join(', ')}${row.ahead.seconds ? ` for ${showLength(row.ahead.seconds)} h` : ''}, the rest ${row.ahead.carried ? 'carried on' : 'lost'}`
              : row.lines.map((line) => `${line.text} ${inStyle(line.price)}`).join(', ')}
        </span>
      ),
    },
    { key: 'rule', head: 'When', width: 'minmax(0,2fr)', cell: (row) => ruleWords(row.rule) },
    {
      key: 'next',
      head: 'Next',
      width: '110px',
      align: 'end',
      cell: (row) => {
        const next = nextDay(row, today);
        return next ? showShortDay(next) : <span className="text-soft">none</span>;
      },
    },
    {
      key: 'paused',
      head: 'Paused',
      width: '76px',
      align: 'center',
      cell: (row) => (
        <Check
          aria-label={`${row.name} is paused`}
          checked={row.paused}
          save={(paused) => attempt('repeat.edit', { id: row.id, paused })}
        />
      ),
    },
  ];
  return (
    <Section title="Recurring invoices" actions={<Button onClick={() => setAdding(true)}>Agree one</Button>}>
      <Ledger
        label="Recurring invoices"
        rows={repeats}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={columns}
        onDelete={(row) => void attempt('repeat.remove', { id: row.id })}
        empty="None. A fixed sum each month, or what was worked by its end, is prepared as a draft on its day."
      />
      {adding && <AgreeRepeat {...{ pricer, today }} onClose={() => setAdding(false)} />}
    </Section>
  );
}

const OTHER = 'other';

function AgreeRepeat({ pricer, today, onClose }: { pricer: Pricer; today: string; onClose: () => void }) {
  const { run } = useChanges();
  const clients = pricer.book.clients.filter((client) => !client.archived);
  const [clientId, setClientId] = useState(clients[0]?.id ?? '');
  const [kind, setKind] = useState<RepeatKind | 'ahead'>('sums');
  const [hours, setHours] = useState('');
  const [carried, setCarried] = useState('yes');
  const [name, setName] = useState('');
  const [price, setPrice] = useState('');
  const [usual, setUsual] = useState<string>(usualRules[0][0]);
  const [rule, setRule] = useState('FREQ=MONTHLY;BYMONTHDAY=15');
  const [from, setFrom] = useState(today);
  const client = pricer.client.get(clientId);
  const { fault, faults, submit } = useSubmit(async () => {
    const read = readAll({
      name: () => needText(name, 'Say what it is for.'),
      price: () => (kind === 'worked' ? '0' : readDecimal(price, 'price')),
      hours: () => (kind === 'ahead' && hours.trim() !== '' ? readHours(hours) : null),
    });
    const line = { key: newId(), text: read.name, quantity: '1', unitName: '', account: '', projectId: null };
    const lines = kind === 'worked' ? [] : [{ ...line, price: read.price, taxId: client?.taxId ?? null }];
    await run('repeat.add', {
      clientId,
      kind: kind === 'ahead' ? 'sums' : kind,
      name: read.name,
      lines,
      from,
      rule: usual === OTHER ? rule : usual,
      ...(kind === 'ahead' && { ahead: { seconds: read.hours, carried: carried === 'yes' } }),
    });
    onClose();
  }, ['name', 'price', 'hours', 'rule', 'clientId', 'from']);
  return (
    <Dialog open onClose={onClose} title="A recurring invoice">
      <form onSubmit={submit} className="grid grid-cols-2 gap-3">
        <TextField
          label="What it is for"
          className="col-span-2"
          value={name}
          fault={faults.name}
          onChange={(event) => setName(event.target.value)}
        />
        <SelectField
          label="Client"
          className="col-span-2"
          value={clientId}
          fault={faults.clientId}
          options={clients.map((each) => [each.id, each.name] as const)}
          onPick={setClientId}
        />
        <SelectField
          label="It has"
          value={kind}
          options={[
            ['sums', 'a fixed sum'],
            ['worked', 'what was worked and spent'],
            ['ahead', 'a retainer: money ahead of the work'],
          ]}
          onPick={(picked) => setKind(picked as typeof kind)}
        />
        {kind !== 'worked' ? (
          <TextField
            label={`Sum before tax, ${client?.currency ?? ''}`}
            inputMode="decimal"
            value={price}
            fault={faults.price}
            onChange={(event) => setPrice(event.target.value)}
          />
        ) : (
          <span />
        )}
        {kind === 'ahead' && (
          <>
            <TextField
              label="Hours that it stands for"
              hint="Empty where it is a sum alone"
              inputMode="decimal"
              value={hours}
              fault={faults.hours}
              onChange={(event) => setHours(event.target.value)}
            />
            <SelectField
              label="What is left of a period"
              value={carried}
              options={[
                ['yes', 'is carried on'],
                ['no', 'is lost'],
              ]}
              onPick={setCarried}
            />
          </>
        )}
        <SelectField
          label="When"
          value={usual}
          options={[...usualRules, [OTHER, 'by another rule']]}
          onPick={setUsual}
        />
        <DayField label="From" value={from} fault={faults.from} onPick={setFrom} />
        {usual === OTHER && (
          <TextField
            label="Rule (RFC 5545)"
            className="col-span-2"
            value={rule}
            fault={faults.rule}
            onChange={(event) => setRule(event.target.value)}
          />
        )}
        {fault && (
          <p role="alert" className="col-span-2 text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind="main" className="col-span-2 justify-self-end">
          Agree it
        </Button>
      </form>
    </Dialog>
  );
}
