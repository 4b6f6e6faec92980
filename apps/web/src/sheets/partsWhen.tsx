import type { DayInfo, TaskChange } from '@corvun/contract';
import {
  addDays,
  daysFrom,
  minutesBetween,
  readDay,
  readDeadline,
  readMoment,
  readWhen,
  sayDay,
  sayMinutes,
  sayMoment,
  weekOf,
} from '@corvun/core';
import { Deadline } from '../parts/signs';
import { repeatPart } from './repeatPart';
import { capital, type Choice, type Make, type Part, type Saying } from './part';

const free = (day: DayInfo | undefined, now: number): string => {
  const minutes = (day?.gaps ?? []).reduce(
    (sum, gap) => sum + Math.max(0, minutesBetween(Math.max(now, Date.parse(gap.start)), Date.parse(gap.end))),
    0,
  );
  return day?.working.length ? `${sayMinutes(Math.floor(minutes))} free` : 'no working hours';
};

const dayChoices = (days: readonly string[], own: string | null, saying: Saying, change: (day: string) => TaskChange): Choice[] =>
  days.map((day) => ({
    says: day === saying.today ? `Today, ${sayDay(day, saying.today)}` : sayDay(day, saying.today),
    more: free(
      saying.days.find((one) => one.day === day),
      saying.now,
    ),
    on: own === day,
    change: change(day),
  }));

