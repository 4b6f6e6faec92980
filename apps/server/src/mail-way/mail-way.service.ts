import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, MailWayInfo, MailWayInput } from '@corvun/contract';
import { count, type Step } from '@corvun/core';
import { isIP } from 'node:net';
import { createTransport, type Transporter } from 'nodemailer';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { Refusal, badField } from '../base/errors';
import { Secrets } from '../base/secrets.service';
import { Kernel, byUser, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { addressOfHost } from '../sources/host-address';
import { MAIL_PAUSE } from '../sources/note-sending';
import { OutboxEntry } from '../sources/outbox.entity';
import { isPrivate } from '../sources/outside-http';
import { SourceProblem, sentenceOf } from '../sources/problem';
import { mailLine } from './mail-line';
import { MailWay } from './mail-way.entity';

const ANSWER_TIME = 8000;
const LIMITS = { connectionTimeout: ANSWER_TIME, greetingTimeout: ANSWER_TIME, socketTimeout: ANSWER_TIME * 3 };
/** Milliseconds for saying hello, and for a whole mail with its files. */
const HELLO_TIME = 20_000;
const MAIL_TIME = 120_000;
const NO_WAY = 'Mail has no way out yet. Set one in the settings, under “Mail out”.';

/** How mail leaves: the way of the account, else that of the server. Where there is none, nobody is told that it left. */
@Injectable()
export class MailWays implements Follower, OnModuleInit {
  readonly name = 'mail without a way out';
  readonly actors = ['user'] as const;

  constructor(
    @InjectRepository(MailWay) private readonly ways: Repository<MailWay>,
    @Inject(CONFIG) private readonly config: Config,
    private readonly secrets: Secrets,
    private readonly clock: Clock,
    private readonly kernel: Kernel,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  /** Whether mail of an account leaves. */
  async isOut(ownerId: string): Promise<boolean> {
    return this.config.mailOut !== null || (await this.ways.existsBy({ ownerId }));
  }

  async info({ id: ownerId }: User): Promise<MailWayInfo> {
    const way = await this.ways.findOneBy({ ownerId });
    return { own: way && shown(way), ofServer: this.config.mailOut !== null };
  }

  /** What somebody wrote is not taken where it cannot leave; of mail that Corvun writes it is said that it waits. */
  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const mails = changes.filter(({ kind, before, after }) => kind === 'outbox' && !before && after?.['kind'] === 'mail');
    if (!mails.length || (await this.isOut(work.ownerId))) return;
    if (mails.some(({ after }) => (after?.['payload'] as { written?: boolean }).written)) throw new Refusal('no-way-out', NO_WAY);
    const { said } = work;
    if (!said) return;
    const waits = mails.length === 1 ? 'the mail waits' : `${count(mails.length, 'mail')} wait`;
    work.say({ ...said, sentence: `${said.sentence}; ${waits}, as mail has no way out yet` });
  }

  /**
   * Sets the way of an account, after the server there was spoken to; mail that waits goes by it.
   * @throws Refusal it does not answer, or does not take the name and password
   */
  async set(user: User, { secret: written, ...input }: MailWayInput): Promise<Done> {
    const ownerId = user.id;
    const present = await this.ways.findOneBy({ ownerId });
    const isSame = present?.host === input.host && present.user === input.user;
    const secret = written ?? (isSame && present.secret !== null ? this.secrets.open(present.secret, ownerId) : null);
    const transport = await this.transportTo(input, secret, HELLO_TIME);
    try {
      await transport.verify();
    } catch (problem) {
      throw refusal(problem, input.host);
    } finally {
      transport.close();
    }
    return this.write(user, `Mail leaves by ${input.host} now`, (work) =>
      work.manager.upsert(
        MailWay,
        { ownerId, ...input, secret: secret ? this.secrets.lock(secret, ownerId) : null, changed: work.now },
        ['ownerId'],
      ),
    );
  }

  /** Takes the account's own way away. */
  async remove(user: User): Promise<Done> {
    const left = this.config.mailOut === null ? 'Mail has no way out any more' : 'Mail leaves by the way of the server again';
    return this.write(user, left, (work) => work.manager.delete(MailWay, { ownerId: user.id }));
  }

  private async write(user: User, sentence: string, write: (work: Work) => Promise<unknown>): Promise<Done> {
    await this.kernel.transact(byUser(user), async (work) => {
      await write(work);
      await work.manager.update(
        OutboxEntry,
        { ownerId: user.id, kind: 'mail', state: 'waiting' },
        { nextTry: () => `max("created" + ${MAIL_PAUSE}, ${this.clock.now()})` },
      );
      work.tell('mailWay');
      work.tell('outbox');
    });
    return { decision: '', sentence };
  }

  /** Sends a mail to the account's own address at once. @throws Refusal where it did not leave */
  async test({ id, name, email: address }: User): Promise<Done> {
    if (!(await this.isOut(id))) throw new Refusal('no-way-out', NO_WAY);
    const self = { name, address };
    const host = await this.send(id, {
      ...{ from: self, to: self, subject: 'A test from Corvun' },
      text: 'This mail shows that answers and invitations reach the world. Nothing is to be done.',
    }).catch((problem: unknown) => {
      throw refusal(problem, 'The mail server');
    });
    return { decision: '', sentence: `${host} has taken the test mail to ${address}` };
  }

  /** Hands a mail over. @returns to which host @throws SourceProblem with what is in its way */
  async send(ownerId: string, mail: Parameters<Transporter['sendMail']>[0]): Promise<string> {
    const way = await this.ways.findOneBy({ ownerId });
    if (!way && !this.config.mailOut) throw new SourceProblem(NO_WAY, 'refused');
    const transport = way
      ? await this.transportTo(way, way.secret && this.secrets.open(way.secret, ownerId), MAIL_TIME)
      : createTransport({ url: this.config.mailOut, ...LIMITS } as object);
    const host = way?.host ?? new URL(this.config.mailOut ?? '').hostname;
    try {
      await transport.sendMail(mail);
      return host;
    } catch (problem) {
      throw asProblem(problem, host);
    } finally {
      transport.close();
    }
  }

  private async transportTo(
    { host, port, security, user }: Pick<MailWay, 'host' | 'port' | 'security' | 'user'>,
    secret: string | null,
    lasts: number,
  ): Promise<Transporter> {
    const address = await addressOfHost(host, this.config.allowPrivate).catch((problem: unknown) => {
      throw badField('host', sentenceOf(problem, host));
    });
    const near = isPrivate(address);
    if (security === 'none' && secret && !near)
      throw badField('security', 'A password goes over an encrypted line only. Choose TLS or STARTTLS.');
    const options = {
      ...{ host: address, port, secure: security === 'tls', requireTLS: security === 'starttls', ...LIMITS },
      ...(security === 'none' ? { ignoreTLS: true } : {}),
      ...(user ? { auth: { user, pass: secret ?? '' } } : {}),
      // A server in the same house rarely has a certificate that others know.
      tls: { rejectUnauthorized: !near, ...(isIP(host) ? {} : { servername: host }) },
      getSocket: (_: unknown, done: (problem: Error | null, socket?: object) => void) =>
        void mailLine(address, port, host, lasts).then((connection) => done(null, { connection }), done),
    };
    return createTransport(options as object);
  }
}

const shown = ({ host, port, security, user, secret }: MailWay): MailWayInfo['own'] => ({
  ...{ host, port, security, user },
  hasSecret: secret !== null,
});

/** What a mail server answered, or what kept it from answering. */
function asProblem(problem: unknown, host: string): SourceProblem {
  if (problem instanceof SourceProblem) return problem;
  const { code, response, message } = problem as { code?: string; response?: string; message?: string };
  if (code === 'EAUTH') return new SourceProblem(`${host} does not accept the name and password.`, 'refused');
  if (response) return new SourceProblem(`${host} answered: ${response.slice(0, 200)}`);
  const inner = /\b(?:ECONNREFUSED|ENOTFOUND|ECONNRESET|ETIMEDOUT|EHOSTUNREACH)\b/.exec(message ?? '')?.[0];
  if (inner) return new SourceProblem(sentenceOf({ code: inner }, host));
  return new SourceProblem(sentenceOf(problem, host));
}

const refusal = (problem: unknown, host: string): Refusal =>
  problem instanceof Refusal ? problem : new Refusal('source-failed', asProblem(problem, host).message);
