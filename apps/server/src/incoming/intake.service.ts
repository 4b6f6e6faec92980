import { Injectable, Logger } from '@nestjs/common';
import { fileWords, sayHeldBack, type Itip } from '@corvun/formats';
import { Between, In } from 'typeorm';
import { Clock } from '../base/clock';
import { asRefusal } from '../base/database-problem';
import { FileStore } from '../base/file-store';
import { newId } from '../base/ids';
import type { User } from '../accounts/user.entity';
import { blankIncoming } from '../decisions/blanks';
import { Kernel, bySource } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import type { ReadMessage } from '../reading/jobs';
import { ReadingPool } from '../reading/reading-pool.service';
import type { Source } from '../sources/source.entity';
import { Incoming, StoredAttachment } from './incoming.entity';
import { InvitationService } from './invitation.service';
import { JoinService } from './join.service';
import { UNREAD, threadKeyOf } from './reading';

export type Taken = { state: 'taken' | 'known'; id: string };

interface Prepared {
  incoming: Incoming;
  calendar: string;
  itip: Itip | null;
  bytes: Buffer;
  attachments: StoredAttachment[];
}

/** Turns mail into incomings. What is acknowledged is on disk. */
@Injectable()
export class Intake {
  private readonly logger = new Logger('intake');

  constructor(
    private readonly kernel: Kernel,
    private readonly files: FileStore,
    private readonly reading: ReadingPool,
    private readonly clock: Clock,
    private readonly invitations: InvitationService,
    private readonly joins: JoinService,
  ) {}

  /** Takes one message in. @throws MailError when it is refused */
  async takeMail(user: User, bytes: Buffer, source: string, arrivedNow: boolean): Promise<Taken> {
    const [taken] = await this.takeMails(user, [bytes], source, arrivedNow);
    if (!taken) throw new Error('nothing was taken');
    if (taken instanceof Error) throw taken;
    return taken;
  }

  /** Takes several in with one transaction; a refused one is given back as its error. */
  async takeMails(user: User, all: Buffer[], source: string, arrivedNow: boolean): Promise<(Taken | Error)[]> {
    const prepared = await this.prepareAll(user, all, source, arrivedNow);
    return (await this.kernel.transact(bySource(user.id), (work) => this.insert(work, user, source, prepared))).result;
  }

  /** Keeps the originals of mails from a file or a connected source; what is given back writes their rows, as part of a step. */
  async writer(user: User, all: Buffer[], source: Source | null): Promise<(work: Work) => Promise<(Taken | Error)[]>> {
    const from = source?.id ?? 'mail';
    const prepared = await this.prepareAll(user, all, from, false);
    for (const one of prepared) if (!(one instanceof Error)) one.incoming.sourceId = source?.id ?? null;
    return (work) => this.insert(work, user, from, prepared);
  }

  private async prepareAll(user: User, all: Buffer[], source: string, arrivedNow: boolean): Promise<(Prepared | Error)[]> {
    const files = new Map<string, Buffer>();
    const prepared = await Promise.all(
      all.map((bytes) =>
        this.prepare(user, bytes, source, arrivedNow, files).catch((problem: unknown) =>
          problem instanceof Error ? problem : new Error(String(problem)),
        ),
      ),
    );
    await this.files.keepAll(files);
    return prepared;
  }

  /** @param files what has to be kept of it is added */
  private async prepare(
    user: User,
    bytes: Buffer,
    source: string,
    arrivedNow: boolean,
    files: Map<string, Buffer>,
  ): Promise<Prepared> {
    const id = newId();
    const reader = { zone: user.zone, name: user.name, now: this.clock.now(), arrivedNow };
    const message = await this.reading.mail(bytes, reader);
    const { mail } = message;
    files.set(mail.hash, bytes);
    for (const part of mail.attachments) files.set(part.hash, Buffer.from(part.content));
    const attachments = mail.attachments.map((part, position): StoredAttachment => ({
      id: newId(),
      ownerId: user.id,
      incomingId: id,
      position,
      name: part.name,
      type: part.type,
      size: part.size,
      hash: part.hash,
      // An invitation is found by its event.
      words: part.type === 'text/calendar' ? '' : fileWords(part.name, part.type, part.content),
    }));
    const urls = new Map(attachments.map((one) => [one.hash, `/api/attachments/${one.id}`]));
    const html =
      mail.html?.replace(/\/api\/attachments\/([0-9a-f]{64})/g, (whole, hash: string) => urls.get(hash) ?? whole) ?? null;
    const incoming = { ...this.rowOf(user, id, message, bytes.length, source), html };
    return { incoming, attachments, calendar: mail.calendar?.text ?? '', itip: message.itip, bytes };
  }

  private rowOf(
    user: User,
    id: string,
    { mail, written, received, read, unreadable }: ReadMessage & { unreadable: boolean },
    size: number,
    source: string,
  ): Incoming {
    const now = this.clock.now();
    return {
      ...blankIncoming(),
      id,
      ownerId: user.id,
      version: 1,
      created: now,
      changed: now,
      source,
      externalId: mail.messageId?.replace(/\s+/g, '') || mail.hash,
      kind: 'mail',
      senderName: mail.from?.name ?? '',
      senderAddress: mail.from?.address ?? '',
      recipients: mail.to.slice(0, 100),
      subject: mail.subject,
      received,
      written,
      text: mail.text,
      html: mail.html,
      heldBack: mail.heldBack ? sayHeldBack(mail.heldBack) : '',
      problems: mail.problems,
      threadKey: threadKeyOf(mail),
      originalHash: mail.hash,
      originalSize: size,
      attachmentCount: mail.attachments.length,
      bulk: mail.bulk,
      ...read,
      note: unreadable ? UNREAD : '',
    };
  }

