import { isWeek, sayMinutes, type Destination } from '@corvun/core';
import { badField } from '../base/errors';
import { answerInvitation } from './answer.route';
import { makeEvent } from './event.route';
import { mailOut } from './mail-out';
import { makePerson } from './person.route';
import { dayField, sayPlanDay, sayStart, type Route } from './plan';
import { keepReference } from './reference.route';
import { makeTask, makeTimed, startOf } from './task.route';

const DEFAULT_EVENT = 60;

/** How each destination is carried out. */
export const ROUTES: { [D in Destination]: Route<D> } = {
  list: async (work, plan) => {
    if (!plan.list) throw badField('list', 'Say on which list it goes.');
    return { made: [await makeTask(work, plan, {})], where: `is on ${plan.list.name}` };
  },
  day: async (work, plan) => {
    const day = dayField('day', plan.input.day ?? plan.suggestion?.day ?? undefined, 'Say on which day, as YYYY-MM-DD.');
    return {
      made: [await makeTask(work, plan, { plannedDay: day })],
      where: `is on ${sayPlanDay(day, plan)}${plan.list ? `, ${plan.list.name}` : ''}`,
    };
  },
  week: async (work, plan) => {
    const { week } = plan.input;
    if (!week || !isWeek(week)) throw badField('week', 'Say in which week, as YYYY-Www.');
    return { made: [await makeTask(work, plan, { plannedWeek: week })], where: `is in week ${Number(week.slice(6))}` };
  },
  time: makeTimed,
  event: async (work, plan) => {
    const start = startOf(plan);
    const minutes = plan.input.minutes ?? plan.suggestion?.minutes ?? DEFAULT_EVENT;
    const wanted = { title: plan.title, start, minutes };
    const { made, invited } = await makeEvent(work, plan.user, plan.incoming, wanted, plan.input);
    return {
      made: [made],
      where: `is an event on ${sayStart(start, plan)}${invited ? `; ${invited}` : ''}`,
    };
  },
  'hand-over': async (work, plan) => {
    const who = plan.input.with?.trim();
    if (!who) throw badField('with', 'Say to whom it is handed over.');
    const by = plan.input.deadline ? `, until ${sayPlanDay(plan.input.deadline.slice(0, 10), plan)}` : '';
    return { made: [await makeTask(work, plan, { waitingOn: who, waitingSince: plan.now })], where: `waits on ${who}${by}` };
  },
  person: makePerson,
  shelf: async (work, plan) => {
    const lookAgain = plan.input.lookAgain ? dayField('lookAgain', plan.input.lookAgain, 'Write the day as YYYY-MM-DD.') : null;
    return {
      made: [await makeTask(work, plan, { shelved: true, lookAgain })],
      where: `is on the shelf${lookAgain ? ` until ${sayPlanDay(lookAgain, plan)}` : ''}`,
    };
  },
  done: async (work, plan) => {
    const spent = plan.input.minutes ?? 0;
    const mailed = plan.input.mail ? await mailOut(work, plan.user, plan.incoming, plan.input.mail) : '';
    return {
      made: [await makeTask(work, plan, { status: 'COMPLETED', completed: plan.now, spent })],
      where: `${mailed || 'is done'}${spent ? `, ${sayMinutes(spent)}` : ''}`,
    };
  },
  reference: keepReference,
  drop: () => Promise.resolve({ made: [], where: 'was dropped' }),
  answer: (work, { user, incoming, input }) => answerInvitation(work, user, incoming, input),
};
