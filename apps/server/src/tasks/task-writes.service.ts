import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { BreakDownInput, Done, TaskChange, TaskChanged, TasksAdded, TasksChange, TasksInput } from '@corvun/contract';
import { count, dayOf, parseLine, sayMinutes } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField, notFound } from '../base/errors';
import { draftBlock, draftTask } from '../capture/draft-task';
import { Kernel, byUser } from '../kernel/kernel.service';
import { unmet } from '../kernel/meeting';
import type { Work } from '../kernel/work';
import { List } from '../lists/list.entity';
import { called } from '../lists/new-list';
import { Person } from '../people/person.entity';
import { breakDown } from './break-down';
import { changeTask, patchOf } from './change-task';
import { freeOn, sayFreed } from './free-time';
import { put, placedUnder } from './place-tasks';
import { sentenceOf, wordsOn } from './sentence';
import { Task } from './task.entity';
import { TasksService } from './tasks.service';

/** Makes and changes tasks. */
@Injectable()
export class TaskWrites {
  constructor(
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Person) private readonly people: Repository<Person>,
    private readonly reads: TasksService,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Makes tasks, or steps of one, a line each; blank lines are passed over. */
  async add(user: User, input: TasksInput): Promise<TasksAdded> {
    const lines = input.lines.map((line) => line.trim()).filter(Boolean);
    if (!lines.length) throw badField('lines', 'Write what there is to do.');
    const lists = await this.lists.findBy({ ownerId: user.id });
    const people = (await this.people.findBy({ ownerId: user.id })).map(({ name }) => name);
    const own = this.listOf(lists, input.list);
    const context = { now: this.clock.now(), zone: user.zone, lists: lists.map(({ name }) => name), people };
    const drafts = lines.map((line) => {
      const draft = parseLine(line, context);
      // A line of nothing but a day or a name is a title after all: what was written must not be lost.
      return draft.title ? draft : { ...parseLine('', context), title: line };
    });
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const parent = input.parent ? await work.find('task', input.parent) : null;
      if (parent) await placedUnder(work, null, parent);
      const made: Task[] = [];
      for (const [at, said] of drafts.entries()) {
        const list = lists.find(({ name }) => name === said.list) ?? own;
        const fields = await draftTask(work, user, said, list);
        const place = parent ? { parentId: parent.id, listId: parent.listId } : {};
        const title = fields.title.slice(0, 500);
        const task = await work.insert('task', { ...fields, ...place, title, position: work.now + at });
        await draftBlock(work, user, said, task);
        made.push(task);
      }
      if (input.after !== undefined || parent) await put(work, made, input.after === undefined ? '' : input.after);
      const [first] = made;
      work.say({
        action: 'capture',
        sentence:
          made.length > 1
            ? `${count(made.length, parent ? 'step' : 'task')} ${parent ? `of “${parent.title}” ` : ''}are there`
            : `“${first?.title}” is ${parent ? `a step of “${parent.title}”` : `there${own ? `, on ${own.name}` : ''}`}`,
      });
      return made.map(({ id }) => id);
    });
    return { decision, sentence, ids: result };
  }

  /** Breaks a task into steps with estimates; the first may get its time. */
  async breakDown(user: User, id: string, input: BreakDownInput): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), (work) => breakDown(work, user, id, input));
    return { decision, sentence };
  }

  /** @throws Refusal 409 where one of the fields that change was changed meanwhile */
  async change(user: User, id: string, input: TaskChange): Promise<TaskChanged> {
    const { version, was, parent, after, ...fields } = input;
    const lists = await this.lists.findBy({ ownerId: user.id });
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      const patch: Partial<Task> = patchOf(fields, fields.list === undefined ? undefined : this.listOf(lists, fields.list));
      if (parent !== undefined && parent !== task.parentId) {
        const above = parent === null ? null : await work.find('task', parent);
        if (above) await placedUnder(work, task, above);
        Object.assign(patch, { parentId: parent, ...(above ? { listId: above.listId } : {}) });
      }
      const said: Partial<Task> = Object.fromEntries(
        Object.entries(patch).filter(([column]) => column in input || ['listId', 'parentId'].includes(column)),
      );
      if (version !== undefined) unmet(task, said, version, was && { ...was, listId: was['list'], parentId: was['parent'] });
      const changed = await changeTask(work, task, patch, fields.steps);
      const anew = parent !== undefined && after === undefined && parent !== task.parentId;
      if (after !== undefined || anew) await put(work, [changed], after === undefined ? '' : after);
      const freed = await sayFreed(work);
      work.say({
        action: actionOf(fields),
        sentence: `${sentenceOf(task, changed, await this.telling(user, work, lists))}${freed}`,
      });
    });
    const [task] = await this.reads.one(user, id);
    if (!task) throw notFound('task with this id');
    return { decision, sentence, task };
  }

  /** One change for many; what one of them refuses is refused for all. */
  async changeMany(user: User, input: TasksChange): Promise<Done> {
    const lists = await this.lists.findBy({ ownerId: user.id });
    const { change, addTags = [], removeTags = [] } = input;
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const rows = await work.manager.findBy(Task, { ownerId: user.id, id: In(input.ids) });
      const byId = new Map(rows.map((row) => [row.id, row]));
      const tasks = input.ids.map((id) => byId.get(id)).filter((task) => task !== undefined);
      if (!tasks.length) throw notFound('task with one of these ids');
      const patch = patchOf(change, change.list === undefined ? undefined : this.listOf(lists, change.list));
      const after: Task[] = [];
      for (const task of tasks) {
        const tags = (patch.tags ?? task.tags).filter((tag) => !removeTags.includes(tag));
        const all = addTags.length || removeTags.length ? { ...patch, tags: [...new Set([...tags, ...addTags])] } : patch;
        // With its task a step goes along; by itself it would leave it.
        const { listId: _listId, ...own } = all;
        after.push(await changeTask(work, task, task.parentId && byId.has(task.parentId) ? own : all, change.steps));
      }
      if (input.after !== undefined) await put(work, after, input.after);
      const back = input.freeOn ? await freeOn(work, input.ids, input.freeOn, user.zone) : 0;
      const [first, changed] = [tasks[0], after[0]];
      const telling = await this.telling(user, work, lists);
      const words = first && changed ? wordsOn(first, changed, telling) : [];
      const freed = back ? `; ${sayMinutes(back)} of your time is free again` : await sayFreed(work);
      work.say({
        action: actionOf(change),
        sentence: `${
          first && changed && tasks.length === 1
            ? sentenceOf(first, changed, telling)
            : `${count(tasks.length, 'task')}: ${words.map((word) => word.replace(/, was .*$/, '')).join(', ') || 'in another place'}`
        }${freed}`,
      });
    });
    return { decision, sentence };
  }

  private listOf(lists: readonly List[], wanted: string | null | undefined): List | null {
    if (!wanted) return null;
    const found = called(lists, wanted);
    if (!found) throw badField('list', `There is no list “${wanted}”.`);
    return found;
  }

  private async telling(user: User, work: Work, lists: readonly List[]) {
    const titles = new Map<string, string>();
    const parents = work.changes().flatMap(({ after }) => (after?.['parentId'] as string | null | undefined) ?? []);
    for (const task of parents.length ? await work.manager.findBy(Task, { ownerId: user.id, id: In(parents) }) : [])
      titles.set(task.id, task.title);
    return {
      today: dayOf(this.clock.now(), user.zone),
      listName: (id: string) => lists.find((list) => list.id === id)?.name ?? '',
      taskTitle: (id: string) => titles.get(id) ?? '',
    };
  }
}

const actionOf = ({ status, plannedDay }: Pick<TaskChange, 'status' | 'plannedDay'>) =>
  status === 'COMPLETED' ? 'finish' : plannedDay !== undefined ? 'move' : 'change';
