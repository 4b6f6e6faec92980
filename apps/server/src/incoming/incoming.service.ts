import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { IncomingFull, IncomingLine, InvitationInfo } from '@corvun/contract';
import {
  dayOf,
  deadlineOf,
  instantOf,
  isoInZone,
  plainSubject,
  quotedFrom,
  sayTime,
  suggest,
  type Concentration,
  type Memory,
} from '@corvun/core';
import { In, Not, Repository } from 'typeorm';
import { AgendaService } from '../agenda/agenda.service';
import { ReadingPool } from '../reading/reading-pool.service';
import { Source } from '../sources/source.entity';
import { Clock } from '../base/clock';
import { Refusal, notFound } from '../base/errors';
import type { User } from '../accounts/user.entity';
import { Event } from '../events/event.entity';
import { List } from '../lists/list.entity';
import { Memories } from './memories.service';
import { Incoming, StoredAttachment, attachmentInfo, type KeptInvitation } from './incoming.entity';
import { Outcomes } from './outcomes.service';
import { UNREAD, isStale, textOf } from './reading';

export interface Page {
  state: 'waiting' | 'decided';
  outcome?: string | undefined;
  source?: string | undefined;
  cursor?: string | undefined;
  limit: number;
  newestFirst: boolean;
}

/** What proposals rest on besides the thing itself. */
interface Known {
  memory: Memory;
  concentration: ReadonlyMap<string, Concentration>;
  today: string;
}

/** Letters of another message that are shown beside one. */
const LONGEST = 4000;

@Injectable()
export class IncomingService {
  constructor(
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    @InjectRepository(StoredAttachment) private readonly attachments: Repository<StoredAttachment>,
    @InjectRepository(List) private readonly lists: Repository<List>,
    private readonly outcomes: Outcomes,
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly agenda: AgendaService,
    private readonly memories: Memories,
    private readonly clock: Clock,
    private readonly reading: ReadingPool,
  ) {}

  /** One page, oldest first unless turned. The cursor is the place after the last row. */
  async page(
    user: User,
    { state, outcome, source, cursor, limit, newestFirst }: Page,
  ): Promise<{ total: number; items: IncomingLine[]; next: string | null }> {
    const query = this.incoming
      .createQueryBuilder('i')
      .where('i.ownerId = :owner AND i.state = :state', { owner: user.id, state });
    if (source) query.andWhere('(i.source = :source OR i.kind = :source)', { source });
    if (outcome) query.andWhere('i.outcome = :outcome', { outcome });
    const total = await query.getCount();
    if (cursor) {
      const [received, id] = readCursor(cursor);
      query.andWhere(`(i.received, i.id) ${newestFirst ? '<' : '>'} (:received, :id)`, { received, id });
    }
    const order = newestFirst ? 'DESC' : 'ASC';
    const rows = await query
      .orderBy('i.received', order)
      .addOrderBy('i.id', order)
      .limit(limit + 1)
      .getMany();
    const items = await this.linesOf(user, rows.slice(0, limit));
    const last = rows.length > limit ? rows[limit - 1] : undefined;
    return { total, items, next: last ? `${last.received}.${last.id}` : null };
  }

  /** Some, by id and in any state, with the number that waits: how open windows keep up with changes. */
  async some(user: User, ids: string[]): Promise<{ total: number; items: IncomingLine[]; next: null }> {
    const rows = await this.incoming.findBy({ ownerId: user.id, id: In(ids) });
    // Something may be decided between two questions: those that are shown count as they are shown.
    const others = await this.incoming.countBy({ ownerId: user.id, state: 'waiting', id: Not(In(ids)) });
    const total = others + rows.filter(({ state }) => state === 'waiting').length;
    return { total, items: await this.linesOf(user, rows), next: null };
  }

  async linesOf(user: User, rows: Incoming[]): Promise<IncomingLine[]> {
    await this.readAgain(user, rows.filter(isStale));
    const known: Known = {
      memory: await this.memories.of(user.id),
      concentration: new Map((await this.lists.findBy({ ownerId: user.id })).map((list) => [list.name, list.concentration])),
      today: dayOf(this.clock.now(), user.zone),
    };
    const ids = [...new Set(rows.flatMap((row) => row.sourceId ?? []))];
    const names = new Map(
      ids.length ? (await this.sources.findBy({ ownerId: user.id, id: In(ids) })).map((one) => [one.id, one.name]) : [],
    );
    return Promise.all(
      rows.map(async (row) => {
        const kept = row.state === 'waiting' && row.invitation?.answerable ? row.invitation : null;
        const invitation = kept ? { overlaps: await this.overlapsOf(user, kept) } : null;
        return { ...lineOf(row, user, known, invitation), sourceName: names.get(row.sourceId ?? '') ?? '' };
      }),
    );
  }

  /** What an older reader read is shown as today's reads it; `Rereading` writes it. */
  private async readAgain(user: User, rows: Incoming[]): Promise<void> {
    await Promise.all(rows.map(async (row) => Object.assign(row, await this.reading.facts(...textOf(row, user)))));
  }

  async one(user: User, id: string): Promise<Incoming> {
    const row = await this.incoming.findOneBy({ id, ownerId: user.id });
    if (!row) throw notFound('incoming thing with this id');
    return row;
  }

