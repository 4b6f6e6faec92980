import type {
  DayPlanChange,
  DecksInput,
  PassChange,
  PassInfo,
  PassKind,
  PassState,
  ShortlistChange,
  ShortlistInfo,
} from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useSaid } from '../state/said';
import { doing } from './actions';
import { get, patch, post } from './api';
import { inOrder } from './inOrder';
import { client } from './queries';

/** Which pass is under way, and what was settled for today. */
export const usePasses = () => useQuery({ queryKey: ['passes'], queryFn: async () => withAhead(await get('/passes')) });
/** A day in words. */
export const useOutline = (day: string) => useQuery({ queryKey: ['outline', day], queryFn: () => get('/days/outline', { day }) });

/** Where one went to and the server has not acknowledged yet: an older answer does not lead back. */
let ahead: PassInfo | null = null;

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
  try {
    const pass = await inOrder(work);
    hold(pass);
    return pass;
  } catch (problem) {
    useSaid.getState().complain(problem);
    void client.invalidateQueries({ queryKey: ['passes'] });
    return null;
  }
}

/** Whether the pass that is begun leads to its place: one that is there already stays beside the address one asked for. */
let leads = false;

/** Begins a pass, or goes on with it. */
export function beginPass(kind: PassKind): Promise<PassInfo | null> {
  leads = true;
  return telling(() => post('/passes', { kind }));
}

/** Whether it was begun just now, in this window; said once. */
export function wasBegun(): boolean {
  const just = leads;
  leads = false;
  return just;
}

/** Goes to a step, or notes something; it is shown before the server has answered. */
export async function goInPass(pass: PassInfo, change: Pick<PassChange, 'step' | 'notes'>): Promise<void> {
  const here = { ...pass, step: change.step ?? pass.step, notes: { ...pass.notes, ...change.notes } };
  ahead = here;
  hold(here);
  await telling(() => patch('/passes/:id', change, { id: pass.id })).finally(() => {
    if (ahead === here) ahead = null;
  });
}

export async function endPass(pass: PassInfo, state: 'done' | 'left', said: string): Promise<void> {
  const ended = await telling(() => patch('/passes/:id', { state }, { id: pass.id }));
  void client.invalidateQueries({ queryKey: ['passes'] });
  if (!ended || !said) return;
  useSaid.getState().say(said, 'undo', { name: 'Take back what it did', run: () => void undoPass(pass.id) });
}

export const undoPass = (id: string) =>
  doing(() => post('/passes/:id/undo', undefined, { id }), ['passes', 'tasks', 'days', 'outline']);
const NO_SHORTLIST: ShortlistInfo = { picks: [], projects: [], quietUntil: null };
export const useShortlist = (): ShortlistInfo => usePasses().data?.shortlist ?? NO_SHORTLIST;
/** Says what is on the shortlist, and how long it is quiet. */
export const changeShortlist = (change: ShortlistChange) =>
  doing(() => patch('/shortlist', change), ['passes', 'tasks', 'projects']);
/** What shelving the rest would do. */
export const useRest = () => useQuery({ queryKey: ['rest'], queryFn: () => get('/shortlist/rest') });
export const shelveRest = (input: DecksInput) => doing(() => post('/shortlist/rest', input), ['tasks', 'days', 'rest']);
export const pick = (change: DayPlanChange) => doing(() => patch('/days', change), ['passes', 'outline']);
