import type { ChangedByRequest, DecideInput, UndoAnswer } from '@corvun/contract';
import { useSaid } from '../state/said';
import { post } from './api';
import { inOrder } from './inOrder';
import { client } from './queries';

const refresh = (...keys: string[]) => Promise.all(keys.map((key) => client.invalidateQueries({ queryKey: [key] })));

/** Runs a change, says what was done, and says what went wrong; null when it was refused. What was refused may be old: `keys` are asked for again. */
export async function doing<T extends { sentence: string; decision?: string }>(
  work: () => Promise<T>,
  keys: string[],
): Promise<T | null> {
  try {
    const answer = await inOrder(work);
    // What changed nothing is no doing: undo would take back the one before.
    useSaid.getState().say(answer.sentence, answer.decision === '' ? 'none' : 'undo');
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    void refresh(...keys);
    return null;
  }
}

export const decide = (input: DecideInput) => doing(() => post('/decisions', input), ['lists', 'tasks', 'days', 'notes']);
/** Puts what was decided back into the inbox. */
export const reopen = (id: string) => doing(() => post('/incoming/:id/reopen', undefined, { id }), ['inbox', 'incoming']);
/** @param asSaid in a quiet time, too, it becomes what it says */
export const capture = (text: string, asSaid = false) =>
  doing(() => post('/captures', asSaid ? { text, inbox: false } : { text }), ['tasks', 'lists', 'days', 'tags']);

/** A thought for the inbox, whatever it says of days and lists. */
export const gather = (text: string) => doing(() => post('/captures', { text, inbox: true }), ['tags']);
async function turn(path: 'undo' | 'redo', lead: string): Promise<UndoAnswer | null> {
  try {
    const answer = await inOrder(() => post(`/decisions/${path}`, undefined));
    const pass = path === 'undo' ? passIn(answer) : undefined;
    if (pass) sayOpenAgain(pass);
    else useSaid.getState().say(`${lead}: ${answer.sentence}`, path === 'undo' ? 'none' : 'undo');
    return answer;
  } catch (problem) {
    useSaid.getState().complain(problem);
    return null;
  }
}

/** The pass whose end was taken back. */
const passIn = (answer: UndoAnswer & { changed?: ChangedByRequest }): string | undefined =>
  answer.changed?.changes.find(({ kind }) => kind === 'pass')?.ids[0];

/** What was done in a pass is not its end: that is taken back by itself. */
function sayOpenAgain(pass: string): void {
  useSaid.getState().say('The pass goes on; what was done in it stays', 'none', {
    name: 'Take that back, too',
    run: () => void doing(() => post('/passes/:id/undo', undefined, { id: pass }), ['passes', 'tasks', 'days', 'outline']),
  });
}

export const undo = () => turn('undo', 'Taken back');
export const redo = () => turn('redo', 'Done again');
