import type { CalendarInfo, Done, ListInfo } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { patch, post, saysWrong } from '../../data/api';
import { inOrder } from '../../data/inOrder';
import { client, useCalendars, useLists } from '../../data/queries';
import { removeCalendar } from '../../data/thingActions';
import { useSaid } from '../../state/said';
import { quiet } from '../sources/common';
import { DeedsMenu } from '../../parts/DeedsMenu';
import { Field } from '../../parts/Field';
import { HUES, HUE_NAMES } from '../../parts/hues';
import { KeptLine } from './KeptLine';
import { Mirrors } from './Mirrors';
import { Setting } from './Setting';

const ORIGINS: Record<CalendarInfo['origin'], string> = { own: 'your own', feed: 'from a feed', connected: 'connected' };

/** What each calendar and each list is called, and the code and colour it has everywhere. */
export function Calendars(): ReactNode {
  const calendars = useCalendars().data ?? [];
  const lists = (useLists().data ?? []).filter((list) => !list.archived);
  return (
    <>
      <Setting
        id="calendars"
        about="Code and colour stand on every slip; what is hidden still takes time where it counts as busy."
      >
        <ul>
          {calendars.map((calendar) => {
            const send = (said: object) => patch('/calendars/:id', { ...said, version: calendar.version }, { id: calendar.id });
            return (
              <CodeRow key={calendar.id} one={calendar} all={calendars} kind="calendars" send={send}>
                {(change) => (
                  <>
                    <CalendarMarks calendar={calendar} change={change} />
                    {calendar.origin === 'own' && !calendar.main && <TakeAway calendar={calendar} all={calendars} />}
                  </>
                )}
              </CodeRow>
            );
          })}
        </ul>
        <NewCalendar />
        <p className="mt-2">
          <a className={`inline-block leading-6 ${quiet}`} href="/api/calendars/file" download>
            All of them and all tasks as one file (.ics)
          </a>
        </p>
      </Setting>
      <Mirrors calendars={calendars} />
      <Setting
        id="list-colours"
        about={
          <>
            What else a list has, its group, its tag, its outcome, is changed on{' '}
            <Link to="/lists" className={quiet}>
              Lists
            </Link>
            .
          </>
        }
      >
        <ul>
          {lists.map((list) => {
            const send = (said: object) => patch('/lists/:id', { ...said, version: list.version }, { id: list.id });
            return (
              <CodeRow key={list.id} one={list} all={lists} kind="lists" send={send}>
                {() => list.group && <span className="text-xs text-soft">{list.group}</span>}
              </CodeRow>
            );
          })}
        </ul>
      </Setting>
    </>
  );
}

/** A calendar of one's own goes, with its events or without them. */
function TakeAway({ calendar, all }: { calendar: CalendarInfo; all: readonly CalendarInfo[] }): ReactNode {
  const others = all.filter((one) => one.id !== calendar.id && one.origin !== 'feed');
  const take = (events: string) => void removeCalendar(calendar.id, events);
  return (
    <DeedsMenu
      label="take away …"
      called={`take away … the calendar ${calendar.name}`}
      className="text-soft hover:text-ink"
      deeds={[
        ...others.map(({ id, name }) => ({ name: `Its events go into “${name}”`, run: () => take(id) })),
        { name: 'Its events go with it', run: () => take('drop') },
      ]}
    />
  );
}

