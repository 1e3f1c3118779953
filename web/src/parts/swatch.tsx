import type { ProjectColour } from '@half-penny/core/model';

/** A job's own small colour: the only one besides time, money and attention. */
export function Swatch({ colour }: { colour: ProjectColour }) {
  return (
    <span
      aria-hidden
      className="inline-block size-2.5 shrink-0 rounded-[2px]"
      style={{ background: `var(--job-${colour})` }}
    />
  );
}
