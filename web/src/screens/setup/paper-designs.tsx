import type { Pricer } from '@half-penny/core/billing';
import { designList, type PaperDesign } from '@half-penny/documents';
import { useChanges } from '../../data/session';
import { Section } from '../../parts/page';

/** How invoices look from now on: each design in small. */
export function PaperDesigns({ pricer }: { pricer: Pricer }) {
  const { attempt } = useChanges();
  const { design: chosen = 'ledger' } = pricer.book.workspace;
  return (
    <Section title="Look of invoices">
      <fieldset className="border-t border-ink px-2 pt-3">
        <legend className="sr-only">Look of invoices</legend>
        <div className="flex flex-wrap gap-2">
          {designList.map(({ key, ...design }) => (
            <label
              key={key}
              className="flex w-[112px] cursor-pointer flex-col gap-1 rounded-md border border-transparent p-1.5 has-checked:border-ink has-focus-visible:outline-2"
            >
              <input
                type="radio"
                name="design"
                className="sr-only"
                checked={chosen === key}
                onChange={() => void attempt('workspace.edit', { design: key })}
              />
              <InSmall design={design} />
              <span className="text-sm font-semibold">{design.name}</span>
              <span className="text-xs text-soft">{design.says}</span>
            </label>
          ))}
        </div>
        <p className="mt-2 text-xs text-soft">
          Drafts and invoices from now on. Those that were issued keep what they had.
        </p>
      </fieldset>
    </Section>
  );
}

const LINE = '#c3cdcc';

/** A sheet of paper, white in both themes. */
function InSmall({ design: { accent, tint, rule, head } }: { design: PaperDesign }) {
  const studioAt = head === 'right' ? 58 : 8;
  const askedAt = head === 'right' ? 8 : 58;
  const isBand = head === 'band';
  return (
    <svg aria-hidden viewBox="0 0 100 128" className="w-full border border-rule">
      <rect width={100} height={128} fill="#ffffff" />
      {head === 'edge' && <rect width={100} height={4} fill={accent} />}
      {isBand && <rect width={100} height={36} fill={tint} />}
      <rect x={isBand ? 8 : askedAt} y={10} width={24} height={5} fill={accent} />
      <rect x={isBand ? 8 : askedAt} y={20} width={32} height={6} fill="#13222b" />
      <Lines x={isBand ? 58 : studioAt} y={10} count={isBand ? 4 : 5} width={32} />
      <Lines x={8} y={44} count={3} width={28} />
      <Lines x={58} y={44} count={isBand ? 4 : 3} width={32} />
      <rect x={8} y={66} width={84} height={1} fill={accent} />
      <Lines x={8} y={71} count={4} width={84} />
      <rect x={62} y={98} width={30} height={4} fill="#13222b" />
      <rect x={62} y={104} width={30} height={rule === 'thick' ? 2.4 : 0.8} fill={accent} />
      {rule === 'double' && <rect x={62} y={106} width={30} height={0.8} fill={accent} />}
    </svg>
  );
}

const Lines = ({ x, y, count, width }: { x: number; y: number; count: number; width: number }) =>
  Array.from({ length: count }, (_, at) => (
    <rect key={at} x={x} y={y + at * 5} width={width - (at % 2) * 6} height={2} fill={LINE} />
  ));
