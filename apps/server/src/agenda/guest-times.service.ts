import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { GuestTime } from '@corvun/contract';
import { overlaps, type Interval } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import type { Event } from '../events/event.entity';
import { othersAt } from '../events/guests';
import { busyPeople } from '../sources/account/account-others';
import { Source } from '../sources/source.entity';

const DAY = 86_400_000;

/** The guests of an event, and all times at which those of them are busy whose time is known. */
export interface KnownTimes {
  all: GuestTime[];
  theirs: Interval[];
}

export const NOBODY: KnownTimes = { all: [], theirs: [] };

/** Says when guests are busy, where an account tells it. */
@Injectable()
export class GuestTimes {
  constructor(
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly clock: Clock,
  ) {}

  /** @param at when the event would be; what is known for less than that, or is of yesterday, is not known */
  async of(user: User, event: Pick<Event, 'organizer' | 'attendees'>, at: Interval): Promise<KnownTimes> {
    const people = othersAt(event, user);
    if (!people.length) return NOBODY;
    const now = this.clock.now();
    const busy = busyPeople(await this.sources.findBy({ ownerId: user.id, kind: 'account', state: 'active' }));
    const known = people.map(({ name, address, comes }) => {
      const asked = (busy.get(address) ?? []).filter((one) => now - one.at < DAY && one.start <= at.start && at.end <= one.end);
      const times = asked.flatMap(({ stretches }) => stretches.map(([start, end]) => ({ start, end })));
      // Who comes already is busy with this itself.
      const elsewhere = !comes && times.some((one) => overlaps(one, at));
      const called = name === address ? (asked[0]?.name ?? name) : name;
      return { guest: { name: called, address, busy: asked.length ? elsewhere : null }, times };
    });
    return { all: known.map(({ guest }) => guest), theirs: known.flatMap(({ times }) => times) };
  }
}
