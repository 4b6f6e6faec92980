import type { AlsoInput, DecideEvent, DecideTime, MadeThing, TaskInput } from '@corvun/contract';
import { MINUTE, count, dayOf, isDay, parseIso, reasonOf, sayMinutes } from '@corvun/core';
import { timeFor } from '../blocks/task-time';
import { badField } from '../base/errors';
import { StoredAttachment } from '../incoming/incoming.entity';
import type { List } from '../lists/list.entity';
import { withDefault } from '../lists/new-list';
import { settingsOf } from '../settings/settings-of';
import { attachTask, cardDefaults } from '../sources/attach';
import { keepTags } from '../tags/keep-tags';
import { blankTask } from './blanks';
import type { Work } from '../kernel/work';
import { dayField, listOf, sayStart, type Outcome, type Plan } from './plan';

/** Makes the task that an incoming becomes, with its steps and what it carries along. */
export async function makeTask(
  work: Work,
  plan: Plan<TaskInput>,
  fields: Partial<ReturnType<typeof blankTask>>,
): Promise<MadeThing> {
  const { suggestion, incoming } = plan;
  const input: TaskInput = { ...(await cardDefaults(work, incoming)), ...said(plan.input) };
  const deadline = input.deadline === undefined ? (suggestion?.deadline ?? null) : input.deadline;
  if (deadline && !isDay(deadline.slice(0, 10))) throw badField('deadline', `${deadline} is not a date.`);
  // Tags that were chosen are meant as they are.
  const tags = input.tags ?? withDefault(suggestion?.tags ?? [], plan.list);
  await keepTags(work, tags);
  const task = await work.insert('task', {
    ...blankTask(),
    title: plan.title,
    notes: input.notes ?? reasonOf(incoming.text, incoming.facts, incoming.subject, plan.title),
    listId: plan.list?.id ?? null,
    tags,
    priority: input.priority ?? suggestion?.priority ?? 'normal',
    estimate: input.minutes ?? suggestion?.minutes ?? null,
    deadline,
    deadlineFixed: deadline ? (input.fixed ?? suggestion?.deadlineFixed ?? false) : false,
    repeat: input.repeat ?? null,
    attachments: await kept(work, plan),
    concentration: plan.list?.concentration ?? 'medium',
    billable: plan.list?.billable ?? false,
    incomingId: incoming.id,
    position: work.now,
    ...fields,
  });
  const { listId, concentration, status, completed } = task;
  for (const [at, title] of (plan.input.steps ?? []).entries())
    await work.insert('task', {
      ...blankTask(),
      title: title.trim(),
      listId,
      concentration,
      status,
      completed,
      parentId: task.id,
      position: at,
    });
  await attachTask(work, incoming, task);
  return { kind: 'task', id: task.id, title: task.title };
}

/** Ids of the attachments that the task carries along; null stands for all there are. */
async function kept(work: Work, { incoming, input }: Plan<TaskInput>): Promise<string[] | null> {
  if (!input.keep) return null;
  const all = await work.manager.findBy(StoredAttachment, { ownerId: work.ownerId, incomingId: incoming.id });
  const ids = new Set(all.map((one) => one.id));
  const strange = input.keep.find((id) => !ids.has(id));
  if (strange) throw badField('keep', `The message has no attachment ${strange}.`);
  return input.keep.length === ids.size ? null : input.keep;
}

/** Another task from the same message, where it was said or where the first goes. */
export function makeMore(work: Work, plan: Plan<TaskInput>, { title, list, day }: AlsoInput, lists: List[]): Promise<MadeThing> {
  const plannedDay = plan.input.to === 'day' ? (plan.input.day ?? null) : null;
  const plannedWeek = plan.input.to === 'week' ? (plan.input.week ?? null) : null;
  const own = list ? { ...plan, list: listOf({ list }, null, lists) } : plan;
  const { incoming, to, keep } = plan.input;
  const bare = { ...own, title, suggestion: null, input: { incoming, to, keep, deadline: null } as TaskInput };
  const when = day
    ? { plannedDay: dayField('day', day, ''), plannedWeek: null }
    : list || to === 'done'
      ? { plannedDay: null, plannedWeek: null }
      : { plannedDay, plannedWeek };
  return makeTask(work, bare, when);
}

/** @throws Refusal when no start is said or it is no time */
export function startOf({ input, suggestion, user }: Plan<DecideTime | DecideEvent>): number {
  const start = parseIso(input.start ?? suggestion?.start ?? '', user.zone);
  if (Number.isNaN(start)) throw badField('start', 'Say when it begins, as YYYY-MM-DDTHH:MM.');
  return start;
}

/** A task with time set aside for it: one block, or several. */
export async function makeTimed(work: Work, plan: Plan<DecideTime>): Promise<Outcome> {
  const { input, suggestion, user } = plan;
  const one = input.minutes ?? suggestion?.minutes ?? settingsOf(user).lengths[plan.list?.concentration ?? 'medium'];
  const slots = input.slots?.length
    ? input.slots.map(({ start, minutes }) => ({ start: parseIso(start, user.zone), minutes }))
    : [{ start: startOf(plan), minutes: one }];
  slots.sort((a, b) => a.start - b.start);
  const [first] = slots;
  if (!first || slots.some(({ start }) => Number.isNaN(start)))
    throw badField('slots', 'Say when each block begins, as YYYY-MM-DDTHH:MM.');
  if (slots.some(({ start, minutes }, at) => start + minutes * MINUTE > (slots[at + 1]?.start ?? Infinity)))
    throw badField('slots', 'Two of the blocks are at the same time.');
  const total = slots.reduce((sum, { minutes }) => sum + minutes, 0);
  const task = await makeTask(work, plan, {
    plannedDay: dayOf(first.start, user.zone),
    estimate: Math.max(total, input.slots?.length ? (input.minutes ?? 0) : 0),
  });
  const made = [task];
  for (const { start, minutes } of slots) {
    const block = await work.insert('block', timeFor(task.id, start, start + minutes * MINUTE));
    made.push({ kind: 'block', id: block.id, title: task.title });
  }
  const where =
    slots.length === 1
      ? `has time on ${sayStart(first.start, plan)}, ${sayMinutes(total)}`
      : `has ${count(slots.length, 'block')} of time, the first on ${sayStart(first.start, plan)}, ${sayMinutes(total)} in all`;
  return { made, where };
}

const said = (input: TaskInput) =>
  Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as unknown as TaskInput;
