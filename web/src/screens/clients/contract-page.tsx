import type { Pricer } from '@half-penny/core/billing';
import { contractMoney, type ContractMoney } from '@half-penny/core/costing';
import type { Contract } from '@half-penny/core/model';
import { inStyle, lessExact, plainAmount } from '@half-penny/core/money';
import { amountFigure, lengthFigure, type Step, type Working } from '@half-penny/core/rates';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { useClientMoney } from '../../data/billing';
import { usePricer } from '../../data/book';
import { useChanges } from '../../data/session';
import { SavedField } from '../../parts/field';
import { Length } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Markups } from '../../parts/markups';
import { Loading, NotThere, Page, Section } from '../../parts/page';
import { anywhere, RateCard } from '../../parts/rate-card';
import { readTerms } from '../../parts/read-terms';
import { Slip } from '../../parts/slip';
import { Swatch } from '../../parts/swatch';
import { Budgets, readMoney } from './budgets';
import { Money } from './projects';
import { useMoneySeen } from '../../data/rights';

interface ContractProps {
  pricer: Pricer;
  contract: Contract;
}

/** One contract over all its projects as one: hours, worth, invoiced, left against its cap, its terms and rates. */
export default function ContractPage() {
  const { contractId = '' } = useParams();
  const pricer = usePricer();
  const contract = pricer?.contract.get(contractId);
  const seen = useMoneySeen();
  if (!pricer || !contract) return <NotThere one="contract" reading={!pricer} />;
  if (!seen.worth)
    return (
      <Page title={contract.name}>
        <p className="text-soft">A contract is about money, which your rights leave out.</p>
      </Page>
    );
  return <ContractSheet key={contract.id} pricer={pricer} contract={contract} />;
}

function ContractSheet({ pricer, contract }: ContractProps) {
  const client = pricer.client.get(contract.clientId)!;
  const { currency } = client;
  const rows = useClientMoney(pricer, { clientId: client.id });
  const money = useMemo(() => rows && contractMoney(pricer, contract.id, rows), [pricer, contract.id, rows]);
  const subjects = useMemo(
    () => [{ projectId: null, taskId: null, contractId: contract.id, name: contract.name }],
    [contract],
  );
  const { book } = pricer;
  const place = { ...anywhere, contractId: contract.id, name: `Contract: ${contract.name.slice(0, 60)}` };
  return (
    <Page
      title={contract.name}
      aside={
        <>
          contract with{' '}
          <Link to={`/clients/${client.id}`} className="written text-time underline-offset-4 hover:underline">
            {client.name}
          </Link>
        </>
      }
      side={money && <Slip working={contractWorking(contract, money, currency)} />}
    >
      <Section title="Its projects">
        {money ? <ContractProjects {...{ contract, money, currency }} /> : <Loading />}
      </Section>
      <Section title="Budgets">
        <Budgets {...{ pricer, subjects, currency }} />
      </Section>
      <RateCard
        pricer={pricer}
        title="Rates"
        lines={book.rateLines.filter((line) => line.contractId === contract.id)}
        places={[place]}
        currency={currency}
        clientId={client.id}
      />
      <Markups
        pricer={pricer}
        markups={book.markups.filter((row) => row.contractId === contract.id)}
        places={[place]}
      />
      <ContractDetails contract={contract} currency={currency} />
    </Page>
  );
}

type Row = ContractMoney['projects'][number];

