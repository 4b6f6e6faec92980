import type { DecideInput, NoteChange, TaskChange, UndoAnswer } from '@corvun/contract';
import { useSaid } from '../state/said';
import { patch, post, remove } from './api';
import { client } from './queries';

const refresh = (...keys: string[]) => Promise.all(keys.map((key) => client.invalidateQueries({ queryKey: [key] })));

let last: Promise<unknown> = Promise.resolve();

/** Sends doings one after the other: an undo pressed at once must not overtake what it is meant to take back. */
function inOrder<T>(work: () => Promise<T>): Promise<T> {
  const run = last.then(work);
  last = run.catch(() => undefined);
  return run;
}

/** Runs a change, says what was done, and says what went wrong; null when it was refused. What was refused may be old: `keys` are asked for again. */
async function doing<T extends { sentence: string }>(work: () => Promise<T>, keys: string[]): Promise<T | null> {
  try {
    const answer = await inOrder(work);
    useSaid.getState().say(answer.sentence);
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    void refresh(...keys);
    return null;
  }
}

export const decide = (input: DecideInput) => doing(() => post('/decisions', input), ['lists', 'tasks', 'days', 'notes']);
export const changeTask = (id: string, change: TaskChange) =>
  doing(() => patch('/tasks/:id', change, { id }), ['tasks', 'lists', 'days']);
export const addBlock = (taskId: string, start: string, minutes: number) =>
  doing(() => post('/blocks', { taskId, start, minutes }), ['days', 'tasks']);
/** Gives the time of a block back; its task stays, on `day` where one is said. */
export const removeBlock = (id: string, day?: string) =>
  doing(() => remove('/blocks/:id', { id, ...(day ? { day } : {}) }), ['days', 'tasks']);
/** @param place which dates of a repeating event */
export const removeEvent = (id: string, place: { scope: 'this' | 'following' | 'all'; occurrence: string } | null = null) =>
  doing(() => remove('/events/:id', { id, ...place }), ['days']);
export const changeCalendar = (id: string, change: { shown?: boolean; busy?: boolean }) =>
  doing(() => patch('/calendars/:id', change, { id }), ['calendars', 'days']);
export const capture = (text: string) => doing(() => post('/captures', { text }), ['tasks', 'lists', 'days', 'tags']);

/** A thought for the inbox, whatever it says of days and lists. */
export const gather = (text: string) => doing(() => post('/captures', { text, inbox: true }), ['tags']);
export const addNote = (title: string) => doing(() => post('/notes', { title }), ['notes']);
export const changeNote = (id: string, change: NoteChange) => doing(() => patch('/notes/:id', change, { id }), ['notes', 'note']);
export const removeNote = (id: string) => doing(() => remove('/notes/:id', { id }), ['notes']);

export const move = (
  kind: 'block' | 'event',
  id: string,
  times: { start: string; minutes: number; version?: number; occurrence?: string },
) =>
  doing(() => (kind === 'block' ? patch('/blocks/:id', times, { id }) : patch('/events/:id', times, { id })), ['days', 'tasks']);

async function turn(path: 'undo' | 'redo', lead: string): Promise<UndoAnswer | null> {
  try {
    const answer = await inOrder(() => post(`/decisions/${path}`, undefined));
    useSaid.getState().say(`${lead}: ${answer.sentence}`, path === 'undo' ? 'none' : 'undo');
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    return null;
  }
}

export const undo = () => turn('undo', 'Taken back');
export const redo = () => turn('redo', 'Done again');
