import type { FrozenInvoice } from '@half-penny/core/model';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { usePicture } from '../../data/queries';
import { receiptsOf } from '../../data/receipts';
import { useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { noticed } from '../../state/notices';
import { useAppDispatch } from '../../state/store';
import { AbortError, makeInvoicePdf, type CancellableTask } from '../../workers/tasks';

interface Paper {
  make: (copy?: boolean) => void;
  running: boolean;
  stop: () => void;
}

/** A number as the name of a file. */
export const fileNameOf = (number: string): string => number.replace(/[^\w.-]+/g, '-');

/** Makes the PDF of an invoice, credit note or quote in a worker and saves it. */
export function usePaper(frozen: FrozenInvoice | undefined, voided = false): Paper {
  const dispatch = useAppDispatch();
  const { database } = useSession();
  const [work, setWork] = useState<CancellableTask<Blob> | null>(null);
  const logo = usePicture(frozen?.studio.logoId ?? null);
  const start = async (sheet: FrozenInvoice, copy: boolean) => {
    const started = makeInvoicePdf(sheet, logo, await receiptsOf(database, sheet), { copy, voided });
    setWork(started);
    await started.result
      .then(
        (blob) => save(blob, `${fileNameOf(sheet.number)}${voided ? '-void' : ''}${copy ? '-copy' : ''}.pdf`),
        (thrown: unknown) => {
          if (!(thrown instanceof AbortError))
            dispatch(noticed({ text: `The PDF could not be made: ${wordsOf(thrown)}`, fault: true, undo: null }));
        },
      )
      .finally(() => setWork(null));
  };
  return {
    make: (copy = false) => void (frozen && start(frozen, copy)),
    running: work !== null,
    stop: () => work?.stop(),
  };
}
