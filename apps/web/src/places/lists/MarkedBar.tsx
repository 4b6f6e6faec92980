import type { Me, TaskChange, TaskFull, TaskInfo } from '@corvun/contract';
import { count, dayOf } from '@corvun/core';
import type { ReactNode } from 'react';
import { useDays, useLists, usePeople, useTags } from '../../data/queries';
import { changeTasks } from '../../data/thingActions';
import { useNow } from '../../parts/useNow';
import { partOf, type PartName, type Saying } from '../../sheets/parts';
import { PartControl } from '../../sheets/PartControl';
import { useMarked } from './marked';

const AHEAD = 14;
/** What can be said of many together, in this order. */
const OFFERED: PartName[] = [
  'list',
  'when',
  'deadline',
  'estimate',
  'priority',
  'tags',
  'concentration',
  'waitingOn',
  'lookAgain',
];
const NOTHING = {
  tags: [],
  links: [],
  attachmentList: [],
  steps: [],
  listId: '',
  deadline: null,
  estimate: null,
  plannedDay: null,
  plannedWeek: null,
  waitingOn: null,
  lookAgain: null,
} as unknown as TaskFull;

/** A field of all that are marked: said where they agree, else open to say. */
function common(tasks: readonly TaskInfo[]): TaskFull {
  const [first] = tasks;
  if (!first) return NOTHING;
  const same = Object.entries(first).filter(([field, value]) =>
    tasks.every((task) => JSON.stringify(task[field as keyof TaskInfo]) === JSON.stringify(value)),
  );
  return { ...NOTHING, ...Object.fromEntries(same) };
}

/** Changes every task that is marked, as one doing. */
export function MarkedBar({
  me,
  tasks,
  asked,
  answered,
}: {
  me: Me;
  tasks: readonly TaskInfo[];
  asked: PartName | null;
  answered: () => void;
}): ReactNode {
  const now = useNow();
  const today = dayOf(now, me.zone);
  const none = useMarked((state) => state.none);
  const saying: Saying = {
    lists: useLists().data ?? [],
    tags: useTags().data ?? [],
    people: usePeople().data ?? [],
    days: useDays(today, AHEAD).data ?? [],
    today,
    now,
    zone: me.zone,
  };
  const ids = tasks.map((task) => task.id);
  const one = common(tasks);
  const back = () => document.querySelector<HTMLElement>(`[data-task="${ids[0]}"]`)?.focus();
  const save = (change: TaskChange) => {
    if (!Object.keys(change).length) return;
    const { version: _version, was: _was, parent: _parent, after: _after, tags, ...fields } = change;
    // Tags are added and taken off: what each task has besides stays.
    const added = tags?.filter((tag) => !one.tags.includes(tag));
    const removed = tags && one.tags.filter((tag) => !tags.includes(tag));
    void changeTasks({
      ids,
      change: fields,
      ...(added?.length && { addTags: added }),
      ...(removed?.length && { removeTags: removed }),
    });
  };
  const act = (change: TaskChange) => {
    save(change);
    none();
  };
  return (
    <div
      role="toolbar"
      aria-label="What is marked"
      className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-t border-ink bg-teal-wash px-8 py-2 max-md:px-4"
    >
      <b className="font-semibold">{count(tasks.length, 'task')} marked</b>
      {OFFERED.map((name) => {
        const part = partOf(name, one, saying);
        return (
          <span key={name + (asked === name ? '-open' : '')} className="text-xs">
            <PartControl
              part={{ ...part, shown: part.label.toLowerCase() }}
              save={save}
              {...(asked === name && {
                open: true,
                closed: () => {
                  answered();
                  back();
                },
              })}
            />
          </span>
        );
      })}
      {(
        [
          ['Done', { status: 'COMPLETED' }],
          ['Drop', { status: 'CANCELLED' }],
        ] as const
      ).map(([name, change]) => (
        <button key={name} type="button" className="border border-ink px-2 text-xs" onClick={() => act(change)}>
          {name}
        </button>
      ))}
      <button type="button" className="ml-auto text-xs underline underline-offset-2" onClick={none}>
        Mark none
      </button>
    </div>
  );
}
