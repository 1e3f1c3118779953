import type { Pricer } from '@half-penny/core/billing';
import { Markups } from '../../parts/markups';
import { anywhere } from '../../parts/rate-card';

/** What is added to costs where no client or project says otherwise. */
export function StudioMarkups({ pricer }: { pricer: Pricer }) {
  const rows = pricer.book.markups.filter(
    (row) => row.clientId === null && row.contractId === null && row.projectId === null,
  );
  return <Markups pricer={pricer} markups={rows} places={[{ ...anywhere, name: pricer.book.workspace.name }]} />;
}
