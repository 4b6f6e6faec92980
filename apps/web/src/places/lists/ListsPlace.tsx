import type { Me, TaskChange, TaskInfo, TasksChange } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import {
  DndContext,
  DragOverlay,
  MeasuringStrategy,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState, type ReactNode } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { get } from '../../data/api';
import { useAllLists, useTags, useTasks } from '../../data/queries';
import { changeTasks, orderLists } from '../../data/thingActions';
import { DRAG_SAYS } from '../../parts/dragSays';
import { Failed, Waiting } from '../../parts/states';
import { useNarrow } from '../../parts/useNarrow';
import { useNow } from '../../parts/useNow';
import { Contents, movedTo } from './Contents';
import { KeptIncoming } from './KeptIncoming';
import { useComesBack } from './comesBack';
import { useMarked } from './marked';
import { useDragging } from './rowDrag';
import { TaskList } from './TaskList';
import { useView } from './view';

/** A drag begins after some pixels. The same object each time: another one would draw all that can be dragged anew at every step. */
const BEGINS = { activationConstraint: { distance: 6 } };

/** Days come into sight when something is dragged and push the lists down: where things are is looked at again and again. */
const MEASURING = { droppable: { strategy: MeasuringStrategy.Always } };

/** Everything decided but not finished. */
export function ListsPlace({ me }: { me: Me }): ReactNode {
  useComesBack();
  const { list: wanted } = useParams();
  const [search] = useSearchParams();
  const lists = useAllLists();
  const tasks = useTasks();
  const tags = useTags();
  const views = useQuery({ queryKey: ['views'], queryFn: () => get('/views') });
  const today = dayOf(useNow(), me.zone);
  const narrow = useNarrow();
  const opened = search.get('task');
  const own = (lists.data ?? []).filter((list) => !list.archived);
  const task = tasks.data?.find((one) => one.id === opened);
  const { view, show } = useView(task ? (task.listId ?? (task.waitingOn ? 'waiting' : 'none')) : (own[0]?.id ?? 'none'));
  const kept = wanted === 'reference' || wanted === 'dropped' ? wanted : null;
  const key = view.lists.join();
  useEffect(() => () => useMarked.getState().none(), [key]);
  const [dragged, setDragged] = useState<TaskInfo | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, BEGINS));
  if (lists.isPending || tasks.isPending) return <Waiting what="Opening the lists" />;
  const problem = lists.error ?? tasks.error;
  if (problem || !lists.data || !tasks.data)
    return (
      <Failed
        problem={problem ?? new Error('The lists are not there.')}
        retry={() => void Promise.all([lists.refetch(), tasks.refetch()])}
      />
    );
  const drag = (task: TaskInfo | null) => {
    setDragged(task);
    useDragging.getState().set(task !== null);
  };
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    drag(null);
    const from = active.data.current ?? {};
    const to = over?.data.current ?? {};
    const list = own.find((one) => one.id === (from['list'] as { id?: string } | undefined)?.id);
    const target = own.find((one) => one.id === (to['list'] as { id?: string } | undefined)?.id);
    if (list && target && list !== target)
      return void orderLists(movedTo(own, list, target, own.indexOf(target) > own.indexOf(list)));
    const moving = from['task'] as TaskInfo | undefined;
    if (!moving || !over) return undefined;
    const marked = useMarked.getState().ids;
    const ids = marked.has(moving.id) ? [...marked] : [moving.id];
    const change = dropOn(to, ids, view.sort === 'hand', tasks.data);
    return change ? void changeTasks(change) : undefined;
  };
  // On a telephone the contents and a list are pages of their own.
  const onPage = wanted !== undefined || opened !== null;
  return (
    <DndContext
      accessibility={DRAG_SAYS}
      sensors={sensors}
      collisionDetection={pointerWithin}
      measuring={MEASURING}
      onDragStart={({ active }) => drag((active.data.current?.['task'] as TaskInfo | undefined) ?? null)}
      onDragCancel={() => drag(null)}
      onDragEnd={onDragEnd}
    >
      <h1 className="sr-only">Lists</h1>
      <div className="grid h-full grid-cols-[248px_minmax(0,1fr)] max-md:grid-cols-1">
        <nav
          aria-label="Table of contents"
          hidden={narrow && onPage}
          className="flex min-h-0 flex-col border-r border-rule max-md:border-r-0"
        >
          <Contents
            all={lists.data}
            tasks={tasks.data}
            tags={tags.data ?? []}
            views={views.data ?? []}
            view={view}
            kept={kept}
            today={today}
            show={show}
          />
        </nav>
        <div hidden={narrow && !onPage} className="flex min-h-0 min-w-0 flex-col bg-card">
          {narrow && (
            <Link to="/lists" className="flex h-9 shrink-0 items-center px-4 text-soft underline underline-offset-2">
              All lists
            </Link>
          )}
          <div className={`min-h-0 flex-1 ${kept ? 'overflow-y-auto' : ''}`}>
            {kept ? (
              <KeptIncoming key={kept} today={today} outcome={kept === 'reference' ? 'reference' : 'drop'} />
            ) : (
              <TaskList key={key} me={me} today={today} view={view} show={show} tasks={tasks.data} lists={own} />
            )}
          </div>
        </div>
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="inline-block max-w-[320px] truncate border border-ink bg-card px-3 py-1 font-semibold shadow-lg">
            {dragged.title}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** What dropping tasks somewhere changes; null where nothing. */
function dropOn(to: Record<string, unknown>, ids: string[], byHand: boolean, tasks: readonly TaskInfo[]): TasksChange | null {
  const plain = (change: TaskChange): TasksChange => ({ ids, change });
  const list = to['list'] as { id: string } | undefined;
  if (list) return plain({ list: list.id });
  if (typeof to['day'] === 'string') return plain({ plannedDay: to['day'], shelved: false });
  if (typeof to['week'] === 'string') return plain({ plannedWeek: to['week'], shelved: false });
  if (typeof to['tag'] === 'string') return { ids, change: {}, addTags: [to['tag']] };
  const target = to['row'] as TaskInfo | undefined;
  if (!target || ids.includes(target.id) || target.parentId) return null;
  const moving = tasks.filter((task) => ids.includes(task.id));
  // The place of a step is among those of its task.
  if (moving.some((task) => task.parentId)) return null;
  const moved = moving.every((task) => task.listId === target.listId);
  if (!byHand) return moved ? null : plain({ list: target.listId });
  const siblings = tasks.filter(
    (task) => task.listId === target.listId && !task.parentId && !ids.includes(task.id) && task.status !== 'COMPLETED',
  );
  const before = siblings[siblings.indexOf(target) - 1]?.id ?? null;
  return { ids, change: moved ? {} : { list: target.listId }, after: before };
}
