import type { Whose } from '@half-penny/core/engine';
import type { Pricer } from '@half-penny/core/billing';
import { useState } from 'react';
import { backUp, deleteBackup, useHeld, type Backup } from '../../data/backups';
import { forgetForGood } from '../../data/forget';
import { inWords } from '../../data/in-words';
import { useSession } from '../../data/session';
import { whenOf } from '../../parts/backup-list';
import { Button } from '../../parts/button';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { SelectField, type Option } from '../../parts/select';
import { Section } from '../../parts/page';
import { CheckBox } from '../../parts/check';

const kinds = { clients: 'client', contacts: 'contact', members: 'member' } as const;

interface Person extends Whose {
  name: string;
}

const peopleOf = ({ book }: Pricer): Person[] =>
  (Object.keys(kinds) as Whose['table'][]).flatMap((table) =>
    book[table].map(({ id, name }: { id: string; name: string }) => ({ table, id, name })),
  );

/** Deleting a client’s, contact’s or member’s data out of records and history, as the law may ask. */
export function Forget({ pricer, onDone }: { pricer: Pricer; onDone: () => void }) {
  const people = peopleOf(pricer);
  const [chosen, setChosen] = useState('');
  const [asking, setAsking] = useState<Person | null>(null);
  const options: Option[] = [
    ['', 'Choose…'],
    ...people.map(({ table, id, name }): Option => [id, `${name.slice(0, 60)} (${kinds[table]})`]),
  ];
  return (
    <Section title="Deleting a person’s data for good">
      <div className="max-w-2xl border-t border-ink pt-3">
        <p className="mb-3 text-soft">
          When somebody asks for it: name, addresses and numbers go out of every record, note and list. Hours, costs and
          amounts stay, under a hash in place of the name. Issued invoices stay as they were sent, because tax law wants
          them kept. The history, which holds all of it, begins again.
        </p>
        <div className="flex flex-wrap items-end gap-3">
          <SelectField
            label="Whose data"
            className="w-80"
            options={options}
            value={chosen}
            onPick={(picked) => setChosen(picked)}
          />
          <Button
            kind="fault"
            disabled={chosen === ''}
            onClick={() => setAsking(people.find(({ id }) => id === chosen) ?? null)}
          >
            Delete for good…
          </Button>
        </div>
      </div>
      {asking && <ForgetDialog person={asking} onClose={() => setAsking(null)} onDone={onDone} />}
    </Section>
  );
}

function ForgetDialog({ person, onClose, onDone }: { person: Person; onClose: () => void; onDone: () => void }) {
  const session = useSession();
  const { entry } = session;
  const { held } = useHeld();
  const own = held?.backups.filter(({ workspace }) => workspace === entry.id) ?? [];
  const [backupsToo, setBackupsToo] = useState(true);
  const [typed, setTyped] = useState('');
  const [state, setState] = useState<'asking' | 'working' | { papers: number; touched: number }>('asking');
  const [fault, setFault] = useState<string>();
  const short = person.name.slice(0, 60);
  const forget = async () => {
    setState('working');
    setFault(undefined);
    try {
      const told = await forgetForGood(session, { table: person.table, id: person.id });
      if (backupsToo) await replaceBackups(own, () => backUp(entry));
      setState(told);
    } catch (thrown) {
      setFault(inWords(thrown).text);
      setState('asking');
    }
  };
  if (typeof state === 'object')
    return (
      <Dialog title={`${short} is deleted`} open onClose={onDone}>
        <p className="mb-4" role="status">
          {state.touched === 1 ? 'One record was' : `${state.touched} records were`} changed, and the history begins
          again.
          {state.papers > 0 &&
            ` ${state.papers === 1 ? 'One issued paper still names' : `${state.papers} issued papers still name`} them, as sent.`}{' '}
          Files you exported before still hold everything.
        </p>
        <div className="flex justify-end">
          <Button kind="main" onClick={onDone}>
            Go on
          </Button>
        </div>
      </Dialog>
    );
  return (
    <Dialog
      title={`Delete the data of ${short}`}
      open
      onClose={onClose}
      about="This cannot be undone, and what was changed before can no longer be taken back either. Activity in Sift that names them goes too."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (typed.trim() === person.name.trim()) void forget();
          else setFault(`Type the name as it stands: ${short}`);
        }}
      >
        {own.length > 0 && (
          <div className="mb-4">
            <label className="flex items-start gap-2">
              <CheckBox className="mt-1" checked={backupsToo} onChange={setBackupsToo} />
              <span>
                Delete the {own.length === 1 ? 'backup that still holds' : `${own.length} backups that still hold`}{' '}
                them, and take a new one
              </span>
            </label>
            <ul className="mt-1 max-h-32 overflow-auto pl-7 text-sm text-soft">
              {own.map(({ id, at }) => (
                <li key={id}>{whenOf(at)}</li>
              ))}
            </ul>
          </div>
        )}
        <TextField
          label={`Type “${short}” to say that you mean it`}
          value={typed}
          autoComplete="off"
          onChange={(event) => setTyped(event.target.value)}
          fault={fault}
        />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button kind="fault" type="submit" disabled={state === 'working'}>
            {state === 'working' ? 'Deleting…' : 'Delete for good'}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** The new one first: there is never none. */
async function replaceBackups(old: readonly Backup[], take: () => Promise<unknown>): Promise<void> {
  if (old.length > 0) await take();
  for (const backup of old) await deleteBackup(backup).catch(() => undefined);
}
