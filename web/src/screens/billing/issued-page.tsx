import {
  explainFrozen,
  explainOwed,
  explainPayment,
  heldOn,
  owedOn,
  standingOf,
  type Pricer,
} from '@half-penny/core/billing';
import { Fault, type FrozenInvoice, type PaymentKind } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import { Download, Printer, X } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useTold } from '../../data/online';
import { useToday } from '../../data/queries';
import { composeLetter } from '../../data/letters';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { FormDay, FormSelect } from '../../parts/form-fields';
import { Worth } from '../../parts/figures';
import { Page } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { ClientPageDialog } from './client-page-dialog';
import { CreditDialog } from './credit-dialog';
import { DisputeDialog } from './dispute-dialog';
import { EInvoiceDialog } from './e-invoice-dialog';
import { InvoiceEvents } from './invoice-events';
import { InvoiceSheet } from './invoice-sheet';
import { LatePart } from './late-part';
import { LetterDialog } from '../../parts/letter-dialog';
import { OnInvoice } from './on-invoice';
import { StandingMark } from './standing-mark';
import { usePaper } from './use-paper';
import { HistoryButton } from '../../parts/history-button';

interface IssuedProps {
  pricer: Pricer;
  records: InvoiceRecords;
  frozen: FrozenInvoice;
}

/** An invoice as it was sent, with what has been paid on it. */
export function IssuedPage({ pricer, records, frozen }: IssuedProps) {
  const { invoice, credits } = records;
  const today = useToday();
  const { attempt } = useChanges();
  const { memberId } = useSession();
  const [open, setOpen] = useState<'payment' | 'void' | 'credit' | 'e-invoice' | 'page' | 'send' | 'dispute' | null>(
    null,
  );
  const pdf = usePaper(frozen, invoice.voided !== null);
  useTold();
  const standing = standingOf(records, today);
  const note = invoice.kind === 'credit note';
  const held = heldOn(records) !== 0;
  // What was issued today goes to the client first; then money is waited for.
  const toSend = frozen.day === today && records.payments.length === 0;
  return (
    <Page
      title={frozen.number}
      paper
      aside={
        <span className="written clamp-2">
          {frozen.client.name} · <StandingMark standing={standing} />
        </span>
      }
      actions={
        <>
          {!invoice.voided && !note && credits.length === 0 && <Button onClick={() => setOpen('void')}>Void</Button>}
          {!invoice.voided && !note && <Button onClick={() => setOpen('credit')}>Credit</Button>}
          {held && !invoice.voided && (
            <Button
              onClick={() =>
                void attempt('invoice.release', { id: invoice.id, day: invoice.releasedOn === null ? today : null })
              }
            >
              {invoice.releasedOn === null ? 'Retention is due' : 'Retention is not due yet'}
            </Button>
          )}
          <Button icon={<Printer size={16} />} onClick={() => window.print()}>
            Print
          </Button>
          <Button onClick={() => pdf.make(true)}>Copy</Button>
          {!invoice.voided && <Button onClick={() => setOpen('e-invoice')}>E-invoice</Button>}
          {!invoice.voided && <Button onClick={() => setOpen('page')}>Client’s page</Button>}
          <Button kind={toSend ? 'main' : 'plain'} icon={<Download size={16} />} onClick={() => pdf.make(false)}>
            PDF
          </Button>
          {!invoice.voided && <Button onClick={() => setOpen('send')}>Send…</Button>}
          {!invoice.voided && !note && (
            <Button kind={toSend ? 'plain' : 'main'} onClick={() => setOpen('payment')}>
              Record a payment
            </Button>
          )}
        </>
      }
      side={
        <>
          <Money records={records} frozen={frozen} />
          {!invoice.voided && !note && owedOn(records) > 0 && (
            <Button
              kind="quiet"
              onClick={() =>
                invoice.disputed ? void attempt('invoice.dispute', { id: invoice.id, note: null }) : setOpen('dispute')
              }
            >
              {invoice.disputed ? 'The dispute is settled' : 'The client disputes it…'}
            </Button>
          )}
          <LatePart {...{ pricer, records, frozen, today }} />
          <InvoiceEvents records={records} zone={pricer.book.workspace.zone} />
          <HistoryButton pricer={pricer} table="invoices" id={invoice.id} />
        </>
      }
    >
      {invoice.voided && (
        <p className="mb-4 border-l-[3px] border-attention print:hidden bg-attention-ground px-3 py-2 text-attention">
          Void since {showShortDay(invoice.voided.day)}: {invoice.voided.reason.slice(0, 500)}. Its items are to bill
          again.
        </p>
      )}
      {invoice.disputed && !invoice.voided && (
        <p className="mb-4 border-l-[3px] border-attention print:hidden bg-attention-ground px-3 py-2 text-attention">
          In dispute since {showShortDay(invoice.disputed.since)}
          {invoice.disputed.note && `: ${invoice.disputed.note}`}. No reminder goes out.
        </p>
      )}
      <InvoiceSheet invoice={frozen} />
      <div className="mt-8 print:hidden">
        <OnInvoice {...{ pricer, records, frozen }} />
      </div>
      {pdf.running && <Progress title={`Making the PDF of ${frozen.number}`} share={null} onStop={pdf.stop} />}
      {open === 'payment' && <PaymentDialog {...{ records, frozen, today }} onClose={() => setOpen(null)} />}
      {open === 'credit' && <CreditDialog {...{ records, frozen }} onClose={() => setOpen(null)} />}
      {open === 'e-invoice' && <EInvoiceDialog {...{ pricer, records, frozen }} onClose={() => setOpen(null)} />}
      {open === 'page' && (
        <ClientPageDialog
          {...{ pricer, frozen }}
          of={{ invoiceId: invoice.id, quoteId: null }}
          clientId={invoice.clientId}
          owes={owedOn(records) > 0}
          onClose={() => setOpen(null)}
        />
      )}
      {open === 'send' && (
        <LetterDialog
          {...{ pricer, frozen }}
          letter={composeLetter(pricer, {
            kind: note ? 'credit note' : 'invoice',
            clientId: invoice.clientId,
            frozen,
            owing: records,
            today,
            memberId,
          })}
          onClose={() => setOpen(null)}
        />
      )}
      {open === 'dispute' && <DisputeDialog {...{ invoice, frozen }} onClose={() => setOpen(null)} />}
      {open === 'void' && <VoidDialog {...{ records, frozen }} onClose={() => setOpen(null)} />}
    </Page>
  );
}

