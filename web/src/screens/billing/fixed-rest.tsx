import type { Pricer } from '@half-penny/core/billing';
import type { Agreed, Client } from '@half-penny/core/model';
import { showAmount, lessExact, sumExact } from '@half-penny/core/money';
import { Link } from 'react-router';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';

/** Prices agreed for wholes, as far as no amounts to bill were made of them yet. */
export function FixedRest({ pricer, client, agreed }: { pricer: Pricer; client: Client; agreed: readonly Agreed[] }) {
  const { attempt } = useChanges();
  const open = pricer.book.projects
    .filter((project) => project.clientId === client.id && project.kind === 'fixed price' && project.fixedPrice)
    .map((project) => {
      const made = agreed.filter((row) => row.projectId === project.id && row.kind === 'fixed');
      return {
        project,
        rest: lessExact(project.fixedPrice!, sumExact(made.map((row) => row.amount))),
        any: made.length > 0,
      };
    })
    .filter(({ rest }) => rest > 0);
  if (open.length === 0) return null;
  return (
    <ul className="mt-4 flex flex-col gap-1 border-l-[3px] border-money pl-3 text-sm">
      {open.map(({ project, rest, any }) => (
        <li key={project.id} className="flex flex-wrap items-baseline gap-x-3">
          <Link to={`/clients/project/${project.id}/money`} className="written font-semibold hover:underline">
            {project.name}
          </Link>
          <span>
            {any
              ? `has ${showAmount(rest, client.currency)} of its price left to divide`
              : `has a fixed price of ${showAmount(rest, client.currency)}`}
          </span>
          <Button
            kind="quiet"
            onClick={() =>
              void attempt('agreed.add', {
                projectId: project.id,
                kind: 'fixed',
                text: any ? `${project.name}, balance` : project.name,
                amount: rest,
              })
            }
          >
            Bill {any ? 'the rest' : 'it all'} now
          </Button>
        </li>
      ))}
    </ul>
  );
}
