import { useRead } from './read';
import { joinTags, tagsOf } from '@half-penny/core/model';
import { useSession } from './session';

/** Entries that are looked through for tags: the newest of them. */
const LOOKED_AT = 5000;

/** Tags that were used lately on entries, and all that projects and costs have. */
export function useKnownTags(): string[] | undefined {
  const { database } = useSession();
  return useRead(
    async (reader) => {
      const [entries, projects, costs] = await Promise.all([
        database.rows('entries').orderBy('day').reverse().limit(LOOKED_AT).toArray(),
        reader.all('projects'),
        reader.all('costs'),
      ]);
      return joinTags(...[...entries, ...projects, ...costs].map(tagsOf));
    },
    [database],
  );
}
