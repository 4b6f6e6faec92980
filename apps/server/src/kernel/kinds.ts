import type { EntityManager, ObjectLiteral } from 'typeorm';
import { blockKind } from '../blocks/block.kind';
import { calendarKind } from '../calendars/calendar.kind';
import { captureKeys } from '../capture/capture-keys';
import { headsDownKind, presenceKind, timeEntryKind } from '../doing/doing.kinds';
import { eventFileKind } from '../events/event-file.kind';
import { eventKind } from '../events/event.kind';
import { attachments, incomingKind } from '../incoming/incoming.kind';
import { listKind } from '../lists/list.kind';
import { checkInAnswerKind, checkInKind, logLineKind } from '../lookback/lookback.kinds';
import { mirrorKind } from '../mirrors/mirror.kind';
import { noteKind } from '../notes/note.kind';
import { ownTexts } from '../own-text/own-text.kind';
import { bookingKind, meetPageKind, offerKind, shareKind } from '../others/others.kinds';
import { dayPlanKind, passKind, shortlistKind } from '../passes/passes.kinds';
import { personKind } from '../people/person.kind';
import { graceKind, siteHoldKind } from '../quiet/quiet.kinds';
import { counterpartKind, outboxKind, remotes, sources } from '../sources/source.kinds';
import { reminderKind } from '../reminders/reminder.kind';
import { settingsKind } from '../settings/settings.kind';
import { tagKind } from '../tags/tag.kind';
import { taskFileKind } from '../tasks/task-file.kind';
import { taskKind } from '../tasks/task.kind';
import { viewKind } from '../views/kept-view.kind';
import type { Owned } from './kind';
import { log } from './log';

/** Every kind of object, under the name it has in the log and in the stream. */
export const KINDS = {
  list: listKind,
  view: viewKind,
  tag: tagKind,
  calendar: calendarKind,
  person: personKind,
  incoming: incomingKind,
  task: taskKind,
  taskFile: taskFileKind,
  block: blockKind,
  event: eventKind,
  eventFile: eventFileKind,
  note: noteKind,
  counterpart: counterpartKind,
  outbox: outboxKind,
  settings: settingsKind,
  reminder: reminderKind,
  share: shareKind,
  meetPage: meetPageKind,
  booking: bookingKind,
  offer: offerKind,
  mirror: mirrorKind,
  dayPlan: dayPlanKind,
  pass: passKind,
  shortlist: shortlistKind,
  timeEntry: timeEntryKind,
  headsDown: headsDownKind,
  presence: presenceKind,
  siteHold: siteHoldKind,
  grace: graceKind,
  logLine: logLineKind,
  checkIn: checkInKind,
  checkInAnswer: checkInAnswerKind,
} as const;

export type Kind = keyof typeof KINDS;
export type RowOf<K extends Kind> = InstanceType<(typeof KINDS)[K]['entity']>;

/** What the kind of a row changes in it before it is written; nothing where it may stand as it is. */
export function settled(kind: Kind, manager: EntityManager, row: ObjectLiteral): Promise<ObjectLiteral> | ObjectLiteral {
  const settle = KINDS[kind].settle as ((manager: EntityManager, row: ObjectLiteral) => Promise<ObjectLiteral>) | undefined;
  return settle?.(manager, row) ?? {};
}

/** Whether a name in the log is that of a kind. */
export const isKind = (name: string): name is Kind => name in KINDS;

const {
  list,
  view,
  tag,
  calendar,
  person,
  incoming,
  task,
  taskFile,
  block,
  event,
  eventFile,
  note,
  counterpart,
  outbox,
  reminder,
  share,
  meetPage,
  booking,
  offer,
  mirror,
  dayPlan,
  pass,
  shortlist,
  timeEntry,
  headsDown,
  presence,
  siteHold,
  grace,
  logLine,
  checkIn,
  checkInAnswer,
} = KINDS;

/** Every table whose rows belong to users, in the order in which an export can be read in. */
export const OWNED: readonly Owned[] = [
  ...[
    list,
    view,
    tag,
    calendar,
    person,
    sources,
    incoming,
    attachments,
    ownTexts,
    task,
    taskFile,
    block,
    event,
    eventFile,
    note,
    counterpart,
    remotes,
    outbox,
    reminder,
    share,
    meetPage,
    booking,
    offer,
    mirror,
    dayPlan,
    pass,
    shortlist,
    timeEntry,
    headsDown,
    presence,
    siteHold,
    grace,
    logLine,
    checkIn,
    checkInAnswer,
  ],
  log,
  captureKeys,
];
