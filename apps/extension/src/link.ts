import type { AgendaEntry, ListInfo, Me, TaskInfo } from '@corvun/contract';

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

/** One request to the server. @throws Away, Refused */
export async function ask<T>({ server, token }: Link, method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`${server}/api${path}`, {
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
  return answer as T;
}

/** What the small window shows of the server, as it was at a time. */
export interface Today {
  at: number;
  me: Pick<Me, 'name' | 'zone'>;
  lists: string[];
  entries: Pick<AgendaEntry, 'kind' | 'id' | 'title' | 'start' | 'end' | 'allDay' | 'taskId' | 'status'>[];
  tasks: Pick<TaskInfo, 'id' | 'title' | 'deadline' | 'plannedDay'>[];
}

const MOST_TASKS = 40;

/** Today's agenda and the open tasks: those of today first, then by deadline. @throws Away, Refused */
export async function fetchToday(link: Link): Promise<Today> {
  const me = await ask<Me>(link, 'GET', '/me');
  const [agenda, tasks, lists] = await Promise.all([
    ask<{ entries: AgendaEntry[] }>(link, 'GET', '/agenda'),
    ask<TaskInfo[]>(link, 'GET', '/tasks'),
    ask<ListInfo[]>(link, 'GET', '/lists'),
  ]);
  const due = (task: TaskInfo) => task.plannedDay ?? task.deadline?.slice(0, 10) ?? '9999';
  return {
    at: Date.now(),
    me: { name: me.name, zone: me.zone },
    lists: lists.map((list) => list.name),
    entries: agenda.entries.map(({ kind, id, title, start, end, allDay, taskId, status }) => ({
      kind,
      id,
      title,
      start,
      end,
      allDay,
      taskId,
      status,
    })),
    tasks: tasks
      .filter((task) => ['NEEDS-ACTION', 'IN-PROCESS'].includes(task.status) && !task.shelved && !task.waitingOn)
      .sort((a, b) => due(a).localeCompare(due(b)) || a.position - b.position)
      .slice(0, MOST_TASKS)
      .map(({ id, title, deadline, plannedDay }) => ({ id, title, deadline, plannedDay })),
  };
}
