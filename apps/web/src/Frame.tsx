import type { Me, PassState } from '@corvun/contract';
import { dayOf, sayDay, sayMinutes, sayTime, wallOf } from '@corvun/core';
import { CalendarRange, CirclePlay, History, Inbox, ListChecks, NotebookText, Search } from 'lucide-react';
import { Fragment, useState, type ReactNode } from 'react';
import { NavLink, Outlet, useLocation, useNavigate } from 'react-router';
import { useCheckIns } from './data/lookback';
import { beginPass, usePasses } from './data/passes';
import { useNowState } from './data/doing';
import { useDays, useInbox } from './data/queries';
import { useStream } from './data/stream';
import { KEYS, keyName } from './keys';
import { Brand } from './parts/Brand';
import { CaptureLine } from './parts/CaptureLine';
import { stillFree } from './parts/gaps';
import { Part, later } from './parts/later';
import { SaidLine } from './parts/SaidLine';
import { useFocusKept } from './parts/useFocusKept';
import { useKeys, useLeavingFields } from './parts/useKeys';
import { QuietLine } from './passes/QuietLine';
import { PASS_NAMES, isClosed, passDue } from './passes/due';
import { serverNow, useNow } from './parts/useNow';
import { useTurn } from './parts/useTurn';
import { useSession } from './state/session';
import { useSettings } from './state/settings';

// None is needed before the first message is read.
const HELP = later(async () => (await import('./parts/KeysHelp')).KeysHelp);
const MENU = later(async () => (await import('./parts/SettingsMenu')).SettingsMenu);

const NO_WAY = later(async () => (await import('./parts/NoWayOut')).NoWayMark);
const RUNNING = later(async () => (await import('./places/now/Running')).Running);
const PASS = later(async () => (await import('./passes/PassPanel')).PassPanel);
const REMINDERS = later(async () => (await import('./reminders/Reminders')).Reminders);
const SHEET = later(async () => (await import('./sheets/TaskSheet')).TaskSheet);
const EVENT = later(async () => (await import('./sheets/EventSheet')).EventSheet);
const PERSON = later(async () => (await import('./sheets/PersonSheet')).PersonSheet);

const PLACES = [
  { path: '/sort', name: 'Sort', command: 'sort', Icon: Inbox },
  { path: '/plan', name: 'Plan', command: 'plan', Icon: CalendarRange },
  { path: '/now', name: 'Now', command: 'now', Icon: CirclePlay },
  { path: '/lists', name: 'Lists', command: 'lists', Icon: ListChecks },
  { path: '/notes', name: 'Notes', command: 'notes', Icon: NotebookText },
  { path: '/look-back', name: 'Look back', command: 'lookBack', Icon: History },
] as const;

