import type { Me, ReminderInfo } from '@corvun/contract';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { get, post } from '../data/api';
import { client } from '../data/queries';
import { useSaid } from '../state/said';
import { permission } from './notify';

const KEY = ['reminders'];

/** What is to be thought of now; each is shown by the system, too, where that is wanted, by the first window that asks. */
export function useReminders(me: Me, open: (one: ReminderInfo) => void, sayWhen: (one: ReminderInfo) => string) {
  const { data = [] } = useQuery({ queryKey: KEY, queryFn: () => get('/reminders') });
  const claimed = useRef(new Set<string>());
  const { system } = me.settings.remind;
  useEffect(() => {
    if (!system || permission() !== 'granted') return;
    // What was put off comes back, and wants to be told again.
    for (const id of claimed.current) if (!data.some((one) => one.id === id && !one.shown)) claimed.current.delete(id);
    for (const one of data) {
      if (one.shown || claimed.current.has(one.id)) continue;
      claimed.current.add(one.id);
      void post('/reminders/:id/shown', undefined, { id: one.id }).then(
        ({ first }) => {
          if (!first) return;
          const shown = new Notification(one.title, {
            body: [sayWhen(one), one.location].filter(Boolean).join('\n'),
            tag: one.id,
          });
          shown.onclick = () => {
            window.focus();
            open(one);
            shown.close();
          };
        },
        // Another window has it, or it is gone; nothing is lost, it stands here.
        () => claimed.current.delete(one.id),
      );
    }
  }, [data, open, sayWhen, system]);
  return data;
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
