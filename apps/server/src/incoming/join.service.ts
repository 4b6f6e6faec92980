import { Injectable } from '@nestjs/common';
import { Like, Not } from 'typeorm';
import type { Work } from '../kernel/work';
import { Incoming } from './incoming.entity';

const LINK = /https?:\/\/[^\s<>"')\]]+/g;
const MOST_LINKS = 20;

/** Joins what is the same matter from two places, where there is proof: the same Message-ID, or the address of a known card. */
@Injectable()
export class JoinService {
  /** Joins each new incoming to the one whose address it names, or the earlier ones that name its own. */
  async byLink(work: Work, fresh: readonly Incoming[]): Promise<void> {
    const named: Incoming[] = [];
    for (const incoming of fresh) if (!(await this.toNamed(work, incoming)) && incoming.link) named.push(incoming);
    if (!named.length) return;
    for (const one of await this.namingOneOf(work, named)) {
      const about = named.find(({ id, link, source }) => id !== one.id && source !== one.source && names(one.text, link));
      if (about) await this.join(work, one, about);
    }
  }

  private async toNamed(work: Work, incoming: Incoming): Promise<boolean> {
    for (const link of [...new Set(incoming.text.match(LINK) ?? [])].slice(0, MOST_LINKS)) {
      const other = await work.manager.findOneBy(Incoming, {
        ownerId: work.ownerId,
        link: link.replace(/[.,;:!?]+$/, ''),
        id: Not(incoming.id),
      });
      if (!other) continue;
      await this.join(work, incoming, other);
      return true;
    }
    return false;
  }

  /** What waits, came from elsewhere, and names an address of the same places; looked for once for all of them. */
  private async namingOneOf(work: Work, named: readonly Incoming[]): Promise<Incoming[]> {
    const sources = [...new Set(named.map(({ source }) => source))];
    const places = [...new Set(named.map(({ link }) => link.slice(0, link.lastIndexOf('/') + 1) || link))].slice(0, MOST_LINKS);
    const common = {
      ownerId: work.ownerId,
      state: 'waiting' as const,
      ...(sources.length === 1 ? { source: Not(sources[0] ?? '') } : {}),
    };
    return work.manager.find(Incoming, {
      where: places.map((place) => ({ ...common, text: Like(`%${place.replace(/[%_]/g, '_')}%`) })),
      take: MOST_LINKS * named.length,
    });
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

/** Whether a text holds an address, and not one that only begins like it. */
function names(text: string, link: string): boolean {
  for (let at = text.indexOf(link); at >= 0; at = text.indexOf(link, at + 1))
    if (!/[\w-]/.test(text.charAt(at + link.length))) return true;
  return false;
}