/** The band, the place, and the line that says what was done. */
export function Frame({ me }: { me: Me }): ReactNode {
  // From the first answer on: who is asked for again when settings change is told by the stream itself.
  const [since] = useState(me.revision);
  useStream(since);
  const navigate = useNavigate();
  const turn = useTurn();
  // Once it was opened it stays, closed: it gives the focus back to where it was.
  const [help, setHelp] = useState<boolean | null>(null);
  const { pathname, search } = useLocation();
  const [, sheet] = /[?&](task|person|event)=./.exec(search) ?? [];
  const { clock, dates, density } = me.settings;
  const beside = pathname.startsWith('/lists');
  const online = useSession((state) => state.online);
  const order = useSettings((state) => state.order);
  const inbox = useInbox(order);
  const passes = usePasses().data;
  const checkIns = useCheckIns().data;
  const { data: state } = useNowState();
  // One task and nothing else: neither band nor panels.
  const alone = Boolean(state?.headsDown) && pathname === '/now';
  // After the day is closed, and in a quiet time, what arrives waits without a number.
  const calm = passes ? isClosed(passes.today) || Boolean(passes.shortlist?.quietUntil) : false;
  const waiting = calm ? 0 : (inbox.data?.pages[0]?.total ?? 0);
  const asking = calm ? 0 : (checkIns ?? []).filter(({ open }) => open !== null).length;
  const openOrClose = () => {
    if (passes?.running) return document.querySelector<HTMLElement>('[data-pass] h2')?.focus();
    const now = wallOf(serverNow(), me.zone).slice(11);
    return void beginPass((passes && passDue(passes, me.settings.day, now)) ?? 'close-day');
  };
  useLeavingFields();
  useFocusKept();
  useKeys({
    [KEYS.everywhere.undo]: turn.back,
    [KEYS.everywhere.redo]: turn.again,
    [KEYS.everywhere.reminders]: () => document.querySelector<HTMLElement>('#reminders :is(a, button)')?.focus(),
    [KEYS.everywhere.help]: () => setHelp(true),
    [KEYS.everywhere.capture]: () => document.getElementById('capture-line')?.focus(),
    [KEYS.everywhere.sources]: () => void navigate('/sources'),
    [KEYS.everywhere.data]: () => void navigate('/data'),
    [KEYS.everywhere.people]: () => void navigate('/people'),
    [KEYS.everywhere.day]: openOrClose,
    [KEYS.everywhere.others]: () => void navigate('/others'),
    [KEYS.everywhere.settings]: () => void navigate('/settings'),
    [KEYS.everywhere.find]: () => void navigate('/find'),
    [KEYS.everywhere.gather]: () => void navigate('/gather'),
    ...Object.fromEntries(PLACES.map((place) => [KEYS.everywhere[place.command], () => void navigate(place.path)])),
  });
  return (
    <div className={`flex h-full flex-col ${alone ? 'heads-down' : ''}`}>
      <a href="#place" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-card focus:p-2">
        Go to the place
      </a>
      {!alone && (
        <header className="flex h-[52px] shrink-0 items-stretch border-b border-ink">
          <div className="grid w-14 shrink-0 place-items-center max-md:w-11">
            <Brand />
          </div>
          <nav
            aria-label="Places"
            className="flex shrink-0 max-md:fixed max-md:inset-x-0 max-md:bottom-0 max-md:z-30 max-md:h-[52px] max-md:justify-around max-md:border-t max-md:border-ink max-md:bg-paper"
          >
            {PLACES.map(({ path, name, Icon }) => (
              <NavLink
                key={path}
                to={path}
                className={({ isActive }) =>
                  `flex items-center gap-2 border-x px-4 font-head text-[15px] max-lg:px-[9px] max-md:flex-1 max-md:flex-col max-md:justify-center max-md:gap-0 max-md:border-transparent max-md:px-0 max-md:text-xs ${isActive ? 'border-rule bg-card font-bold text-ink shadow-[inset_0_3px_0_var(--teal)]' : 'border-transparent font-medium text-soft hover:text-ink'}`
                }
              >
                <Icon size={17} className="hidden max-md:block" aria-hidden="true" />
                <span className="flex items-center gap-2 max-md:gap-1">
                  {name}
                  {name === 'Sort' && <Waits of={waiting} says="waiting" />}
                  {name === 'Look back' && <Waits of={asking} says="to answer" />}
                </span>
              </NavLink>
            ))}
          </nav>
          <CaptureLine me={me} />
          {!me.mailOut && <Part of={NO_WAY} with={{}} />}
          <FreeToday me={me} passes={passes} />
          <NavLink
            to="/find"
            aria-label="Find"
            title={`Find (${keyName(KEYS.everywhere.find)})`}
            className={({ isActive }) =>
              `grid w-9 shrink-0 place-items-center hover:text-ink ${isActive ? 'text-teal' : 'text-soft'}`
            }
          >
            <Search size={17} aria-hidden="true" />
          </NavLink>
          <Part of={MENU} with={{ me, openHelp: () => setHelp(true) }} meanwhile={<span className="w-11 shrink-0" />} />
        </header>
      )}
      {!online && (
        <p role="status" className="shrink-0 bg-amber-wash px-4 py-1 text-xs text-ink">
          The connection to Corvun’s server is lost. What you see may be old; it is tried again by itself.
        </p>
      )}
      {pathname.startsWith('/sort') && <QuietLine today={dayOf(serverNow(), me.zone)} />}
      <div className="flex min-h-0 flex-1 max-md:mb-[52px] max-md:flex-col">
        {passes?.running && !alone && <Part of={PASS} with={{ me }} />}
        <main id="place" className={`relative min-h-0 min-w-0 flex-1 ${sheet && beside ? 'lg:pr-[452px]' : ''}`} tabIndex={-1}>
          <Fragment key={pathname === '/settings' ? 'settings' : `${clock} ${dates} ${density}`}>
            <Outlet />
            {sheet && (
              <Part key={sheet} of={sheet === 'task' ? SHEET : sheet === 'event' ? EVENT : PERSON} with={{ me, beside }} />
            )}
          </Fragment>
          {!alone && <Part of={REMINDERS} with={{ me, aside: Boolean(sheet) }} />}
          <Part of={RUNNING} with={{ me }} />
          <SaidLine />
        </main>
      </div>
      {help !== null && <Part of={HELP} with={{ open: help, setOpen: setHelp }} />}
    </div>
  );
}

/** How much waits in a place; nothing where nothing does. */
const Waits = ({ of, says }: { of: number; says: string }): ReactNode =>
  of > 0 && (
    <span className="font-sans text-xs font-semibold text-teal">
      {of}
      <span className="sr-only"> {says}</span>
    </span>
  );

/** The free time that is left today. */
function FreeToday({ me, passes }: { me: Me; passes: PassState | undefined }): ReactNode {
  const now = useNow();
  const due = passes ? passDue(passes, me.settings.day, wallOf(now, me.zone).slice(11)) : null;
  const closed = passes !== undefined && isClosed(passes.today);
  const quietUntil = passes?.shortlist?.quietUntil;
  const days = useDays(dayOf(now, me.zone), 14);
  const today = days.data?.[0];
  const end = today?.working.at(-1)?.end;
  const over = end === undefined || Date.parse(end) <= now;
  return (
    <div className="flex w-[118px] shrink-0 flex-col justify-center pr-2 text-right text-xs text-soft max-md:hidden">
      {today && (
        <>
          <b className="font-head text-[15px] font-semibold text-ink">
            {closed ? 'Day is closed' : over ? 'Day is over' : `${sayMinutes(stillFree(today, now))} free`}
          </b>
          {due && today.working.length > 0 ? (
            <button
              type="button"
              className="min-h-6 self-end leading-4 text-teal underline underline-offset-2"
              title={keyName(KEYS.everywhere.day)}
              onClick={() => void beginPass(due)}
            >
              {PASS_NAMES[due]}
            </button>
          ) : (
            <span>
              {quietUntil
                ? `quiet to ${sayDay(quietUntil, dayOf(now, me.zone))}`
                : end
                  ? over
                    ? `since ${sayTime(Date.parse(end), me.zone)}`
                    : `today until ${sayTime(Date.parse(end), me.zone)}`
                  : 'no working hours'}
            </span>
          )}
        </>
      )}
    </div>
  );
}
