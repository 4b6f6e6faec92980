import type { ListInfo, Me, TaskInfo } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { ListInput } from '@corvun/contract/inputs';
import { useMemo, type ReactNode } from 'react';
import { Link, NavLink, useParams, useSearchParams } from 'react-router';
import { post } from '../../data/api';
import { client, useLists, useTasks } from '../../data/queries';
import { FormProblem, RuledField, useRuled } from '../../parts/form';
import { Code } from '../../parts/signs';
import { Empty, Failed, Waiting } from '../../parts/states';
import { useNarrow } from '../../parts/useNarrow';
import { useNow } from '../../parts/useNow';
import { KeptIncoming } from './KeptIncoming';
import { taskOf, withSteps } from './steps';
import { TaskRows } from './TaskRows';

interface Section {
  path: string;
  name: string;
  holds: (task: TaskInfo) => boolean;
  empty: string;
  code?: { code: string; hue: number };
}

const open = (task: TaskInfo) => !task.shelved;

function sectionsOf(lists: ListInfo[]): { lists: Section[]; others: Section[] } {
  return {
    lists: lists.map((list) => ({
      path: list.id,
      name: list.name,
      code: list,
      holds: (task) => open(task) && task.listId === list.id,
      empty:
        'Nothing is on this list. Send something here from Sort, or write it in the capture line with > and the list’s name.',
    })),
    others: [
      {
        path: 'none',
        name: 'Without a list',
        holds: (task) => open(task) && task.listId === null && !task.waitingOn,
        empty: 'Every open task stands on a list.',
      },
      {
        path: 'waiting',
        name: 'Waiting on',
        holds: (task) => open(task) && task.waitingOn !== null,
        empty: 'You wait for nobody. What you hand over in Sort stands here, with whom and since when.',
      },
      {
        path: 'shelf',
        name: 'Shelf',
        holds: (task) => task.shelved,
        empty: 'The shelf is empty. It holds what was put off without a date.',
      },
    ],
  };
}

