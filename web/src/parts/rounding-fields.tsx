import { Fault } from '@half-penny/core/model';
import { roundLength, showLength, showPolicy, type RoundingPolicy } from '@half-penny/core/time';
import { SavedField } from './field';
import { SavedSelect } from './select';

const increments = [1, 60, 300, 360, 600, 900, 1800, 3600];

interface RoundingFieldsProps {
  policy: RoundingPolicy;
  save: (policy: RoundingPolicy) => Promise<unknown>;
}

/** The four parts of a rounding policy. */
export function RoundingFields({ policy, save }: RoundingFieldsProps) {
  const change = (part: Partial<RoundingPolicy>) => save({ ...policy, ...part });
  return (
    <div className="grid gap-4 md:grid-cols-4">
      <SavedSelect
        label="Steps"
        value={String(policy.increment)}
        save={(text) => change({ increment: Number(text) })}
        options={[...new Set([...increments, policy.increment])].map(
          (seconds) => [String(seconds), seconds < 60 ? `${seconds} s` : `${seconds / 60} min`] as const,
        )}
      />
      <SavedSelect
        label="Direction"
        value={policy.direction}
        save={(direction) => change({ direction: direction as RoundingPolicy['direction'] })}
        options={[
          ['up', 'Up'],
          ['nearest', 'To the nearest'],
          ['down', 'Down'],
        ]}
      />
      <SavedField
        label="At least, minutes"
        inputMode="numeric"
        value={String(policy.minimum / 60)}
        save={async (text) => change({ minimum: readMinutes(text) * 60 })}
      />
      <SavedSelect
        label="Rounded"
        value={policy.per}
        save={(per) => change({ per: per as RoundingPolicy['per'] })}
        options={[
          ['entry', 'Entry by entry'],
          ['day and job', 'By day and job'],
        ]}
      />
    </div>
  );
}

interface OwnRoundingProps {
  /** Null where the one above holds. */
  policy: RoundingPolicy | null;
  /** The policy that holds otherwise, and whose it is: "the studio’s". */
  otherwise: RoundingPolicy;
  whose: string;
  save: (policy: RoundingPolicy | null) => Promise<unknown>;
}

const EXAMPLE = 22 * 60;

/** A policy of a client's or project's own, or the one that holds otherwise. */
export function OwnRounding({ policy, otherwise, whose, save }: OwnRoundingProps) {
  const held = policy ?? otherwise;
  return (
    <div className="flex flex-col gap-3">
      <SavedSelect
        label="Rounding of time"
        value={policy ? 'own' : 'above'}
        save={(value) => save(value === 'own' ? otherwise : null)}
        hint={`${showPolicy(held)}: 22 minutes are billed as ${showLength(roundLength(EXAMPLE, held))}`}
        options={[
          ['above', `As ${whose}`],
          ['own', 'Its own'],
        ]}
      />
      {policy && <RoundingFields policy={policy} save={save} />}
    </div>
  );
}

function readMinutes(text: string): number {
  if (!/^\d{1,4}$/.test(text.trim()) || Number(text) > 1440)
    throw new Fault('not-a-length', 'Write whole minutes, for example 15.', 'minimum', { text });
  return Number(text);
}
