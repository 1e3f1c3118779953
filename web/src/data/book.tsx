import { bookTables, Pricer, readBook } from '@half-penny/core/billing';
import { writeNumbersAs } from '@half-penny/core/money';
import { writeClockAs } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { createContext, useContext, useMemo, type ReactNode } from 'react';
import { useSession } from './session';

const BookContext = createContext<Pricer | undefined>(undefined);

/** Reads the small tables that prices depend on, once for everything that is shown, in one transaction; and follows them. */
export function BookProvider({ children }: { children: ReactNode }) {
  const { database, reader } = useSession();
  const book = useLiveQuery(async () => {
    const read = await database.transaction('r', [...bookTables], () => readBook(reader));
    // Before anything of it is shown.
    writeNumbersAs(read.workspace.numberStyle);
    writeClockAs(read.workspace.clockStyle);
    return read;
  }, [database, reader]);
  const pricer = useMemo(() => book && new Pricer(book), [book]);
  return <BookContext value={pricer}>{children}</BookContext>;
}

/** The small tables, ready to price with; undefined while they are not read yet. */
export const usePricer = (): Pricer | undefined => useContext(BookContext);