/** Parts of the sentence that say when. */
export const PARTS_WHEN = {
  deadline: ({ deadline, deadlineFixed }, saying) => ({
    label: 'Deadline',
    shown: deadline && <Deadline deadline={deadline} fixed={deadlineFixed} today={saying.today} />,
    words: {
      text: deadline ? sayMoment(deadline, saying.today) : '',
      placeholder: 'Fri 14 Aug, 12:00',
      read: (text) => {
        const read = readDeadline(text, saying);
        if (!read) return 'Not a date. Write it as “Fri”, “14 Aug” or “14 Aug 12:00”.';
        const fixed = read.fixed === null ? {} : { deadlineFixed: read.fixed };
        return { change: { deadline: read.deadline, ...fixed }, says: sayMoment(read.deadline, saying.today) };
      },
    },
    choices: [
      ...[0, 1, 7, 14].map((ahead) => {
        const day = addDays(saying.today, ahead);
        return { says: sayDay(day, saying.today), on: deadline === day, change: { deadline: day } };
      }),
      { says: 'No deadline', on: deadline === null, change: { deadline: null } },
    ],
  }),
  fixed: ({ deadline, deadlineFixed }) => ({
    label: 'Fixed or flexible',
    shown: deadline && (deadlineFixed ? 'fixed' : 'flexible'),
    choices: [
      { says: 'Fixed', more: 'someone else set it', on: deadlineFixed, change: { deadlineFixed: true } },
      { says: 'Flexible', more: 'your own wish', on: !deadlineFixed, change: { deadlineFixed: false } },
    ],
  }),
  when: ({ plannedDay, plannedWeek }, saying) => {
    const { today } = saying;
    const week = weekOf(today);
    const sayWeek = (one: string) =>
      one === week
        ? 'this week, any day'
        : one === weekOf(addDays(today, 7))
          ? 'next week, any day'
          : `week ${Number(one.slice(6))}, any day`;
    return {
      label: 'Day or week',
      shown: plannedDay ? sayDay(plannedDay, today) : plannedWeek ? sayWeek(plannedWeek) : null,
      words: {
        text: plannedDay ? sayDay(plannedDay, today) : plannedWeek ? sayWeek(plannedWeek) : '',
        placeholder: 'tomorrow, week 34',
        read: (text) => {
          const read = readWhen(text, saying);
          if (!read) return 'Not a day or a week. Write “Tue”, “14 Aug” or “week 34”.';
          return {
            change: {
              ...(read.plannedDay ? { plannedDay: read.plannedDay } : { plannedWeek: read.plannedWeek }),
              shelved: false,
            },
            says: read.plannedDay ? sayDay(read.plannedDay, today) : sayWeek(read.plannedWeek ?? ''),
          };
        },
      },
      choices: [
        ...dayChoices(daysFrom(today, 6), plannedDay, saying, (day) => ({ plannedDay: day, shelved: false })),
        ...[week, weekOf(addDays(today, 7))].map((one) => ({
          says: capital(sayWeek(one)),
          on: plannedWeek === one,
          change: { plannedWeek: one, shelved: false },
        })),
        { says: 'No day', on: !plannedDay && !plannedWeek, change: { plannedDay: null, plannedWeek: null } },
      ],
    };
  },
  notBefore: ({ notBefore }, saying) => ({
    label: 'Not before',
    shown: notBefore && sayDay(notBefore, saying.today),
    words: dayWords(notBefore, saying, (day) => ({ notBefore: day })),
    choices: [
      ...[1, 7, 14].map((ahead) => {
        const day = addDays(saying.today, ahead);
        return { says: sayDay(day, saying.today), on: notBefore === day, change: { notBefore: day } };
      }),
      { says: 'Any time', on: notBefore === null, change: { notBefore: null } },
    ],
  }),
  repeat: ({ repeat }, saying) => repeatPart(repeat, saying),
  repeatFrom: ({ repeat, repeatFrom }) => ({
    label: 'Counted from',
    shown: repeat && (repeatFrom === 'completion' ? 'when it is done' : 'the schedule'),
    choices: [
      { says: 'The schedule', on: repeatFrom === 'schedule', change: { repeatFrom: 'schedule' } },
      { says: 'When it is done', on: repeatFrom === 'completion', change: { repeatFrom: 'completion' } },
    ],
  }),
  waitingUntil: ({ waitingOn, waitingUntil }, saying) => ({
    label: 'Expected by',
    shown: waitingOn && waitingUntil && sayDay(waitingUntil, saying.today),
    words: dayWords(waitingUntil, saying, (day) => ({ waitingUntil: day })),
    choices: [
      ...[3, 7, 14].map((ahead) => {
        const day = addDays(saying.today, ahead);
        return { says: sayDay(day, saying.today), on: waitingUntil === day, change: { waitingUntil: day } };
      }),
      { says: 'No day', on: waitingUntil === null, change: { waitingUntil: null } },
    ],
  }),
  reminder: ({ reminder }, saying) => ({
    label: 'Reminder',
    shown: reminder && sayMoment(reminder, saying.today),
    words: {
      text: reminder ? sayMoment(reminder, saying.today) : '',
      placeholder: 'Fri 14:30',
      read: (text) => {
        const moment = readMoment(text, saying);
        return moment
          ? { change: { reminder: moment }, says: sayMoment(moment, saying.today) }
          : 'Not a time. Write “tomorrow 9:00” or “14 Aug 14:30”.';
      },
    },
    choices: [
      ...[1, 7].map((ahead) => {
        const moment = `${addDays(saying.today, ahead)}T09:00`;
        return { says: sayMoment(moment, saying.today), on: reminder === moment, change: { reminder: moment } };
      }),
      { says: 'No reminder', on: reminder === null, change: { reminder: null } },
    ],
  }),
  lookAgain: ({ shelved, lookAgain }, saying) => ({
    label: 'Shelf',
    shown: shelved ? (lookAgain ? sayDay(lookAgain, saying.today) : 'no day') : null,
    words: dayWords(lookAgain, saying, (day) => ({ lookAgain: day, shelved: true })),
    choices: [
      ...[7, 14, 30].map((ahead) => {
        const day = addDays(saying.today, ahead);
        return {
          says: `Look again ${sayDay(day, saying.today)}`,
          on: lookAgain === day,
          change: { shelved: true, lookAgain: day },
        };
      }),
      { says: 'On the shelf, no day', on: shelved && !lookAgain, change: { shelved: true, lookAgain: null } },
      { says: 'Not on the shelf', on: !shelved, change: { shelved: false, lookAgain: null } },
    ],
  }),
} as const satisfies Record<string, Make>;

function dayWords(own: string | null, saying: Saying, change: (day: string) => TaskChange): Part['words'] {
  return {
    text: own ? sayDay(own, saying.today) : '',
    placeholder: 'Mon 17 Aug',
    read: (text) => {
      const day = readDay(text, saying);
      return day ? { change: change(day), says: sayDay(day, saying.today) } : 'Not a day. Write “Tue” or “14 Aug”.';
    },
  };
}
