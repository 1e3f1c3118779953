import { taskLines, type Pricer } from '@half-penny/core/billing';
import {
  eInvoiceKinds,
  byTerm,
  eInvoiceName,
  lackingFor,
  type EInvoiceKind,
  type Lacking,
  type LackingAt,
  type PresentParties,
} from '@half-penny/core/e-invoice';
import type { FrozenInvoice, Id } from '@half-penny/core/model';
import { Check } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { usePicture } from '../../data/queries';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { Progress } from '../../parts/progress';
import type { SettingSought } from '../../parts/sought';
import { useWork } from '../../parts/use-work';
import { makeEInvoice } from '../../workers/tasks';

interface EInvoiceDialogProps {
  pricer: Pricer;
  records: InvoiceRecords;
  frozen: FrozenInvoice;
  onClose: () => void;
}

const kinds: Record<EInvoiceKind, { name: string; about: string }> = {
  'factur-x': { name: 'Factur-X', about: 'The PDF with the data in it: people read the one, programs the other.' },
  peppol: { name: 'Peppol', about: 'UBL for the Peppol network (BIS Billing 3.0).' },
  xrechnung: { name: 'XRechnung', about: 'CII for public offices in Germany.' },
};

/** An issued invoice as data for the client's bookkeeping, in the forms that EN 16931 knows. */
export function EInvoiceDialog({ pricer, records, frozen, onClose }: EInvoiceDialogProps) {
  const { clientId } = records.invoice;
  const logo = usePicture(frozen.studio.logoId);
  const work = useWork();
  const client = pricer.client.get(clientId);
  const { asSeller } = pricer.book.workspace;
  const present = useMemo<PresentParties>(
    () => ({
      seller: asSeller,
      buyer: client?.asBuyer,
      taxPlace: client?.taxPlace ?? '',
      clientEmail: client?.email ?? '',
    }),
    [asSeller, client],
  );
  const lacking = eInvoiceKinds.map((kind) => lackingFor(kind, frozen, present));
  const all = lackingOnce(lacking.flat());
  const take = (kind: EInvoiceKind) =>
    work.start(
      `Making ${kinds[kind].name} of ${frozen.number}`,
      () => makeEInvoice(kind, frozen, present, logo),
      (file) => save(file, eInvoiceName(kind, frozen.number)),
    );
  return (
    <Dialog
      title={`${frozen.number} as an e-invoice`}
      about="The same figures as on paper, as data that the client’s bookkeeping reads (EN 16931)."
      open
      onClose={onClose}
      wide
    >
      <ul aria-label="Forms" className="border-t border-ink">
        {eInvoiceKinds.map((kind, index) => (
          <Form key={kind} kind={kind} lacking={lacking[index]!} onTake={() => take(kind)} />
        ))}
        {!frozen.inclusive && <ByTask {...{ pricer, records, frozen }} />}
      </ul>
      {all.length > 0 && <WhatIsLacking all={all} clientId={clientId} />}
      {work.fault && (
        <p role="alert" className="mt-3 text-fault">
          {work.fault}
        </p>
      )}
      {work.title && <Progress title={work.title} share={null} onStop={work.stop} />}
    </Dialog>
  );
}

/** Each term once, in the order of the standard; what the first of the forms says of it stands. */
function lackingOnce(found: readonly Lacking[]): Lacking[] {
  const terms = new Map<string, Lacking>();
  for (const each of found) if (!terms.has(each.term)) terms.set(each.term, each);
  return [...terms.values()].sort(byTerm);
}

/** A line for each entry, as some large clients' billing systems read it; it has no field for tax, so prices must not have it in them. */
function ByTask({ pricer, records, frozen }: Pick<EInvoiceDialogProps, 'pricer' | 'records' | 'frozen'>) {
  const take = async () => {
    const { ledes1998b } = await import('@half-penny/formats/billing');
    const text = ledes1998b(pricer, frozen, records.invoice.clientId, taskLines(pricer, records, frozen));
    save(new Blob([text], { type: 'text/plain' }), `${frozen.number.replace(/[^\w.-]+/g, '-')}-ledes.txt`);
  };
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-3">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">LEDES 1998B</span>
        <span className="block text-sm text-soft">
          Entry by entry with task and activity codes, without tax: for clients whose billing systems ask for it.
        </span>
      </span>
      <Button aria-label="Save LEDES 1998B" onClick={() => void take()}>
        Save text
      </Button>
    </li>
  );
}

interface FormProps {
  kind: EInvoiceKind;
  lacking: readonly Lacking[];
  onTake: () => void;
}

function Form({ kind, lacking, onTake }: FormProps) {
  const { name, about } = kinds[kind];
  const ready = lacking.length === 0;
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-3">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{name}</span>
        <span className="block text-sm text-soft">{about}</span>
      </span>
      {ready ? (
        <>
          <span className="flex items-center gap-1 text-sm text-soft">
            <Check size={14} aria-hidden /> complete
          </span>
          <Button aria-label={`Save ${name}`} onClick={onTake}>
            Save {kind === 'factur-x' ? 'PDF' : 'XML'}
          </Button>
        </>
      ) : (
        <span className="text-sm text-attention">
          lacks <span className="font-mono">{lacking.map((each) => each.term).join(', ')}</span>
        </span>
      )}
    </li>
  );
}

/** What is to be written before an invoice can go out in a form, each with the way to its field. */
function WhatIsLacking({ all, clientId }: { all: readonly Lacking[]; clientId: Id }) {
  return (
    <section aria-label="What is lacking" className="mt-5">
      <h3 className="mb-1 font-semibold">What is lacking</h3>
      <ul className="border-l-[3px] border-attention">
        {all.map(({ term, at, field, message }) => (
          <li key={term} className="flex items-baseline gap-3 px-3 py-1.5">
            <span className="w-14 shrink-0 font-mono text-sm text-soft">{term}</span>
            <span className="written min-w-0 flex-1">
              {message}{' '}
              {at !== 'invoice' && (
                <Link
                  to={placeOf(at, clientId)}
                  state={{ sought: field } satisfies SettingSought}
                  className="whitespace-nowrap text-time underline underline-offset-2"
                >
                  To {field}
                </Link>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const placeOf = (at: Exclude<LackingAt, 'invoice'>, clientId: Id): string =>
  ({
    studio: '/setup/studio',
    client: `/clients/${clientId}/details`,
    taxes: '/setup/invoicing',
    accounts: '/setup/invoicing',
  })[at];
