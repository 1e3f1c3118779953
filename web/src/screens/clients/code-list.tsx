import type { CostCode, Id } from '@half-penny/core/model';

interface CodeListProps {
  costCodes: readonly CostCode[];
  /** Those that are allowed; all where null. */
  chosen: readonly Id[] | null;
  onChange: (chosen: Id[] | null) => void;
  /** What the list says while everything, and while only some, is allowed. */
  all: string;
  some: string;
}

/** Which cost codes a client or project has. */
export function CodeList({ costCodes, chosen, onChange, all, some }: CodeListProps) {
  const toggle = (id: Id) => {
    const now = chosen ?? costCodes.map((code) => code.id);
    const next = now.includes(id) ? now.filter((each) => each !== id) : [...now, id];
    onChange(next.length === costCodes.length ? null : next);
  };
  if (costCodes.length === 0) {
    return <p className="text-soft">The studio has no cost codes. Add them in Setup → Services and stages.</p>;
  }
  return (
    <fieldset>
      <legend className="mb-2 text-soft">{chosen === null ? all : some}</legend>
      <div className="flex flex-col gap-1">
        {costCodes.map((code) => (
          <label key={code.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-time"
              checked={chosen?.includes(code.id) ?? true}
              onChange={() => toggle(code.id)}
            />
            <span className="font-mono text-sm">{code.code}</span> {code.name}
            <span className="text-xs text-soft">{code.costType}</span>
          </label>
        ))}
      </div>
    </fieldset>
  );
}
