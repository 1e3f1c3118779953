import type { Receipt } from '@half-penny/core/model';
import { FileText, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { KeepingReceipts } from '../data/receipts';
import { useReceiptBlob } from '../data/receipts';
import { useSharedBook } from '../data/sharing/book';
import { megabytes } from './bytes';
import { FileButton } from './file-button';

/** Endings and media types of what can be a receipt. */
export const RECEIPT_TYPES = 'image/png,image/jpeg,application/pdf,.png,.jpg,.jpeg,.pdf';

interface ReceiptStripProps {
  receipts: readonly Receipt[];
  keeping: KeepingReceipts;
  /** Files that were chosen; a photo that was just taken is made smaller first. */
  onFiles: (files: File[], photo: boolean) => void;
  onRemove: (receipt: Receipt) => void;
}

/** A cost's receipts as small pictures, each opened by pressing it; more are picked, dropped or pasted. */
export function ReceiptStrip({ receipts, keeping, onFiles, onRemove }: ReceiptStripProps) {
  const [shown, setShown] = useState<Receipt | null>(null);
  return (
    <>
      <div className="flex flex-wrap items-start gap-3">
        {receipts.map((receipt) => (
          <div key={receipt.id} className="relative w-24">
            <button
              type="button"
              aria-label={`Show the receipt ${receipt.name.slice(0, 60)}`}
              aria-pressed={shown?.id === receipt.id}
              onClick={() => setShown(shown?.id === receipt.id ? null : receipt)}
              className="grid h-24 w-24 place-items-center border border-strong bg-sheet hover:bg-time-ground"
            >
              {receipt.preview ? (
                <img src={`data:image/jpeg;base64,${receipt.preview}`} alt="" className="max-h-full max-w-full" />
              ) : (
                <span className="flex flex-col items-center gap-1 text-soft">
                  <FileText size={28} aria-hidden />
                  <span className="text-xs">{receipt.pages === 1 ? 'PDF' : `PDF, ${receipt.pages} pages`}</span>
                </span>
              )}
            </button>
            <span className="block truncate pt-1 text-xs text-soft" title={receipt.name}>
              {receipt.name}
            </span>
            <span className="block text-xs text-soft">{megabytes(receipt.bytes)}</span>
            <button
              type="button"
              aria-label={`Take the receipt ${receipt.name.slice(0, 60)} off`}
              className="absolute top-1 right-1 rounded-sm bg-sheet p-0.5 text-soft hover:text-ink"
              onClick={() => onRemove(receipt)}
            >
              <X size={14} />
            </button>
          </div>
        ))}
        <div className="flex flex-col gap-1">
          <span className="contents md:hidden">
            <FileButton camera label="Photograph it" accept="image/*" onFile={(file) => onFiles([file], true)} />
          </span>
          <FileButton label="Add a receipt" accept={RECEIPT_TYPES} onFile={(file) => onFiles([file], false)} />
          <span className="text-xs text-soft max-md:hidden">or drop or paste one here: PNG, JPEG or PDF</span>
        </div>
      </div>
      {keeping.waiting > 0 && (
        <p role="status" className="pt-2 text-sm text-soft">
          Reading {keeping.waiting === 1 ? 'the receipt' : `${keeping.waiting} receipts`}…
        </p>
      )}
      <ReceiptFaults faults={keeping.faults} />
      {shown && receipts.some((each) => each.id === shown.id) && <ReceiptShown receipt={shown} />}
    </>
  );
}

/** What could not be kept, in words. */
export const ReceiptFaults = ({ faults }: { faults: readonly string[] }) =>
  faults.length > 0 && (
    <div role="alert" className="pt-2 text-sm text-fault">
      <ul>
        {faults.map((fault, index) => (
          <li key={index}>{fault}</li>
        ))}
      </ul>
    </div>
  );

/** A receipt at full size: a picture, or the PDF as the browser shows it. */
function ReceiptShown({ receipt }: { receipt: Receipt }) {
  const blob = useReceiptBlob(receipt);
  const shared = useSharedBook();
  const [address, setAddress] = useState<string>();
  useEffect(() => {
    if (!blob) return setAddress(undefined);
    const made = URL.createObjectURL(blob);
    setAddress(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  if (blob === null)
    return shared ? (
      <p className="pt-3 text-soft">This receipt is on another device. It comes as soon as the relay is reached.</p>
    ) : (
      <p className="pt-3 text-fault">This receipt’s file is not in this browser.</p>
    );
  if (!address) return null;
  return receipt.mediaType === 'application/pdf' ? (
    <iframe title={receipt.name} src={address} className="mt-3 h-[480px] w-full border border-strong" />
  ) : (
    <img src={address} alt={receipt.name} className="mt-3 max-h-[480px] max-w-full border border-strong" />
  );
}
