import type { DayOutline, PassInfo, TaskInfo } from '@corvun/contract';
import { dayBefore, isAtRiskItself, sayDay, sayMinutes, type OutlineLine } from '@corvun/core';
import { useRef, type FormEvent, type ReactNode } from 'react';
import { gather } from '../data/actions';
import { goInPass, useOutline } from '../data/passes';
import { useRisks } from '../data/planning';
import { changeTask } from '../data/thingActions';
import { KEYS } from '../keys';
import { RiskLine } from '../places/plan/RiskLine';
import { useDraft } from '../sheets/drafts';
import { useOpenEvent, useOpenTask } from '../sheets/open';
import { Items, type Deed } from './Items';
import type { StepProps } from './stepProps';
import { useAnotherDay } from './AnotherDay';
import { useBreaking } from './BreakDown';
import { useMine, useNextWorkday } from './useOpenWork';

/** What is shown again of the thoughts that were noted; all of them are in the inbox. */
const MOST = 20;
const LONGEST = 200;

const thoughtsOf = ({ notes }: PassInfo): readonly string[] =>
  Array.isArray(notes['mind']) ? notes['mind'].filter((one) => typeof one === 'string') : [];

/** A line for each thought; they go to the inbox. */
export function Mind({ pass, go }: StepProps): ReactNode {
  const [text, write] = useDraft(`mind-${pass.id}`);
  const kept = thoughtsOf(pass);
  const field = useRef<HTMLInputElement>(null);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const line = (text ?? '').trim();
    if (!line) return go();
    write(null);
    if (await gather(line)) void goInPass(pass, { notes: { mind: [line.slice(0, LONGEST), ...kept].slice(0, MOST) } });
    else write(line);
    return undefined;
  };
  return (
    <form onSubmit={(event) => void submit(event)}>
      <label className="sr-only" htmlFor="pass-mind">
        A thought
      </label>
      <input
        ref={field}
        id="pass-mind"
        autoComplete="off"
        maxLength={2000}
        placeholder="A thought, then Enter; Enter alone goes on"
        className="w-full border-b border-soft bg-transparent py-1"
        value={text ?? ''}
        onChange={(event) => write(event.target.value)}
      />
      <ul aria-label="In the inbox" className="mt-2">
        {kept.map((line, at) => (
          <li key={`${kept.length - at}`} className="border-t border-rule py-1 text-soft first:border-t-0">
            {line}
          </li>
        ))}
      </ul>
    </form>
  );
}

/** Lines of an outline as they are read. */
export function Lines({ outline, parts }: { outline: DayOutline | undefined; parts: readonly OutlineLine['part'][] }): ReactNode {
  const openTask = useOpenTask();
  const openEvent = useOpenEvent();
  const lines = outline?.lines.filter(({ part }) => parts.includes(part)) ?? [];
  return (
    <ol aria-label="The day in order">
      {lines.map(({ part, time, text, reason, thing }, at) => (
        <li key={`${at}`} className={`py-[5px] ${part === 'load' ? 'font-semibold' : 'border-t border-rule'}`}>
          {time && <span className="mr-2 tabular-nums">{time}</span>}
          {thing && thing.kind !== 'block' ? (
            <button
              type="button"
              className="text-left hover:underline"
              onClick={() => (thing.kind === 'task' ? openTask(thing.id) : openEvent(thing.id, null))}
            >
              {text}
            </button>
          ) : (
            text
          )}
          {reason && <span className="block text-xs text-soft">{reason}</span>}
        </li>
      ))}
    </ol>
  );
}

export const Today = ({ today }: StepProps): ReactNode => (
  <Lines outline={useOutline(today).data} parts={['load', 'whole-day', 'matters', 'time', 'task']} />
);

/** Deadlines at risk, with what would mend each. */
export function Risky({ me, today }: StepProps): ReactNode {
  const risks = useRisks().data?.filter(isAtRiskItself);
  if (!risks) return null;
  if (!risks.length) return <p className="text-soft">Every deadline in sight has room enough before it.</p>;
  return (
    <ul className="flex flex-col gap-3">
      {risks.map((one) => (
        <RiskLine key={one.taskId} risk={one} me={me} today={today} close={() => undefined} />
      ))}
    </ul>
  );
}

/** What was for days before and is still open; each goes somewhere with one key. */
export function Left({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const breaking = useBreaking(me, today);
  const other = useAnotherDay(me, today);
  const next = useNextWorkday(today);
  const left = useMine()
    .flatMap((task) => {
      const day = dayBefore(task, today);
      return day === null ? [] : [{ task, day }];
    })
    .sort((a, b) => a.day.localeCompare(b.day));
  type Item = { task: TaskInfo; day: string };
  const deeds: Deed<Item>[] = [
    { key: 't', name: 'Today again', run: ({ task }) => changeTask(task.id, { plannedDay: today }) },
    ...(next
      ? [{ key: 'd', name: sayDay(next, today), run: ({ task }: Item) => changeTask(task.id, { plannedDay: next }) }]
      : []),
    { key: 'a', name: 'Another day', run: ({ task }) => other.begin(task.id) },
    {
      key: 's',
      name: 'Shelf',
      run: ({ task }) => changeTask(task.id, { shelved: true, plannedDay: null, plannedWeek: null }),
    },
    { key: 'b', name: 'Into steps', run: ({ task }) => breaking.begin(task.id) },
    { key: 'x', name: 'Done', run: ({ task }) => changeTask(task.id, { status: 'COMPLETED' }) },
    { key: 'Backspace', name: 'Drop', run: ({ task }) => changeTask(task.id, { status: 'CANCELLED' }) },
    { key: KEYS.card.open, name: 'Open', run: ({ task }) => openTask(task.id) },
  ];
  return (
    <Items
      label="Still open"
      items={left}
      idOf={({ task }) => task.id}
      deeds={deeds}
      empty="Nothing stayed open from before."
      below={({ task }) => breaking.form(task) || other.form(task)}
    >
      {({ task, day }) => (
        <>
          <span className="min-w-0 flex-1">{task.title}</span>
          <span className="shrink-0 text-xs text-soft">
            {task.estimate !== null && `${sayMinutes(task.estimate)}, `}
            {sayDay(day, today)}
          </span>
        </>
      )}
    </Items>
  );
}
