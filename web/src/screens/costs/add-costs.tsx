import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { tinykeys } from 'tinykeys';
import { Button } from '../../parts/button';

/** The ways to write down what was bought. */
export function AddCosts() {
  const navigate = useNavigate();
  useEffect(() =>
    tinykeys(window, {
      e: (event) => !isTyping(event) && void navigate('/costs/new/expense'),
      b: (event) => !isTyping(event) && void navigate('/costs/new/bill'),
    }),
  );
  return (
    <>
      <Button shortcut="B" onClick={() => void navigate('/costs/new/bill')}>
        Supplier bill
      </Button>
      <Button kind="main" shortcut="E" onClick={() => void navigate('/costs/new/expense')}>
        Expense
      </Button>
    </>
  );
}

const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [role=dialog]') !== null;
