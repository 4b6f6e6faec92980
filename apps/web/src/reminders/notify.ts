import type { Remind } from '@corvun/core';
import { patch } from '../data/api';
import { client } from '../data/queries';

type Permission = NotificationPermission | 'impossible';

/** Whether the system lets Corvun show notifications; in some browsers it cannot. */
export const permission = (): Permission => ('Notification' in window ? Notification.permission : 'impossible');

/** Asks once; a browser that was told no is not asked again. */
export async function askPermission(): Promise<Permission> {
  if (permission() !== 'default') return permission();
  return Notification.requestPermission();
}

/** The first reminder that is set asks whether the system may show them; where it may, it does from then on. */
export async function firstReminderSet(): Promise<void> {
  if (permission() !== 'default') return;
  if ((await askPermission()) !== 'granted') return;
  const me = client.getQueryData<{ settings: { remind: Remind } }>(['me']);
  if (me && !me.settings.remind.system) await patch('/settings', { remind: { ...me.settings.remind, system: true } });
}
