import {
  EMPTY,
  parentSaid,
  putTogether,
  withZones,
  writeEvent,
  writeTodo,
  zonesSince,
  type OwnText as Text,
} from '@corvun/formats';
import { In, type EntityManager } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { taskWithUid } from '../dav/names';
import type { Reader } from '../events/event-state';
import type { Event } from '../events/event.entity';
import { written } from '../events/written';
import type { Task } from '../tasks/task.entity';
import { todoOf } from '../tasks/tasks-out';
import type { Differing } from './changed-texts';
import { OwnText } from './own-text.entity';
import { hashOf, saidOfEvent, saidOfTask, type Said, type TaskPlace } from './state';

/** How texts are changed: here, or in a thread. */
export type Changing = (all: Differing[], reader: Reader) => Promise<Text[]> | Text[];

/** A task on its way out. */
export interface TaskOut extends TaskPlace {
  task: Task;
}

const AT_ONCE = 500;

export const readerOf = ({ email, captureAddress, settings, zone }: User): Reader => ({
  ...{ email, captureAddress, zone },
  settings: { addresses: settings.addresses ?? [] },
});

/** Text of each event that leaves: its own, with what the row says otherwise. @param all among which the series are */
export async function eventTexts(
  manager: EntityManager,
  user: User,
  rows: readonly Event[],
  changing: Changing,
  all: readonly Event[] = rows,
): Promise<Text[]> {
  const place = (row: Event) => `${row.calendarId}\n${row.uid}`;
  const seriesOf = new Map(all.filter((row) => !row.recurrenceId).map((row) => [place(row), row]));
  const outs = rows.map((row): Out => {
    const series = row.recurrenceId ? seriesOf.get(place(row)) : undefined;
    return {
      // A date that was changed here is one of its series, with all that is known of that.
      textId: row.textId ?? series?.textId ?? null,
      said: () => saidOfEvent(row, user),
      series: series ? { zone: series.zone, allDay: series.allDay } : null,
      list: '',
      wanted: () => writeEvent(written([row], [row, ...(series ? [series] : [])])[0] as never, user.email),
    };
  });
  return textsOf(manager, user, outs, changing);
}

/** Text of each task that leaves. @param lists by their ids, where a task without a text says its list among its categories */
export const taskTexts = (
  manager: EntityManager,
  user: User,
  tasks: readonly TaskOut[],
  changing: Changing,
  lists?: ReadonlyMap<string, string>,
): Promise<Text[]> =>
  textsOf(
    manager,
    user,
    tasks.map((one) => ({
      textId: one.task.textId,
      said: () => saidOfTask(one.task, one),
      series: null,
      list: one.list,
      alone: one.parent === null,
      wanted: () => writeTodo({ ...todoOf(one.task, user.zone, lists), uid: one.uid, parent: one.parent }, user.email),
    })),
    changing,
  );

interface Out extends Pick<Differing, 'series' | 'list'> {
  textId: string | null;
  /** Of a task that is no step here: it may be one of something that is not here. */
  alone?: boolean;
  said: () => Said;
  wanted: () => Text;
}

async function textsOf(manager: EntityManager, user: User, outs: readonly Out[], changing: Changing): Promise<Text[]> {
  const texts: Text[] = [];
  for (let from = 0; from < outs.length; from += AT_ONCE) {
    const some = outs.slice(from, from + AT_ONCE);
    const ids = [...new Set(some.flatMap(({ textId }) => textId ?? []))];
    const known = new Map(
      ids.length ? (await manager.findBy(OwnText, { id: In(ids), ownerId: user.id })).map((one) => [one.id, one]) : [],
    );
    const differing: { at: number; one: Differing }[] = [];
    for (const { textId, said, wanted, series, list, alone = false } of some) {
      const own = textId === null ? undefined : known.get(textId);
      const here = own && said();
      if (!own || !here) texts.push(wanted());
      else if (hashOf(here) === own.said) texts.push({ text: own.text, around: own.around });
      else {
        const { text, around } = own;
        const parent = alone && (await strangeParent(manager, user, text));
        const one = { own: { text, around }, wanted: wanted(), here: { ...here, ...(parent ? { parent } : {}) }, series, list };
        differing.push({ at: texts.length, one });
        texts.push({ text, around });
      }
    }
    if (!differing.length) continue;
    const changed = await changing(
      differing.map(({ one }) => one),
      readerOf(user),
    );
    for (const [index, { at, one }] of differing.entries()) texts[at] = changed[index] ?? one.wanted;
  }
  return texts;
}

/** The UID of what a task is a step of elsewhere, and which is not here: that is not for a row to say. */
async function strangeParent(manager: EntityManager, user: User, text: string): Promise<string> {
  const uid = parentSaid(text);
  return uid && !(await taskWithUid(manager, user.id, uid)) ? uid : '';
}

/** One object (RFC 4791, 4.1): the calendar that its text stood in, with all its parts. */
export function objectOf(texts: readonly Text[]): string {
  const isWhole = ({ around }: Text) => /^BEGIN:\s*VCALENDAR/i.test(around);
  // Of an object with several parts the calendar is kept with one of them.
  const [whole] = texts.filter(isWhole).sort((a, b) => b.around.length - a.around.length);
  if (!whole) return putTogether(EMPTY, texts);
  // What was written here beside it explains its zones.
  const parts = texts.map((one) => (isWhole(one) ? one : { ...one, around: withZones(one.around, zonesSince(one.text, '')) }));
  return putTogether(whole.around, parts, true);
}
