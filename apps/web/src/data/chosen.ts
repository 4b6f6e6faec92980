import type { Me, SettingsChange } from '@corvun/contract';
import { withChoices } from '@corvun/core';
import { followServerClock } from '../parts/useNow';
import { get, patch } from './api';

/** What holds already and has not been acknowledged yet, oldest first. */
let chosen: SettingsChange[] = [];
let before: Promise<unknown> = Promise.resolve();
let leaving: Promise<unknown> | null = null;

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
  // When the page goes away nothing waits for an answer any more: what is not sent by then would be lost.
  leaving ??= new Promise((resolve) => addEventListener('pagehide', resolve, { once: true }));
  const sent = Promise.race([before, leaving]).then(() => patch('/settings', change));
  before = sent.catch(() => undefined);
  try {
    return (await sent).sentence;
  } finally {
    chosen = chosen.filter((one) => one !== change);
  }
}