  /** Writes what was read. Whatever is wrong with one message, the others are kept. */
  private async insert(work: Work, user: User, source: string, prepared: (Prepared | Error)[]): Promise<(Taken | Error)[]> {
    const results: (Taken | Error)[] = [];
    const known = await this.knownOf(work, user, prepared);
    for (const one of prepared) {
      if (one instanceof Error) {
        results.push(one);
        continue;
      }
      try {
        results.push(await work.attempt(() => this.insertOne(work, user, source, one, known)));
      } catch (problem) {
        if (asRefusal(problem)) throw problem;
        this.logger.error(problem);
        results.push(new Error('The message could not be kept.'));
      }
    }
    return results;
  }

  /** Messages that are here already under the same ids, by id. */
  private async knownOf(work: Work, user: User, prepared: (Prepared | Error)[]): Promise<Map<string, Incoming[]>> {
    const ids = prepared.flatMap((one) => (one instanceof Error ? [] : [one.incoming.externalId]));
    const known = new Map<string, Incoming[]>();
    const rows = await work.manager.find(Incoming, {
      where: { ownerId: user.id, kind: In(['mail', 'invitation']), externalId: In(ids) },
    });
    for (const row of rows) known.set(row.externalId, [...(known.get(row.externalId) ?? []), row]);
    return known;
  }

  private async insertOne(work: Work, user: User, source: string, one: Prepared, all: Map<string, Incoming[]>): Promise<Taken> {
    const { externalId, originalHash } = one.incoming;
    const rows = [...(all.get(externalId) ?? [])];
    if (rows.length) rows.push(...(await this.namesakes(work, user, externalId)));
    const here = rows.filter((row) => row.source === source);
    const known =
      here.find((row) => row.originalHash === originalHash) ??
      (await this.firstWith(here, (row) => this.isSameMail(row, one.bytes)));
    if (known) return { state: 'known', id: known.id };
    const [twin, namesake] = [rows.find((row) => isSameText(row, one.incoming)), rows[0]];
    const incoming = await work.insert('incoming', {
      ...one.incoming,
      ...(here.some((row) => row.externalId === externalId) ? { externalId: otherId(one.incoming) } : {}),
      ...(namesake && !twin
        ? { problems: [...one.incoming.problems, SAME_ID], note: one.incoming.note || 'another text under a known id' }
        : {}),
    });
    if (one.attachments.length) await work.manager.insert(StoredAttachment, one.attachments);
    if (twin) await this.joins.join(work, incoming, twin);
    else if (one.itip) await this.invite(work, user, incoming, one.calendar, one.itip);
    else if (/https?:/.test(incoming.text)) await this.joins.byLink(work, [incoming]);
    all.set(incoming.externalId, [...(all.get(incoming.externalId) ?? []), incoming]);
    return { state: 'taken', id: incoming.id };
  }

  /** Other texts under a Message-ID; almost always there are none. */
  private namesakes(work: Work, user: User, externalId: string): Promise<Incoming[]> {
    return work.manager.find(Incoming, {
      where: { ownerId: user.id, externalId: Between(`${externalId} `, `${externalId}!`) },
      take: MOST_NAMESAKES,
    });
  }

  private async firstWith(rows: Incoming[], test: (row: Incoming) => Promise<boolean>): Promise<Incoming | undefined> {
    for (const row of rows) if (await test(row)) return row;
    return undefined;
  }

  /** Whether a message is the same byte for byte, but for the line ends that mail servers write anew on the way. */
  private async isSameMail({ originalHash, originalSize }: Incoming, bytes: Buffer): Promise<boolean> {
    if (!originalHash || Math.abs(originalSize - bytes.length) > Math.max(originalSize, bytes.length) / 10) return false;
    const kept = await this.files.read(originalHash).catch(() => null);
    return kept !== null && sameLines(kept) === sameLines(bytes);
  }

  /** Carries out an invitation; one that cannot be kept is a mail with a note. */
  private async invite(work: Work, user: User, incoming: Incoming, calendar: string, itip: Itip): Promise<void> {
    try {
      await work.attempt(() => this.invitations.take(work, user, incoming, calendar, itip));
    } catch (problem) {
      if (asRefusal(problem)) throw problem;
      if (!(problem instanceof RangeError)) this.logger.error(problem);
      const why = problem instanceof RangeError ? problem.message : 'It cannot be understood.';
      await work.update('incoming', incoming, {
        note: 'its invitation could not be kept',
        problems: [...incoming.problems, `The invitation in this message is not in your calendar. ${why}`],
      });
    }
  }
}

const sameLines = (bytes: Buffer): string => bytes.toString('latin1').replace(/\r\n?/g, '\n').trimEnd();

/** Different texts under one Message-ID that are looked at. */
const MOST_NAMESAKES = 50;

const SAME_ID = 'Another message with the same Message-ID was here already. Its text is different, so both are kept.';

/** The name of a message whose Message-ID another text has already. */
const otherId = ({ externalId, originalHash }: Incoming): string => `${externalId} ${(originalHash ?? '').slice(0, 16)}`;

/** The same message that came another way: only what was written on it on the way differs. */
const isSameText = (a: Incoming, b: Incoming): boolean =>
  a.originalHash === b.originalHash ||
  (a.text === b.text &&
    a.subject === b.subject &&
    a.senderAddress === b.senderAddress &&
    a.attachmentCount === b.attachmentCount);
