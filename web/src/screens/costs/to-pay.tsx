import type { Pricer } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import type { Due } from '@half-penny/core/paying-out';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { usePayingOut } from '../../data/paying-out';
import { useToday } from '../../data/queries';
import { Button } from '../../parts/button';
import { Ledger } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { AskBankDialog } from './ask-bank-dialog';
import { dueColumns, isLate } from './due-columns';
import { PaidOut } from './paid-out';
import { PayDialog } from './pay-dialog';
import { PayeeDialog } from './payee-dialog';
import { Payees } from './payees';
import { PaymentFiles } from './payment-files';

/** What suppliers and members are owed, what the bank was asked for, what was paid, and the accounts it goes to. */
export function ToPay({ pricer }: { pricer: Pricer }) {
  const paying = usePayingOut(pricer);
  const today = useToday();
  const navigate = useNavigate();
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  /** What is done with which: they are paid, and stand in the list no more, before the window is gone. */
  const [open, setOpen] = useState<{ what: 'pay' | 'ask'; dues: Due[] } | null>(null);
  const [account, setAccount] = useState<Due | null>(null);
  if (!paying) return <Loading />;
  const dues = paying.dues.filter((due) => due.left !== 0);
  const meant = dues.filter((due) => picked.has(due.cost.id));
  const late = dues.filter((due) => isLate(due, today));
  const home = pricer.book.workspace.currency;
  const close = () => setOpen(null);
  const done = () => {
    setPicked(new Set());
    close();
  };
  return (
    <>
      <Section
        title="Owed to suppliers and members"
        actions={
          <>
            {meant.length === 0 && late.length > 0 && (
              <Button onClick={() => setPicked(new Set(late.map((due) => due.cost.id)))}>
                Pick the late bills {late.length}
              </Button>
            )}
            <Button disabled={meant.length === 0} onClick={() => setOpen({ what: 'pay', dues: meant })}>
              Paid…
            </Button>
            <Button
              kind="main"
              disabled={meant.every((due) => due.left < 0)}
              onClick={() => setOpen({ what: 'ask', dues: meant })}
            >
              Payment file…
            </Button>
          </>
        }
      >
        <Ledger
          label="Owed to suppliers and members"
          rows={dues}
          rowId={(due) => due.cost.id}
          rowName={(due) => `${due.name}, ${showAmount(due.left, due.cost.currency)}`}
          columns={dueColumns(pricer, dues, today, setAccount)}
          selection={{ selected: new Set(meant.map((due) => due.cost.id)), onChange: setPicked }}
          marked={(due) => due.doubts.length > 0}
          onOpen={(due) => void navigate(`/costs/cost/${due.cost.id}`)}
          footLabel="Left to pay"
          empty="Nothing is owed. Supplier bills stand here until they are paid, and what members spent until they have it back."
        />
      </Section>
      <PaymentFiles {...{ pricer, paying, today }} />
      <PaidOut {...{ pricer, paying }} />
      <Payees {...{ pricer, paying }} />
      {open?.what === 'pay' && <PayDialog dues={open.dues} {...{ today, home }} onClose={close} onDone={done} />}
      {open?.what === 'ask' && (
        <AskBankDialog {...{ pricer, paying, today }} dues={open.dues} onClose={close} onDone={done} />
      )}
      {account && <PayeeDialog due={account} onClose={() => setAccount(null)} />}
    </>
  );
}
