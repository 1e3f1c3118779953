import { showAmount } from '@half-penny/core/money';

/** What is still to bill of work that is about to leave the pickers. */
export function StillToBill({
  rows,
  ready,
}: {
  rows: readonly { name: string; minor: number; currency: string }[];
  ready: boolean;
}) {
  const open = rows.filter((row) => row.minor !== 0);
  if (!ready) return <p role="status">Reading what is still to bill…</p>;
  if (open.length === 0) return <p className="text-soft">Nothing is still to bill.</p>;
  return (
    <div className="border-t border-ink">
      <p className="py-1 text-sm font-semibold text-attention">Still to bill</p>
      <ul className="max-h-60 overflow-auto">
        {open.map((row) => (
          <li key={row.name} className="flex gap-3 border-t border-rule py-1 text-sm">
            <span className="written min-w-0 flex-1">{row.name}</span>
            <span className="font-mono font-semibold whitespace-nowrap text-money">
              {showAmount(row.minor, row.currency)}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