function ContractProjects({
  contract,
  money,
  currency,
}: {
  contract: Contract;
  money: ContractMoney;
  currency: string;
}) {
  const { sum } = money;
  const amount = (key: 'worth' | 'invoiced' | 'paid' | 'toBill', head: string, wideOnly = false): Column<Row> => ({
    key,
    head,
    width: '108px',
    align: 'end',
    wideOnly,
    cell: ({ sums }) => <Money minor={sums[key]} currency={currency} />,
    foot: <Money minor={sum[key]} currency={currency} />,
  });
  const columns: Column<Row>[] = [
    {
      key: 'project',
      head: 'Project',
      width: 'minmax(0,1fr)',
      cell: ({ project }) => (
        <span className="flex items-start gap-1.5">
          <span className="leading-5">
            <Swatch colour={project.colour} />
          </span>
          <Link to={`/clients/project/${project.id}`} tabIndex={-1} className="written clamp-2 hover:underline">
            {project.name}
          </Link>
        </span>
      ),
    },
    {
      key: 'hours',
      head: 'Hours',
      width: '92px',
      align: 'end',
      cell: ({ sums }) => <Length seconds={sums.seconds} />,
      foot: <Length seconds={sum.seconds} />,
    },
    amount('worth', 'Worth', true),
    amount('invoiced', 'Invoiced'),
    amount('paid', 'Paid', true),
    amount('toBill', 'To bill', true),
  ];
  return (
    <Ledger
      label={`Projects under ${contract.name.slice(0, 60)}`}
      rows={money.projects}
      rowId={({ project }) => project.id}
      rowName={({ project }) => project.name}
      columns={columns}
      footLabel="The contract as one"
      empty="No project is under it yet. Choose it as the contract in a project’s details; its parts follow."
    />
  );
}

/** What the contract came to, and what a cap leaves of it. */
function contractWorking(contract: Contract, { sum, left }: ContractMoney, currency: string): Working {
  const amount = (minor: number) => amountFigure(minor, currency);
  const steps: Step[] = [
    { label: 'Recorded', figure: lengthFigure(sum.seconds) },
    { label: 'Worth of the hours', figure: amount(sum.worth), remark: 'at their rates' },
    { label: 'To bill', figure: amount(sum.toBill), remark: 'hours, costs and agreed amounts on no issued invoice' },
  ];
  if (contract.cap === null || left === null) {
    return {
      title: contract.name,
      steps: [...steps, { label: 'Paid', figure: amount(sum.paid), remark: 'before tax' }],
      result: { label: 'Invoiced', figure: amount(sum.invoiced) },
    };
  }
  const over = lessExact(sum.toBill, Math.max(0, left));
  return {
    title: contract.name,
    steps: [
      ...steps,
      { label: 'Cap', figure: amount(contract.cap), ruled: true },
      { label: 'Invoiced', figure: amount(-sum.invoiced), remark: 'before tax, after discounts and credits' },
      ...(over > 0 && sum.toBill > 0
        ? [{ label: 'To bill beyond it', figure: amount(over), remark: 'invoices stop at the cap' }]
        : []),
    ],
    result: { label: 'Left of the cap', figure: amount(left) },
  };
}

function ContractDetails({ contract, currency }: { contract: Contract; currency: string }) {
  const { run } = useChanges();
  const save = (fields: Partial<Pick<Contract, 'name' | 'terms' | 'cap' | 'termsDays'>>) =>
    run('contract.edit', { id: contract.id, ...fields });
  return (
    <Section title="Details">
      <div className="grid gap-4 border-t border-ink px-2 pt-3 md:grid-cols-2">
        <SavedField label="Name" value={contract.name} save={(name) => save({ name })} />
        <SavedField
          label={`Cap, ${currency}`}
          hint="Before tax, over all its projects; empty for none"
          inputMode="decimal"
          value={contract.cap === null ? '' : inStyle(plainAmount(contract.cap, currency))}
          save={(text) => save({ cap: readMoney(text, currency) })}
        />
        <SavedField
          label="Due in days"
          hint="Empty: as the client’s"
          inputMode="numeric"
          value={contract.termsDays === null ? '' : String(contract.termsDays)}
          save={(text) => save({ termsDays: text.trim() === '' ? null : readTerms(text) })}
        />
        <SavedField label="Terms" value={contract.terms} lines={4} save={(terms) => save({ terms })} />
      </div>
    </Section>
  );
}
