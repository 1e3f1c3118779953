import { nextSeq, type Pricer } from '@half-penny/core/billing';
import type { Device } from '@half-penny/core/model';
import { useState, type ReactNode } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useInvoices } from '../../data/billing';
import type { SharedBook } from '../../data/database';
import { useAll } from '../../data/read';
import { useSharedBook } from '../../data/sharing/book';
import { useToday } from '../../data/queries';
import { hasAny, useRights } from '../../data/rights';
import { useSession } from '../../data/session';
import { useUnsaved } from '../../data/storage';
import { TextField } from '../../parts/field';
import { keyTable } from '../../parts/keys';
import { Loading, Page } from '../../parts/page';
import { Sought, type SettingSought } from '../../parts/sought';
import { useAppSelector } from '../../state/store';
import { Bookkeeping } from './bookkeeping';
import { Data } from './data';
import { Devices } from './devices';
import { Elsewhere } from './elsewhere';
import { Invoicing } from './invoicing';
import { Keys } from './keys';
import { Looks } from './appearance';
import { People } from './people';
import { Studio } from './studio';
import { Post } from './post';
import { Recording } from './recording';
import { Rounding } from './rounding';
import { ServicesAndStages } from './services-and-stages';
import { findSettings, partNames, partRights, setupGroups, type SetupPart } from './settings';
import { stateLines } from './state-lines';
import { StudioRates } from './studio-rates';

const parts: Record<SetupPart, (props: { pricer: Pricer }) => ReactNode> = {
  studio: Studio,
  people: People,
  rates: StudioRates,
  services: ServicesAndStages,
  elsewhere: Elsewhere,
  recording: Recording,
  rounding: Rounding,
  invoicing: Invoicing,
  post: Post,
  bookkeeping: Bookkeeping,
  looks: Looks,
  keys: Keys,
  devices: Devices,
  data: Data,
};

const isPart = (path: string | undefined): path is SetupPart => path !== undefined && path in parts;

/** Tells which parts are for whoever works here. */
function useIsFor(): (part: SetupPart) => boolean {
  const rights = useRights();
  // A member's own workspace is theirs to keep and to bring back, though what stands in it is the studio's.
  const isOwn = usePricer()?.book.workspace.ofMember !== undefined;
  return (part) => hasAny(rights, partRights[part] ?? []) || !partRights[part] || (isOwn && part === 'data');
}

/** Set once, right everywhere: the studio and the rules that hold for everything in it. */
export default function Setup() {
  const { part } = useParams();
  const pricer = usePricer();
  const isFor = useIsFor();
  if (!isPart(part)) {
    return <Page title="Setup">{pricer ? <Contents pricer={pricer} current={null} /> : <Loading />}</Page>;
  }
  if (!isFor(part))
    return (
      <Page title={partNames[part]}>
        <p className="text-soft">
          Your rights leave this out.{' '}
          <Link to="/setup" className="text-time underline">
            What is in Setup for you
          </Link>
        </p>
      </Page>
    );
  const Part = parts[part];
  return (
    <Page
      title={partNames[part]}
      aside={
        <Link to="/setup" className="hover:text-ink hover:underline">
          in Setup
        </Link>
      }
    >
      {pricer ? (
        <div className="gap-8 xl:grid xl:grid-cols-[216px_minmax(0,1fr)]">
          <div className="max-xl:hidden">
            <Contents pricer={pricer} current={part} />
          </div>
          <Sought>
            <Part pricer={pricer} />
          </Sought>
        </div>
      ) : (
        <Loading />
      )}
    </Page>
  );
}

