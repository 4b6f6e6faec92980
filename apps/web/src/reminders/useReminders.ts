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
    for (const one of data) {
      const key = `${one.id} ${one.shown}`;
      if (one.shown || claimed.current.has(key)) continue;
      claimed.current.add(key);
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
        () => claimed.current.delete(key),
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
