import type { DayPlanChange, DayPlanInfo, PassInfo, PassKind, PassState } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { doing } from './actions';
import { get, patch, post } from './api';
import { client } from './queries';

/** Which pass is under way, and what was settled for today. */
export const usePasses = () => useQuery({ queryKey: ['passes'], queryFn: async () => withAhead(await get('/passes')) });
/**
 * Which pass it is time for: the day is opened until it is time to close it; null where none is.
 * @param now wall-clock time, `HH:MM`
 */
export function passDue({ running, today }: PassState, closeAt: string | null, now: string): PassKind | null {
  if (running || isClosed(today)) return null;
  if (closeAt !== null && now >= closeAt) return 'close-day';
  return today.opened === null ? 'open-day' : null;
}

/** Whether the day is closed, and was not opened again. */
export const isClosed = ({ opened, closed }: DayPlanInfo): boolean =>
  closed !== null && (opened === null || Date.parse(opened) <= Date.parse(closed));

/** A day in words. */
export const useOutline = (day: string) => useQuery({ queryKey: ['outline', day], queryFn: () => get('/days/outline', { day }) });

/** Where one went to and the server has not acknowledged yet: an older answer does not lead back. */
let ahead: PassInfo | null = null;
let before: Promise<unknown> = Promise.resolve();

const withAhead = (state: PassState): PassState =>
  ahead && state.running?.id === ahead.id
    ? { ...state, running: { ...state.running, step: ahead.step, notes: ahead.notes } }
    : state;

const hold = (pass: PassInfo) =>
  client.setQueryData<PassState>(
    ['passes'],
    (old) => old && withAhead({ ...old, running: pass.state === 'running' ? pass : null }),
  );

async function telling(work: () => Promise<PassInfo>): Promise<PassInfo | null> {
  const told = before.then(work);
  before = told.catch(() => undefined);
  try {
    const pass = await told;
    hold(pass);
    return pass;
  } catch (problem) {
    useSaid.getState().complain(problem);
    void client.invalidateQueries({ queryKey: ['passes'] });
    return null;
  }
}

/** Begins a pass, or goes on with it. */
export const beginPass = (kind: PassKind) => telling(() => post('/passes', { kind }));

/** Goes to a step; it is shown before the server has answered. */
export async function goInPass(pass: PassInfo, step: string): Promise<void> {
  const here = { ...pass, step };
  ahead = here;
  hold(here);
  await telling(() => patch('/passes/:id', { step }, { id: pass.id })).finally(() => {
    if (ahead === here) ahead = null;
  });
}

export async function endPass(pass: PassInfo, state: 'done' | 'left', said: string): Promise<void> {
  const ended = await telling(() => patch('/passes/:id', { state }, { id: pass.id }));
  void client.invalidateQueries({ queryKey: ['passes'] });
  if (ended && said) useSaid.getState().say(said);
}

export const undoPass = (id: string) =>
  doing(() => post('/passes/:id/undo', undefined, { id }), ['passes', 'tasks', 'days', 'outline']);
export const pick = (change: DayPlanChange) => doing(() => patch('/days', change), ['passes', 'outline']);
