import { Select } from '../../parts/select';
import { useWorkspaces } from '../../data/registry';
import { useSession } from '../../data/session';

/** Another workspace of the person's, where stretches can be given. */
export function HandOver({ onGive }: { onGive: (id: string, name: string) => void }) {
  const { entry } = useSession();
  const others = useWorkspaces()?.filter((each) => each.id !== entry.id);
  if (!others || others.length === 0) return null;
  return (
    <Select
      name="Hand to another studio"
      className="w-auto!"
      value=""
      onPick={(picked) => {
        const to = others.find((each) => each.id === picked);
        if (to) onGive(to.id, to.name);
      }}
      options={others.map((each) => [each.id, each.name] as const)}
      none="Hand to another studio…"
    />
  );
}
