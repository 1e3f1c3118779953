import type { Pricer } from '@half-penny/core/billing';
import { fieldsChanged, type Difference } from '@half-penny/core/checking';
import type { Correction, Id } from '@half-penny/core/model';
import { Button } from './button';
import { showShortestDay } from './days';
import { fieldInWords, namedLine } from './difference-words';

type Changed = Pick<Difference, 'before' | 'after'>;

/** What became different of an entry, field by field: as it was struck through, then as it is. */
export function ChangeInWords({ pricer, change }: { pricer: Pricer; change: Changed }) {
  const { before, after } = change;
  if (!before) return <span className="text-attention">added, {fieldInWords(pricer, after!, 'length')}</span>;
  if (!after) return <span className="text-attention">taken out, {fieldInWords(pricer, before, 'length')}</span>;
  return (
    <span className="flex flex-wrap gap-x-4 gap-y-0.5">
      {fieldsChanged(before, after).map((field) => (
        <span key={field} className="written">
          <span className="sr-only">{field} was </span>
          <del className="text-soft">{fieldInWords(pricer, before, field)}</del>
          <span className="sr-only">, is</span> <ins className="no-underline">{fieldInWords(pricer, after, field)}</ins>
        </span>
      ))}
    </span>
  );
}

interface CorrectionsProps {
  pricer: Pricer;
  rows: readonly Correction[];
  /** Asks why a change was made; only where whoever is at work made it and has not said. */
  explain?: ((row: Correction) => void) | undefined;
  /** Who is at work. */
  whoId?: Id | null;
}

/** What a checker changed, newest first, each with who and why. */
export function Corrections({ pricer, rows, explain, whoId = null }: CorrectionsProps) {
  return (
    <ul className="border-t border-rule text-sm">
      {rows.map((row) => (
        <li key={row.id} className="border-b border-rule px-2 py-1.5">
          <div className="written font-semibold">
            {showShortestDay((row.before ?? row.after)!.day)}, {namedLine(pricer, (row.before ?? row.after)!)}
          </div>
          <ChangeInWords pricer={pricer} change={row} />
          <div className="text-soft">
            {pricer.member.get(row.byId)?.name ?? 'Somebody who left'}
            {row.reason && <span className="written">: “{row.reason}”</span>}
          </div>
          {explain && row.reason === '' && row.byId === whoId && (
            <Button kind="quiet" onClick={() => explain(row)}>
              Say why…
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
