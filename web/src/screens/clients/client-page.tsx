import { toBillByProject, type Pricer } from '@half-penny/core/billing';
import type { Client } from '@half-penny/core/model';
import { sumWorking } from '@half-penny/core/rates';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useToBill } from '../../data/billing';
import { usePricer } from '../../data/book';
import { Button } from '../../parts/button';
import { Loading, NotThere, Page, Section } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { anywhere, RateCard, type Place } from '../../parts/rate-card';
import { Slip } from '../../parts/slip';
import { Sought } from '../../parts/sought';
import { ArchiveDialog } from './archive-dialog';
import { ClientAccount } from './client-account';
import { AsBuyer, ClientDetails } from './client-details';
import { Contacts } from './contacts';
import { Contracts } from './contracts';
import { InvoicePreferences } from './invoice-preferences';
import { HistoryButton } from '../../parts/history-button';
import { Markups } from '../../parts/markups';
import { Projects } from './projects';
import { TryTerms } from './try-terms';
import { useMoneySeen, useRights } from '../../data/rights';

interface PartProps {
  pricer: Pricer;
  client: Client;
}

interface ClientPart {
  path: string;
  name: string;
  /** Tells what its work is worth. */
  money?: true;
  of: (props: PartProps) => React.ReactNode;
}

const parts: readonly ClientPart[] = [
  {
    path: 'work',
    name: 'Work',
    of: ({ pricer, client }) => (
      <>
        <Section title="Projects">
          <Projects pricer={pricer} clientId={client.id} />
        </Section>
        <SeenContracts pricer={pricer} client={client} />
      </>
    ),
  },
  { path: 'rates', name: 'Rates and markups', money: true, of: ClientRates },
  {
    path: 'details',
    name: 'Details and contacts',
    of: ({ pricer, client }) => (
      <>
        <ClientDetails pricer={pricer} client={client} />
        <AsBuyer client={client} />
        <Contacts pricer={pricer} client={client} />
        <HistoryButton pricer={pricer} table="clients" id={client.id} />
      </>
    ),
  },
  { path: 'invoices', name: 'Invoice preferences', of: InvoicePreferences },
  { path: 'account', name: 'Account', money: true, of: ClientAccount },
  { path: 'try', name: 'What if', money: true, of: TryTerms },
];

/** One client: its work, what its hours sell for, what is known of it, how it likes its invoices. */
export default function ClientPage() {
  const { clientId = '', part } = useParams();
  const pricer = usePricer();
  const [archiving, setArchiving] = useState(false);
  const seen = useMoneySeen();
  const client = pricer?.client.get(clientId);
  if (!pricer || !client) return <NotThere one="client" reading={!pricer} />;
  const own = parts.filter(({ money }) => !money || seen.worth);
  const { of: Part } = own.find((each) => each.path === part) ?? own[0]!;
  return (
    <Page
      title={client.name}
      aside={client.archived ? 'archived' : client.currency}
      actions={<Button onClick={() => setArchiving(true)}>{client.archived ? 'Bring back' : 'Archive'}</Button>}
      side={seen.worth && <ClientSide key={client.id} pricer={pricer} client={client} />}
    >
      <PartsNav label="About this client" base={`/clients/${client.id}`} parts={own} current={part} />
      <Sought>
        <Part key={client.id} pricer={pricer} client={client} />
      </Sought>
      {archiving && (
        <ArchiveDialog
          pricer={pricer}
          ids={[client.id]}
          archive={!client.archived}
          onClose={() => setArchiving(false)}
        />
      )}
    </Page>
  );
}

/** What was agreed in contracts is money. */
const SeenContracts = (props: PartProps) => useMoneySeen().worth && <Contracts {...props} />;

function ClientRates({ pricer, client }: PartProps) {
  const { book, tree } = pricer;
  const projects = book.projects.filter((project) => project.clientId === client.id);
  const contracts = book.contracts.filter((contract) => contract.clientId === client.id);
  const places: Place[] = [
    { ...anywhere, clientId: client.id, name: `All work for ${client.name.slice(0, 60)}` },
    ...contracts.map(({ id, name }) => ({ ...anywhere, contractId: id, name: `Contract: ${name.slice(0, 60)}` })),
    ...projects.map(({ id }) => ({ ...anywhere, projectId: id, name: tree.pathOf(id).slice(0, 80) })),
  ];
  const projectIds = new Set(projects.map((project) => project.id));
  const contractIds = new Set(contracts.map((contract) => contract.id));
  const isOwn = (line: { clientId: string | null; contractId: string | null; projectId: string | null }): boolean =>
    line.clientId === client.id ||
    (line.contractId !== null && contractIds.has(line.contractId)) ||
    (line.projectId !== null && projectIds.has(line.projectId));
  const ofTask = (taskId: string | null): boolean =>
    taskId !== null && projectIds.has(pricer.task.get(taskId)?.projectId ?? '');
  return (
    <>
      <RateCard
        pricer={pricer}
        title="Rates"
        lines={book.rateLines.filter((line) => isOwn(line) || ofTask(line.taskId))}
        places={places}
        currency={client.currency}
        clientId={client.id}
      />
      <Markups pricer={pricer} markups={book.markups.filter(isOwn)} places={places} />
    </>
  );
}

function ClientSide({ pricer, client }: PartProps) {
  const bills = useRights().has('billing');
  const toBill = useToBill(pricer, { clientId: client.id });
  if (!toBill) return <Loading />;
  const [own] = toBill;
  return (
    <div className="flex flex-col gap-4">
      <Slip working={own ? toBillByProject(pricer, own) : sumWorking(`${client.name}, to bill`, [], client.currency)} />
      {own && bills && (
        <Link
          to={`/billing/client/${client.id}`}
          className="self-start rounded-md border border-strong bg-sheet px-3 py-1.5 hover:bg-time-ground"
        >
          Bill {client.name.slice(0, 60)}
        </Link>
      )}
    </div>
  );
}
