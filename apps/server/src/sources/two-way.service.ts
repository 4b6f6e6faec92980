import { Injectable, OnModuleInit } from '@nestjs/common';
import type { SourceSettings } from '@corvun/contract';
import { merge, seenThere, type Conflict, type Fields, type Value } from '@corvun/core';
import { In } from 'typeorm';
import { newId } from '../base/ids';
import { blankIncoming } from '../decisions/blanks';
import { Kernel } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import type { Step } from '@corvun/core';
import { Incoming } from '../incoming/incoming.entity';
import { Task } from '../tasks/task.entity';
import { roundsToTell } from './goes-on';
import { bringUp } from './bring-up';
import { Counterpart, Source } from './source.entity';

/** Not a field that is merged: the whole thing is gone there. */
export const GONE = 'gone';

const FIELD_NAMES: Record<string, string> = {
  gone: 'the thing itself',
  title: 'title',
  estimate: 'estimate in minutes',
  due: 'deadline',
  day: 'day',
  done: 'done',
  priority: 'priority',
  repeat: 'repeat',
  fixed: 'fixed deadline',
};

/** What of a task a source can also hold, under the names that states are merged by. */
export function stateOf(task: Task): Record<string, Value> {
  return {
    title: task.title,
    estimate: task.estimate,
    due: task.deadline?.slice(0, 10) ?? null,
    fixed: task.deadlineFixed,
    day: task.plannedDay,
    done: task.status === 'COMPLETED',
    priority: task.priority,
    repeat: task.repeat,
  };
}

/** The change of a task that brings fields of a source to it. */
export function patchOf(fields: Record<string, Value>, task: Task, settings: SourceSettings, now: number): Partial<Task> {
  const patch: Partial<Task> = {};
  if ('title' in fields) patch.title = String(fields['title']);
  if ('estimate' in fields) patch.estimate = fields['estimate'] as number | null;
  if ('due' in fields) {
    patch.deadline = fields['due'] as string | null;
    if (settings.due) patch.deadlineFixed = patch.deadline !== null && settings.due === 'fixed';
  }
  if ('fixed' in fields) patch.deadlineFixed = fields['fixed'] === true;
  if ('day' in fields) patch.plannedDay = fields['day'] as string | null;
  if ('priority' in fields) patch.priority = fields['priority'] as Task['priority'];
  if ('repeat' in fields) patch.repeat = fields['repeat'] as string | null;
  if ('done' in fields) {
    patch.status = fields['done'] ? 'COMPLETED' : 'NEEDS-ACTION';
    patch.completed = fields['done'] ? (task.completed ?? now) : null;
  }
  return patch;
}

