import { creditableOf } from '@half-penny/core/billing';
import { needText, readAll, type FrozenInvoice } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField, inputLook } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import { CheckBox } from '../../parts/check';

interface CreditDialogProps {
  records: InvoiceRecords;
  frozen: FrozenInvoice;
  onClose: () => void;
}

/** A credit note: all of an invoice, or a part of each line, with the reason. */
export function CreditDialog({ records, frozen, onClose }: CreditDialogProps) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const lines = frozen.lines
    .map((line) => ({ line, left: creditableOf(line, records.credits) }))
    .filter(({ left }) => left !== 0);
  const money = (minor: number) => inStyle(plainAmount(minor, frozen.currency));
  const [typed, setTyped] = useState(() => Object.fromEntries(lines.map(({ line, left }) => [line.key, money(left)])));
  const [reason, setReason] = useState('');
  const [free, setFree] = useState(true);
  const { fault, faults, submit } = useSubmit(async () => {
    const written = Object.entries(typed).filter(([, text]) => text.trim() !== '');
    const { reason: _said, ...amounts } = readAll({
      ...Object.fromEntries(written.map(([key, text]) => [key, () => readAmount(text, frozen.currency)])),
      reason: () => needText(reason, 'Say why it is credited.'),
    });
    const row = await run('invoice.credit', { id: records.invoice.id, reason, free, lines: amounts });
    onClose();
    const note = row.changes.find((change) => change.table === 'invoices');
    if (note) void navigate(`/billing/invoice/${note.id}`);
  }, ['reason', ...lines.map(({ line }) => line.key)]);
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Credit ${frozen.number}`}
      about="It gets the next number and credits the amounts below, with their tax. It cannot be undone."
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <table className="w-full">
          <thead>
            <tr className="border-b border-ink text-left text-xs text-soft">
              <th className="py-1 font-semibold">Line</th>
              <th className="py-1 text-right font-semibold">Left to credit</th>
              <th className="w-32 py-1 text-right font-semibold">To credit, {frozen.currency}</th>
            </tr>
          </thead>
          <tbody>
            {lines.map(({ line, left }) => (
              <tr key={line.key} className="border-b border-rule">
                <td className="written py-1 pr-3">{line.text.slice(0, 200)}</td>
                <td className="py-1 pr-3 text-right font-mono text-sm">{showAmount(left, frozen.currency)}</td>
                <td className="py-1">
                  <input
                    className={`${inputLook} text-right`}
                    inputMode="decimal"
                    aria-invalid={faults[line.key] ? true : undefined}
                    aria-label={`To credit of ${line.text.slice(0, 60)}`}
                    value={typed[line.key] ?? ''}
                    onChange={(event) => setTyped((now) => ({ ...now, [line.key]: event.target.value }))}
                  />
                  {faults[line.key] && (
                    <p role="alert" className="text-sm text-fault">
                      {faults[line.key]}
                    </p>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <TextField
          label="Why"
          value={reason}
          fault={faults.reason ?? fault}
          onChange={(event) => setReason(event.target.value)}
        />
        <label className="flex items-center gap-2">
          <CheckBox checked={free} onChange={setFree} />
          Its items are to bill again
        </label>
        <Button type="submit" kind="fault" className="self-start">
          Issue the credit note
        </Button>
      </form>
    </Dialog>
  );
}
