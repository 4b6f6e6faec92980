import type { Done, NowState, PresenceChange, TimeChange, TimeInput } from '@corvun/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { doing } from './actions';
import { get, patch, post, remove } from './api';
import { client } from './queries';

const KEYS = ['now', 'tasks', 'task', 'days'];
/** Loose ends come by themselves as time goes by. */
const ASK_EVERY = 60_000;

/** The timer, heads-down, what was left for something else, and loose ends. */
export const useNowState = (live = false) =>
  useQuery({ queryKey: ['now'], queryFn: () => get('/now'), refetchInterval: live ? ASK_EVERY : false });

/** What can be done in so many minutes; what it says how many goes with the answer. */
export const useFits = (minutes: number) =>
  useQuery({
    queryKey: ['fits', minutes],
    queryFn: async () => ({ minutes, fits: await get('/now/fits', { minutes: String(minutes) }) }),
    enabled: minutes >= 1 && minutes <= 600,
    // As time goes by it is fewer of them: what is shown stays until the answer is there.
    placeholderData: keepPreviousData,
  });

export const startTimer = (id: string) => doing(() => post('/tasks/:id/timer', undefined, { id }), KEYS);
/** @param pause something came up */
export const stopTimer = (pause = false) => doing(() => post('/timer/stop', pause ? { pause } : {}), KEYS);
export const addTime = (id: string, input: TimeInput) => doing(() => post('/tasks/:id/time', input, { id }), KEYS);
export const changeTime = (id: string, change: TimeChange) => doing(() => patch('/time/:id', change, { id }), KEYS);
export const removeTime = (id: string) => doing(() => remove('/time/:id', { id }), KEYS);
export const takesLonger = (id: string, minutes: number) => doing(() => post('/blocks/:id/longer', { minutes }, { id }), KEYS);
export const beginHeadsDown = (task: string) => doing(() => post('/heads-down', { task }), KEYS);
export const turnHeadsDown = () => doing(() => post('/heads-down/turn', undefined), KEYS);

/** Ends heads-down; it is over on the screen at once. */
export function leaveHeadsDown() {
  client.setQueryData<NowState>(['now'], (old) => old && { ...old, headsDown: null });
  return doing(() => remove('/heads-down'), KEYS);
}

/** How one is, as others see it. */
export const usePresence = () =>
  useQuery({ queryKey: ['presence'], queryFn: () => get('/presence'), refetchInterval: ASK_EVERY / 2 });

/** What is held back in quiet time, now and next, and whether something does it. */
export const useQuiet = () => useQuery({ queryKey: ['quiet'], queryFn: () => get('/quiet'), refetchInterval: ASK_EVERY / 2 });

/** @param raises whether what is wrong is thrown, to be said beside its field. @throws RequestError */
export async function sayPresence(change: PresenceChange, raises = false): Promise<Done | null> {
  const send = () => patch('/presence', change);
  if (!raises) return doing(send, ['presence']);
  const done = await send();
  useSaid.getState().say(done.sentence);
  return done;
}
