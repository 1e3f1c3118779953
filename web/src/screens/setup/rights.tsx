import type { Pricer } from '@half-penny/core/billing';
import { rightNames, wholeRights, type Grant, type Right, type RightSet } from '@half-penny/core/model';
import { rightWords, usualSets } from '@half-penny/core/rights';
import { useState } from 'react';
import { useAll } from '../../data/read';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Button } from '../../parts/button';
import { Check } from '../../parts/check';
import { SavedField } from '../../parts/field';
import { Section } from '../../parts/page';
import { SideScroll } from '../../parts/side-scroll';
import { LimitDialog } from './right-limit';

const byName = (a: RightSet, b: RightSet) => a.name.localeCompare(b.name);

/** Sets of rights side by side: what each of them lets one see and do, and for which work. */
export function RightsPart({ pricer }: { pricer: Pricer }) {
  const { run, attempt } = useChanges();
  const sets = useAll('rightSets')?.toSorted(byName);
  if (!sets) return null;
  const add = (typed: Readonly<Record<string, string>>) =>
    run('rightSet.add', { name: (typed.name ?? '').trim(), grants: [{ right: 'record own', only: null }] });
  const all = usualSets.every(({ name }) => sets.some((set) => set.name === name));
  return (
    <Section
      title="Rights"
      actions={
        !all && (
          <Button onClick={() => void attempt('rightSet.usual', {})}>
            {sets.length === 0 ? 'Start with the usual five' : 'Add the usual ones'}
          </Button>
        )
      }
    >
      <p className="border-t border-ink px-2 py-2 text-sm text-soft">
        {sets.length === 0 ? 'Everybody may see and do everything. ' : 'Whoever has none of these may do everything. '}
        In one browser this guards against mistakes, not against a person: whoever has the file can read all of it.
      </p>
      {sets.length > 0 && (
        <SideScroll label="What each set of rights allows">
          <Table {...{ pricer, sets }} />
        </SideScroll>
      )}
      <AddLine
        label="Add a set of rights"
        button="Add the set"
        folded={sets.length > 0}
        fields={[{ key: 'name', label: 'New set', className: 'min-w-44 flex-1' }]}
        add={add}
      />
    </Section>
  );
}

function Table({ pricer, sets }: { pricer: Pricer; sets: readonly RightSet[] }) {
  const { run, attempt } = useChanges();
  const [limiting, setLimiting] = useState<{ set: RightSet; right: Right } | null>(null);
  const has = (set: RightSet) => pricer.book.members.filter(({ rightSetId }) => rightSetId === set.id);
  return (
    <>
      <table className="w-full min-w-[760px] border-collapse text-sm">
        <thead>
          <tr className="border-b border-ink align-top">
            <th scope="col" className="w-56 px-2 py-2 text-left font-normal text-soft">
              May
            </th>
            {sets.map((set) => (
              <th key={set.id} scope="col" className="min-w-28 px-2 py-2 text-left font-normal">
                <SavedField
                  label="Name"
                  aria-label={`Name of the rights ${set.name}`}
                  value={set.name}
                  save={(name) => run('rightSet.edit', { id: set.id, name: name.trim() })}
                />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rightNames.map((right) => (
            <tr key={right} className="border-b border-rule">
              <th scope="row" className="px-2 py-1.5 text-left font-normal">
                {rightWords[right]}
              </th>
              {sets.map((set) => (
                <Cell key={set.id} {...{ pricer, set, right }} onLimit={() => setLimiting({ set, right })} />
              ))}
            </tr>
          ))}
          <tr className="border-t border-ink align-top">
            <th scope="row" className="px-2 py-2 text-left font-normal text-soft">
              Who has it
            </th>
            {sets.map((set) => (
              <td key={set.id} className="px-2 py-2">
                {has(set).length > 0 ? (
                  <span className="written clamp-2">
                    {has(set)
                      .map(({ name }) => name)
                      .join(', ')}
                  </span>
                ) : (
                  <Button
                    kind="quiet"
                    aria-label={`Remove the rights ${set.name}`}
                    onClick={() => void attempt('rightSet.remove', { id: set.id })}
                  >
                    Remove
                  </Button>
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      {limiting && <LimitDialog {...{ pricer, ...limiting }} onClose={() => setLimiting(null)} />}
    </>
  );
}

interface CellProps {
  pricer: Pricer;
  set: RightSet;
  right: Right;
  onLimit: () => void;
}

function Cell({ pricer, set, right, onLimit }: CellProps) {
  const { attempt } = useChanges();
  const grant = set.grants.find((each) => each.right === right);
  const whole = (wholeRights as readonly Right[]).includes(right);
  const save = (given: boolean) => {
    const others = set.grants.filter((each) => each.right !== right);
    const grants: Grant[] = given ? [...others, { right, only: null }] : others;
    return attempt('rightSet.edit', { id: set.id, grants: inOrder(grants) });
  };
  return (
    <td className="px-2 py-1.5">
      <span className="flex items-center gap-2">
        <Check
          checked={grant !== undefined}
          aria-label={`${set.name} may ${rightWords[right]}`}
          save={(given) => save(given)}
        />
        {grant && !whole && (
          <button
            type="button"
            className={`rounded-sm text-left underline-offset-2 hover:underline ${grant.only ? 'text-time' : 'text-soft'}`}
            aria-label={`For which work ${set.name} may ${rightWords[right]}: ${sayLimit(grant, pricer)}`}
            onClick={onLimit}
          >
            <span className="written clamp-2">{sayLimit(grant, pricer)}</span>
          </button>
        )}
      </span>
    </td>
  );
}

const inOrder = (grants: readonly Grant[]): Grant[] =>
  grants.toSorted((a, b) => rightNames.indexOf(a.right) - rightNames.indexOf(b.right));

/** "all work", "Quayside Playhouse", "3 named". */
function sayLimit({ only }: Grant, pricer: Pricer): string {
  if (only === null) return 'all work';
  const count = only.clientIds.length + only.projectIds.length;
  const [clientId] = only.clientIds;
  const [projectId] = only.projectIds;
  const name = pricer.client.get(clientId ?? '')?.name ?? pricer.project.get(projectId ?? '')?.name;
  return count === 1 && name ? name : `${count} named`;
}
