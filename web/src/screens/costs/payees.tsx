import type { Pricer } from '@half-penny/core/billing';
import { Fault, type Payee } from '@half-penny/core/model';
import type { PayingOut } from '../../data/paying-out';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import type { Option } from '../../parts/select';

/** The accounts that the studio pays into. */
export function Payees({ pricer, paying }: { pricer: Pricer; paying: PayingOut }) {
  const { run, attempt } = useChanges();
  const payees = [...paying.payees].sort((a, b) => a.name.localeCompare(b.name));
  const text = (key: 'name' | 'number' | 'bic' | 'holder', head: string, width: string): Column<Payee> => ({
    key,
    head,
    width,
    wideOnly: key === 'bic' || key === 'holder',
    cell: (row) =>
      row[key] ? (
        <span className={key === 'number' ? 'font-mono text-sm break-all' : 'written clamp-2'}>{row[key]}</span>
      ) : (
        <span className="text-soft">–</span>
      ),
    edit: {
      text: (row) => row[key],
      save: (row, typed) =>
        run('payee.edit', { id: row.id, [key]: key === 'bic' ? typed.replace(/\s/g, '').toUpperCase() : typed.trim() }),
    },
  });
  const members = pricer.book.members.filter((member) => !payees.some((payee) => payee.memberId === member.id));
  return (
    <Section title="Accounts of suppliers and members">
      <Ledger
        label="Accounts of suppliers and members"
        rows={payees}
        rowId={(row) => row.id}
        rowName={(row) => row.name}
        columns={[
          text('name', 'Name, as on their bills', 'minmax(0,1fr)'),
          text('number', 'IBAN, or sort code and number', 'minmax(0,1.3fr)'),
          text('bic', 'BIC', '110px'),
          text('holder', 'Account name', 'minmax(0,0.8fr)'),
        ]}
        onDelete={(row) => void attempt('payee.remove', { id: row.id })}
        empty="No account is written down yet. A payment file needs one for everybody who is in it."
      />
      <AddLine
        label="Add an account"
        button="Add the account"
        folded
        fields={[
          {
            key: 'of',
            label: 'Of',
            options: [['', 'A supplier'], ...members.map((member): Option => [member.id, member.name])],
            className: 'w-40',
          },
          { key: 'name', label: 'Name, as on their bills', className: 'w-48' },
          { key: 'number', label: 'IBAN, or sort code and number', className: 'w-72' },
          { key: 'bic', label: 'BIC', className: 'w-32' },
        ]}
        add={({ of = '', name = '', number = '', bic = '' }) => {
          const own = members.find((member) => member.id === of)?.name ?? name.trim();
          if (!own) throw new Fault('empty', 'Say whose account it is.', 'name');
          if (!number.trim()) throw new Fault('empty', 'Write the number of the account.', 'number');
          const row = { name: own, memberId: of || null, number: number.trim() };
          return run('payee.add', { ...row, bic: bic.replace(/\s/g, '').toUpperCase() });
        }}
      />
    </Section>
  );
}
