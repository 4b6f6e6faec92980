import type { EventChange, EventFull } from '@corvun/contract';
import { useState } from 'react';
import { changeEvent } from '../data/calendarActions';
import { firstReminderSet } from '../reminders/notify';
import { usePlanning, type Scope } from '../places/plan/planning';
import { useLetters } from './drafts';
import { noteKey } from './TellFirst';

export interface EventSaving {
  save: (change: EventChange) => Promise<boolean>;
  scope: Scope;
  choose: (scope: Scope) => void;
  /** What waits for the answer whether its guests are told; null: nothing does. */
  waiting: EventChange | null;
  /** @param tell what they are told; left out: nothing */
  answer: (tell?: string) => void;
  forget: () => void;
}

/** Saves what is changed on the sheet of an event. Where others would have to hear of it, that is asked first. */
export function useEventSave(event: EventFull, replace: (id: string, date: string | null) => void): EventSaving {
  const { scope, choose } = usePlanning();
  const [waiting, setWaiting] = useState<EventChange | null>(null);
  const send = async (change: EventChange, tell?: string): Promise<boolean> => {
    const told = tell === undefined ? {} : { tell };
    const answer = await changeEvent(event.id, {
      ...change,
      ...whichDates(event, scope, change),
      ...told,
      version: event.version,
    });
    if (!answer) return false;
    if (change.alarms?.length) void firstReminderSet();
    if (answer.id !== event.id || answer.occurrence !== event.occurrence) replace(answer.id, answer.occurrence);
    return true;
  };
  const forget = () => {
    setWaiting(null);
    useLetters.getState().write(noteKey(event.id), null);
  };
  return {
    save: async (change) => {
      if (!Object.keys(change).length) return true;
      const all = { ...waiting, ...change };
      if (!waiting && !concernsOthers(event, change)) return send(change);
      setWaiting(all);
      return true;
    },
    scope,
    choose,
    waiting,
    answer: (tell) => {
      if (!waiting) return;
      void send(waiting, tell).then((kept) => kept && forget());
    },
    forget,
  };
}

/** How much of a series a change is for; a rule or another calendar is never for one date alone. */
function whichDates({ occurrence }: EventFull, scope: Scope, change: EventChange): Pick<EventChange, 'scope' | 'occurrence'> {
  if (!occurrence) return {};
  const least = change.calendarId !== undefined ? 'all' : change.repeat !== undefined && scope === 'this' ? 'following' : scope;
  return { occurrence, scope: least };
}

/** What only the user sees of it. */
const OWN = new Set(['category', 'alarms', 'buffers', 'private', 'showAs', 'calendarId']);

const concernsOthers = (event: EventFull, change: EventChange): boolean =>
  (event.others && Object.keys(change).some((field) => !OWN.has(field))) ||
  (change.guests?.some((guest) => guest.includes('@')) ?? false);
