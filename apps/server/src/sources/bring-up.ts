import { In } from 'typeorm';
import type { Work } from '../kernel/work';
import { noteSending } from './note-sending';
import { OutboxEntry } from './outbox.entity';
import { Counterpart, type Source } from './source.entity';

/** Notes in the outbox that a task has something to tell its source; once, however often it changes meanwhile. */
export async function bringUp(work: Work, source: Source, counterpart: Counterpart, title: string): Promise<void> {
  const root = counterpart.parentId
    ? ((await work.manager.findOneBy(Counterpart, { id: counterpart.parentId })) ?? counterpart)
    : counterpart;
  const known = await work.manager.findOneBy(OutboxEntry, {
    ownerId: work.ownerId,
    counterpartId: root.id,
    kind: In(['card', 'line']),
    state: 'waiting',
  });
  if (known) {
    if (known.attempts > 0) await work.manager.update(OutboxEntry, { id: known.id }, { nextTry: work.now });
    return;
  }
  await noteSending(work, {
    sourceId: source.id,
    counterpartId: root.id,
    kind: source.kind === 'notes' ? 'line' : 'card',
    what: `Bring “${title}” up to date in ${source.name}`,
    payload: {},
  });
}
