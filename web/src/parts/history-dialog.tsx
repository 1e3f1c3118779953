import type { Pricer } from '@half-penny/core/billing';
import type { Id, TableName } from '@half-penny/core/model';
import { useRowHistory } from '../data/row-history';
import { Button } from './button';
import { showMoment } from './days';
import { Dialog } from './dialog';
import { changedWords } from './history-words';
import { Loading } from './page';

interface HistoryDialogProps {
  pricer: Pricer;
  table: TableName;
  id: Id;
  zone: string;
  onClose: () => void;
}

/** What was done to a row: what, when, by whom, and on which device where there are several. */
export function HistoryDialog({ pricer, table, id, zone, onClose }: HistoryDialogProps) {
  const history = useRowHistory(table, id);
  return (
    <Dialog open wide title="What was done to it" about="The latest first." onClose={onClose}>
      {history === undefined ? (
        <Loading />
      ) : history.length === 0 ? (
        <p className="text-soft">Nothing is kept of how it came here: it is from before the history begins.</p>
      ) : (
        <ol aria-label="What was done to it" className="border-t border-rule">
          {history.map(({ row, who, device }) => (
            <li
              key={`${row.device} ${row.seq}`}
              className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-2"
            >
              <span className="w-36 shrink-0 text-sm text-soft">{showMoment(row.at, zone)}</span>
              <span className="min-w-48 flex-1">
                {row.title}
                <span className="block text-sm">
                  {changedWords(row, table, id, pricer, zone).map((words) => (
                    <span key={words} className="written block">
                      {words}
                    </span>
                  ))}
                </span>
              </span>
              <span className="w-40 text-sm">
                {who ?? <span className="text-soft">nobody in particular</span>}
                {device !== null && <span className="block text-soft">on {device}</span>}
              </span>
            </li>
          ))}
        </ol>
      )}
      <div className="mt-4 flex justify-end">
        <Button kind="main" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}
