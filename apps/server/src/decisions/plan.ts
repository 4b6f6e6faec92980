import type { DecideInput, DecideInputs, Deciding, DecidingTask, MadeThing, TaskInput } from '@corvun/contract';
import { DESTINATIONS, dayOf, isDay, sayDay, sayTime, type Destination, type Suggestion } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import type { Incoming } from '../incoming/incoming.entity';
import type { List } from '../lists/list.entity';
import { called } from '../lists/new-list';
import type { Work } from '../kernel/work';

/** What one incoming becomes: the input with the suggestion filled in. */
export interface Plan<I extends DecideInput = DecideInput> {
  user: User;
  incoming: Incoming;
  input: I;
  suggestion: Suggestion | null;
  list: List | null;
  title: string;
  now: number;
}

export interface Outcome {
  made: MadeThing[];
  where: string;
}

export const makesTask = (input: DecideInput): input is TaskInput => DESTINATIONS[input.to].makesTask;

/** How a destination is carried out. */
export type Route<D extends Destination> = (work: Work, plan: Plan<DecideInputs[D]>) => Promise<Outcome>;

/** The title that was chosen, else the proposed one; many decided together keep each its own. */
export function titleFor(input: Deciding, suggestion: Suggestion | null, incoming: Incoming): string {
  const chosen = input.incoming.length === 1 ? input.title?.trim() : undefined;
  return (chosen || suggestion?.title || incoming.readTitle || incoming.subject || 'Message without a subject').slice(0, 500);
}

/** The list that was named, else the suggested one; an empty name means none. */
export function listOf(input: Pick<DecidingTask, 'list'>, suggestion: Suggestion | null, lists: List[]): List | null {
  const name = input.list === undefined || input.list === null ? suggestion?.list : input.list;
  if (!name) return null;
  const list = called(lists, name);
  if (!list) throw badField('list', `There is no list “${name}”.`);
  return list;
}

export function dayField(field: string, day: string | undefined, sentence: string): string {
  if (!day || !isDay(day)) throw badField(field, day ? `${day} is not a day in the calendar.` : sentence);
  return day;
}

export const sayPlanDay = (day: string, { user, now }: Plan): string => sayDay(day, dayOf(now, user.zone));

export const sayStart = (start: number, plan: Plan): string =>
  `${sayPlanDay(dayOf(start, plan.user.zone), plan)} at ${sayTime(start, plan.user.zone)}`;
