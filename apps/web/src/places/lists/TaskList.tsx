import type { ListInfo, Me, TaskInfo } from '@corvun/contract';
import { arrange, fits, readFilter, sayMinutes, type Group, type Grouping } from '@corvun/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { changeTask } from '../../data/thingActions';
import { KEYS } from '../../keys';
import { Code } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';
import { useNarrow } from '../../parts/useNarrow';
import { serverNow } from '../../parts/useNow';
import { useBeside, useSheet } from '../../sheets/open';
import type { PartName } from '../../sheets/parts';
import { ListForm } from './ListForm';
import { MarkedBar } from './MarkedBar';
import { useMarked } from './marked';
import { NewTask } from './NewTask';
import { TaskRow, type Around } from './TaskRow';
import { belongs, isBesides, isDue, isOpen, titleOfView, type View } from './view';
import { ViewHead } from './ViewHead';

interface ListProps {
  me: Me;
  today: string;
  view: View;
  show: (change: Partial<View>, how?: 'replace') => void;
  tasks: readonly TaskInfo[];
  lists: ListInfo[];
}

/** A line of what is shown. */
type Line =
  | { kind: 'group'; key: string; group: Group<TaskInfo> }
  | { kind: 'task'; key: string; task: TaskInfo; depth: number }
  | { kind: 'new'; key: string; list: string | null; first: boolean }
  | { kind: 'done'; key: string; count: number };

const ROW = 37;
const ROW_CLOSE = 31;
const ROW_NARROW = 57;

