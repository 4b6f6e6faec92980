import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { PersonFull, PersonPast, PersonTask } from '@corvun/contract';
import { dayOf, isoInZone } from '@corvun/core';
import { DataSource, In, type SelectQueryBuilder } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import { notFound } from '../base/errors';
import { Event } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { OutboxEntry } from '../sources/outbox.entity';
import { Task } from '../tasks/task.entity';
import { addressesOf } from './known';
import { Person } from './person.entity';

const MOST_OPEN = 50;
const MOST_PAST = 100;
const DAYS_AHEAD = 90;
const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'];

/** Everything that is open with somebody, and all that was. */
@Injectable()
export class PersonReads {
  constructor(
    @InjectDataSource() private readonly source: DataSource,
    private readonly agenda: AgendaService,
    private readonly clock: Clock,
  ) {}

  /** @throws Refusal 404 when there is nobody with this id */
  async full(user: User, id: string): Promise<PersonFull> {
    const person = await this.source.manager.findOneBy(Person, { id, ownerId: user.id });
    if (!person) throw notFound('person with this id');
    const mine = addressesOf(person);
    const [asking, waiting, tasks, events, past] = await Promise.all([
      this.asking(user, mine),
      this.waitingOn(user, person),
      this.tasksFrom(user, mine),
      this.eventsAhead(user, mine),
      this.past(user, mine),
    ]);
    const { name, address, addresses, organisation, phone, note, version } = person;
    return {
      ...{ id, name, address, addresses, organisation, phone, note, version, asking, waiting, tasks, events },
      past: past.slice(0, MOST_PAST),
      more: past.length > MOST_PAST,
    };
  }

  private async asking(user: User, addresses: string[]): Promise<PersonFull['asking']> {
    if (!addresses.length) return [];
    const rows = await this.source.manager.find(Incoming, {
      where: { ownerId: user.id, state: 'waiting', senderAddress: In(addresses) },
      order: { received: 'DESC' },
      take: MOST_OPEN,
    });
    return rows.map(({ id, subject, received, facts }) => ({
      id,
      subject,
      received: isoInZone(received, user.zone),
      asks: facts.asks.slice(0, 3).map(({ text }) => text.replace(/\s+/g, ' ').slice(0, 300)),
    }));
  }

  private async waitingOn(user: User, person: Person): Promise<PersonTask[]> {
    const names = [person.name, ...addressesOf(person)].map((one) => one.toLowerCase());
    const rows = await this.tasks(user)
      .andWhere('LOWER(t.waitingOn) IN (:...names)', { names })
      .orderBy('t.waitingSince')
      .take(MOST_OPEN)
      .getMany();
    return rows.map((row) => taskOf(row, user));
  }

  private async tasksFrom(user: User, addresses: string[]): Promise<PersonTask[]> {
    if (!addresses.length) return [];
    const rows = await this.tasks(user)
      .andWhere('t.waitingOn IS NULL')
      .andWhere('t.incomingId IN (SELECT i.id FROM incoming i WHERE i.ownerId = :owner AND i.senderAddress IN (:...addresses))', {
        addresses,
      })
      .orderBy('t.created', 'DESC')
      .take(MOST_OPEN)
      .getMany();
    return rows.map((row) => taskOf(row, user));
  }

  private tasks(user: User): SelectQueryBuilder<Task> {
    return this.source.manager
      .createQueryBuilder(Task, 't')
      .where('t.ownerId = :owner AND t.status IN (:...open)', { owner: user.id, open: OPEN });
  }

  private with(user: User, addresses: string[]): SelectQueryBuilder<Event> {
    return this.source.manager
      .createQueryBuilder(Event, 'e')
      .where('e.ownerId = :owner', { owner: user.id })
      .andWhere(
        `(LOWER(e.organizer) IN (:...addresses) OR EXISTS (SELECT 1 FROM json_each(e.attendees)
          WHERE LOWER(json_extract(value, '$.address')) IN (:...addresses)))`,
        { addresses },
      );
  }

  private async eventsAhead(user: User, addresses: string[]): Promise<PersonFull['events']> {
    if (!addresses.length) return [];
    const now = this.clock.now();
    const rows = await this.with(user, addresses)
      .andWhere('(e.endAt IS NULL OR e.endAt > :now)', { now })
      .select('e.id', 'id')
      .getRawMany<{ id: string }>();
    if (!rows.length) return [];
    const ids = new Set(rows.map(({ id }) => id));
    const entries = await this.agenda.entries(user, dayOf(now, user.zone), DAYS_AHEAD);
    return entries
      .filter((entry) => entry.kind === 'event' && ids.has(entry.id) && (!entry.end || Date.parse(entry.end) > now))
      .slice(0, MOST_OPEN)
      .map(({ id, title, day, start, allDay }) => ({ id, title, day, start: allDay ? null : (start ?? null) }));
  }

  private async past(user: User, addresses: string[]): Promise<PersonPast[]> {
    if (!addresses.length) return [];
    const now = this.clock.now();
    const take = MOST_PAST + 1;
    const from = this.source.manager.find(Incoming, {
      where: { ownerId: user.id, senderAddress: In(addresses) },
      order: { received: 'DESC' },
      select: { id: true, subject: true, received: true },
      take,
    });
    const to = this.source.manager
      .createQueryBuilder(OutboxEntry, 'o')
      .where("o.ownerId = :owner AND o.kind = 'mail'", { owner: user.id })
      .andWhere(
        `EXISTS (SELECT 1 FROM json_each(json_extract(o.payload, '$.to')) WHERE LOWER(json_extract(value, '$.address')) IN (:...addresses))`,
        { addresses },
      )
      .orderBy('o.created', 'DESC')
      .take(take)
      .getMany();
    const met = this.with(user, addresses)
      .andWhere('e.endAt IS NOT NULL AND e.endAt <= :now', { now })
      .orderBy('e.startAt', 'DESC')
      .take(take)
      .getMany();
    const all = [
      ...(await from).map(({ id, subject, received }) => ({ way: 'from' as const, id, title: subject, at: received })),
      ...(await to).map(({ what, created }) => ({ way: 'to' as const, id: '', title: what, at: created })),
      ...(await met).map(({ id, title, startAt }) => ({ way: 'with' as const, id, title, at: startAt })),
    ];
    return all
      .sort((a, b) => b.at - a.at)
      .slice(0, take)
      .map((one) => ({ ...one, at: isoInZone(one.at, user.zone) }));
  }
}

const taskOf = ({ id, title, deadline, waitingSince, waitingUntil }: Task, { zone }: User): PersonTask => ({
  id,
  title,
  deadline,
  since: waitingSince === null ? null : isoInZone(waitingSince, zone),
  until: waitingUntil,
});
