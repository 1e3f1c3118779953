import { bookTables, Pricer, readBook } from '@half-penny/core/billing';
import type { Timer } from '@half-penny/core/model';
import { writeNumbersAs } from '@half-penny/core/money';
import { writeClockAs } from '@half-penny/core/time';
import { rightsOf } from '@half-penny/core/rights';
import { useLiveQuery } from 'dexie-react-hooks';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { useRead } from './read';
import { RightsContext } from './rights';
import { useSession } from './session';

const BookContext = createContext<Pricer | undefined>(undefined);
const TimerContext = createContext<Timer | null | undefined>(undefined);

/** Reads the small tables that prices depend on and what runs, once for everything that is shown, each in one transaction; and follows them. */
export function BookProvider({ children }: { children: ReactNode }) {
  const { database, reader, memberId } = useSession();
  const read = useLiveQuery(async () => {
    const all = await database.transaction('r', [...bookTables, 'rightSets'], async () => ({
      book: await readBook(reader),
      rightSets: await reader.all('rightSets'),
    }));
    // Before anything of it is shown.
    writeNumbersAs(all.book.workspace.numberStyle);
    writeClockAs(all.book.workspace.clockStyle);
    return all;
  }, [database, reader]);
  const pricer = useMemo(() => read && new Pricer(read.book), [read]);
  const rights = useMemo(
    () => rightsOf(memberId === null ? undefined : pricer?.member.get(memberId), read?.rightSets ?? []),
    [pricer, read, memberId],
  );
  const timer = useRead(
    async (reading) => (memberId === null ? null : ((await reading.by('timers', 'memberId', [memberId]))[0] ?? null)),
    [memberId],
  );
  return (
    <BookContext value={pricer}>
      <TimerContext value={timer}>
        <RightsContext value={rights}>{children}</RightsContext>
      </TimerContext>
    </BookContext>
  );
}

/** The small tables, ready to price with; undefined while they are not read yet. */
export const usePricer = (): Pricer | undefined => useContext(BookContext);

/** What runs for the member; null when nothing does. */
export const useTimer = (): Timer | null | undefined => useContext(TimerContext);
