import { useLiveQuery } from 'dexie-react-hooks';
import { registry } from '../../data/registry';
import { useSession } from '../../data/session';

/** Another workspace of the person's, where stretches can be given. */
export function HandOver({ onGive }: { onGive: (id: string, name: string) => void }) {
  const { entry } = useSession();
  const others = useLiveQuery(() => registry.workspaces.filter((each) => each.id !== entry.id).toArray(), [entry.id]);
  if (!others || others.length === 0) return null;
  return (
    <select
      aria-label="Hand to another studio"
      className="rounded-md border border-strong bg-sheet px-1 py-0.5 text-sm"
      value=""
      onChange={(event) => {
        const to = others.find((each) => each.id === event.target.value);
        if (to) onGive(to.id, to.name);
      }}
    >
      <option value="">Hand to another studio…</option>
      {others.map((each) => (
        <option key={each.id} value={each.id}>
          {each.name}
        </option>
      ))}
    </select>
  );
}
