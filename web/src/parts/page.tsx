import { useRef, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import { ScrollContext } from './scroll-context';

interface PageProps {
  title: ReactNode;
  /** Beside the title: its period, or what wants attention. */
  aside?: ReactNode;
  /** The one main action, and lesser ones before it. */
  actions?: ReactNode;
  /** The picture of what is shown, and the slip of what has the focus. */
  side?: ReactNode;
  /** What the sheet holds is a document: printed, it stands alone. */
  paper?: boolean;
  children: ReactNode;
}

/** The sheet: a title line over what it holds, and where it helps a side. */
export function Page({ title, aside, actions, side, paper = false, children }: PageProps) {
  const scroll = useRef<HTMLElement>(null);
  return (
    <ScrollContext value={scroll}>
      <main
        ref={scroll}
        className="relative flex-1 overflow-auto print:overflow-visible print:border-0 border-rule bg-sheet max-lg:flex-none max-lg:overflow-visible lg:border-t lg:border-l"
        tabIndex={-1}
      >
        <div className="mx-auto max-w-[1180px] px-4 pt-4 pb-10 md:px-5">
          <WayBack />
          <header className={`mb-4 flex flex-wrap items-center gap-x-4 gap-y-2 ${paper ? 'print:hidden' : ''}`}>
            <h1 className="written clamp-2 text-title leading-8 font-bold">{title}</h1>
            {aside && <div className="text-soft">{aside}</div>}
            <div className="ml-auto flex flex-wrap items-center gap-2 print:hidden">{actions}</div>
          </header>
          {children}
        </div>
      </main>
      {side && (
        <aside
          aria-label="About this screen"
          className="w-[325px] shrink-0 print:hidden overflow-auto border-rule bg-side px-5 py-5 max-lg:w-full max-lg:border-t lg:border-t lg:border-l"
        >
          {side}
        </aside>
      )}
    </ScrollContext>
  );
}

/** Where somebody was sent from to put something right: what is handed over with a link as its state. */
export interface SentFrom {
  back: { to: string; name: string };
}

function WayBack() {
  const sent = useLocation().state as Partial<SentFrom> | null;
  if (!sent?.back) return null;
  return (
    <p className="mb-3 border-l-[3px] border-time bg-time-ground px-3 py-1.5 print:hidden">
      <Link to={sent.back.to} className="text-time underline underline-offset-2">
        Back to {sent.back.name}
      </Link>
    </p>
  );
}

/** A heading within a sheet, over a ruled table or form. */
export function Section({
  title,
  actions,
  children,
  id,
}: {
  title: string;
  actions?: ReactNode;
  children: ReactNode;
  id?: string;
}) {
  return (
    <section className="mb-8" aria-label={title} id={id}>
      <div className="mb-1 flex flex-wrap items-center gap-3">
        <h2 className="text-lg font-semibold">{title}</h2>
        <div className="ml-auto flex flex-wrap gap-2">{actions}</div>
      </div>
      {children}
    </section>
  );
}

/** A sheet that is being read, or whose subject is not there: one that was removed, or an address that was mistyped. */
export const NotThere = ({ one, reading, all = '/clients' }: { one: string; reading: boolean; all?: string }) => (
  <Page title={`${one[0]!.toUpperCase()}${one.slice(1)}`}>
    {reading ? (
      <Loading />
    ) : (
      <p className="text-soft">
        There is no such {one}.{' '}
        <Link to={all} className="text-time underline">
          All {all.slice(1)}
        </Link>
      </p>
    )}
  </Page>
);

export const Loading = () => (
  <p role="status" className="py-8 text-soft">
    Reading…
  </p>
);
