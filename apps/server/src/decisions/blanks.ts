import { NO_FACTS, READER_VERSION, boundsOf, type EventTimes } from '@corvun/core';
import type { Row } from '../base/row';
import type { Incoming } from '../incoming/incoming.entity';
import type { Event } from '../events/event.entity';
import type { Task } from '../tasks/task.entity';

/** A task of which nothing is said yet. */
export function blankTask(): Omit<Task, keyof Row> {
  return {
    title: '',
    notes: '',
    listId: null,
    parentId: null,
    position: 0,
    dayOrder: 0,
    tags: [],
    priority: 'normal',
    estimate: null,
    spent: 0,
    billable: false,
    status: 'NEEDS-ACTION',
    completed: null,
    plannedDay: null,
    plannedWeek: null,
    deadline: null,
    deadlineFixed: false,
    notBefore: null,
    repeat: null,
    repeatFrom: 'schedule',
    repeatOn: null,
    concentration: 'medium',
    waitingOn: null,
    waitingSince: null,
    waitingUntil: null,
    nudged: null,
    waitingThread: null,
    answeredBy: null,
    assignedTo: null,
    reminder: null,
    shelved: false,
    lookAgain: null,
    leftOpen: null,
    incomingId: null,
    links: [],
    textId: null,
    attachments: null,
  };
}

/** A confirmed event of which nothing is said yet but when it is. @param reader zone of whoever keeps it */
export function blankEvent(
  { duration = null, ...times }: EventTimes,
  reader: string,
  rrule: string | null = null,
): Omit<Event, keyof Row | 'calendarId' | 'uid'> {
  return {
    ...times,
    ...boundsOf({ ...times, duration, rrule, rdates: [] }, reader),
    sequence: 0,
    recurrenceId: '',
    title: '',
    description: '',
    location: '',
    meetingLink: '',
    buffers: null,
    mirror: null,
    organizer: '',
    attendees: [],
    status: 'CONFIRMED',
    transparent: false,
    class: 'PUBLIC',
    category: '',
    rrule,
    rdates: [],
    exdates: [],
    incomingId: null,
    partstat: null,
    stamp: 0,
    link: '',
    duration,
    endZone: null,
    alarms: null,
    exrule: null,
    textId: null,
    following: false,
  };
}

/** A waiting incoming of which nothing is said yet. */
export function blankIncoming(): Omit<
  Incoming,
  keyof Row | 'source' | 'externalId' | 'kind' | 'subject' | 'received' | 'threadKey' | 'originalSize'
> {
  return {
    senderName: '',
    senderAddress: '',
    recipients: [],
    written: null,
    text: '',
    html: null,
    heldBack: '',
    problems: [],
    originalHash: null,
    attachmentCount: 0,
    bulk: false,
    facts: { ...NO_FACTS },
    readerVersion: READER_VERSION,
    readTitle: '',
    hints: {},
    state: 'waiting',
    outcome: null,
    outcomeListId: null,
    decided: null,
    sourceId: null,
    link: '',
    note: '',
    invitation: null,
    context: null,
    conflict: null,
    joinedTo: null,
  };
}
