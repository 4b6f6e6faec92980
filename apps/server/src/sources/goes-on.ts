import { dayOf } from '@corvun/core';
import type { DoneRound, NoteChange } from '@corvun/formats';
import { In } from 'typeorm';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';
import { bringUp } from './bring-up';
import { noteSending } from './note-sending';
import { OutboxEntry } from './outbox.entity';
import { Counterpart, Source } from './source.entity';

/** A round of a repeating task that is done: a line of its own while it is so. */
interface Finished extends DoneRound {
  taskId: string;
  /** Whether it is being written, or was once: from then on its entry is not taken back any more. */
  begun?: boolean;
  /** Whether that line was written into the note. */
  written: boolean;
}

/** So many rounds of a line are looked at. */
const MOST_ROUNDS = 20;

/**
 * The next of a repeating task, or the copy of one of its steps, has the line in the notes that the one before had.
 * @param zone where the user is, when it is a task whose round is done; its line is written above
 */
export async function lineGoesOn(work: Work, from: Task, to: Task, zone?: string): Promise<void> {
  for (const row of await work.manager.findBy(Counterpart, { ownerId: work.ownerId, taskId: from.id, gone: false })) {
    const source = await work.manager.findOneBy(Source, { id: row.sourceId, kind: 'notes' });
    if (!source) continue;
    const after = await work.update('counterpart', row, { taskId: to.id });
    if (!zone) {
      await bringUp(work, source, after, to.title);
      continue;
    }
    const finished: Finished = {
      ...{ taskId: from.id, written: false, doneOn: dayOf(from.completed ?? work.now, zone) },
      ...{ day: from.plannedDay, due: from.deadline?.slice(0, 10) ?? null },
    };
    await noteSending(work, {
      ...{ sourceId: source.id, counterpartId: row.id, kind: 'line', payload: { finished } },
      what: `Tick “${to.title}” off in ${source.name} and write its next date`,
    });
  }
}

const finishedOf = ({ payload }: OutboxEntry) => payload['finished'] as Finished | undefined;

/** Rounds whose lines are to be written above, or, because they were taken back, to be taken out. */
export async function roundsToTell(work: Work, row: Counterpart): Promise<{ entry: OutboxEntry; stands: boolean }[]> {
  const entries = await work.manager.find(OutboxEntry, {
    where: { ownerId: work.ownerId, counterpartId: row.id, kind: 'line', state: In(['waiting', 'sent']) },
    order: { created: 'DESC', id: 'DESC' },
    take: MOST_ROUNDS,
  });
  const rounds = entries.filter(finishedOf).reverse();
  const tasks = await work.manager.findBy(Task, { id: In(rounds.map((one) => finishedOf(one)?.taskId ?? '')) });
  const done = new Set(tasks.filter(({ status }) => status === 'COMPLETED').map(({ id }) => id));
  return rounds
    .map((entry) => ({ entry, stands: done.has(finishedOf(entry)?.taskId ?? '') }))
    .filter(({ entry, stands }) => stands !== finishedOf(entry)?.written);
}

type Told = Awaited<ReturnType<typeof roundsToTell>>;

/** What these rounds change in the note. */
export const roundsChange = (told: Told): Pick<NoteChange, 'rounds'> =>
  told.length
    ? { rounds: told.flatMap(({ entry, stands }) => [finishedOf(entry)].flatMap((round) => (round ? [{ round, stands }] : []))) }
    : {};

/** Notes that they are being written into the note. */
export const roundsBegun = (work: Work, told: Told): Promise<void> => changed(work, told, () => ({ begun: true }));

/** Notes that the note says so now. */
export const roundsTold = (work: Work, told: Told): Promise<void> =>
  changed(work, told, ({ stands }) => ({ begun: true, written: stands }));

async function changed(work: Work, told: Told, to: (one: Told[number]) => Partial<Finished>): Promise<void> {
  for (const one of told) {
    const finished = { ...finishedOf(one.entry), ...to(one) };
    await work.manager.update(OutboxEntry, { id: one.entry.id }, { payload: { ...one.entry.payload, finished } });
  }
}
