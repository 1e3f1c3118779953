import type { Pricer } from '@half-penny/core/billing';
import type { Id, TableName } from '@half-penny/core/model';
import { lazy, Suspense, useState } from 'react';
import { Button } from './button';

const HistoryDialog = lazy(async () => ({ default: (await import('./history-dialog')).HistoryDialog }));

/** Opens what was done to a row. @param table where it is kept */
export function HistoryButton({ pricer, table, id }: { pricer: Pricer; table: TableName; id: Id }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="quiet" className="-ml-1 self-start print:hidden" onClick={() => setOpen(true)}>
        History…
      </Button>
      {open && (
        <Suspense>
          <HistoryDialog {...{ pricer, table, id }} zone={pricer.book.workspace.zone} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}
