import type { CostCode, Id } from '@half-penny/core/model';
import { Checks } from '../../parts/checks';

interface CodeListProps {
  costCodes: readonly CostCode[];
  /** Those that are allowed; all where null. */
  chosen: readonly Id[] | null;
  save: (chosen: Id[] | null) => Promise<unknown>;
  /** What the list says while everything, and while only some, is allowed. */
  all: string;
  some: string;
}

/** Which cost codes a client or project has. */
export function CodeList({ costCodes, chosen, save, all, some }: CodeListProps) {
  if (costCodes.length === 0) {
    return <p className="text-soft">The studio has no cost codes. Add them in Setup → Services and stages.</p>;
  }
  return (
    <fieldset>
      <legend className="mb-2 text-soft">{chosen === null ? all : some}</legend>
      <Checks
        className="flex flex-col gap-1"
        options={costCodes.map((code) => ({ id: code.id, name: <CodeName code={code} /> }))}
        chosen={chosen ?? costCodes.map((code) => code.id)}
        save={(next) => save(next.length === costCodes.length ? null : next)}
      />
    </fieldset>
  );
}

const CodeName = ({ code }: { code: CostCode }) => (
  <>
    <span className="font-mono text-sm">{code.code}</span> {code.name}{' '}
    <span className="text-xs text-soft">{code.costType}</span>
  </>
);