function NewCalendar(): ReactNode {
  const [name, setName] = useState('');
  const [problem, setProblem] = useState('');
  const add = async () => {
    try {
      const { sentence } = await inOrder(() => post('/calendars', { name }));
      await client.invalidateQueries({ queryKey: ['calendars'] });
      useSaid.getState().say(sentence);
      setName('');
      setProblem('');
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  return (
    <form
      noValidate
      className="mt-2 max-w-[420px]"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <Field
        id="new-calendar"
        label="Another calendar"
        value={name}
        change={setName}
        maxLength={80}
        says={problem}
        wrong={problem !== ''}
        placeholder="Field work"
      />
    </form>
  );
}

type Coded = Pick<ListInfo, 'id' | 'name' | 'code' | 'hue'>;
type Change = (said: object) => void;

interface RowProps {
  one: Coded;
  all: readonly Coded[];
  kind: 'calendars' | 'lists';
  send: (said: object) => Promise<Done>;
  /** What else can be chosen of it. */
  children: (change: Change) => ReactNode;
}

/** Name, code and colour of one, each kept when it is left. */
function CodeRow({ one, all, kind, send, children }: RowProps): ReactNode {
  const [problem, setProblem] = useState('');
  const called = `the ${kind.slice(0, -1)} ${one.name}`;
  const others = all.filter(({ id }) => id !== one.id);
  const free = HUES.some((hue) => all.every((other) => other.hue !== hue));
  const change = async (said: object) => {
    try {
      const { sentence } = await inOrder(() => send(said));
      await client.invalidateQueries({ queryKey: [kind] });
      useSaid.getState().say(sentence);
      setProblem('');
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  const text = (name: 'name' | 'code', label: string, wide: string, most: number) => (
    <KeptLine
      aria-label={`${label} of ${called}`}
      aria-describedby={`${one.id}-says`}
      className={`border-b border-soft bg-transparent py-1 ${wide}`}
      value={one[name]}
      maxLength={most}
      keep={(value) => void change({ [name]: value })}
    />
  );
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-rule py-2 first:border-t-0">
      <span className="code min-w-[26px] text-center" style={{ background: `var(--hue-${one.hue})` }} aria-hidden="true">
        {one.code}
      </span>
      {text('name', 'Name', 'w-[180px]', 80)}
      {text('code', 'Code', 'w-9', 2)}
      <label className="flex items-center gap-2 text-xs text-soft">
        Colour
        <select
          aria-label={`Colour of ${called}`}
          className="w-[120px] border border-soft bg-card px-1 text-ink"
          value={one.hue}
          onChange={(event) => void change({ hue: Number(event.target.value) })}
        >
          {HUES.map((hue) => {
            const other = others.find((another) => another.hue === hue);
            return (
              <option key={hue} value={hue} disabled={other !== undefined && free}>
                {HUE_NAMES[hue]}
                {other ? `, ${other.name}` : ''}
              </option>
            );
          })}
        </select>
      </label>
      {children((said) => void change(said))}
      <p id={`${one.id}-says`} role="alert" className="basis-full text-xs text-brick empty:hidden">
        {problem}
      </p>
    </li>
  );
}

function CalendarMarks({ calendar, change }: { calendar: CalendarInfo; change: Change }): ReactNode {
  return (
    <>
      {(['shown', 'busy'] as const).map((name) => (
        <label key={name} className="flex items-center gap-1">
          <input
            type="checkbox"
            className="accent-teal"
            checked={calendar[name]}
            aria-label={`${calendar.name} ${name === 'shown' ? 'is shown' : 'counts as busy'}`}
            onChange={(event) => change({ [name]: event.target.checked })}
          />
          {name === 'shown' ? 'shown' : 'counts as busy'}
        </label>
      ))}
      <a
        className={`relative inline-block min-w-6 text-xs leading-6 ${quiet}`}
        href={`/api/calendars/${calendar.id}/file`}
        download
      >
        .ics<span className="sr-only"> of {calendar.name}</span>
      </a>
      <span className="text-xs text-soft">{calendar.main ? 'the main one' : ORIGINS[calendar.origin]}</span>
      {!calendar.main && calendar.origin !== 'feed' && (
        <button type="button" className={`min-h-6 text-xs ${quiet}`} onClick={() => change({ main: true })}>
          make<span className="sr-only"> {calendar.name}</span> the main one
        </button>
      )}
    </>
  );
}
