import type { AgendaEntry, Answer, Body, Me, NowState, Place, Route, TaskInfo } from '@corvun/contract';
import { addressOf } from '@corvun/contract/address';

/** How the server is reached: what the options page keeps. */
export interface Link {
  server: string;
  token: string;
}

export const DEFAULT_SERVER = 'http://127.0.0.1:4600';
/** A server that does not answer must not keep the small window waiting. */
const PATIENCE = 8000;

/** The server is away: what was to be sent is kept. */
export class Away extends Error {}

/** The server answered no, with its own sentence. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/**
 * One request to the server.
 * @param route as in the table of routes, `PATCH /tasks/:id`
 * @param place what stands in its path and behind the question mark
 * @throws Away, Refused
 */
export async function ask<R extends Route>(
  { server, token }: Link,
  route: R,
  place: Place<R>,
  body?: Body<R>,
): Promise<Answer<R>> {
  const [method = '', path = ''] = route.split(' ');
  let response: Response;
  try {
    response = await fetch(`${server}/api${addressOf(path, place)}`, {
      method,
      credentials: 'omit',
      signal: AbortSignal.timeout(PATIENCE),
      headers: { Authorization: `Bearer ${token}`, ...(body === undefined ? {} : { 'Content-Type': 'application/json' }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new Away();
  }
  // What stands in between answers for a server that is away.
  if (response.status >= 502 && response.status <= 504) throw new Away();
  const answer = (await response.json().catch(() => null)) as { error?: { code?: string; message?: string } } | null;
  if (!response.ok)
    throw new Refused(
      response.status,
      answer?.error?.code ?? 'failed',
      answer?.error?.message ?? `The server answered ${response.status}.`,
    );
  return answer as Answer<R>;
}

export type TodayEntry = Pick<
  AgendaEntry,
  'kind' | 'id' | 'title' | 'start' | 'end' | 'allDay' | 'taskId' | 'status' | 'showAs' | 'buffers' | 'location'
>;

/** What the small window shows of the server, as it was at a time. */
export interface Today {
  at: number;
  me: Pick<Me, 'name' | 'zone'>;
  lists: string[];
  entries: TodayEntry[];
  /** What the timer runs on, and what is worked on heads-down. */
  timer: Pick<NonNullable<NowState['timer']>, 'title' | 'since'> | null;
  headsDown: Pick<NonNullable<NowState['headsDown']>, 'title' | 'phase' | 'until'> | null;
  tasks: Pick<TaskInfo, 'id' | 'title' | 'deadline' | 'plannedDay'>[];
}

const MOST_TASKS = 40;

/** Today's agenda and the open tasks: those of today first, then by deadline. @throws Away, Refused */
export async function fetchToday(link: Link): Promise<Today> {
  const me = await ask(link, 'GET /me', {});
  const [agenda, tasks, lists, { timer, headsDown }] = await Promise.all([
    ask(link, 'GET /agenda', {}),
    ask(link, 'GET /tasks', {}),
    ask(link, 'GET /lists', {}),
    ask(link, 'GET /now', {}),
  ]);
  const due = (task: TaskInfo) => task.plannedDay ?? task.deadline?.slice(0, 10) ?? '9999';
  return {
    at: Date.now(),
    me: { name: me.name, zone: me.zone },
    lists: lists.map((list) => list.name),
    timer: timer && { title: timer.title, since: timer.since },
    headsDown: headsDown && { title: headsDown.title, phase: headsDown.phase, until: headsDown.until },
    entries: agenda.entries.map(({ kind, id, title, start, end, allDay, taskId, status, showAs, buffers, location }) => ({
      ...{ kind, id, title, start, end, allDay, taskId, status, showAs, buffers, location },
    })),
    tasks: tasks
      .filter((task) => ['NEEDS-ACTION', 'IN-PROCESS'].includes(task.status) && !task.shelved && !task.waitingOn)
      .sort((a, b) => due(a).localeCompare(due(b)) || a.position - b.position)
      .slice(0, MOST_TASKS)
      .map(({ id, title, deadline, plannedDay }) => ({ id, title, deadline, plannedDay })),
  };
}
