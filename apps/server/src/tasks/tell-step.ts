import { MINUTE, dayOf, sayDay, sayMinutes, sayTime, tellTask, type Content, type Step, type Telling } from '@corvun/core';

/** How a thing came to be, by what was done. */
const MADE: Record<string, string> = { decide: 'made from the message', capture: 'written down' };

/** A step of the log on a task, one of its blocks or files, in words. @param zone of whoever reads it */
export function tellStep({ kind, before, after }: Step, action: string | null, zone: string, telling: Telling): string[] {
  if (kind === 'task') {
    if (before && after) return tellTask(before, after, telling);
    return [after ? (MADE[action ?? ''] ?? 'made') : 'taken away'];
  }
  if (kind === 'block') return [tellBlock(before, after, zone, telling.today)];
  if (kind === 'taskFile') return [tellFile(before, after)];
  return [];
}

function tellFile(before: Content | null, after: Content | null): string {
  const name = (content: Content) => (typeof content['name'] === 'string' ? `“${content['name']}”` : 'a file');
  if (!before) return after ? `${name(after)} put to it` : '';
  return after ? `${name(before)} is called ${name(after)} now` : `${name(before)} taken away`;
}

function tellBlock(before: Content | null, after: Content | null, zone: string, today: string): string {
  const when = (start: unknown, lead: string) =>
    typeof start === 'number' ? `${lead}${sayDay(dayOf(start, zone), today)}, ${sayTime(start, zone)}` : '';
  if (!after) return `time given back${when(before?.['startAt'], ': ')}`;
  if (before && 'startAt' in after) return `time moved${when(after['startAt'], ' to ')}`;
  if (before) return 'endAt' in after ? 'time made longer or shorter' : `its time is shown as ${after['busy'] ? 'busy' : 'free'}`;
  const minutes = (Number(after['endAt']) - Number(after['startAt'])) / MINUTE;
  return `time set aside${when(after['startAt'], ': ')}${minutes > 0 ? `, ${sayMinutes(minutes)}` : ''}`;
}
