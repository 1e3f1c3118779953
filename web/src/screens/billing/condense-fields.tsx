import {
  checkSays,
  groupOf,
  textNames,
  wayGroups,
  wayOf,
  type Draft,
  type Pricer,
  type WayGroup,
} from '@half-penny/core/billing';
import { condensings, type Condensing, type Invoice, type CondenseRule } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { condenseWords } from '../../parts/condense-words';
import { SavedField } from '../../parts/field';
import { Select, SavedSelect } from '../../parts/select';
import { CheckBox } from '../../parts/check';

const groupNames: Record<WayGroup, string> = {
  time: 'Time',
  expense: 'Expenses',
  bill: 'Supplier bills',
  ledger: 'Ledger lines',
  agreed: 'Agreed amounts',
};

type Save = (fields: Partial<Pick<Invoice, 'condense' | 'ways' | 'says'>>) => Promise<unknown>;

/** How many small lines become few: one way for all, or another for some of it; and what the lines say. */
export function CondenseFields({
  pricer,
  draft,
  invoice,
  save,
}: {
  pricer: Pricer;
  draft: Draft;
  invoice: Invoice;
  save: Save;
}) {
  const moved = draft.condensing;
  const present = presentGroups(draft);
  const several = new Set(present.map(({ projectId }) => projectId)).size > 1;
  const set = (key: string, way: CondenseRule) => save({ ways: { ...invoice.ways, [key]: way } });
  return (
    <>
      <SavedSelect
        label="Condense"
        value={invoice.condense}
        save={(value) => save({ condense: value as Condensing, ways: {} })}
        options={condensings.map((each) => [each, condenseWords[each]] as const)}
        hint={
          moved === 0
            ? 'Lines of one price stand together; hours and costs stay the same.'
            : `Against item by item the total is ${showAmount(Math.abs(moved), draft.currency)} ${moved > 0 ? 'more' : 'less'}: lines are rounded once, not their items.`
        }
      />
      {present.length > 1 && (
        <div role="group" aria-label="Condense parts another way" className="flex flex-col gap-1">
          {present.map(({ group, projectId }) => {
            const key = several ? `${group} ${projectId}` : group;
            const now = wayOf(invoice, group, projectId);
            const name = several ? `${groupNames[group]}, ${pricer.tree.pathOf(projectId)}` : groupNames[group];
            return (
              <div key={key} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-center gap-2 text-sm">
                <span className="written clamp-2">{name}</span>
                <Select
                  name={`How ${name} is condensed`}
                  className="text-sm!"
                  value={now.way}
                  onPick={(picked) => void set(key, { ...now, way: picked as Condensing })}
                  options={condensings.map((each) => [each, condenseWords[each]] as const)}
                />
                <label className="flex items-center gap-1 text-xs text-soft">
                  <CheckBox
                    checked={now.lump}
                    aria-label={`${name} as sums`}
                    onChange={(checked) => void set(key, { ...now, lump: checked })}
                  />
                  sums
                </label>
              </div>
            );
          })}
        </div>
      )}
      <SavedField
        label="What lines say"
        value={invoice.says}
        placeholder="{heading}, {count} items"
        save={async (says) => {
          checkSays(says);
          await save({ says });
        }}
        hint={
          invoice.says && draft.lines[0]
            ? `The first line: ${draft.lines[0].text.slice(0, 90)}`
            : `Placeholders: ${textNames.map((each) => `{${each}}`).join(' ')}`
        }
      />
    </>
  );
}

/** What is on the draft, by kind and project. */
function presentGroups(draft: Draft): { group: WayGroup; projectId: string }[] {
  const found = new Map<string, { group: WayGroup; projectId: string }>();
  for (const line of draft.lines) {
    for (const { entry } of line.sources)
      found.set(`time ${entry.projectId}`, { group: 'time', projectId: entry.projectId! });
    for (const charge of line.charges) {
      const group = groupOf(charge);
      found.set(`${group} ${charge.projectId}`, { group, projectId: charge.projectId });
    }
  }
  return [...found.values()].sort((a, b) => wayGroups.indexOf(a.group) - wayGroups.indexOf(b.group));
}