const paymentWords: Record<PaymentKind, string> = { payment: 'Paid', 'write-off': 'Written off', refund: 'Paid back' };

/** Total, payments and what is still owed, as figures with their workings. */
function Money({ records, frozen }: Omit<IssuedProps, 'pricer'>) {
  const { invoice, payments, credits } = records;
  const { attempt } = useChanges();
  const rows = 'flex items-baseline justify-between gap-3 border-b border-rule py-2';
  return (
    <section aria-label="Payments">
      <h2 className="border-b border-ink pb-2 font-semibold">Payments</h2>
      <div className={rows}>
        <span>{frozen.credits ? 'Credited' : 'To pay'}</span>
        <Worth
          amount={frozen.payable}
          currency={frozen.currency}
          of={frozen.number}
          working={() => explainFrozen(frozen)}
        />
      </div>
      {frozen.credits && (
        <div className={rows}>
          <span>Credits</span>
          <Link to={`/billing/invoice/${invoice.ofId}`} className="font-mono text-sm font-semibold hover:underline">
            {frozen.credits.number}
          </Link>
        </div>
      )}
      {credits.map((each) => (
        <div key={each.id} className={rows}>
          <Link to={`/billing/invoice/${each.id}`} className="hover:underline">
            Credit note {each.frozen!.number}
          </Link>
          <Worth
            amount={each.frozen!.payable}
            currency={frozen.currency}
            of={each.frozen!.number}
            working={() => explainFrozen(each.frozen!)}
          />
        </div>
      ))}
      {payments.map((payment) => (
        <div key={payment.id} className={rows}>
          <span className="written min-w-0">
            {paymentWords[payment.kind]} {showShortDay(payment.day)}
            {payment.note && <span className="clamp-2 text-xs text-soft">{payment.note}</span>}
          </span>
          <span className="flex items-center gap-1 whitespace-nowrap">
            <Worth
              amount={payment.amount}
              currency={payment.currency}
              of={`the payment of ${showShortDay(payment.day)}`}
              working={() => explainPayment(payment)}
            >
              {showAmount(payment.kind === 'refund' ? payment.amount : -payment.amount, payment.currency)}
            </Worth>
            <button
              type="button"
              className="rounded-sm p-1 text-soft hover:text-ink"
              aria-label={`Remove the payment of ${showShortDay(payment.day)}`}
              onClick={() => void attempt('payment.remove', { id: payment.id })}
            >
              <X size={14} />
            </button>
          </span>
        </div>
      ))}
      <div className="flex items-baseline justify-between gap-3 py-2 font-bold">
        <span>{owedOn(records) < 0 ? 'Overpaid' : 'Still owed'}</span>
        <span className="total-rule border-t-0">
          <Worth
            amount={owedOn(records)}
            currency={frozen.currency}
            of={`what is owed on ${frozen.number}`}
            strong
            working={() => explainOwed(records)}
          />
        </span>
      </div>
    </section>
  );
}