/** Keeps tasks and their counterparts in sources in step, field by field. */
@Injectable()
export class TwoWay implements OnModuleInit {
  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow({
      name: 'tasks go to their counterparts',
      actors: ['user', 'rule', 'guest', 'system'],
      follow: (work, changes) => this.note(work, changes),
    });
  }

  /** Brings the state of a counterpart to its task; what both changed differently becomes an incoming that shows both. */
  async bring(
    work: Work,
    source: Source,
    counterpart: Counterpart,
    there: Fields,
    place: Counterpart['place'],
  ): Promise<Counterpart> {
    const task = counterpart.taskId
      ? await work.manager.findOneBy(Task, { id: counterpart.taskId, ownerId: work.ownerId })
      : null;
    if (!task) return this.remember(work, counterpart, { base: { ...there }, place });
    const { base, sending } = seenThere(counterpart.base, counterpart.sending, there);
    const merged = merge(base, stateOf(task), there);
    if (Object.keys(merged.toHere).length)
      await work.update('task', task, patchOf(merged.toHere, task, source.settings, work.now));
    await this.tellConflict(work, source, counterpart, task, merged.conflicts);
    const after = await this.remember(work, counterpart, { base: merged.base, sending, place });
    if (Object.keys(merged.toThere).length) await bringUp(work, source, after, task.title);
    return after;
  }

  private async remember(work: Work, counterpart: Counterpart, patch: Partial<Counterpart>): Promise<Counterpart> {
    const after = { ...counterpart, ...patch, gone: false };
    const unchanged = (['base', 'sending', 'place', 'gone'] as const).every(
      (key) => JSON.stringify(after[key]) === JSON.stringify(counterpart[key]),
    );
    return unchanged ? counterpart : work.update('counterpart', counterpart, { ...patch, gone: false });
  }

  /** What of a task differs from the last common state and so has to go to the source. */
  private async toSend(work: Work, counterpart: Counterpart): Promise<{ task: Task; fields: Record<string, Value> } | null> {
    const task = counterpart.taskId ? await work.manager.findOneBy(Task, { id: counterpart.taskId }) : null;
    if (!task) return null;
    const here = stateOf(task);
    const open = await this.openConflict(work, counterpart);
    const held = new Set(open?.conflict?.fields.map((one) => one.field));
    const fields = Object.fromEntries(
      Object.keys(counterpart.base)
        .filter((field) => !held.has(field) && (here[field] ?? null) !== (counterpart.base[field] ?? null))
        .map((field) => [field, here[field] ?? null]),
    );
    return { task, fields };
  }

  /** What has to go to the source now. It is noted as on its way before it goes, so that it is known again when seen there. */
  async beginSending(work: Work, counterpart: Counterpart): Promise<Record<string, Value>> {
    const fields = (await this.toSend(work, counterpart))?.fields ?? {};
    if (JSON.stringify(fields) !== JSON.stringify(counterpart.sending))
      await work.update('counterpart', counterpart, { sending: fields });
    return fields;
  }

  /** Follows what users change: tasks that have a counterpart get an outbox entry in the same transaction. */
  private async note(work: Work, changes: readonly Step[]): Promise<void> {
    const taskIds = changes.filter((one) => one.kind === 'task').map((one) => one.id);
    const ownIds = changes.filter((one) => one.kind === 'counterpart').map((one) => one.id);
    if (!taskIds.length && !ownIds.length) return;
    const found = await work.manager.find(Counterpart, {
      where: [
        { ownerId: work.ownerId, taskId: In(taskIds) },
        { ownerId: work.ownerId, id: In(ownIds) },
      ],
    });
    for (const counterpart of found) {
      const source = await work.manager.findOneBy(Source, { id: counterpart.sourceId });
      if (!source || counterpart.gone) continue;
      await this.noteLeft(work, source, counterpart);
    }
  }

  /** Notes that a counterpart has something to tell its source, if it has. */
  async noteLeft(work: Work, source: Source, counterpart: Counterpart): Promise<void> {
    const send = await this.toSend(work, counterpart);
    if (send && (Object.keys(send.fields).length || (await roundsToTell(work, counterpart)).length))
      await bringUp(work, source, counterpart, send.task.title);
  }

  /**
   * The counterpart was deleted on the other side: its task stays as it is, and when it is still open the user is asked
   * what becomes of it.
   */
  async lose(work: Work, source: Source, counterpart: Counterpart): Promise<void> {
    await work.update('counterpart', counterpart, { gone: true });
    const task = counterpart.taskId
      ? await work.manager.findOneBy(Task, { id: counterpart.taskId, ownerId: work.ownerId })
      : null;
    if (!task || !['NEEDS-ACTION', 'IN-PROCESS'].includes(task.status)) return;
    await this.tellConflict(work, source, counterpart, task, [{ field: GONE, here: 'open', there: 'deleted', base: 'open' }]);
  }

  openConflict(work: Work, counterpart: Counterpart): Promise<Incoming | null> {
    return work.manager.findOneBy(Incoming, {
      ownerId: work.ownerId,
      source: counterpart.sourceId,
      threadKey: `conflict:${counterpart.id}`,
      state: 'waiting',
    });
  }

  private async tellConflict(
    work: Work,
    source: Source,
    counterpart: Counterpart,
    task: Task,
    fields: Conflict[],
  ): Promise<void> {
    const open = await this.openConflict(work, counterpart);
    if (!fields.length) {
      if (open) await work.update('incoming', open, { state: 'decided', outcome: 'drop', decided: work.now });
      return;
    }
    const conflict = { counterpartId: counterpart.id, taskId: task.id, fields };
    const text = fields
      .map(
        ({ field, here, there, base }) =>
          `${FIELD_NAMES[field] ?? field}: here “${say(here)}”, there “${say(there)}”, before “${say(base)}”`,
      )
      .join('\n');
    if (open) {
      await work.update('incoming', open, { text, conflict });
      return;
    }
    await work.insert('incoming', {
      ...blankIncoming(),
      source: source.id,
      sourceId: source.id,
      externalId: `conflict:${counterpart.id}:${newId()}`,
      kind: source.kind === 'notes' ? 'note-line' : 'card',
      senderName: source.name,
      subject: task.title,
      received: work.now,
      written: work.now,
      text,
      threadKey: `conflict:${counterpart.id}`,
      originalSize: text.length,
      readTitle: task.title,
      link: String(counterpart.place['url'] ?? ''),
      note: fields.some((one) => one.field === GONE) ? 'deleted there, still open here' : 'changed here and there',
      conflict,
    });
  }
}

export const say = (value: Value): string =>
  value === null ? 'nothing' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
