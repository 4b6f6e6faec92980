import { Injectable } from '@nestjs/common';
import { Like, Not } from 'typeorm';
import type { Work } from '../kernel/work';
import { Incoming } from './incoming.entity';

const LINK = /https?:\/\/[^\s<>"')\]]+/g;
const MOST_LINKS = 20;

/** Joins what is the same matter from two places, where there is proof: the same Message-ID, or the address of a known card. */
@Injectable()
export class JoinService {
  /** Joins a new incoming to the one whose address it names, or the earlier ones that name its own. */
  async byLink(work: Work, incoming: Incoming): Promise<void> {
    for (const link of [...new Set(incoming.text.match(LINK) ?? [])].slice(0, MOST_LINKS)) {
      const other = await work.manager.findOneBy(Incoming, {
        ownerId: work.ownerId,
        link: link.replace(/[.,;:!?]+$/, ''),
        id: Not(incoming.id),
      });
      if (other) return this.join(work, incoming, other);
    }
    if (!incoming.link) return;
    const naming = await work.manager.find(Incoming, {
      where: {
        ownerId: work.ownerId,
        state: 'waiting',
        text: Like(`%${incoming.link.replace(/[%_]/g, '_')}%`),
        id: Not(incoming.id),
      },
      take: MOST_LINKS,
    });
    for (const one of naming.filter((other) => other.source !== incoming.source)) await this.join(work, one, incoming);
  }

  /** Joins one to another. Where the other still waits it stands for both; where it is decided this one waits, and says so. */
  async join(work: Work, incoming: Incoming, other: Incoming): Promise<void> {
    const stands = other.joinedTo ?? other.id;
    if (stands === incoming.id) return;
    const waits = other.state === 'waiting';
    await work.update('incoming', incoming, {
      joinedTo: stands,
      ...(waits && incoming.state === 'waiting'
        ? { state: 'decided' as const, outcome: 'joined' as const, decided: work.now }
        : {}),
    });
    // The other one is shown anew, with what was joined to it.
    if (waits) await work.update('incoming', other, {});
  }
}