  async full(user: User, id: string): Promise<IncomingFull> {
    const row = await this.one(user, id);
    const [line] = await this.linesOf(user, [row]);
    if (!line) throw notFound('incoming thing with this id');
    const attachmentList = (
      await this.attachments.find({ where: { incomingId: id, ownerId: user.id }, order: { position: 'ASC' } })
    ).map(attachmentInfo);
    const thread = await this.incoming.find({
      where: { ownerId: user.id, threadKey: row.threadKey, id: Not(id) },
      order: { received: 'DESC' },
      take: 50,
    });
    const joined = await this.incoming.find({
      where: [{ ownerId: user.id, joinedTo: id }, ...(row.joinedTo ? [{ ownerId: user.id, id: row.joinedTo }] : [])],
      order: { received: 'ASC' },
      take: 20,
    });
    const source = row.sourceId ? await this.sources.findOneBy({ id: row.sourceId, ownerId: user.id }) : null;
    return {
      ...line,
      to: row.recipients,
      written: row.written === null ? null : isoInZone(row.written, user.zone),
      text: row.text,
      html: row.html,
      heldBack: row.heldBack,
      problems: row.problems,
      facts: row.facts,
      attachmentList,
      thread: await Promise.all(
        thread.map(async (one) => ({
          id: one.id,
          subject: one.subject,
          text: one.text.slice(0, quotedFrom(one.text)).trim().slice(0, LONGEST),
          received: isoInZone(one.received, user.zone),
          sender: { name: one.senderName, address: one.senderAddress },
          state: one.state,
          made: one.state === 'decided' ? await this.outcomes.madeOf(user, one) : [],
        })),
      ),
      joined: joined.map((one) => ({
        id: one.id,
        kind: one.kind,
        source: one.sourceId ?? one.source,
        subject: one.subject,
        sender: { name: one.senderName, address: one.senderAddress },
        received: isoInZone(one.received, user.zone),
        text: one.text.slice(0, LONGEST),
      })),
      joinedTo: row.joinedTo,
      answers: await this.outcomes.answeredBy(user, row.id),
      link: row.link,
      context: (row.context ?? []).map((one) => ({ ...one, at: isoInZone(one.at, user.zone) })),
      invitation: row.invitation ? await this.invitationOf(user, row, row.invitation) : null,
      conflict: row.conflict ? { taskId: row.conflict.taskId, fields: row.conflict.fields } : null,
      canReply: source?.kind === 'chat',
      originalSize: row.originalSize,
      person: await this.outcomes.personOf(user, row),
      outcome: row.outcome === 'joined' ? null : row.outcome,
      made: await this.outcomes.madeOf(user, row),
    };
  }

  private async invitationOf(user: User, row: Incoming, kept: KeptInvitation): Promise<InvitationInfo> {
    const { calendar: _calendar, stamp: _stamp, following: _following, zone, ...shown } = kept;
    const event = kept.eventId ? await this.events.findOneBy({ id: kept.eventId, ownerId: user.id }) : null;
    const instant = (wall: string) => instantOf(wall, zone ?? user.zone);
    const [start, end] = kept.allDay
      ? [kept.start, kept.end]
      : [isoInZone(instant(kept.start), user.zone), isoInZone(instant(kept.end), user.zone)];
    const overlaps = row.state === 'waiting' && kept.answerable ? await this.overlapsOf(user, kept) : [];
    return { ...shown, start, end, eventId: event?.id ?? null, overlaps };
  }

  private async overlapsOf(user: User, { start, end, zone, allDay, eventId }: KeptInvitation): Promise<string[]> {
    if (allDay) return [];
    const [from, to] = [instantOf(start, zone ?? user.zone), instantOf(end, zone ?? user.zone)];
    const entries = await this.agenda.entries(user, dayOf(from, user.zone), 1);
    return entries
      .filter((one) => !one.allDay && one.showAs !== 'free' && one.status !== 'CANCELLED' && one.id !== eventId)
      .filter((one) => Date.parse(one.start ?? '') < to && Date.parse(one.end ?? '') > from)
      .map((one) => `${one.title}, ${sayTime(Date.parse(one.start ?? ''), user.zone)}`);
  }

  async attachment(user: User, id: string): Promise<StoredAttachment> {
    const found = await this.attachments.findOneBy({ id, ownerId: user.id });
    if (!found) throw notFound('attachment with this id');
    return found;
  }
}

function lineOf(
  row: Incoming,
  user: User,
  { memory, concentration, today }: Known,
  invitation: { overlaps: string[] } | null,
): Omit<IncomingLine, 'sourceName'> {
  const deadline = deadlineOf(row.facts, today) ?? null;
  return {
    id: row.id,
    source: row.source,
    kind: row.kind,
    sender: { name: row.senderName, address: row.senderAddress },
    subject: row.subject,
    received: isoInZone(row.received, user.zone),
    state: row.state,
    attachments: row.attachmentCount,
    bulk: row.bulk,
    note: row.note,
    twoVersions: row.conflict !== null,
    version: row.version,
    summary: {
      asks: row.facts.asks.length,
      deadline: deadline?.value ?? null,
      deadlineFixed: deadline?.fixed ?? false,
      minutes: row.facts.minutes,
    },
    suggestion:
      row.state === 'waiting' && row.note !== UNREAD && !row.conflict
        ? suggest({
            title: row.readTitle,
            subject: plainSubject(row.subject),
            facts: row.facts,
            bulk: row.bulk,
            invitation,
            recalled: memory.size
              ? memory.recall({
                  sender: row.senderAddress,
                  kind: row.kind,
                  bulk: row.bulk,
                  asks: row.facts.asks.length,
                  subject: row.subject,
                })
              : null,
            concentration,
            today,
            ...row.hints,
          })
        : null,
  };
}

function readCursor(cursor: string): [number, string] {
  const match = /^(\d{1,16})\.([a-z0-9]{1,40})$/.exec(cursor);
  if (!match) throw new Refusal('bad-cursor', 'The cursor is not one that was given out.');
  return [Number(match[1]), match[2] ?? ''];
}
