import { Injectable } from '@nestjs/common';
import type { Done, ListChange, ListInput, ListsOrder } from '@corvun/contract';
import { count, isDay } from '@corvun/core';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { List } from './list.entity';
import { freeCode, freeHue, freeName } from './marks';
import { newList } from './new-list';

const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'];

/** Makes, changes, orders and takes away lists. */
@Injectable()
export class ListWrites {
  constructor(private readonly kernel: Kernel) {}

  async add(user: User, input: ListInput): Promise<{ id: string }> {
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      // Read inside: of two that are made at once each has to see the other.
      const rows = await work.manager.findBy(List, { ownerId: user.id });
      const name = freeName('list', rows, input.name);
      const list = await work.insert('list', {
        ...newList(name, rows),
        project: input.project ?? false,
        group: input.group?.trim() ?? '',
      });
      work.say({ action: 'change', sentence: `The list “${name}” is there` });
      return list.id;
    });
    return { id: result };
  }

  async change(user: User, id: string, input: ListChange): Promise<Done> {
    const { version, ...said } = input;
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const list = await work.find('list', id);
      const rows = await work.manager.findBy(List, { ownerId: user.id });
      const others = rows.filter((row) => row.id !== id);
      const patch: Partial<List> = { ...said };
      if (said.name !== undefined) patch.name = freeName('list', others, said.name);
      if (said.group !== undefined) patch.group = said.group.trim();
      if (said.code !== undefined) patch.code = freeCode(others, said.code);
      if (said.hue !== undefined) freeHue(others, said.hue);
      if (said.defaultTag !== undefined) patch.defaultTag = said.defaultTag?.replace(/^#/, '').trim().toLowerCase() ?? null;
      if (patch.defaultTag === '') patch.defaultTag = null;
      if (said.ends && !isDay(said.ends)) throw badField('ends', `${said.ends} is not a day in the calendar.`);
      const after = await work.update('list', list, patch, version);
      const billed = said.billable !== undefined && said.billable !== list.billable ? await bill(work, after) : '';
      const what = list.archived === after.archived ? 'was changed' : after.archived ? 'is put away with its tasks' : 'is back';
      work.say({ action: 'change', sentence: `The list “${after.name}” ${what}${billed}` });
    });
    return { decision, sentence };
  }

  /** All lists in their new order, each with the group it is in; what is not named keeps its place after them. */
  async order(user: User, { lists }: ListsOrder): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const rows = await work.manager.findBy(List, { ownerId: user.id });
      for (const [position, { id, group }] of lists.entries()) {
        const row = rows.find((one) => one.id === id);
        if (!row) throw badField('lists', 'One of these lists is not there.');
        if (row.position !== position || row.group !== group) await work.update('list', row, { position, group: group.trim() });
      }
      work.say({ action: 'change', sentence: 'The lists stand in another order' });
    });
    return { decision, sentence };
  }

  /** @param tasks what becomes of its tasks: `keep` without a list, `drop`, or the id of the list they go to */
  async remove(user: User, id: string, tasks: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const list = await work.find('list', id);
      const to =
        tasks === 'keep' || tasks === 'drop' ? null : await work.manager.findOneBy(List, { ownerId: user.id, id: tasks });
      if (tasks === id || (to === null && !['keep', 'drop'].includes(tasks)))
        throw badField('tasks', 'Say which list its tasks go to, or keep, or drop.');
      const own = await work.manager.findBy(Task, { ownerId: user.id, listId: id });
      for (const task of own)
        await work.update('task', task, {
          listId: to?.id ?? null,
          ...(tasks === 'drop' && OPEN.includes(task.status) ? { status: 'CANCELLED' as const } : {}),
        });
      await work.remove('list', list);
      const open = own.filter((task) => OPEN.includes(task.status) && !task.parentId).length;
      const where = tasks === 'drop' ? 'dropped' : to ? `on ${to.name} now` : 'on no list now';
      const rest = open ? `; ${count(open, 'open task is', 'open tasks are')} ${where}` : '';
      work.say({ action: 'remove', sentence: `The list “${list.name}” was taken away${rest}` });
    });
    return { decision, sentence };
  }
}

/** What is open on a list is billed, or not, as the list is. @returns what is said of it */
async function bill(work: Work, { id, billable }: List): Promise<string> {
  const open = await work.manager.findBy(Task, { ownerId: work.ownerId, listId: id, status: In(OPEN), billable: !billable });
  for (const task of open) await work.update('task', task, { billable });
  return open.length ? `; ${count(open.length, 'open task is', 'open tasks are')} ${billable ? '' : 'not '}billed` : '';
}
