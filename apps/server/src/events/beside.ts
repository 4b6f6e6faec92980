import type { BuffersInput, CarriedTask } from '@corvun/contract';
import { NO_BUFFERS, placeKey, withTravel, type EventBuffers } from '@corvun/core';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { lineTask } from '../capture/line-task';
import type { Work } from '../kernel/work';
import { SettingsRow } from '../settings/settings.entity';
import { Task } from '../tasks/task.entity';
import type { Event } from './event.entity';

/** What an event says of the time beside it: what is left out stays, and what says nothing is kept as nothing. */
export function besideOf(input: BuffersInput | null, was: EventBuffers | null): EventBuffers | null {
  const tasks = input?.tasks?.map(({ id = '', at }) => ({ id, at })) ?? was?.tasks ?? [];
  const said = { prep: input?.prep ?? null, followUp: input?.followUp ?? null, travel: input?.travel ?? null, tasks };
  return said.prep === null && said.followUp === null && said.travel === null && !tasks.length ? null : said;
}

/** Makes the tasks that are new. @throws Refusal 422 for one there is not */
export async function withTasks<T extends { buffers?: BuffersInput | null }>(work: Work, user: User, input: T): Promise<T> {
  const { buffers } = input;
  if (!buffers?.tasks?.length) return input;
  const tasks: CarriedTask[] = [];
  for (const { id, line, at } of buffers.tasks)
    tasks.push({ id: id ?? (line === undefined ? '' : (await lineTask(work, user, line)).id), at });
  const ids = [...new Set(tasks.map(({ id = '' }) => id))];
  if ((await work.manager.countBy(Task, { ownerId: work.ownerId, id: In(ids) })) < ids.length)
    throw badField('buffers', 'One of these tasks is not there any more.');
  return { ...input, buffers: { ...buffers, tasks } };
}

/** Keeps how long the way to the place of an event is, so that the next one there knows it. */
export async function rememberWay(work: Work, { location }: Pick<Event, 'location'>, input: BuffersInput | null | undefined) {
  const { travel, from } = input ?? {};
  if (!travel || !from || !placeKey(from) || !placeKey(location) || placeKey(from) === placeKey(location)) return;
  const row = await work.manager.findOneByOrFail(SettingsRow, { ownerId: work.ownerId });
  const buffers = row.chosen.buffers ?? NO_BUFFERS;
  const ways = withTravel(buffers.travel, { from: from.trim(), to: location.trim(), minutes: travel });
  await work.update('settings', row, { chosen: { ...row.chosen, buffers: { ...buffers, travel: ways } } });
}
