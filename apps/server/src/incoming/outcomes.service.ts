import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { MadeThing, PersonInfo } from '@corvun/contract';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Block } from '../blocks/block.entity';
import { Event } from '../events/event.entity';
import { Note } from '../notes/note.entity';
import { addressesOf, personWith } from '../people/known';
import { Person } from '../people/person.entity';
import { Task } from '../tasks/task.entity';
import { Incoming } from './incoming.entity';

/** What came of incoming things, and whose they are. */
@Injectable()
export class Outcomes {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Note) private readonly notes: Repository<Note>,
    @InjectRepository(Person) private readonly people: Repository<Person>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
  ) {}

  /** What came of an incoming. */
  async madeOf(user: User, row: Incoming): Promise<MadeThing[]> {
    if (row.state === 'waiting') return [];
    const all = await this.tasks.find({ where: { ownerId: user.id, incomingId: row.id }, order: { created: 'ASC' } });
    // Of a task that repeats the latest stands for all that were done before.
    const latest = all.findLast(({ repeatOn }) => repeatOn !== null);
    const tasks = all.filter((task) => task === latest || task.repeatOn === null || task.status !== 'COMPLETED');
    const blocks = tasks.length
      ? await this.blocks.find({
          where: { ownerId: user.id, taskId: In(tasks.map((task) => task.id)) },
          order: { startAt: 'ASC' },
        })
      : [];
    const events = await this.events.find({ where: { ownerId: user.id, incomingId: row.id } });
    const notes = row.outcome === 'reference' ? await this.notesOf(user, row) : [];
    const person = row.outcome === 'person' ? await this.personOf(user, row) : null;
    const titles = new Map(tasks.map((task) => [task.id, task.title]));
    return [
      ...tasks.map(({ id, title }): MadeThing => ({ kind: 'task', id, title })),
      ...blocks.map(({ id, taskId }): MadeThing => ({ kind: 'block', id, title: titles.get(taskId ?? '') ?? '' })),
      ...events.map(({ id, title }): MadeThing => ({ kind: 'event', id, title })),
      ...(person ? [{ kind: 'person', id: person.id, title: person.name } as MadeThing] : []),
      ...notes.map(({ id, title }): MadeThing => ({ kind: 'note', id, title })),
      ...(row.outcome === 'reference' && !notes.length
        ? [{ kind: 'reference', id: row.id, title: row.subject } as MadeThing]
        : []),
    ];
  }

  /** Tasks that waited for an incoming. */
  async answeredBy(user: User, id: string): Promise<{ id: string; title: string }[]> {
    const tasks = await this.tasks.find({ where: { ownerId: user.id, answeredBy: id }, order: { id: 'ASC' } });
    return tasks.map(({ id: task, title }) => ({ id: task, title }));
  }

  private notesOf(user: User, row: Incoming): Promise<Note[]> {
    return this.notes
      .createQueryBuilder('n')
      .where('n.ownerId = :owner AND EXISTS (SELECT 1 FROM json_each(n.incomingIds) WHERE value = :id)', {
        owner: user.id,
        id: row.id,
      })
      .getMany();
  }

  /** The sender's card, found by address. */
  async personOf(user: User, { senderAddress }: Incoming): Promise<PersonInfo | null> {
    const known = senderAddress ? await personWith(this.people.manager, user.id, [senderAddress]) : null;
    if (!known) return null;
    const { id, name, address, organisation, phone, note } = known;
    const messages = await this.incoming.countBy({ ownerId: user.id, senderAddress: In(addressesOf(known)) });
    return { id, name, address, organisation, phone, note, messages };
  }
}
