import { CalendarDays, Coins, Ellipsis, Receipt, Sun, type LucideIcon } from 'lucide-react';
import { useState } from 'react';
import { NavLink, useLocation } from 'react-router';
import { usePricer } from '../data/book';
import { useMember, useToday } from '../data/queries';
import { useReadyReports } from '../data/ready-reports';
import { useSession } from '../data/session';
import { Opener } from '../parts/opener';
import { finderOpened } from '../state/shell';
import { useAppDispatch } from '../state/store';
import { places, useIsFor } from './sections';

/** What is wanted with a phone in the hand; the rest is behind the last tab. */
const FIRST: readonly { path: string; icon: LucideIcon }[] = [
  { path: '/today', icon: Sun },
  { path: '/week', icon: CalendarDays },
  { path: '/costs', icon: Receipt },
  { path: '/billing', icon: Coins },
];
const rest = places.filter(({ path }) => FIRST.every((each) => each.path !== path));

const tabLook = 'flex min-h-12 min-w-0 flex-1 flex-col items-center justify-center gap-0.5 border-t-[3px] text-xs';

/** The index along the lower edge, for a thumb. */
export function BottomIndex() {
  const [open, setOpen] = useState(false);
  const { pathname } = useLocation();
  const ready = useReadyReports(useToday());
  const isFor = useIsFor();
  const first = FIRST.map(({ path, icon }) => ({ icon, ...places.find((place) => place.path === path)! }));
  const isElsewhere = rest.some(({ path }) => pathname.startsWith(path));
  return (
    <nav aria-label="Screens" className="no-print flex bg-paper md:hidden">
      {first.filter(isFor).map(({ path, name, icon: Icon }) => (
        <NavLink
          key={path}
          to={path}
          className={({ isActive }) =>
            `${tabLook} ${isActive ? 'border-time bg-sheet font-bold' : 'border-transparent text-soft'}`
          }
        >
          <Icon size={18} aria-hidden />
          {name}
        </NavLink>
      ))}
      <Opener
        label="More screens"
        open={open}
        onOpenChange={setOpen}
        trigger={{
          className: `${tabLook} ${isElsewhere ? 'border-time bg-sheet font-bold' : 'border-transparent text-soft'}`,
          children: (
            <>
              <Ellipsis size={18} aria-hidden />
              <span>
                More
                {ready > 0 && <span className="ml-1 font-mono text-time">{ready}</span>}
              </span>
            </>
          ),
        }}
        side="top"
        align="end"
        sideOffset={4}
        collisionPadding={8}
        className="w-60 p-2"
      >
        <More ready={ready} onLeave={() => setOpen(false)} />
      </Opener>
    </nav>
  );
}

const itemLook = 'flex min-h-11 w-full items-center justify-between gap-2 rounded-sm px-3 text-left';

function More({ ready, onLeave }: { ready: number; onLeave: () => void }) {
  const dispatch = useAppDispatch();
  const { entry } = useSession();
  const member = useMember(usePricer());
  const isFor = useIsFor();
  return (
    <>
      {rest.filter(isFor).map(({ path, name }) => (
        <NavLink
          key={path}
          to={path}
          onClick={onLeave}
          className={({ isActive }) => `${itemLook} ${isActive ? 'bg-time-ground font-bold' : ''}`}
        >
          {name}
          {path === '/reports' && ready > 0 && <span className="font-mono text-time">{ready} ready</span>}
        </NavLink>
      ))}
      <button
        type="button"
        className={itemLook}
        onClick={() => {
          onLeave();
          dispatch(finderOpened(true));
        }}
      >
        Find
      </button>
      <NavLink to="/setup/people" onClick={onLeave} className={`${itemLook} border-t border-rule text-sm text-soft`}>
        <span className="written clamp-1">
          {member?.name ?? 'Nobody yet'}, {entry.name}
        </span>
      </NavLink>
    </>
  );
}
