import type { Me, ReminderInfo } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { get, post } from '../data/api';
import { usePresence } from '../data/doing';
import { client } from '../data/queries';
import { useSaid } from '../state/said';
import { heldBack } from './words';
import { permission } from './notify';

const KEY = ['reminders'];
const NONE: ReminderInfo[] = [];

/**
 * What is to be thought of now; it is shown by the system, too, where that is wanted, by the first window that asks. In quiet
 * time only what others wait for is: the rest is told together when that is over.
 */
export function useReminders(me: Me, open: (one: ReminderInfo) => void, sayWhen: (one: ReminderInfo) => string) {
  const { data = NONE } = useQuery({ queryKey: KEY, queryFn: () => get('/reminders') });
  // What can wait waits until it is known whether it is quiet.
  const { data: seen, isError } = usePresence();
  const quiet = seen?.dnd ?? !isError;
  const claimed = useRef(new Set<string>());
  const { system } = me.settings.remind;
  useEffect(() => {
    if (!system || permission() !== 'granted') return;
    // What was put off comes back, and wants to be told again.
    for (const id of claimed.current) if (!data.some((one) => one.id === id && !one.shown)) claimed.current.delete(id);
    const due = data.filter((one) => !one.shown && !claimed.current.has(one.id) && !(quiet && heldBack(one)));
    for (const { id } of due) claimed.current.add(id);
    const claims = due.map((one) =>
      post('/reminders/:id/shown', undefined, { id: one.id }).then(
        ({ first }) => (first ? [one] : []),
        () => {
          // Another window has it, or it is gone; nothing is lost, it stands here.
          claimed.current.delete(one.id);
          return [];
        },
      ),
    );
    void Promise.all(claims).then((own) => tell(own.flat(), open, sayWhen));
  }, [data, open, sayWhen, system, quiet]);
  return useMemo(() => (quiet ? data.filter((one) => !heldBack(one)) : data), [data, quiet]);
}

/** One notification, for one thing or for what has gathered. */
function tell(due: readonly ReminderInfo[], open: (one: ReminderInfo) => void, sayWhen: (one: ReminderInfo) => string): void {
  const [one, ...more] = due;
  if (!one) return;
  const shown = more.length
    ? new Notification(`${due.length} things to think of`, { body: due.map(({ title }) => title).join('\n'), tag: 'together' })
    : new Notification(one.title, { body: [sayWhen(one), one.location].filter(Boolean).join('\n'), tag: one.id });
  shown.onclick = () => {
    window.focus();
    if (!more.length) open(one);
    shown.close();
  };
}

/** Takes reminders away at once, and brings them back where that cannot be done. */
async function taken(ids: readonly string[], send: () => Promise<unknown>): Promise<void> {
  client.setQueryData<ReminderInfo[]>(KEY, (old) => old?.filter(({ id }) => !ids.includes(id)));
  try {
    await send();
  } catch (problem) {
    useSaid.getState().complain(problem);
    await client.invalidateQueries({ queryKey: KEY });
  }
}

export const thoughtOf = (ids: string[]) => taken(ids, () => post('/reminders/done', { ids }));
export const putOff = (id: string, minutes: number) => taken([id], () => post('/reminders/:id/snooze', { minutes }, { id }));
