import type { Content } from '../journal/steps';
import { SAID_WHY, type LeftWhy } from '../planning/weekReview';
import { count, sayDay, sayMinutes, sayMoment } from '../text/say';
import { sayRule } from '../text/sayRule';
import type { Day } from '../time/zones';

/** What is needed to say it: today, and the names of what ids stand for. */
export interface Telling {
  today: Day;
  /** Name of a list; empty where it is not there any more. */
  listName: (id: string) => string;
  /** Title of a task; empty where it is not there any more. */
  taskTitle: (id: string) => string;
}

type Tell = (after: Content, before: Content, telling: Telling) => string[];

const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const minutes = (value: unknown): string => (typeof value === 'number' && value > 0 ? sayMinutes(value) : '');
const strings = (value: unknown): string[] => (Array.isArray(value) ? (value as string[]) : []);

const STATUS: Record<string, string> = {
  'NEEDS-ACTION': 'open again',
  'IN-PROCESS': 'begun',
  COMPLETED: 'done',
  CANCELLED: 'dropped',
};

/** Column by column, in the order in which it is told. What no row names is told by nobody. */
const TOLD: Record<string, Tell> = {
  title: ({ title }) => [`called “${text(title)}”`],
  status: ({ status }) => [STATUS[text(status)] ?? ''],
  listId: ({ listId }, _, { listName }) => [listId ? `on ${listName(text(listId)) || 'a list that is gone'}` : 'on no list'],
  parentId: ({ parentId }, _, { taskTitle }) => [
    parentId ? `a step of “${taskTitle(text(parentId)) || 'a task that is gone'}”` : 'a task of its own',
  ],
  plannedDay: ({ plannedDay, plannedWeek }, _, { today }) =>
    plannedDay ? [`on ${sayDay(text(plannedDay), today)}`] : plannedWeek ? [] : ['on no day'],
  plannedWeek: ({ plannedWeek, plannedDay }) =>
    plannedWeek ? [`in week ${Number(text(plannedWeek).slice(6))}`] : plannedDay === undefined ? ['in no week'] : [],
  deadline: ({ deadline, deadlineFixed }, before, { today }) => {
    const was = before['deadline'] ? `, was ${sayMoment(text(before['deadline']), today)}` : '';
    if (!deadline) return [`no deadline${was}`];
    const kind = deadlineFixed === undefined ? '' : deadlineFixed ? ', fixed' : ', flexible';
    return [`due ${sayMoment(text(deadline), today)}${kind}${was}`];
  },
  deadlineFixed: ({ deadline, deadlineFixed }) =>
    deadline === undefined ? [`deadline ${deadlineFixed ? 'fixed' : 'flexible'}`] : [],
  notBefore: ({ notBefore }, _, { today }) => [notBefore ? `not before ${sayDay(text(notBefore), today)}` : 'from any day on'],
  estimate: ({ estimate }, before) => {
    const was = minutes(before['estimate']);
    return [`${estimate ? `takes ${minutes(estimate)}` : 'length not known'}${was ? `, was ${was}` : ''}`];
  },
  spent: ({ spent }) => [minutes(spent) ? `${minutes(spent)} spent` : 'no time spent'],
  concentration: ({ concentration }) => [`${text(concentration)} work`],
  priority: ({ priority }) => [`${text(priority)} priority`],
  tags: ({ tags }, before) => {
    const [now, then] = [strings(tags), strings(before['tags'])];
    return [
      ...now.filter((tag) => !then.includes(tag)).map((tag) => `#${tag} added`),
      ...then.filter((tag) => !now.includes(tag)).map((tag) => `#${tag} taken off`),
    ];
  },
  repeat: ({ repeat, status }, _, { today }) => [
    repeat ? `repeats ${sayRule(text(repeat), today)}` : status === 'COMPLETED' ? 'comes again' : 'does not repeat',
  ],
  repeatFrom: ({ repeatFrom }) => [`repeat counted from ${repeatFrom === 'completion' ? 'when it is done' : 'the schedule'}`],
  reminder: ({ reminder }, _, { today }) => [reminder ? `reminder ${sayMoment(text(reminder), today)}` : 'no reminder'],
  waitingOn: ({ waitingOn, answeredBy }, before) => [
    waitingOn ? `waiting on ${text(waitingOn)}` : answeredBy ? `${text(before['waitingOn'])} answered` : 'waits for nobody',
  ],
  nudged: ({ nudged }) => (nudged ? ['asked again'] : []),
  waitingUntil: ({ waitingUntil }, _, { today }) => [
    waitingUntil ? `until ${sayDay(text(waitingUntil), today)}` : 'waits without an end',
  ],
  assignedTo: ({ assignedTo }) => [assignedTo ? `done by ${text(assignedTo)}` : 'done by yourself'],
  shelved: ({ shelved }) => [shelved ? 'on the shelf' : 'off the shelf'],
  lookAgain: ({ lookAgain }, _, { today }) => (lookAgain ? [`look again ${sayDay(text(lookAgain), today)}`] : []),
  leftOpen: ({ leftOpen }) => (leftOpen ? [`not finished, ${SAID_WHY[leftOpen as LeftWhy]}`] : []),
  billable: ({ billable }) => [billable ? 'billable' : 'not billable'],
  notes: () => ['notes changed'],
  links: ({ links }) => [Array.isArray(links) && links.length ? count(links.length, 'link') : 'no links'],
  attachments: ({ attachments }) => [
    Array.isArray(attachments)
      ? `carries ${count(attachments.length, 'file')} of its message`
      : 'carries all files of its message',
  ],
};

/**
 * What changed of a task, in words, one for each thing: `due Mon 31 Aug, fixed, was Fri 28 Aug`. Empty where only its
 * place among others changed.
 * @param before,after the columns that differ
 */
export const tellTask = (before: Content, after: Content, telling: Telling): string[] =>
  Object.entries(TOLD).flatMap(([column, tell]) => (column in after ? tell(after, before, telling).filter(Boolean) : []));