/** Everything decided but not finished. */
export function ListsPlace({ me }: { me: Me }): ReactNode {
  const { list: wanted } = useParams();
  const [search] = useSearchParams();
  const lists = useLists();
  const tasks = useTasks();
  const today = dayOf(useNow(), me.zone);
  const sections = useMemo(() => sectionsOf(lists.data ?? []), [lists.data]);
  const byId = useMemo(() => new Map((tasks.data ?? []).map((one) => [one.id, one])), [tasks.data]);
  const task = search.get('task');
  const narrow = useNarrow();
  if (lists.isPending || tasks.isPending) return <Waiting what="Opening the lists" />;
  const problem = lists.error ?? tasks.error;
  if (problem || !lists.data || !tasks.data) {
    return (
      <Failed
        problem={problem ?? new Error('The lists are not there.')}
        retry={() => void Promise.all([lists.refetch(), tasks.refetch()])}
      />
    );
  }
  const all = [...sections.lists, ...sections.others];
  const found = tasks.data.find((one) => one.id === task);
  const chosen =
    all.find((section) => section.path === wanted) ??
    (found && all.find((section) => section.holds(taskOf(found, byId)))) ??
    all[0];
  const openIn = (section: Section) =>
    tasks.data.filter((one) => one.status !== 'COMPLETED' && taskOf(one, byId) === one && section.holds(one)).length;
  const kept = wanted === 'reference' || wanted === 'dropped';
  // On a telephone the contents and a list are pages of their own.
  const onPage = wanted !== undefined || task !== null;
  return (
    <div className="grid h-full grid-cols-[minmax(240px,30%)_1fr] max-md:h-auto max-md:grid-cols-1">
      <nav
        aria-label="Table of contents"
        hidden={narrow && onPage}
        className="overflow-y-auto border-r border-rule px-4 py-4 max-md:border-r-0"
      >
        <h1 className="sr-only">Lists</h1>
        {groupsOf(lists.data).map(([group, members]) => (
          <Contents
            key={group}
            title={group}
            sections={sections.lists.filter((section) => members.has(section.path))}
            openIn={openIn}
            chosen={kept ? null : (chosen?.path ?? null)}
          />
        ))}
        <NewList />
        <Contents title="Besides" sections={sections.others} openIn={openIn} chosen={kept ? null : (chosen?.path ?? null)} />
        <h2 className="mt-4 mb-1 text-xs text-soft">Kept</h2>
        <ul>
          {[
            ['reference', 'Reference'],
            ['dropped', 'Dropped'],
          ].map(([path, name]) => (
            <li key={path} className="border-t border-rule">
              <NavLink
                to={`/lists/${path}`}
                className={({ isActive }) =>
                  `flex h-[30px] items-center px-2 ${isActive ? 'bg-card font-semibold shadow-[inset_3px_0_0_var(--teal)]' : 'hover:bg-card'}`
                }
              >
                {name}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      <div hidden={narrow && !onPage} className="min-w-0 overflow-y-auto bg-card max-md:min-h-full">
        {narrow && (
          <Link to="/lists" className="flex h-9 items-center px-4 text-soft underline underline-offset-2">
            All lists
          </Link>
        )}
        {kept ? (
          <KeptIncoming key={wanted} today={today} outcome={wanted === 'reference' ? 'reference' : 'drop'} />
        ) : chosen ? (
          <Page
            key={chosen.path}
            me={me}
            today={today}
            section={chosen}
            tasks={tasks.data.filter((one) => chosen.holds(taskOf(one, byId)))}
            lists={lists.data}
            focusOn={task}
          />
        ) : (
          <Empty title="No lists yet">Make the first one on the left.</Empty>
        )}
      </div>
    </div>
  );
}

function groupsOf(lists: ListInfo[]): [string, Set<string>][] {
  const groups = new Map<string, Set<string>>();
  for (const list of lists) groups.set(list.group || 'Lists', (groups.get(list.group || 'Lists') ?? new Set()).add(list.id));
  return [...groups];
}

function Contents({
  title,
  sections,
  openIn,
  chosen,
}: {
  title: string;
  sections: Section[];
  openIn: (section: Section) => number;
  chosen: string | null;
}): ReactNode {
  return (
    <>
      <h2 className="mt-4 mb-1 text-xs text-soft first-of-type:mt-0">{title}</h2>
      <ul>
        {sections.map((section) => (
          <li key={section.path} className="border-t border-rule">
            <NavLink
              to={`/lists/${section.path}`}
              aria-current={section.path === chosen ? 'page' : undefined}
              className={`flex h-[30px] items-center gap-2 px-2 ${section.path === chosen ? 'bg-card font-semibold shadow-[inset_3px_0_0_var(--teal)]' : 'hover:bg-card'}`}
            >
              {section.code && <Code code={section.code.code} hue={section.code.hue} />}
              <span className="truncate">{section.name}</span>
              <span className="ml-auto text-xs font-normal text-soft">{openIn(section) || ''}</span>
            </NavLink>
          </li>
        ))}
      </ul>
    </>
  );
}

function NewList(): ReactNode {
  const { form, submit } = useRuled<{ name: string }>(ListInput, { name: '' }, async ({ name }, { reset }) => {
    await post('/lists', { name: name.trim() });
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

function Page({
  me,
  today,
  section,
  tasks,
  lists,
  focusOn,
}: {
  me: Me;
  today: string;
  section: Section;
  tasks: TaskInfo[];
  lists: ListInfo[];
  focusOn: string | null;
}): ReactNode {
  const list = lists.find((one) => one.id === section.path);
  // A step that is done stays with its task until that is done, too.
  const byId = new Map(tasks.map((task) => [task.id, task]));
  const isDone = (task: TaskInfo) => taskOf(task, byId).status === 'COMPLETED';
  const left = withSteps(tasks.filter((task) => !isDone(task)));
  const done = tasks
    .filter((task) => isDone(task) && taskOf(task, byId) === task)
    .sort((a, b) => (b.completed ?? '').localeCompare(a.completed ?? ''));
  return (
    <section aria-label={section.name} className="px-8 py-5 max-md:px-4">
      <h2 className="flex items-center gap-3 font-head text-lg font-semibold">
        {section.code && <Code code={section.code.code} hue={section.code.hue} />}
        {section.name}
      </h2>
      {list?.outcome && <p className="mt-1 text-soft">Project: {list.outcome}</p>}
      {left.length ? (
        <TaskRows me={me} today={today} tasks={left} lists={lists} showList={!list} focusOn={focusOn} />
      ) : (
        <p className="mt-4 max-w-[52ch] text-soft">{section.empty}</p>
      )}
      {done.length > 0 && (
        <>
          <h3 className="mt-6 mb-1 text-xs text-soft">Done in the last two weeks</h3>
          <TaskRows me={me} today={today} tasks={done} lists={lists} showList={!list} focusOn={focusOn} />
        </>
      )}
    </section>
  );
}
