import { useNavigate } from 'react-router';
import { useRights } from '../../data/rights';
import { Button } from '../../parts/button';
import { showKey, useKeys } from '../../parts/keys';

/** The ways to write down what was bought. */
export function AddCosts() {
  const navigate = useNavigate();
  const keepsStudio = useRights().has('costs');
  useKeys({
    'cost.expense': () => void navigate('/costs/new/expense'),
    'cost.bill': () => keepsStudio && void navigate('/costs/new/bill'),
  });
  return (
    <>
      {keepsStudio && (
        <Button shortcut={showKey('cost.bill')} onClick={() => void navigate('/costs/new/bill')}>
          Supplier bill
        </Button>
      )}
      <Button kind="main" shortcut={showKey('cost.expense')} onClick={() => void navigate('/costs/new/expense')}>
        Expense
      </Button>
    </>
  );
}
