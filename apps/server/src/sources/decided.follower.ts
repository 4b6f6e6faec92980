import { Injectable, OnModuleInit } from '@nestjs/common';
import { In } from 'typeorm';
import { Kernel } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import type { Step } from '@corvun/core';
import { Incoming } from '../incoming/incoming.entity';
import { messageIdOf } from '../incoming/reading';
import { OutboxEntry } from './outbox.entity';
import { Source } from './source.entity';
import { noteSending } from './note-sending';

/** Follows decisions back to where the incoming came from: a mail is moved to the user's folder, a message gets a mark. */
@Injectable()
export class DecidedFollower implements OnModuleInit {
  constructor(private readonly kernel: Kernel) {}

  onModuleInit(): void {
    this.kernel.follow({
      name: 'decided things go back to their source',
      actors: ['user', 'rule'],
      follow: (work, changes) => this.follow(work, changes),
    });
  }

  private async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const turned = changes.filter(
      ({ kind, before, after }) => kind === 'incoming' && before && after && before['state'] !== after['state'],
    );
    if (!turned.length) return;
    const rows = await work.manager.findBy(Incoming, { ownerId: work.ownerId, id: In(turned.map((one) => one.id)) });
    for (const row of rows.filter((one) => one.sourceId)) {
      const source = await work.manager.findOneBy(Source, { id: row.sourceId ?? '' });
      if (!source) continue;
      const decided = row.state === 'decided';
      const held = await this.heldBack(work, row);
      if (held) continue;
      if (source.kind === 'mailbox' && source.settings.moveTo && row.externalId.includes('@')) {
        const to = decided ? source.settings.moveTo : (source.settings.folders?.[0] ?? 'INBOX');
        await this.note(work, source, row, 'folder', `Move “${row.subject}” to ${to}`, {
          messageId: `<${messageIdOf(row)}>`,
          to,
        });
      }
      if (source.kind === 'chat' && source.settings.decidedMark && decided)
        await this.note(work, source, row, 'mark', `Mark “${row.subject}” with ${source.settings.decidedMark}`, {
          message: row.externalId,
          mark: source.settings.decidedMark,
        });
    }
  }

  /** A turn back before the first one went out: both fall away. */
  private async heldBack(work: Work, row: Incoming): Promise<boolean> {
    const waiting = await work.manager.findBy(OutboxEntry, {
      ownerId: work.ownerId,
      sourceId: row.sourceId ?? '',
      kind: In(['folder', 'mark']),
      state: 'waiting',
      attempts: 0,
    });
    const same = waiting.filter((one) => one.payload['incoming'] === row.id);
    for (const one of same) await work.manager.delete(OutboxEntry, { id: one.id });
    return same.length > 0;
  }

  private async note(
    work: Work,
    source: Source,
    row: Incoming,
    kind: 'folder' | 'mark',
    what: string,
    payload: Record<string, unknown>,
  ): Promise<void> {
    await noteSending(work, {
      sourceId: source.id,
      kind,
      what,
      payload: { ...payload, incoming: row.id },
    });
  }
}
