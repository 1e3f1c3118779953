import type { Pricer } from '@half-penny/core/billing';
import type { OutsideClient, OutsideList } from '@half-penny/core/model';
import { Link } from 'react-router';
import { useBy } from '../../data/read';
import { Ledger, type Column } from '../../parts/ledger';

/** Clients as they stand elsewhere, and the client that follows each. */
export function FollowedClients({ pricer, list }: { pricer: Pricer; list: OutsideList }) {
  const rows = useBy('outsideClients', 'listId', [list.id]);
  const columns: Column<OutsideClient>[] = [
    {
      key: 'name',
      head: 'Client there',
      width: 'minmax(0,1.2fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    {
      key: 'email',
      head: 'E-mail',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (row) => <span className="written clamp-1">{row.email}</span>,
    },
    {
      key: 'here',
      head: 'Here',
      width: 'minmax(0,1fr)',
      cell: (row) => {
        const client = pricer.client.get(row.clientId);
        if (!client) return <span className="text-soft">deleted here</span>;
        return (
          <span className="written clamp-2">
            <Link to={`/clients/${client.id}`} className="text-time hover:underline">
              {client.name}
            </Link>
            {client.archived && <span className="text-soft"> · archived</span>}
          </span>
        );
      },
    },
    {
      key: 'gone',
      head: 'There',
      width: '96px',
      cell: (row) => <span className="text-soft">{row.gone ? 'gone' : 'listed'}</span>,
    },
  ];
  return (
    <Ledger
      label={`Clients of ${list.name}`}
      rows={(rows ?? []).toSorted((a, b) => a.name.localeCompare(b.name))}
      rowId={(row) => row.id}
      rowName={(row) => row.name}
      columns={columns}
      reading={!rows}
      empty="Nothing was read yet. Its clients will be set up here; one that is here by the same name follows it."
    />
  );
}
