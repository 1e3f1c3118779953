import { bookTables, Pricer, readBook } from '@half-penny/core/billing';
import type { Timer } from '@half-penny/core/model';
import { writeNumbersAs } from '@half-penny/core/money';
import { writeClockAs } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { useRead } from './read';
import { useSession } from './session';

const BookContext = createContext<Pricer | undefined>(undefined);
const TimerContext = createContext<Timer | null | undefined>(undefined);

/** Reads the small tables that prices depend on and what runs, once for everything that is shown, each in one transaction; and follows them. */
export function BookProvider({ children }: { children: ReactNode }) {
  const { database, reader, memberId } = useSession();
  const book = useLiveQuery(async () => {
    const read = await database.transaction('r', [...bookTables], () => readBook(reader));
    // Before anything of it is shown.
    writeNumbersAs(read.workspace.numberStyle);
    writeClockAs(read.workspace.clockStyle);
    return read;
  }, [database, reader]);
  const pricer = useMemo(() => book && new Pricer(book), [book]);
  const timer = useRead(
    async (reading) => (memberId === null ? null : ((await reading.by('timers', 'memberId', [memberId]))[0] ?? null)),
    [memberId],
  );
  return (
    <BookContext value={pricer}>
      <TimerContext value={timer}>{children}</TimerContext>
    </BookContext>
  );
}

/** The small tables, ready to price with; undefined while they are not read yet. */
export const usePricer = (): Pricer | undefined => useContext(BookContext);

/** What runs for the member; null when nothing does. */
export const useTimer = (): Timer | null | undefined => useContext(TimerContext);