/** An amount as typed; one with the sign of another currency is asked about, not taken for this one. */
function readPaid(typed: string, { currency, number }: FrozenInvoice): number {
  const code = /\b([A-Z]{3})\b/.exec(typed)?.[1];
  const sign = /\p{Sc}/u.exec(typed)?.[0];
  const own = showAmount(0, currency);
  if ((code && code !== currency) || (sign && !own.includes(sign))) {
    throw new Fault('other-currency', `${number} is in ${currency}; write what arrived in ${currency}.`, 'amount');
  }
  return readAmount(typed.replace(/\b[A-Z]{3}\b/, ''), currency);
}

interface PaymentForm {
  amount: string;
  day: string;
  note: string;
  kind: PaymentKind;
}

function PaymentDialog({
  records,
  frozen,
  today,
  onClose,
}: Omit<IssuedProps, 'pricer'> & { today: string; onClose: () => void }) {
  const { invoice } = records;
  const { run } = useChanges();
  const owed = Math.max(0, owedOn(records));
  const [more, setMore] = useState<string | null>(null);
  const { register, control, handleSubmit, setError, formState } = useForm<PaymentForm>({
    defaultValues: { amount: inStyle(plainAmount(owed, frozen.currency)), day: today, note: '', kind: 'payment' },
  });
  const submit = handleSubmit(async ({ amount, day, note, kind }) => {
    try {
      const paid = readPaid(amount, frozen);
      const most = kind === 'refund' ? Math.max(0, -owedOn(records)) : owed;
      // More than is owed may be meant; it is asked about once.
      if (paid > most && more !== `${kind} ${paid}`) return setMore(`${kind} ${paid}`);
      await run('payment.add', { invoiceId: invoice.id, day, note, kind, amount: paid });
      onClose();
    } catch (thrown) {
      const path = (thrown as { path?: string }).path;
      setError(path === 'day' || path === 'note' ? path : 'amount', { message: wordsOf(thrown) });
    }
  });
  return (
    <Dialog title={`Payment on ${frozen.number}`} open onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <TextField
          label={`Amount, ${frozen.currency}`}
          inputMode="decimal"
          fault={formState.errors.amount?.message}
          {...register('amount')}
        />
        <FormDay label="Day" fault={formState.errors.day?.message} control={control} name="day" />
        <FormSelect
          label="What it is"
          options={[
            ['payment', 'Money that came in'],
            ['write-off', 'Written off: it will never come'],
            ['refund', 'Money paid back to the client'],
          ]}
          control={control}
          name="kind"
        />
        <TextField label="Note" fault={formState.errors.note?.message} {...register('note')} />
        {more && (
          <p role="alert" className="text-attention">
            {more.startsWith('refund')
              ? `Only ${showAmount(Math.max(0, -owedOn(records)), frozen.currency)} was paid too much.`
              : `Only ${showAmount(owed, frozen.currency)} is owed; the rest would be overpaid.`}
          </p>
        )}
        <div className="flex justify-end">
          <Button type="submit" kind="main">
            {more ? 'Record it all the same' : 'Record it'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function VoidDialog({ records, frozen, onClose }: Omit<IssuedProps, 'pricer'> & { onClose: () => void }) {
  const { run } = useChanges();
  const { register, handleSubmit, setError, formState } = useForm({ defaultValues: { reason: '' } });
  const submit = handleSubmit(async ({ reason }) => {
    try {
      await run('invoice.void', { id: records.invoice.id, reason });
      onClose();
    } catch (thrown) {
      setError('reason', { message: wordsOf(thrown) });
    }
  });
  return (
    <Dialog
      title={`Void ${frozen.number}`}
      open
      onClose={onClose}
      about="It keeps its number and stays in the register as void. Everything on it is to bill again. This cannot be undone."
    >
      <form className="flex flex-col gap-3" onSubmit={(event) => void submit(event)}>
        <TextField label="Reason" fault={formState.errors.reason?.message} {...register('reason')} />
        <div className="flex justify-end">
          <Button type="submit" kind="fault">
            Void {frozen.number}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
