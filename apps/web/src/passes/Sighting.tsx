import type { TaskInfo } from '@corvun/contract';
import { addDays, count, sayDay, saySpan } from '@corvun/core';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { changeShortlist, useShortlist } from '../data/passes';
import { useLists, useTasks } from '../data/queries';
import { addTasks } from '../data/thingActions';
import { KEYS } from '../keys';
import { isOpen } from '../places/lists/view';
import { begin } from '../places/plan/proposing';
import { button, primary } from '../places/sources/common';
import { useOpenTask } from '../sheets/open';
import { stepsNow, weekOfQuiet } from './decks';
import { Items, focusItem } from './Items';
import { LineForm } from './LineForm';
import { Picks } from './Picks';
import type { StepProps } from './stepProps';

const NONE: readonly TaskInfo[] = [];
const PROJECTS = 3;
const STEPS = 3;

const tomorrow = (today: string) => addDays(today, 1);

/** What is on the shortlist gets a day each, with a time; Plan shows where. */
export function OneADay({ me, today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const { picks } = useShortlist();
  const tasks = useTasks().data ?? NONE;
  const mine = picks.flatMap((id) => tasks.find((task) => task.id === id) ?? []).filter(isOpen);
  const without = mine.filter(({ blocks }) => blocks.length === 0).length;
  const ask = () => void begin({ from: tomorrow(today), days: '7', what: 'shortlist' });
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || !without) return;
    begun.current = true;
    ask();
  });
  return (
    <>
      <p role="status" className="mb-2 text-xs">
        {mine.length
          ? `${mine.length - without} of ${count(mine.length, 'thing')} ${mine.length - without === 1 ? 'has' : 'have'} time.`
          : ''}
      </p>
      <Items
        label="On the shortlist"
        items={mine}
        idOf={({ id }) => id}
        deeds={[{ key: KEYS.card.open, name: 'Open', run: ({ id }: TaskInfo) => openTask(id) }]}
        empty="Nothing is on the shortlist. Go back and pick a few things."
      >
        {(task) => {
          const [first] = task.blocks;
          return (
            <>
              <span className="min-w-0 flex-1">{task.title}</span>
              <span className="shrink-0 text-right text-xs text-soft">
                {first
                  ? `${sayDay(first.start.slice(0, 10), today)}, ${saySpan(Date.parse(first.start), Date.parse(first.end), me.zone)}`
                  : 'no time yet'}
              </span>
            </>
          );
        }}
      </Items>
      {without > 0 && (
        <p className="mt-3 text-xs">
          <button type="button" className={button} onClick={ask}>
            One a day into the coming week …
          </button>
        </p>
      )}
    </>
  );
}

/** Three projects are gone on with, each with three steps that can be done now. */
export function ThreeProjects({ today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const lists = (useLists().data ?? []).filter(({ project }) => project);
  const tasks = useTasks().data ?? NONE;
  const { projects } = useShortlist();
  const navigate = useNavigate();
  const [asked, ask] = useState<string | null>(null);
  const chosen = projects.filter((id) => lists.some((list) => list.id === id));
  const pick = (ids: string[]) => {
    // Where the steps of one that is taken in stand.
    const added = ids.find((id) => !chosen.includes(id));
    if (added) void navigate(`/lists/${added}`);
    return changeShortlist({ projects: ids });
  };
  return (
    <Picks
      label="Projects"
      items={lists}
      idOf={({ id }) => id}
      picked={chosen}
      most={PROJECTS}
      unit="project"
      called="Choose"
      said="gone on with"
      pick={pick}
      deeds={[{ key: KEYS.lists.add, name: 'A step', run: ({ id }) => ask(id) }]}
      listOf={(list) => list}
      titleOf={({ name }) => name}
      aside={({ ends }) => ends && `ends ${sayDay(ends, today)}`}
      empty="No list is a project. A list becomes one by an outcome and an end."
      below={({ id }) => (
        <>
          {chosen.includes(id) && (
            <ol className="mb-1 ml-9 text-xs">
              {stepsNow(tasks, id, today, STEPS).map((step) => (
                <li key={step.id}>
                  <button type="button" className="min-h-6 text-left hover:underline" onClick={() => openTask(step.id)}>
                    {step.title}
                  </button>
                  {step.shelved && <span className="text-soft">, on the shelf</span>}
                </li>
              ))}
              {stepsNow(tasks, id, today, STEPS).length < STEPS && (
                <li className="leading-6 text-amber">Fewer than {STEPS} steps can be done now.</li>
              )}
            </ol>
          )}
          {asked === id && (
            <LineForm
              kept={`next-${id}`}
              label="What can be done next, by you, now?"
              empty="Write what can be done next."
              send={(line) => addTasks([line], { list: id })}
              close={() => {
                ask(null);
                focusItem(id);
              }}
            />
          )}
        </>
      )}
    />
  );
}

/** A week in which what is new only goes to the inbox. */
export function Quiet({ today }: StepProps): ReactNode {
  const { quietUntil, picks } = useShortlist();
  const until = weekOfQuiet(today);
  const tasks = useTasks().data ?? NONE;
  const open = picks.filter((id) => tasks.some((task) => task.id === id && isOpen(task))).length;
  return (
    <>
      <p className="mb-3">
        {open > 0 ? `${count(open, 'thing')} on the shortlist. ` : ''}
        {quietUntil === null
          ? 'For a week, what you note down and what arrives waits in the inbox, without a number. Nothing has to be decided before its end.'
          : `It is quiet until ${sayDay(quietUntil, today)}. What is new waits in the inbox.`}
      </p>
      <p className="text-xs">
        <button
          type="button"
          className={quietUntil === null ? primary : button}
          onClick={() => void changeShortlist({ quietUntil: quietUntil === null ? until : null })}
        >
          {quietUntil === null ? `Be quiet until ${sayDay(until, today)}` : 'End the quiet time'}
        </button>
      </p>
    </>
  );
}
