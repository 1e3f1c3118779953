import type { Pricer } from '@half-penny/core/billing';
import type { Client, Contract } from '@half-penny/core/model';
import { inStyle, plainAmount, showAmount } from '@half-penny/core/money';
import { useMemo } from 'react';
import { Link, useNavigate } from 'react-router';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { readTerms } from '../../parts/read-terms';
import { readMoney } from './budgets';

/** What was agreed with a client across projects: cap, terms, and what is used of it. */
export function Contracts({ pricer, client }: { pricer: Pricer; client: Client }) {
  const { run, attempt } = useChanges();
  const navigate = useNavigate();
  const contracts = useMemo(
    () => pricer.book.contracts.filter((contract) => contract.clientId === client.id),
    [pricer, client.id],
  );
  const { currency } = client;
  const columns: Column<Contract>[] = [
    {
      key: 'name',
      head: 'Contract',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <span className="block">
          <Link
            to={`/clients/contract/${row.id}`}
            tabIndex={-1}
            className="written clamp-2 font-semibold hover:underline"
          >
            {row.name}
          </Link>
          <span className="written block text-xs text-soft">
            {pricer.tree
              .under(row.id)
              .map((id) => pricer.tree.pathOf(id))
              .join(', ') || 'no project yet: choose it on the project’s page'}
          </span>
        </span>
      ),
    },
    {
      key: 'terms',
      head: 'Terms',
      width: 'minmax(0,1.2fr)',
      wideOnly: true,
      cell: (row) => (
        <span className="written clamp-2 text-sm">{row.terms || <span className="text-soft">–</span>}</span>
      ),
      edit: { text: (row) => row.terms, save: (row, terms) => run('contract.edit', { id: row.id, terms }) },
    },
    {
      key: 'cap',
      head: 'Cap',
      width: '120px',
      align: 'end',
      cell: (row) =>
        row.cap === null ? (
          <span className="text-soft">none</span>
        ) : (
          <span className="font-mono font-semibold text-money">{showAmount(row.cap, currency)}</span>
        ),
      edit: {
        text: (row) => (row.cap === null ? '' : inStyle(plainAmount(row.cap, currency))),
        save: (row, text) => run('contract.edit', { id: row.id, cap: readMoney(text, currency) }),
      },
    },
    {
      key: 'days',
      head: 'Due in days',
      width: '96px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.termsDays ?? <span className="text-soft">as the client’s</span>,
      edit: {
        text: (row) => (row.termsDays === null ? '' : String(row.termsDays)),
        save: (row, text) =>
          run('contract.edit', { id: row.id, termsDays: text.trim() === '' ? null : readTerms(text) }),
      },
    },
  ];
  return (
    <>
      <Section title="Contracts">
        <Ledger
          label="Contracts"
          rows={contracts}
          rowId={(row) => row.id}
          rowName={(row) => row.name}
          columns={columns}
          onOpen={(row) => void navigate(`/clients/contract/${row.id}`)}
          onDelete={(row) => void attempt('contract.remove', { id: row.id })}
          empty="No contracts. One may span several projects: shared rates, markups, terms, and a cap that invoices stop at."
        />
        <AddLine
          label="Add a contract"
          button="Add the contract"
          fields={[
            { key: 'name', label: 'New contract', className: 'min-w-44 flex-1' },
            { key: 'cap', label: `Cap, ${currency}`, placeholder: 'none', inputMode: 'decimal', className: 'w-32' },
          ]}
          add={({ name = '', cap = '' }) =>
            run('contract.add', { clientId: client.id, name, cap: readMoney(cap, currency) })
          }
        />
      </Section>
    </>
  );
}
