import { Injectable } from '@nestjs/common';
import { readMail, sayHeldBack, type Mail } from '@corvun/formats';
import { In } from 'typeorm';
import { Clock } from '../base/clock';
import { FileStore } from '../base/file-store';
import { newId } from '../base/ids';
import type { User } from '../accounts/user.entity';
import { noSource } from '../decisions/blanks';
import { Journal, type Work } from '../decisions/journal.service';
import type { Source } from '../sources/source.entity';
import { Incoming, StoredAttachment } from './incoming.entity';
import { InvitationService } from './invitation.service';
import { JoinService } from './join.service';
import { readIncoming, threadKeyOf } from './reading';

export type Taken = { state: 'taken' | 'known'; id: string };

interface Prepared {
  incoming: Incoming;
  calendar: string | null;
  attachments: StoredAttachment[];
}

const FUTURE = 86_400_000;

/** Turns mail into incomings. What is acknowledged is on disk. */
@Injectable()
export class Intake {
  constructor(
    private readonly journal: Journal,
    private readonly files: FileStore,
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
    return this.journal.quietly(user.id, (work) => this.insert(work, user, source, prepared));
  }

  /** Keeps the originals of mails from a file or a connected source; what is given back writes their rows, as part of a step. */
  async writer(user: User, all: Buffer[], source: Source | null): Promise<(work: Work) => Promise<(Taken | Error)[]>> {
    const from = source?.id ?? 'mail';
    const prepared = await this.prepareAll(user, all, from, false);
    for (const one of prepared) if (!(one instanceof Error)) one.incoming.sourceId = source?.id ?? null;
    return (work) => this.insert(work, user, from, prepared);
  }

  private prepareAll(user: User, all: Buffer[], source: string, arrivedNow: boolean): Promise<(Prepared | Error)[]> {
    return Promise.all(
      all.map((bytes) =>
        this.prepare(user, bytes, source, arrivedNow).catch((problem: unknown) =>
          problem instanceof Error ? problem : new Error(String(problem)),
        ),
      ),
    );
  }

  private async prepare(user: User, bytes: Buffer, source: string, arrivedNow: boolean): Promise<Prepared> {
    const id = newId();
    const urls = new Map<string, string>();
    const imageOf = (hash: string) => {
      if (!urls.has(hash)) urls.set(hash, newId());
      return `/api/attachments/${urls.get(hash)}`;
    };
    const mail = await readMail(bytes, imageOf);
    await this.files.keep(mail.hash, bytes);
    for (const part of mail.attachments) await this.files.keep(part.hash, part.content);
    const attachments = mail.attachments.map((part, position): StoredAttachment => {
      const known = urls.get(part.hash);
      urls.delete(part.hash);
      return {
        id: known ?? newId(),
        ownerId: user.id,
        incomingId: id,
        position,
        name: part.name,
        type: part.type,
        size: part.size,
        hash: part.hash,
      };
    });
    return { incoming: this.rowOf(user, id, mail, bytes.length, source, arrivedNow), attachments, calendar: mail.calendar };
  }

  private rowOf(user: User, id: string, mail: Mail, size: number, source: string, arrivedNow: boolean): Incoming {
    const now = this.clock.now();
    // A date far in the future would keep the message on top for ever.
    const written = mail.date !== null && mail.date < now + FUTURE ? mail.date : null;
    const received = arrivedNow ? now : (written ?? now);
    return {
      ...noSource(),
      id,
      ownerId: user.id,
      version: 1,
      created: now,
      changed: now,
      source,
      externalId: mail.messageId ?? mail.hash,
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
      ...readIncoming(mail.text, mail.subject, mail.from, written ?? received, user.zone, {
        bulk: mail.bulk,
        invitation: mail.invitation,
        names: [user.name.split(' ')[0] ?? user.name],
        offset: mail.dateOffset,
      }),
      hints: {},
      state: 'waiting',
      outcome: null,
      outcomeListId: null,
      decided: null,
    };
  }

  private async insert(work: Work, user: User, source: string, prepared: (Prepared | Error)[]): Promise<(Taken | Error)[]> {
    const ids = prepared.flatMap((one) => (one instanceof Error ? [] : [one.incoming.externalId]));
    const rows = await work.manager.find(Incoming, {
      where: { ownerId: user.id, kind: In(['mail', 'invitation']), externalId: In(ids) },
    });
    const known = new Map(rows.filter((row) => row.source === source).map((row) => [row.externalId, row.id]));
    const elsewhere = new Map(rows.filter((row) => row.source !== source).map((row) => [row.externalId, row]));
    const results: (Taken | Error)[] = [];
    for (const one of prepared) {
      if (one instanceof Error) {
        results.push(one);
        continue;
      }
      const earlier = known.get(one.incoming.externalId);
      if (earlier) {
        results.push({ state: 'known', id: earlier });
        continue;
      }
      const incoming = await work.insert('incoming', one.incoming);
      if (one.attachments.length) await work.manager.insert(StoredAttachment, one.attachments);
      known.set(incoming.externalId, incoming.id);
      const twin = elsewhere.get(incoming.externalId);
      if (twin) await this.joins.join(work, incoming, twin);
      else if (one.calendar) await this.invitations.take(work, user, incoming, one.calendar);
      else if (/https?:/.test(incoming.text)) await this.joins.byLink(work, incoming);
      results.push({ state: 'taken', id: incoming.id });
    }
    return results;
  }
}
