import { Injectable, type OnModuleInit } from '@nestjs/common';
import { minutesBetween, type Step } from '@corvun/core';
import { In, IsNull } from 'typeorm';
import { TimeEntry } from '../doing/time-entry.entity';
import { Kernel, type By, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { noteSending } from './note-sending';
import { OutboxEntry } from './outbox.entity';
import { Counterpart, Source } from './source.entity';

/** What is to be written there of one time entry: its minutes and when it was, or that it is gone. */
export type TimeThere = { id: string } & ({ minutes: number; at: number } | { gone: true });

/**
 * Time that was spent is written to the card of its task, each entry once under its own name: corrected here it is corrected
 * there, and taken away here it is taken away there.
 */
@Injectable()
export class TimeBack implements Follower, OnModuleInit {
  readonly name = 'time goes to the cards of its tasks';
  readonly actors = ['user', 'rule', 'guest', 'system'] as const;

  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const steps = changes.filter(({ kind }) => kind === 'timeEntry');
    if (!steps.length) return;
    const rows = await work.manager.findBy(TimeEntry, { ownerId: work.ownerId, id: In(steps.map(({ id }) => id)) });
    for (const { id, before } of steps) {
      const row = rows.find((one) => one.id === id);
      // What runs is written when it has ended.
      if (row?.endAt === null && (before === null || before['endAt'] === undefined)) continue;
      const taskId = row?.taskId ?? (before?.['taskId'] as string | undefined);
      const found = taskId ? await this.cardOf(work, taskId) : null;
      if (found) await this.note(work, found.source, found.card, id, row?.taskId ?? taskId ?? '');
    }
  }

  /** What is to be written there now. It is noted which state that is, before it goes. */
  async there(by: By, { id, payload }: OutboxEntry): Promise<TimeThere> {
    const entry = payload['entry'];
    // What was noted before there were time entries says itself what it is.
    if (typeof entry !== 'string') return { id, minutes: Number(payload['minutes']), at: Number(payload['at']) };
    const { result } = await this.kernel.transact(by, async (work) => {
      const row = await work.manager.findOneBy(TimeEntry, { ownerId: by.owner, id: entry });
      await work.manager.update(OutboxEntry, { id }, { payload: { entry, version: row?.version ?? 0 } });
      return row;
    });
    if (!result || result.endAt === null) return { id: entry, gone: true };
    return { id: entry, minutes: minutesBetween(result.startAt, result.endAt), at: result.startAt };
  }

  /** What changed while it was under way goes once more. */
  async again(work: Work, source: Source, sent: OutboxEntry): Promise<void> {
    const { payload, counterpartId } = await work.manager.findOneByOrFail(OutboxEntry, { id: sent.id });
    const id = payload['entry'];
    const row = typeof id === 'string' ? await work.manager.findOneBy(TimeEntry, { ownerId: work.ownerId, id }) : null;
    if (typeof id !== 'string' || (row?.version ?? 0) === payload['version']) return;
    const card = await work.manager.findOneBy(Counterpart, { id: counterpartId ?? '' });
    if (card) await this.note(work, source, card, id, card.taskId ?? '');
  }

  private async cardOf(work: Work, taskId: string): Promise<{ source: Source; card: Counterpart } | null> {
    const card = await work.manager.findOneBy(Counterpart, {
      ...{ ownerId: work.ownerId, taskId, parentId: IsNull(), gone: false },
    });
    const source = card ? await work.manager.findOneBy(Source, { id: card.sourceId }) : null;
    return card && source?.settings.writeTime ? { source, card } : null;
  }

  /** Once, however often it changes until it goes. */
  private async note(work: Work, source: Source, card: Counterpart, id: string, taskId: string): Promise<void> {
    const waiting = await work.manager.findBy(OutboxEntry, {
      ...{ ownerId: work.ownerId, counterpartId: card.id, kind: 'time' as const, state: 'waiting' as const },
    });
    const known = waiting.find(({ payload }) => payload['entry'] === id);
    if (known) {
      if (known.attempts > 0) await work.manager.update(OutboxEntry, { id: known.id }, { nextTry: work.now });
      return;
    }
    const task = await work.manager.findOneBy(Task, { ownerId: work.ownerId, id: taskId });
    await noteSending(work, {
      ...{ sourceId: source.id, counterpartId: card.id, kind: 'time' },
      what: `Write the time spent on “${task?.title ?? ''}” in ${source.name}`,
      payload: { entry: id },
    });
  }
}
