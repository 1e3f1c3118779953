import type { Pricer } from '@half-penny/core/billing';
import { readDay } from '@half-penny/core/entries';
import { needText, readAll, type Absence } from '@half-penny/core/model';
import { readLength, showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { useAbsences, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { TextField } from '../../parts/field';
import { SelectField } from '../../parts/select';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { useSubmit } from '../../parts/use-submit';

/** Holidays and absences: days on which less is owed. */
export function Absences({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const absences = useAbsences();
  const rows = (absences ?? []).toSorted((a, b) => (a.from < b.from ? 1 : -1));
  const columns: Column<Absence>[] = [
    {
      key: 'from',
      head: 'First day',
      width: '104px',
      cell: (row) => showShortDay(row.from),
      edit: {
        text: (row) => showShortDay(row.from),
        save: async (row, text) => run('absence.edit', { id: row.id, from: readDay(text, today) }),
      },
    },
    {
      key: 'to',
      head: 'Last day',
      width: '104px',
      wideOnly: true,
      cell: (row) => showShortDay(row.to),
      edit: {
        text: (row) => showShortDay(row.to),
        save: async (row, text) => run('absence.edit', { id: row.id, to: readDay(text, today) }),
      },
    },
    {
      key: 'name',
      head: 'What',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
      edit: { text: (row) => row.name, save: (row, name) => run('absence.edit', { id: row.id, name }) },
    },
    {
      key: 'who',
      head: 'Who',
      width: '150px',
      wideOnly: true,
      cell: (row) => (row.memberId === null ? 'everybody' : pricer.member.get(row.memberId)?.name),
    },
    {
      key: 'length',
      head: 'Not owed',
      width: '100px',
      wideOnly: true,
      align: 'end',
      cell: (row) =>
        row.seconds === null ? 'whole days' : <span className="font-mono text-time">{showLength(row.seconds)}</span>,
    },
    {
      key: 'remove',
      head: 'Remove',
      quietHead: true,
      width: '90px',
      align: 'end',
      cell: (row) => (
        <Button kind="quiet" onClick={() => void attempt('absence.remove', { id: row.id })}>
          Remove
        </Button>
      ),
    },
  ];
  return (
    <Section title="Holidays and absences">
      <Ledger
        label="Holidays and absences"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={columns}
        onDelete={(row) => void attempt('absence.remove', { id: row.id })}
        reading={!absences}
        empty="On holidays and absences less is owed. Add the first below; half days are a length."
      />
      <AddAbsence pricer={pricer} />
    </Section>
  );
}

function AddAbsence({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const today = useToday();
  const [first, setFirst] = useState('');
  const [last, setLast] = useState('');
  const [name, setName] = useState('');
  const [who, setWho] = useState('');
  const [length, setLength] = useState('');
  const { fault, faults, submit } = useSubmit(async () => {
    const typed = readAll({
      from: () => readDay(first, today),
      to: () => (last.trim() === '' ? null : readDay(last, today)),
      name: () => needText(name, 'Say what it is.'),
      seconds: () => (length.trim() === '' ? null : readLength(length).seconds),
    });
    await run('absence.add', { memberId: who || null, ...typed, to: typed.to ?? typed.from });
    setFirst('');
    setLast('');
    setName('');
    setLength('');
  }, ['from', 'to', 'name', 'seconds']);
  return (
    <form aria-label="Add an absence" onSubmit={submit} className="mt-3 flex flex-wrap items-start gap-3 px-2">
      <TextField
        label="First day"
        value={first}
        placeholder="24 dec"
        fault={faults.from ?? fault}
        onChange={(event) => setFirst(event.target.value)}
        className="w-36"
      />
      <TextField
        label="Last day"
        fault={faults.to}
        value={last}
        placeholder="the same"
        onChange={(event) => setLast(event.target.value)}
        className="w-32"
      />
      <TextField
        label="What"
        fault={faults.name}
        value={name}
        placeholder="Harbour day"
        onChange={(event) => setName(event.target.value)}
        className="min-w-40 flex-1"
      />
      <SelectField
        label="Who"
        value={who}
        onPick={(picked) => setWho(picked)}
        options={[['', 'Everybody'], ...pricer.book.members.map((member) => [member.id, member.name] as const)]}
      />
      <TextField
        label="Not owed"
        fault={faults.seconds}
        value={length}
        placeholder="whole days"
        onChange={(event) => setLength(event.target.value)}
        className="w-28"
      />
      <Button type="submit" className="mt-5">
        Add
      </Button>
    </form>
  );
}
