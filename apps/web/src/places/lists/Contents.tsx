import type { ListInfo, TagInfo, TaskInfo, ViewInfo } from '@corvun/contract';
import { ListInput } from '@corvun/contract/list-inputs';
import { daysFrom, sayDay, weekOf } from '@corvun/core';
import { useDndContext, useDraggable, useDroppable } from '@dnd-kit/core';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { Link, NavLink } from 'react-router';
import { post } from '../../data/api';
import { inOrder } from '../../data/inOrder';
import { client, useProjects } from '../../data/queries';
import { changeList, orderLists } from '../../data/thingActions';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { Code } from '../../parts/signs';
import { GroupHead, KeptViewLine } from './ContentsHeads';
import { BESIDES, BESIDES_NAMES, addressOfView, belongs, isBesides, isDue, isOpen, type View } from './view';

interface ContentsProps {
  all: readonly ListInfo[];
  tasks: readonly TaskInfo[];
  tags: readonly TagInfo[];
  views: readonly ViewInfo[];
  view: View;
  kept: string | null;
  today: string;
  show: (change: Partial<View>) => void;
}

const row = 'flex h-[30px] items-center gap-2 pr-2';
const here = 'bg-card font-semibold shadow-[inset_3px_0_0_var(--teal)]';

/** Groups and lists as a table of contents; what is ticked is read together. What is dragged onto a line goes there. */
export function Contents({ all, tasks, tags, views, view, kept, today, show }: ContentsProps): ReactNode {
  const [putAway, setPutAway] = useState(false);
  const { active } = useDndContext();
  const dragging = active?.data.current?.['task'] !== undefined;
  const lists = all.filter((list) => !list.archived);
  const archived = all.filter((list) => list.archived);
  const own = tasks.filter((task) => isOpen(task) && !task.parentId);
  const counts = new Map<string, number>();
  for (const task of own)
    for (const path of [!task.shelved && task.listId ? task.listId : '', ...BESIDES.filter((one) => belongs(task, [one]))])
      counts.set(path, (counts.get(path) ?? 0) + 1);
  const looked = own.filter((task) => isDue(task, today)).length;
  const turn = (id: string) => {
    const read = view.lists.filter((one) => !isBesides(one));
    const next = read.includes(id) ? read.filter((one) => one !== id) : [...read, id];
    show({
      lists: next.length ? lists.map((list) => list.id).filter((one) => next.includes(one)) : ['all'],
      group: next.length > 1 ? 'list' : 'none',
    });
  };
  const groups = [...new Set(lists.map((list) => list.group))];
  return (
    <>
      {dragging && <Days today={today} />}
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4">
        {groups.map((group) => (
          <section key={group} aria-label={group || 'Lists'} className="[&+&]:mt-4">
            <GroupHead
              group={group}
              groups={groups}
              lists={lists}
              read={(ids) => show({ lists: ids, group: ids.length > 1 ? 'list' : 'none' })}
            />
            <ul>
              {lists
                .filter((list) => list.group === group)
                .map((list) => (
                  <ListLine
                    key={list.id}
                    list={list}
                    lists={lists}
                    count={counts.get(list.id) ?? 0}
                    on={!kept && view.lists.includes(list.id)}
                    alone={view.lists.length === 1}
                    turn={() => turn(list.id)}
                  />
                ))}
            </ul>
          </section>
        ))}
        <NewList />
        <Heading>Besides</Heading>
        <ul>
          {BESIDES.map((path) => (
            <li key={path} className="border-t border-rule">
              <Link
                to={`/lists/${path}`}
                aria-current={!kept && view.lists[0] === path ? 'page' : undefined}
                className={`${row} pl-2 ${!kept && view.lists[0] === path ? here : 'hover:bg-card'}`}
              >
                {BESIDES_NAMES[path]}
                {path === 'shelf' && looked > 0 && <span className="text-xs font-normal text-amber">{looked} to look at</span>}
                <span className="ml-auto text-xs font-normal text-soft">{counts.get(path) || ''}</span>
              </Link>
            </li>
          ))}
        </ul>
        {views.length > 0 && (
          <>
            <Heading>Kept views</Heading>
            <ul>
              {views.map((one) => (
                <KeptViewLine key={one.id} view={one} className={row} />
              ))}
            </ul>
          </>
        )}
        {tags.length > 0 && (
          <>
            <Heading>Tags</Heading>
            <ul className="flex flex-wrap gap-x-2 gap-y-1 border-t border-rule pt-2 pl-2">
              {tags.slice(0, 40).map((tag) => (
                <TagDrop key={tag.name} name={tag.name} />
              ))}
            </ul>
          </>
        )}
        <Heading>Kept</Heading>
        <ul>
          {[
            ['reference', 'Reference'],
            ['dropped', 'Dropped'],
          ].map(([path, name]) => (
            <li key={path} className="border-t border-rule">
              <NavLink to={`/lists/${path}`} className={({ isActive }) => `${row} pl-2 ${isActive ? here : 'hover:bg-card'}`}>
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
        {archived.length > 0 && (
          <>
            <button
              type="button"
              aria-expanded={putAway}
              className="mt-4 text-xs text-soft underline underline-offset-2"
              onClick={() => setPutAway(!putAway)}
            >
              {putAway ? 'Fold away' : 'Show'} {archived.length} put away
            </button>
            {putAway && (
              <ul>
                {archived.map((list) => (
                  <li key={list.id} className="flex items-center gap-2 border-t border-rule pl-2">
                    <span className="min-w-0 truncate text-soft">{list.name}</span>
                    <button
                      type="button"
                      className="ml-auto h-[30px] pr-2 text-xs underline underline-offset-2"
                      aria-label={`Bring ${list.name} back`}
                      onClick={() => void changeList(list.id, { archived: false })}
                    >
                      bring back
                    </button>
                  </li>
                ))}
              </ul>
            )}
          </>
        )}
      </div>
    </>
  );
}

const Heading = ({ children }: { children: ReactNode }) => <h2 className="mt-4 mb-1 text-xs text-soft">{children}</h2>;

interface LineProps {
  list: ListInfo;
  lists: readonly ListInfo[];
  count: number;
  on: boolean;
  alone: boolean;
  turn: () => void;
}

function ListLine({ list, lists, count, on, alone, turn }: LineProps): ReactNode {
  const { setNodeRef, isOver } = useDroppable({ id: `list-${list.id}`, data: { list } });
  const stalled = useProjects().data?.find(({ listId }) => listId === list.id)?.stalled;
  const { setNodeRef: setDragRef, listeners } = useDraggable({ id: `order-${list.id}`, data: { list } });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    if (!by || !event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    void orderLists(movedBy(lists, list, by));
  };
  return (
    <li
      ref={setNodeRef}
      data-over={isOver || undefined}
      className={`flex items-center border-t border-rule ${isOver ? 'bg-teal-wash' : ''} ${on ? here : 'hover:bg-card'}`}
    >
      <input
        type="checkbox"
        className="mx-2 size-[13px] accent-teal"
        aria-label={`Read ${list.name} along`}
        title="Read together with the others that are ticked"
        checked={on}
        onChange={turn}
      />
      <Link
        ref={setDragRef}
        {...listeners}
        to={`/lists/${list.id}`}
        draggable={false}
        title="Alt with ↑ ↓ puts it in another place"
        aria-current={on && alone ? 'page' : undefined}
        className={`${row} min-w-0 flex-1`}
        onKeyDown={onKeyDown}
      >
        <Code code={list.code} hue={list.hue} />
        <span className="truncate">{list.name}</span>
        {stalled && (
          <span className="shrink-0 text-xs font-normal text-amber" title={stalled}>
            stalled
          </span>
        )}
        <span className="ml-auto text-xs font-normal text-soft">{count || ''}</span>
      </Link>
    </li>
  );
}

/** The lists with one of them a place up or down, into the group of the one it comes beside. */
function movedBy(lists: readonly ListInfo[], list: ListInfo, by: number): { id: string; group: string }[] {
  const at = lists.indexOf(list);
  const beside = lists[at + by];
  const places = lists.map(({ id, group }) => ({ id, group }));
  if (!beside) return places;
  // At the edge of a group it first goes over into the next one.
  if (beside.group !== list.group) return places.map((one) => (one.id === list.id ? { ...one, group: beside.group } : one));
  return movedTo(lists, list, beside, by > 0);
}

/** The lists with one of them right before or after another, in its group. */
export function movedTo(
  lists: readonly ListInfo[],
  list: ListInfo,
  target: ListInfo,
  after: boolean,
): { id: string; group: string }[] {
  const rest = lists.filter((one) => one.id !== list.id);
  const at = rest.findIndex((one) => one.id === target.id) + (after ? 1 : 0);
  return [...rest.slice(0, at), { ...list, group: target.group }, ...rest.slice(at)].map(({ id, group }) => ({ id, group }));
}

function TagDrop({ name }: { name: string }): ReactNode {
  const { setNodeRef, isOver } = useDroppable({ id: `tag-${name}`, data: { tag: name } });
  return (
    <li ref={setNodeRef} data-over={isOver || undefined} className={isOver ? 'bg-teal-wash' : ''}>
      <Link
        to={addressOfView({ lists: ['all'], group: 'list', sort: 'hand', find: `#${name}` })}
        className="inline-block min-w-6 text-xs leading-6 text-soft hover:text-ink hover:underline"
      >
        #{name}
      </Link>
    </li>
  );
}

/** Days to drop a task on, while one is dragged; above what scrolls, so that they stay where they are when it does. */
function Days({ today }: { today: string }): ReactNode {
  return (
    <ul aria-label="Days" className="mx-4 mt-4 grid shrink-0 grid-cols-2 gap-1 border-b border-ink pb-2">
      {daysFrom(today, 7).map((day) => (
        <Day key={day} id={`day-${day}`} data={{ day }} name={day === today ? 'Today' : sayDay(day, today)} />
      ))}
      <Day id="day-week" data={{ week: weekOf(today) }} name="This week" />
    </ul>
  );
}

function Day({ id, data, name }: { id: string; data: Record<string, unknown>; name: string }): ReactNode {
  const { setNodeRef, isOver } = useDroppable({ id, data });
  return (
    <li
      ref={setNodeRef}
      data-over={isOver || undefined}
      className={`border px-2 py-1 text-xs ${isOver ? 'border-teal bg-teal-wash' : 'border-rule'}`}
    >
      {name}
    </li>
  );
}

function NewList(): ReactNode {
  const { form, submit } = useRuled<{ name: string }>(ListInput, { name: '' }, async ({ name }, { reset }) => {
    await inOrder(() => post('/lists', { name: name.trim() }));
    reset({ name: '' });
    await client.invalidateQueries({ queryKey: ['lists'] });
  });
  return (
    <form onSubmit={submit} noValidate className="border-t border-rule px-2 py-1">
      <RuledField
        form={form}
        name="name"
        id="new-list"
        label="New list"
        bare
        placeholder="New list …"
        className="w-full bg-transparent"
      />
      <FormProblem form={form} />
    </form>
  );
}
