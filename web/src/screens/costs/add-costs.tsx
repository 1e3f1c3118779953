import { useNavigate } from 'react-router';
import { Button } from '../../parts/button';
import { showKey, useKeys } from '../../parts/keys';

/** The ways to write down what was bought. */
export function AddCosts() {
  const navigate = useNavigate();
  useKeys({
    'cost.expense': () => void navigate('/costs/new/expense'),
    'cost.bill': () => void navigate('/costs/new/bill'),
  });
  return (
    <>
      <Button shortcut={showKey('cost.bill')} onClick={() => void navigate('/costs/new/bill')}>
        Supplier bill
      </Button>
      <Button kind="main" shortcut={showKey('cost.expense')} onClick={() => void navigate('/costs/new/expense')}>
        Expense
      </Button>
    </>
  );
}
