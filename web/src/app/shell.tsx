import { runningSeconds } from '@half-penny/core/entries';
import { showLength } from '@half-penny/core/time';
import { lazy, Suspense, useEffect, useSyncExternalStore } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { usePricer, useTimer } from '../data/book';
import { useMember, useToday } from '../data/queries';
import { DemoLine } from '../parts/demo-line';
import { useReadyReports } from '../data/ready-reports';
import { useChanges, useSession } from '../data/session';
import { Loading } from '../parts/page';
import { JobOrder } from '../parts/job-order';
import { Till } from '../parts/till/till';
import { noticed } from '../state/notices';
import { openQuestion, watchQuestions } from '../state/questions';
import { finderOpened, tillOpened } from '../state/shell';
import { useAppDispatch, useAppSelector } from '../state/store';
import { Fallen } from './error-boundary';
import { usePresence } from './presence';
import { useLater } from '../parts/use-later';
import { BottomIndex } from './bottom-index';
import { useRights } from '../data/rights';
import { places, sections, useIsFor } from './sections';
import { ariaKey, runKey, showKey, useKeys } from '../parts/keys';

// What is not needed to show a screen comes when it is first wanted.
const Finder = lazy(() => import('./command-palette'));
const Notices = lazy(() => import('../parts/notices'));
const Questions = lazy(() => import('../parts/questions'));
const UnsavedSign = lazy(() => import('../parts/unsaved-sign'));
const ShareMark = lazy(() => import('../parts/share-mark'));
const RulePosts = lazy(() => import('../screens/sift/rule-posts'));

/** What stays while screens change: the index, the Till, notices, and the keys that work everywhere. */
export function Shell() {
  useShellKeys();
  useServer();
  useTitle();
  usePresence();
  const jobOrder = useMember(usePricer())?.jobOrder ?? 'project first';
  const { pathname } = useLocation();
  const { entry } = useSession();
  const isDemo = entry.demo;
  const demoKnown = useAppSelector((state) => state.shell.known.includes('demo'));
  const isTold = useAppSelector((state) => state.notices.length > 0);
  const finderOpen = useAppSelector((state) => state.shell.finderOpen);
  const asked = useSyncExternalStore(watchQuestions, openQuestion);
  const later = useLater();
  return (
    <JobOrder value={jobOrder}>
      <div className="flex h-full flex-col max-lg:h-auto max-lg:min-h-full print:block print:h-auto">
        <a href="#sheet" className="absolute print:hidden -top-10 left-2 z-50 bg-sheet px-3 py-1 focus:top-2">
          Skip to the sheet
        </a>
        {isDemo && !demoKnown && <DemoLine name={entry.name} />}
        <div className="flex min-h-0 flex-1 flex-col lg:flex-row print:block">
          <Index />
          <div id="sheet" className="flex min-h-0 min-w-0 flex-1 flex-col lg:flex-row lg:pt-3 print:block print:pt-0">
            <Fallen at={pathname}>
              <Suspense
                fallback={
                  <div className="flex-1 bg-sheet px-5">
                    <Loading />
                  </div>
                }
              >
                <Outlet />
              </Suspense>
            </Fallen>
          </div>
        </div>
        {isTold && (
          <Suspense>
            <Notices />
          </Suspense>
        )}
        <div className="sticky bottom-0 z-30 print:hidden">
          {later && (
            <Suspense>
              <ShareMark quiet look="block bg-paper px-3 py-1 text-center md:hidden" />
            </Suspense>
          )}
          <Till />
          <BottomIndex />
        </div>
        {asked && (
          <Suspense>
            <Questions asked={asked} />
          </Suspense>
        )}
        {later && (
          <Suspense>
            <RulePosts />
          </Suspense>
        )}
        {finderOpen && (
          <Suspense>
            <Finder />
          </Suspense>
        )}
      </div>
    </JobOrder>
  );
}