/** The tasks of a view, in groups, as many as there are: only what is in sight is drawn. */
export function TaskList({ me, today, view, show, tasks, lists }: ListProps): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const [showDone, setShowDone] = useState(false);
  const [changing, setChanging] = useState(false);
  const [asked, setAsked] = useState<PartName | null>(null);
  const marked = useMarked((state) => state.ids);
  const open = useSheet().id;
  const narrow = useNarrow();
  const { shown, hidden, done, groups, byId, openSteps } = useShown(me, today, view, tasks, lists);
  const [first = ''] = view.lists;
  const list = view.lists.length === 1 ? lists.find((one) => one.id === first) : undefined;
  const takesNew = !isBesides(first) || first === 'none' || first === 'all';
  const lines = useMemo(() => {
    const all: Line[] = [];
    for (const group of groups) {
      if (group.title) all.push({ kind: 'group', key: `group-${group.key}`, group });
      for (const task of group.tasks)
        all.push({ kind: 'task', key: `${group.key} ${task.id}`, task, depth: depthOf(task, byId) });
      if (takesNew && view.group === 'list' && !view.find)
        all.push({ kind: 'new', key: `new-${group.key}`, list: group.key || null, first: group === groups[0] });
    }
    if (takesNew && !(view.group === 'list' && !view.find && groups.length))
      all.push({ kind: 'new', key: 'new', list: isBesides(first) ? null : first, first: true });
    if (done.length) all.push({ kind: 'done', key: 'done', count: done.length });
    if (showDone) for (const task of done) all.push({ kind: 'task', key: `done ${task.id}`, task, depth: 0 });
    return all;
  }, [groups, done, showDone, takesNew, view.group, view.find, first, byId]);
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => (narrow ? ROW_NARROW : me.settings.density === 'close' ? ROW_CLOSE : ROW),
    overscan: 6,
    getItemKey: (at) => lines[at]?.key ?? at,
  });
  const ids = useMemo(() => lines.flatMap((line) => (line.kind === 'task' ? [line.task.id] : [])), [lines]);
  const setBeside = useBeside((state) => state.set);
  useEffect(() => setBeside(ids), [ids, setBeside]);
  useEffect(() => () => setBeside([]), [setBeside]);
  const focusRow = useCallback(
    (id: string) => {
      const row = () => scroller.current?.querySelector<HTMLElement>(`[data-task="${id}"]`);
      // The next key has to find the focus where it belongs: what is drawn gets it at once.
      const drawn = row();
      if (drawn) return drawn.focus();
      const at = lines.findIndex((line) => line.kind === 'task' && line.task.id === id);
      if (at < 0) return undefined;
      rows.scrollToIndex(at, { align: 'auto' });
      window.requestAnimationFrame(() => row()?.focus());
      return undefined;
    },
    [lines, rows],
  );
  const latest = useRef({ ids, focusRow, byId, shown });
  useEffect(() => {
    latest.current = { ids, focusRow, byId, shown };
  });
  const around = useMemo<Around>(
    () => ({
      go: (id, by, mark) => {
        const { ids: all, focusRow: focus } = latest.current;
        const next = all[all.indexOf(id) + by];
        if (!next) return;
        if (mark) {
          if (!useMarked.getState().ids.size) useMarked.getState().turn(id);
          useMarked.getState().to(next, all);
        }
        focus(next);
      },
      move: view.sort === 'hand' ? (id, by) => moveByHand(latest.current.shown, latest.current.byId.get(id), by) : null,
      ask: (id, part) => {
        const { ids: all, turn } = useMarked.getState();
        if (!all.has(id)) turn(id);
        setAsked(part);
      },
      mark: (id, how) => {
        const { turn, to } = useMarked.getState();
        if (how === 'turn') turn(id);
        else to(id, latest.current.ids);
      },
    }),
    [view.sort],
  );
  useKeys({
    [KEYS.lists.add]: () => document.getElementById('new-task')?.focus(),
    [KEYS.lists.filter]: () => document.getElementById('list-filter')?.focus(),
    [KEYS.lists.change]: () => list && setChanging(true),
    [KEYS.lists.markShown]: () => useMarked.getState().all(ids),
    [KEYS.lists.unmark]: () => useMarked.getState().none(),
    [KEYS.task.next]: () => ids[0] && focusRow(ids[0]),
  });
  const markedTasks = useMemo(() => tasks.filter((task) => marked.has(task.id)), [tasks, marked]);
  const title = titleOfView(view, lists);
  return (
    <section aria-label={title} className="flex h-full min-w-0 flex-col">
      <ViewHead
        me={me}
        today={today}
        view={view}
        show={show}
        lists={lists}
        title={title}
        list={list}
        groups={groups}
        hidden={hidden}
        shown={shown.filter((task) => depthOf(task, byId) === 0).length}
        change={() => setChanging(true)}
      />
      {changing && list && (
        <ListForm list={list} lists={lists} tasks={tasks} today={today} zone={me.zone} close={() => setChanging(false)} />
      )}
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-8 pb-10 max-md:px-4">
        <span id="is-marked" hidden>
          marked
        </span>
        <ul aria-label={`Tasks: ${title}`} className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((item) => {
            const line = lines[item.index];
            return (
              line && (
                <li
                  key={item.key}
                  ref={rows.measureElement}
                  data-index={item.index}
                  className="absolute inset-x-0 top-0 contain-layout contain-style"
                  style={{ transform: `translateY(${item.start}px)` }}
                >
                  {line.kind === 'task' ? (
                    <TaskRow
                      me={me}
                      today={today}
                      task={line.task}
                      depth={line.depth}
                      openSteps={openSteps.get(line.task.id) ?? 0}
                      lists={lists}
                      code={!list && first !== 'none'}
                      current={line.task.id === open}
                      around={around}
                    />
                  ) : line.kind === 'group' ? (
                    <GroupHead group={line.group} grouping={view.group} lists={lists} />
                  ) : line.kind === 'new' ? (
                    <NewTask me={me} list={line.list} first={line.first} />
                  ) : (
                    <button
                      type="button"
                      aria-expanded={showDone}
                      className="mt-4 text-xs text-soft underline underline-offset-2"
                      onClick={() => setShowDone(!showDone)}
                    >
                      {showDone ? 'Fold away' : 'Show'} what was done in the last two weeks ({line.count})
                    </button>
                  )}
                </li>
              )
            );
          })}
        </ul>
        {!shown.length && <p className="mt-4 max-w-[52ch] text-soft">{lists.length ? emptyOf(first, view.find) : NO_LISTS}</p>}
      </div>
      {markedTasks.length > 0 && <MarkedBar me={me} tasks={markedTasks} asked={asked} answered={() => setAsked(null)} />}
    </section>
  );
}

function GroupHead({
  group,
  grouping,
  lists,
}: {
  group: Group<TaskInfo>;
  grouping: Grouping;
  lists: readonly ListInfo[];
}): ReactNode {
  const list = grouping === 'list' ? lists.find((one) => one.id === group.key) : undefined;
  return (
    <h3 className="flex items-baseline gap-2 pt-5 pb-1 font-head font-semibold">
      {list && <Code code={list.code} hue={list.hue} />}
      {group.title}
      <span className="font-sans text-xs font-normal text-soft">
        {group.count}
        {group.minutes > 0 && ` · ${sayMinutes(group.minutes)}`}
      </span>
    </h3>
  );
}

