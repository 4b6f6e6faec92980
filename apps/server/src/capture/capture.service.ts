import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { CaptureInput, Captured, MadeThing } from '@corvun/contract';
import { dayOf, firstDayOf, parseLine, placesIn, sayDay, timesBetween, wholeDays, type Draft } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField } from '../base/errors';
import { newId } from '../base/ids';
import { blankEvent, blankIncoming } from '../decisions/blanks';
import { mainCalendar } from '../calendars/main-calendar';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { CaptureKey } from './capture-key.entity';
import { readIncoming } from '../incoming/reading';
import { List } from '../lists/list.entity';
import { Shortlist, quietOn } from '../passes/shortlist.entity';
import { Person } from '../people/person.entity';
import { draftBlock, draftTask, stretchOf } from './draft-task';

const DEFAULT_EVENT = 60;

type Made = Omit<Captured, 'decision' | 'sentence'> & { where: string };

/** Turns a typed line into an event, a task with or without time, or, when it says no when and no where, an incoming. */
@Injectable()
export class CaptureService {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Person) private readonly people: Repository<Person>,
  ) {}

  async capture(user: User, input: CaptureInput): Promise<Captured> {
    const lists = await this.lists.findBy({ ownerId: user.id, archived: false });
    const people = (await this.people.findBy({ ownerId: user.id })).map((person) => person.name);
    const written = Math.min(input.at ? Date.parse(input.at) : Infinity, this.clock.now());
    const draft = parseLine(input.text.trim(), {
      now: written,
      zone: user.zone,
      lists: lists.map((list) => list.name),
      people,
    });
    if (!draft.title) throw badField('text', 'The line says when or where, but not what. Add a few words.');
    const list = lists.find((one) => one.name === draft.list) ?? null;
    const notes = [input.note, input.url].filter(Boolean).join('\n\n');
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      await this.takeKey(work, input.key);
      const line = input.text.trim();
      const quietUntil = input.inbox === undefined ? await this.quietUntil(work, user) : null;
      const made =
        (input.inbox ?? quietUntil !== null)
          ? await this.makeIncoming(work, user, draft, notes, line)
          : await this.make(work, user, draft, list, notes, line);
      const quiet = quietUntil === null ? '' : `; it is quiet until ${sayDay(quietUntil, dayOf(work.now, user.zone))}`;
      work.say({ action: 'capture', sentence: `“${made.title}” ${made.where}${quiet}` });
      return made;
    });
    const { where: _where, ...made } = result;
    return { decision, sentence, ...made };
  }

  /** @throws Refusal when a line with this key was taken before: a sender that missed the answer sends it again */
  private async takeKey(work: Work, key: string | undefined): Promise<void> {
    if (!key) return;
    if (await work.manager.existsBy(CaptureKey, { ownerId: work.ownerId, key }))
      throw new Refusal('taken-before', 'This line was taken before.');
    await work.manager.insert(CaptureKey, { ownerId: work.ownerId, key, at: work.now });
  }

  /** The last day of a quiet time, in which what is new only goes to the inbox; null: there is none now. */
  private async quietUntil(work: Work, { zone }: User): Promise<string | null> {
    const list = await work.manager.findOneBy(Shortlist, { ownerId: work.ownerId });
    return quietOn(list, dayOf(work.now, zone));
  }

  private async make(work: Work, user: User, draft: Draft, list: List | null, notes: string, line: string): Promise<Made> {
    if (draft.kind === 'event') return this.makeEvent(work, user, draft, notes);
    const decided = draft.date ?? draft.week ?? draft.deadline ?? draft.repeat ?? draft.list;
    return decided ? this.makeTask(work, user, draft, list, notes) : this.makeIncoming(work, user, draft, notes, line);
  }

  private async makeEvent(work: Work, user: User, draft: Draft, notes: string): Promise<Made> {
    const said = draft.date ?? dayOf(work.now, user.zone);
    const first = draft.repeat ? firstDayOf(draft.repeat, said) : said;
    const times = draft.time
      ? timesBetween(stretchOf({ ...draft, date: first }, user.zone, DEFAULT_EVENT), user.zone)
      : wholeDays(first, draft.endDate ?? first);
    const calendar = await mainCalendar(work);
    const event = await work.insert('event', {
      ...blankEvent(times, user.zone, draft.repeat),
      calendarId: calendar.id,
      uid: `${newId()}@corvun`,
      title: draft.title,
      description: notes,
      location: placesIn(draft.title)[0]?.text ?? '',
      attendees: draft.people.map((name) => ({
        name: name.includes('@') ? '' : name,
        address: name.includes('@') ? name : '',
        partstat: 'NEEDS-ACTION' as const,
      })),
    });
    return {
      kind: 'event',
      id: event.id,
      title: event.title,
      where: 'is an event',
      made: [{ kind: 'event', id: event.id, title: event.title }],
    };
  }

  private async makeTask(work: Work, user: User, draft: Draft, list: List | null, notes: string): Promise<Made> {
    const task = await work.insert('task', await draftTask(work, user, draft, list, notes));
    const day = task.plannedDay;
    const made: MadeThing[] = [{ kind: 'task', id: task.id, title: task.title }];
    const onList = list ? ` on ${list.name}` : '';
    const block = day ? await draftBlock(work, user, draft, task) : null;
    if (!block) return { kind: 'task', id: task.id, title: task.title, where: `is a task${onList}`, made };
    made.push({ kind: 'block', id: block.id, title: task.title });
    return { kind: 'block', id: block.id, title: task.title, where: `is a task${onList} with time set aside`, made };
  }

  private async makeIncoming(work: Work, user: User, draft: Draft, notes: string, line: string): Promise<Made> {
    const text = notes ? `${line}\n\n${notes}` : line;
    const read = readIncoming(text, draft.title, null, work.now, user.zone, { bulk: false, invitation: false });
    const row = await work.insert('incoming', {
      ...blankIncoming(),
      source: 'typed',
      externalId: newId(),
      kind: 'typed',
      senderName: user.name,
      subject: draft.title,
      received: work.now,
      written: work.now,
      text,
      problems: draft.problems.map((problem) => problem.message),
      threadKey: newId(),
      originalSize: Buffer.byteLength(text),
      ...read,
      readTitle: draft.title,
      hints: { tags: draft.tags, priority: draft.priority },
    });
    return { kind: 'incoming', id: row.id, title: draft.title, where: 'waits in the inbox', made: [] };
  }
}
