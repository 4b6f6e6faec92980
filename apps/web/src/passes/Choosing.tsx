import { addDays, isAtRiskItself, mondayOf, sayDay, sayMinutes, weekOf, type StaysWhy } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { changeShortlist, shelveRest, useRest, useShortlist } from '../data/passes';
import { useRisks } from '../data/planning';
import { useLists, useProjects } from '../data/queries';
import { KEYS } from '../keys';
import { Deadline } from '../parts/signs';
import { primary } from '../places/sources/common';
import { useOpenTask } from '../sheets/open';
import { SAID_STAYS, candidatesOf, noted } from './decks';
import { Items } from './Items';
import { Picks } from './Picks';
import type { StepProps } from './stepProps';
import { useMine } from './useOpenWork';

/** The few things that are to be in sight. */
export function Pick({ me, today, pass }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const lists = useLists().data ?? [];
  const { picks } = useShortlist();
  const most = me.settings.day.shortlist;
  const risks = useRisks().data ?? [];
  const projects = useProjects().data ?? [];
  const mine = useMine().filter(({ parentId }) => !parentId);
  const levers = noted(pass, 'levers');
  const ranked = candidatesOf(
    mine,
    {
      levers,
      nexts: projects.flatMap(({ next }) => next?.id ?? []),
      atRisk: risks.filter(isAtRiskItself).map(({ taskId }) => taskId),
    },
    today,
  );
  const picked = picks.filter((id) => mine.some((task) => task.id === id));
  return (
    <Picks
      label="For the shortlist"
      items={ranked}
      idOf={({ id }) => id}
      picked={picked}
      most={most}
      unit="thing"
      called="Shortlist"
      said="on the shortlist"
      pick={(ids) => changeShortlist({ picks: ids })}
      deeds={[{ key: KEYS.card.open, name: 'Open', run: ({ id }) => openTask(id) }]}
      listOf={({ listId }) => lists.find(({ id }) => id === listId)}
      titleOf={({ title }) => title}
      noteOf={({ id }) => levers.includes(id) && <span className="block text-xs font-normal text-soft">makes others easier</span>}
      aside={(task) =>
        task.deadline ? (
          <Deadline deadline={task.deadline} fixed={task.deadlineFixed} today={today} />
        ) : (
          sayMinutes(task.estimate ?? me.settings.lengths[task.concentration])
        )
      }
      textOf={({ title, tags }) => [title, ...tags].join(' ')}
      empty="Nothing is open that you could do."
    />
  );
}

const AGAIN = [
  [2, 'in 2 weeks'],
  [4, 'in 4 weeks'],
  [12, 'in 12 weeks'],
  [0, 'no day'],
] as const;

/** Everything else goes to the shelf, in one step. */
export function Rest({ today }: StepProps): ReactNode {
  const openTask = useOpenTask();
  const rest = useRest().data;
  const [weeks, setWeeks] = useState(4);
  if (!rest) return null;
  const again = weeks === 0 ? null : addDays(mondayOf(weekOf(today)), weeks * 7);
  const whys = Object.keys(SAID_STAYS) as StaysWhy[];
  const stays = rest.stays.map((one) => ({ ...one, id: one.taskId })).sort((a, b) => whys.indexOf(a.why) - whys.indexOf(b.why));
  return (
    <>
      <p className="mb-2">
        {rest.stays.length
          ? `${rest.stays.length} ${rest.stays.length === 1 ? 'stays' : 'stay'} in sight: ${whys
              .map((why) => [rest.stays.filter((one) => one.why === why).length, SAID_STAYS[why]] as const)
              .filter(([many]) => many > 0)
              .map(([many, said]) => `${many} ${said}`)
              .join(', ')}.`
          : 'Nothing stays in sight.'}
      </p>
      {rest.goes > 0 ? (
        <div className="mb-4 flex flex-col items-start gap-2">
          <label className="flex min-h-6 items-center gap-2 text-xs">
            look at them again
            <select
              className="min-h-6 border border-soft bg-card px-1"
              value={weeks}
              onChange={({ target }) => setWeeks(Number(target.value))}
            >
              {AGAIN.map(([value, name]) => (
                <option key={value} value={value}>
                  {value ? `${name}, ${sayDay(addDays(mondayOf(weekOf(today)), value * 7), today)}` : name}
                </option>
              ))}
            </select>
          </label>
          <button type="button" className={primary} onClick={() => void shelveRest(again ? { lookAgain: again } : {})}>
            {rest.goes === 1 ? 'The other one to the shelf' : `The other ${rest.goes} to the shelf`}
          </button>
        </div>
      ) : (
        <p className="mb-4 text-soft">Nothing is left that could go to the shelf.</p>
      )}
      <Items
        label="What stays"
        items={stays}
        idOf={({ id }) => id}
        deeds={[{ key: KEYS.card.open, name: 'Open', run: ({ id }: { id: string }) => openTask(id) }]}
        empty=""
      >
        {({ title, why }) => (
          <>
            <span className="min-w-0 flex-1">{title}</span>
            <span className="shrink-0 text-xs text-soft">{why === 'picked' ? '' : SAID_STAYS[why]}</span>
          </>
        )}
      </Items>
    </>
  );
}