/** What of the tasks is shown, how much a filter hides, and what was done lately. */
function useShown(me: Me, today: string, view: View, tasks: readonly TaskInfo[], lists: readonly ListInfo[]) {
  const byId = useMemo(() => new Map(tasks.map((task) => [task.id, task])), [tasks]);
  return useMemo(() => {
    const names = new Map(lists.map((list) => [list.id, list.name]));
    const filter = readFilter(view.find, { now: serverNow(), zone: me.zone, lists: [...names.values()] });
    const fit = (task: TaskInfo) => !view.find || fits(task, filter, names.get(task.listId ?? '') ?? '');
    const inView = tasks.filter((task) => belongs(topOf(task, byId), view.lists));
    const openSteps = new Map<string, number>();
    for (const task of inView)
      if (task.parentId && isOpen(task)) openSteps.set(task.parentId, (openSteps.get(task.parentId) ?? 0) + 1);
    // A step that is done stays with its task until that is done; one that is open stays open by itself.
    const here = inView.filter((task) => isOpen(task) || (task.parentId !== null && isOpen(topOf(task, byId))));
    const wanted = new Set(here.filter(fit).map((task) => topOf(task, byId).id));
    const shown = view.find ? here.filter((task) => wanted.has(topOf(task, byId).id) || wanted.has(task.id)) : here;
    const own = (all: readonly TaskInfo[]) => all.filter((task) => !task.parentId).length;
    const done = inView
      .filter((task) => task.status === 'COMPLETED' && !task.parentId && fit(task))
      .sort((a, b) => (b.completed ?? '').localeCompare(a.completed ?? ''));
    const groups =
      view.lists[0] === 'shelf' && view.group === 'none' && shown.some((task) => isDue(task, today))
        ? shelfOf(shown, view, today, lists)
        : arrange(shown, { group: view.group, sort: view.sort, today, lists });
    return { shown, hidden: own(here) - own(shown), done, groups, byId, openSteps };
  }, [tasks, lists, view, me.zone, today, byId]);
}

/** The shelf, with what is to be looked at again first. */
function shelfOf(shown: readonly TaskInfo[], { sort }: View, today: string, lists: readonly ListInfo[]): Group<TaskInfo>[] {
  const arranging = { group: 'none', sort, today, lists } as const;
  const due = shown.filter((task) => isDue(task, today));
  const later = shown.filter((task) => !isDue(task, today));
  return [
    ...arrange(due, arranging).map((group) => ({ ...group, key: 'due', title: 'To look at again' })),
    ...arrange(later, arranging).map((group) => ({ ...group, key: 'later', title: 'Later' })),
  ];
}

type ById = ReadonlyMap<string, TaskInfo>;

/** The task that a step belongs to at last; itself where that is gone. */
function topOf(task: TaskInfo, byId: ById): TaskInfo {
  return aboveOf(task, byId).at(-1) ?? task;
}

/** What a step belongs to, one after the other, up to its task. */
function aboveOf(task: TaskInfo, byId: ById): TaskInfo[] {
  const found: TaskInfo[] = [];
  for (let one = byId.get(task.parentId ?? ''); one && one !== task && !found.includes(one); one = byId.get(one.parentId ?? ''))
    found.push(one);
  return found;
}

function depthOf(task: TaskInfo, byId: ById): number {
  const line = [task, ...aboveOf(task, byId)];
  const end = line.findIndex((one, at) => at > 0 && !isOpen(one) && isOpen(line[at - 1] as TaskInfo));
  return (end < 0 ? line.length : end) - 1;
}

/** Moves a task one place among its siblings that are shown. */
function moveByHand(shown: readonly TaskInfo[], task: TaskInfo | undefined, by: 1 | -1): void {
  if (!task) return;
  const siblings = shown
    .filter((one) => one.parentId === task.parentId && (task.parentId !== null || one.listId === task.listId))
    .sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));
  const at = siblings.indexOf(task);
  if (!siblings[at + by]) return;
  void changeTask(task.id, { after: (by > 0 ? siblings[at + 1]?.id : siblings[at - 2]?.id) ?? null });
}

const NO_LISTS =
  'Lists hold what you have decided to do, by what it belongs to: one for permits, one for the house. Make the first one on the left; what you send from Sort then stands here.';

function emptyOf(first: string, find: string): string {
  if (find) return 'Nothing here is what the filter asks for.';
  if (first === 'waiting') return 'You wait for nobody. What you hand over in Sort stands here, with whom and since when.';
  if (first === 'shelf') return 'The shelf is empty. It holds what was put off without a date.';
  if (first === 'none') return 'Every open task stands on a list.';
  return 'Nothing is on this list. Write a task above, send something here from Sort, or write it in the capture line with > and the list’s name.';
}
