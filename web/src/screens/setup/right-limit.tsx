import type { Pricer } from '@half-penny/core/billing';
import type { Id, Limit, Right, RightSet } from '@half-penny/core/model';
import { rightWords } from '@half-penny/core/rights';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';

interface LimitDialogProps {
  pricer: Pricer;
  set: RightSet;
  right: Right;
  onClose: () => void;
}

interface Choice {
  id: Id;
  name: string;
  of: keyof Limit;
}

/** The clients and projects that a right holds for; all work where none is chosen. */
export function LimitDialog({ pricer, set, right, onClose }: LimitDialogProps) {
  const { run } = useChanges();
  const grant = set.grants.find((each) => each.right === right);
  const [limit, setLimit] = useState<Limit>(grant?.only ?? { clientIds: [], projectIds: [] });
  const [sought, setSought] = useState('');
  const [fault, setFault] = useState<string>();
  const choices = choicesIn(pricer, limit).filter(({ name }) =>
    name.toLowerCase().includes(sought.trim().toLowerCase()),
  );
  const count = limit.clientIds.length + limit.projectIds.length;
  const toggle = ({ id, of }: Choice, on: boolean) =>
    setLimit({ ...limit, [of]: on ? [...limit[of], id] : limit[of].filter((each) => each !== id) });
  const save = async () => {
    const only = count === 0 ? null : limit;
    try {
      await run('rightSet.edit', {
        id: set.id,
        grants: set.grants.map((each) => (each.right === right ? { right, only } : each)),
      });
      onClose();
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`${set.name}: for which work`}
      about={`They may ${rightWords[right]}, for what is chosen here. A client stands for all its work, a project for its parts too. With nothing chosen it is all work.`}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <TextField label="Find" type="search" value={sought} onChange={(event) => setSought(event.target.value)} />
        <ul aria-label="Clients and projects" className="max-h-72 overflow-auto border-y border-rule py-1">
          {choices.map((choice) => (
            <li key={choice.id} className={choice.of === 'projectIds' ? 'pl-5' : ''}>
              <label className="flex items-center gap-2 px-1 py-1">
                <CheckBox checked={limit[choice.of].includes(choice.id)} onChange={(on) => toggle(choice, on)} />
                <span className="written clamp-2">{choice.name}</span>
              </label>
            </li>
          ))}
          {choices.length === 0 && <li className="px-1 py-1 text-soft">Nothing is called like that.</li>}
        </ul>
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex justify-end gap-2">
          {count > 0 && <Button onClick={() => setLimit({ clientIds: [], projectIds: [] })}>All work</Button>}
          <Button type="submit" kind="main">
            {count === 0 ? 'For all work' : `Only for ${count === 1 ? 'this' : `these ${count}`}`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Clients with their projects under them; those that are done are offered where they were chosen. */
function choicesIn(pricer: Pricer, limit: Limit): Choice[] {
  const { clients, projects } = pricer.book;
  const offered = clients.filter(({ id, archived }) => !archived || limit.clientIds.includes(id));
  const ofClient = (clientId: Id | null): Choice[] =>
    projects
      .filter((each) => each.clientId === clientId && (!each.finished || limit.projectIds.includes(each.id)))
      .map(({ id }) => ({ id, name: pricer.tree.pathOf(id), of: 'projectIds' as const }))
      .toSorted((a, b) => a.name.localeCompare(b.name));
  return [
    ...offered
      .toSorted((a, b) => a.name.localeCompare(b.name))
      .flatMap(({ id, name }): Choice[] => [{ id, name, of: 'clientIds' }, ...ofClient(id)]),
    ...ofClient(null),
  ];
}
