import { useParams } from 'react-router';
import { useCosts } from '../../data/costs';
import { usePricer } from '../../data/book';
import { useRights } from '../../data/rights';
import { Loading, Page } from '../../parts/page';
import { PartsNav } from '../../parts/parts-nav';
import { AddCosts } from './add-costs';
import { AllCosts } from './all-costs';
import { CostRules } from './cost-rules';
import { EInvoiceIn } from './e-invoice-in';
import { MissingReceipts } from './missing-receipts';
import { StatementIn } from './statement-in';
import { ToPay } from './to-pay';
import { ToPlace } from './to-place';

const parts = [
  { path: 'all', name: 'All costs', of: AllCosts },
  { path: 'place', name: 'To place', of: ToPlace },
  { path: 'pay', name: 'To pay', of: ToPay, studio: true },
  { path: 'receipts', name: 'Receipts', of: MissingReceipts },
  { path: 'in', name: 'From a statement', of: StatementIn, studio: true },
  { path: 'e-invoice', name: 'From an e-invoice', of: EInvoiceIn, studio: true },
  { path: 'rules', name: 'Rules and unit rates', of: CostRules, studio: true },
] as const;

/** What was bought: expenses, supplier bills and lines of the bookkeeping. */
export default function Costs() {
  const { part } = useParams();
  const pricer = usePricer();
  const rows = useCosts(pricer);
  const rights = useRights();
  const allowed = parts.filter((each) => rights.has('costs') || !('studio' in each));
  const { of: Part } = allowed.find((each) => each.path === part) ?? parts[0];
  if (!pricer || !rows)
    return (
      <Page title="Costs">
        <Loading />
      </Page>
    );
  const counts: Record<string, number> = {
    place: rows.filter((row) => row.standing === 'to place').length,
    pay: new Set(rows.filter((row) => row.due && row.due.left > 0).map((row) => row.cost.id)).size,
    receipts: new Set(rows.filter((row) => row.needsReceipt).map((row) => row.cost.id)).size,
  };
  const named = allowed.map(({ path, name }) => ({ path, name: counts[path] ? `${name} ${counts[path]}` : name }));
  return (
    <Page title="Costs" actions={<AddCosts />}>
      <PartsNav label="Parts of Costs" base="/costs" parts={named} current={part} />
      <Part pricer={pricer} rows={rows} />
    </Page>
  );
}
