import type { Me, SettingsChange } from '@corvun/contract';
import { withChoices } from '@corvun/core';
import { followServerClock } from '../parts/useNow';
import { get, patch } from './api';
import { inOrder } from './inOrder';

/** What holds already and has not been acknowledged yet, oldest first. */
let chosen: SettingsChange[] = [];

/** What is known of the user with a choice made upon it. */
export const withChoice = (me: Me, change: SettingsChange): Me => ({
  ...me,
  settings: withChoices(me.settings, change),
});

/** What is known of the user with everything that is on its way made upon it. */
export const withHeld = (me: Me): Me => chosen.reduce(withChoice, me);

/** Reads the user; what was chosen meanwhile holds, so that an answer that is older does not take it back. */
export async function readMe(): Promise<Me> {
  const me = await get('/me');
  followServerClock(me);
  return withHeld(me);
}

/**
 * Sends a choice after those that were made before it.
 * @param holds whether it is shown before the server says so
 * @returns the sentence of the server
 * @throws RequestError with what is wrong
 */
export async function sendChoice(change: SettingsChange, holds: boolean): Promise<string> {
  if (holds) chosen = [...chosen, change];
  try {
    return (await inOrder(() => patch('/settings', change))).sentence;
  } finally {
    chosen = chosen.filter((one) => one !== change);
  }
}