function Index() {
  const later = useLater();
  const { entry } = useSession();
  const member = useMember(usePricer());
  const dispatch = useAppDispatch();
  const ready = useReadyReports(useToday());
  const rights = useRights();
  const isFor = useIsFor();
  const allowed = sections
    .map(({ group, items }) => ({ group, items: items.filter(isFor) }))
    .filter(({ items }) => items.length > 0);
  return (
    <nav
      aria-label="Screens"
      className="no-print relative flex shrink-0 items-center gap-1 overflow-x-auto bg-paper px-3 pt-2 max-md:hidden lg:w-[124px] lg:flex-col lg:items-stretch lg:overflow-visible lg:px-0 lg:pt-3 lg:pb-3"
    >
      <Link to="/today" className="flex shrink-0 items-center gap-2 px-2 py-1 font-bold lg:mb-6 lg:px-3 lg:text-[15px]">
        <img src="/coin.svg" alt="" width={22} height={22} />
        <span className="whitespace-nowrap max-lg:sr-only">Half Penny</span>
      </Link>
      {allowed.map(({ group, items }) => (
        <div key={group} role="group" aria-label={group} className="flex lg:mb-5 lg:block">
          <div aria-hidden className="px-5 pb-1 text-xs text-soft max-lg:hidden">
            {group}
          </div>
          {items.map(({ path, name, key }) => (
            <NavLink
              key={path}
              to={path}
              aria-keyshortcuts={ariaKey(key)}
              title={showKey(key)}
              className={({ isActive }) =>
                `block border-transparent px-3 py-1.5 max-lg:rounded-t-md lg:mr-0 lg:border-l-[3px] lg:py-2 lg:pl-[17px] ${isActive ? 'bg-sheet font-bold lg:ml-3 lg:border-time lg:pl-[7px]' : 'hover:text-time'}`
              }
            >
              {name}
              {path === '/reports' && ready > 0 && (
                <span className="ml-2 font-mono text-sm text-time" title={`${ready} ready`}>
                  {ready}
                  <span className="sr-only"> ready</span>
                </span>
              )}
            </NavLink>
          ))}
        </div>
      ))}
      <button
        type="button"
        onClick={() => dispatch(finderOpened(true))}
        aria-keyshortcuts={ariaKey('find')}
        className="shrink-0 rounded-sm px-2 py-1 text-left whitespace-nowrap text-soft hover:text-ink lg:mx-3"
      >
        Find{' '}
        <kbd className="rounded-sm border border-strong px-1 font-mono text-xs max-lg:hidden">{showKey('find')}</kbd>
      </button>
      <div className="max-lg:ml-auto lg:mt-auto">
        {later && rights.has('setup') && (
          <Suspense>
            <UnsavedSign />
          </Suspense>
        )}
      </div>
      {later && (
        <Suspense>
          <ShareMark look="shrink-0 px-2 lg:mb-2 lg:px-5" />
        </Suspense>
      )}
      <Link
        to="/setup/people"
        className="shrink-0 px-2 text-sm text-soft hover:text-ink lg:px-5"
        aria-label={`Working as ${member?.name ?? 'nobody'} at ${entry.name.slice(0, 60)}. Change`}
      >
        <span className="written clamp-2 max-lg:truncate">{member?.name ?? 'Nobody yet'}</span>
        {entry.name !== member?.name && <span className="written clamp-2 leading-4 max-lg:hidden">{entry.name}</span>}
      </Link>
    </nav>
  );
}

/**
 * Activity is collected, backups of workspace and trail are kept, and lists from elsewhere followed, for as long as the application is open;
 * the first load does without.
 */
function useServer() {
  const session = useSession();
  const { entry } = session;
  useLongWork(async () => {
    const [{ collectActivity }, { keepBackups }, { keepTrailBackup }] = await Promise.all([
      import('../data/collect'),
      import('../data/backups'),
      import('../data/trail-backup'),
      // What a press opens is there before it is pressed.
      import('../parts/floating'),
    ]);
    return () => [collectActivity(), keepBackups(entry), keepTrailBackup()];
  }, [entry]);
  const dispatch = useAppDispatch();
  useLongWork(async () => {
    const { keepMailboxes, keepShared } = await import('../data/sharing/keep');
    const say = (text: string) => dispatch(noticed({ text, fault: false, undo: null }));
    return () => [keepShared(session, say), keepMailboxes(session, say)];
  }, [session]);
  useLongWork(async () => {
    const { followLists } = await import('../data/follow-lists');
    return () => [followLists(session)];
  }, [session]);
}

/** Work that goes on until the shell is left, once the screen stands: what is read first says how it begins, and that how it ends. */
function useLongWork(read: () => Promise<() => (() => void)[]>, on: readonly unknown[]): void {
  const later = useLater();
  useEffect(() => {
    if (!later) return;
    let ends: (() => void)[] = [];
    let left = false;
    void read().then((begin) => {
      if (!left) ends = begin();
    });
    return () => {
      left = true;
      ends.forEach((end) => end());
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- what is begun again when is said where it is asked for
  }, [later, ...on]);
}

function useShellKeys() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { undo, redo } = useChanges();
  const lastChange = useAppSelector((state) => state.shell.lastChange);
  const isFor = useIsFor();
  useKeys({
    undo: () => {
      if (lastChange === 'workspace') return void undo();
      void import('../data/trail-changes').then(({ undoTrail }) => undoTrail());
    },
    redo: () => void redo(),
    'till.open': () => dispatch(tillOpened(true)),
    ...Object.fromEntries(places.filter(isFor).map(({ path, key }) => [key, () => void navigate(path)])),
  });
  // Whatever is being typed: what is wanted may be something else.
  useEffect(() => {
    const find = (event: KeyboardEvent) => void runKey(event, { find: () => dispatch(finderOpened(true)) });
    window.addEventListener('keydown', find);
    return () => window.removeEventListener('keydown', find);
  }, [dispatch]);
}

/** What runs is seen in the browser tab's title and icon. */
function useTitle() {
  const timer = useTimer();
  const now = useAppSelector((state) => state.clock.now);
  const title = timer
    ? `${showLength(runningSeconds(timer, now))} ${timer.note.slice(0, 60) || 'running'} · Half Penny`
    : 'Half Penny';
  useEffect(() => {
    document.title = title;
  }, [title]);
  const running = Boolean(timer);
  useEffect(() => {
    document.querySelector('link[rel=icon]')?.setAttribute('href', running ? '/coin-running.svg' : '/coin.svg');
  }, [running]);
}
