import { bareAmount } from '@half-penny/core/money';
import type { Figure, Working } from '@half-penny/core/rates';
import { showExactly } from '@half-penny/core/time';

/** The arithmetic behind an amount, as a till prints it: steps, single rule, result with double rule, torn lower edge. */
export function Slip({ working }: { working: Working }) {
  return (
    <div
      role="group"
      aria-label={`Working: ${working.title.slice(0, 80)}`}
      className="torn max-h-[60vh] overflow-auto border border-rule bg-sheet px-4 pt-3 pb-6 text-ink"
    >
      <h2 className="written clamp-2 mb-2 text-sm font-semibold">Working · {working.title.slice(0, 160)}</h2>
      <dl className="font-mono text-sm">
        {working.steps.map((step, index) => (
          <div key={index} className={`flex flex-wrap gap-x-3 py-1 ${step.ruled ? 'mt-1 border-t border-ink' : ''}`}>
            <dt className="written clamp-2 min-w-0 flex-1">{step.label.slice(0, 160)}</dt>
            <dd className="whitespace-nowrap">{step.figure && <FigureText figure={step.figure} />}</dd>
            {step.remark && <dd className="written basis-full text-xs text-soft">{step.remark}</dd>}
          </div>
        ))}
        <div className="mt-1 flex gap-3 border-t border-ink pt-2 font-bold">
          <dt className="flex-1">{working.result.label}</dt>
          <dd className="border-b-[3px] border-double border-money whitespace-nowrap text-money">
            <FigureText figure={working.result.figure} />
          </dd>
        </div>
      </dl>
    </div>
  );
}

function FigureText({ figure }: { figure: Figure }) {
  switch (figure.kind) {
    case 'length':
      return <span className="text-time">{showExactly(figure.seconds)}</span>;
    case 'amount':
      return <span className="text-money">{bareAmount(figure.minor, figure.currency)}</span>;
    case 'text':
      return figure.text;
  }
}
