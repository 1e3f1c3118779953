import { useLiveQuery } from 'dexie-react-hooks';
import { explainFrozen, explainOwed, explainPayment, owedOn, standingOf } from '@half-penny/core/billing';
import { messageOf, type FrozenInvoice } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import { Download, Printer, X } from 'lucide-react';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { useToday, type InvoiceRecords } from '../../data/queries';
import { useChanges, useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { Worth } from '../../parts/figures';
import { Page } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { noticed } from '../../state/notices';
import { useAppDispatch } from '../../state/store';
import { makeInvoicePdf, Stopped, type Work } from '../../workers/work';
import { InvoiceSheet } from './invoice-sheet';
import { OnInvoice } from './on-invoice';
import { StandingMark } from './standing-mark';

interface IssuedProps {
  records: InvoiceRecords;
  frozen: FrozenInvoice;
}

/** An invoice as it was sent, with what has been paid on it. */
export function IssuedPage({ records, frozen }: IssuedProps) {
  const { invoice, payments } = records;
  const today = useToday();
  const [open, setOpen] = useState<'payment' | 'void' | null>(null);
  const pdf = usePdf(frozen);
  const standing = standingOf(invoice, payments, today);
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
          {!invoice.voided && <Button onClick={() => setOpen('void')}>Void</Button>}
          <Button icon={<Printer size={16} />} onClick={() => window.print()}>
            Print
          </Button>
          <Button icon={<Download size={16} />} onClick={pdf.make}>
            PDF
          </Button>
          {!invoice.voided && (
            <Button kind="main" onClick={() => setOpen('payment')}>
              Record a payment
            </Button>
          )}
        </>
      }
      side={<Money records={records} frozen={frozen} />}
    >
      {invoice.voided && (
        <p className="mb-4 border-l-[3px] border-attention print:hidden bg-attention-ground px-3 py-2 text-attention">
          Void since {showShortDay(invoice.voided.day)}: {invoice.voided.reason.slice(0, 500)}. What stood on it is to
          bill again.
        </p>
      )}
      <InvoiceSheet invoice={frozen} />
      <div className="mt-8 print:hidden">
        <OnInvoice records={records} frozen={frozen} />
      </div>
      {pdf.running && <Progress title={`Making the PDF of ${frozen.number}`} share={null} onStop={pdf.stop} />}
      {open === 'payment' && <PaymentDialog {...{ records, frozen, today }} onClose={() => setOpen(null)} />}
      {open === 'void' && <VoidDialog {...{ records, frozen }} onClose={() => setOpen(null)} />}
    </Page>
  );
}

/** Total, payments and what is still owed, as figures with their workings. */
function Money({ records, frozen }: IssuedProps) {
  const { invoice, payments } = records;
  const { attempt } = useChanges();
  const rows = 'flex items-baseline justify-between gap-3 border-b border-rule py-2';
  return (
    <section aria-label="Payments">
      <h2 className="border-b border-ink pb-2 font-semibold">Payments</h2>
      <div className={rows}>
        <span>Total</span>
        <Worth
          amount={frozen.total}
          currency={frozen.currency}
          of={frozen.number}
          working={() => explainFrozen(frozen)}
        />
      </div>
      {payments.map((payment) => (
        <div key={payment.id} className={rows}>
          <span className="written min-w-0">
            Paid {showShortDay(payment.day)}
            {payment.note && <span className="clamp-2 text-xs text-soft">{payment.note}</span>}
          </span>
          <span className="flex items-center gap-1 whitespace-nowrap">
            <Worth
              amount={payment.amount}
              currency={payment.currency}
              of={`the payment of ${showShortDay(payment.day)}`}
              working={() => explainPayment(payment)}
            >
              {showAmount(-payment.amount, payment.currency)}
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
        <span>{owedOn(invoice, payments) < 0 ? 'Overpaid' : 'Still owed'}</span>
        <span className="total-rule border-t-0">
          <Worth
            amount={owedOn(invoice, payments)}
            currency={frozen.currency}
            of={`what is owed on ${frozen.number}`}
            strong
            working={() => explainOwed(frozen, payments)}
          />
        </span>
      </div>
    </section>
  );
}

/** Makes the PDF in a worker and saves it. */
function usePdf(frozen: FrozenInvoice) {
  const dispatch = useAppDispatch();
  const [work, setWork] = useState<Work<Blob> | null>(null);
  const { reader } = useSession();
  const { logoId } = frozen.studio;
  const logo = useLiveQuery(
    async () => (logoId === null ? undefined : reader.get('pictures', logoId)),
    [reader, logoId],
  );
  const make = () => {
    const started = makeInvoicePdf(frozen, logo);
    setWork(started);
    started.result
      .then(
        (blob) => save(blob, `${frozen.number.replace(/[^\w.-]+/g, '-')}.pdf`),
        (thrown: unknown) => {
          if (!(thrown instanceof Stopped))
            dispatch(noticed({ text: `The PDF could not be made: ${messageOf(thrown)}`, fault: true, undo: null }));
        },
      )
      .finally(() => setWork(null));
  };
  return { make, running: work !== null, stop: () => work?.stop() };
}

interface PaymentForm {
  amount: string;
  day: string;
  note: string;
}

function PaymentDialog({ records, frozen, today, onClose }: IssuedProps & { today: string; onClose: () => void }) {
  const { invoice, payments } = records;
  const { run } = useChanges();
  const owed = Math.max(0, owedOn(invoice, payments));
  const { register, handleSubmit, setError, formState } = useForm<PaymentForm>({
    defaultValues: { amount: inStyle(plainAmount(owed, frozen.currency)), day: today, note: '' },
  });
  const submit = handleSubmit(async ({ amount, day, note }) => {
    try {
      await run('payment.add', { invoiceId: invoice.id, day, note, amount: readAmount(amount, frozen.currency) });
      onClose();
    } catch (thrown) {
      const path = (thrown as { path?: string }).path;
      setError(path === 'day' ? 'day' : 'amount', { message: messageOf(thrown) });
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
        <TextField label="Day it arrived" type="date" fault={formState.errors.day?.message} {...register('day')} />
        <TextField label="Note" {...register('note')} />
        <div className="flex justify-end">
          <Button type="submit" kind="main">
            Record the payment
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function VoidDialog({ records, frozen, onClose }: IssuedProps & { onClose: () => void }) {
  const { run } = useChanges();
  const { register, handleSubmit, setError, formState } = useForm({ defaultValues: { reason: '' } });
  const submit = handleSubmit(async ({ reason }) => {
    try {
      await run('invoice.void', { id: records.invoice.id, reason });
      onClose();
    } catch (thrown) {
      setError('reason', { message: messageOf(thrown) });
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