/** What can be set, by what it is about, with a search and how each part stands. Beside a part it is narrow. */
function Contents({ pricer, current }: { pricer: Pricer; current: SetupPart | null }) {
  const [typed, setTyped] = useState('');
  const navigate = useNavigate();
  const isFor = useIsFor();
  const found = findSettings(typed).filter((setting) => isFor(setting.part));
  const wide = current === null;
  return (
    <div>
      <form
        role="search"
        aria-label="Settings"
        className={wide ? 'mb-6 max-w-md' : 'mb-4'}
        onSubmit={(event) => {
          event.preventDefault();
          const first = found[0];
          if (first) void navigate(`/setup/${first.part}`, { state: { sought: first.name } });
        }}
      >
        <TextField
          label="Find a setting"
          placeholder={wide ? 'Paper, tax, logo, breaks…' : 'Paper, tax, logo…'}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </form>
      {typed.trim() === '' ? (
        <Groups {...{ pricer, current }} />
      ) : (
        <ul aria-label="Found" className={wide ? 'max-w-md' : ''}>
          {found.map(({ part, name }) => (
            <li key={`${part} ${name}`} className="border-b border-rule first:border-t">
              <Link
                to={`/setup/${part}`}
                state={{ sought: name } satisfies SettingSought}
                className="flex flex-wrap justify-between gap-x-3 px-2 py-1.5 hover:bg-time-ground"
              >
                <span className="text-time">{name}</span>
                <span className="text-xs leading-5 text-soft">{partNames[part]}</span>
              </Link>
            </li>
          ))}
          {found.length === 0 && <li className="text-soft">Nothing is called like that here.</li>}
        </ul>
      )}
    </div>
  );
}

function Groups({ pricer, current }: { pricer: Pricer; current: SetupPart | null }) {
  const lines = useStateLines(pricer);
  const isFor = useIsFor();
  const groups = setupGroups
    .map(({ name, parts: all }) => ({ name, own: all.filter(isFor) }))
    .filter(({ own }) => own.length > 0);
  const wide = current === null;
  return (
    <nav aria-label="Parts of Setup" className={wide ? 'grid gap-x-10 gap-y-6 md:grid-cols-2' : 'flex flex-col gap-4'}>
      {groups.map(({ name, own }) => (
        <section key={name} aria-label={name}>
          <h2 className={`border-b border-ink pb-1 text-soft ${wide ? 'text-sm' : 'text-xs'}`}>{name}</h2>
          <ul>
            {own.map((part) => (
              <li
                key={part}
                className={`relative border-b border-rule hover:bg-time-ground ${wide ? 'px-2 py-2' : 'py-1.5 pl-2'} ${part === current ? 'border-l-[3px] border-l-time' : ''}`}
              >
                <Link
                  to={`/setup/${part}`}
                  aria-current={part === current ? 'page' : undefined}
                  aria-describedby={`state-${part}`}
                  className={`after:absolute after:inset-0 ${part === current ? 'font-bold text-time' : wide ? 'font-semibold' : ''}`}
                >
                  {partNames[part]}
                </Link>
                <span
                  id={`state-${part}`}
                  className={`written block text-soft ${wide ? 'text-sm' : 'clamp-2 text-xs'}`}
                >
                  {lines[part]}
                </span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </nav>
  );
}

/** How many devices a shared workspace is on. */
function devicesHere(shared: SharedBook | null | undefined, devices: readonly Device[] | undefined) {
  if (!shared) return shared;
  return devices?.filter(({ left }) => left === null).length;
}

function useStateLines(pricer: Pricer): Record<SetupPart, string> {
  const today = useToday();
  const invoices = useInvoices();
  const { memberId } = useSession();
  const theme = useAppSelector((state) => state.shell.theme);
  const unsaved = useUnsaved(0);
  const lists = useAll('outsideLists');
  const shared = useSharedBook();
  const devices = useAll('devices');
  return stateLines({
    pricer,
    today,
    memberId,
    lists: lists?.length ?? 0,
    devices: devicesHere(shared, devices),
    nextSeq: invoices
      ? nextSeq(
          invoices.map(({ invoice }) => invoice),
          pricer.book.workspace.firstNumber,
        )
      : null,
    theme: theme === 'system' ? 'as the system' : theme,
    keys: Object.keys(keyTable).length,
    unsaved: unsaved && (unsaved.ever ? unsaved.changes : null),
  });
}
