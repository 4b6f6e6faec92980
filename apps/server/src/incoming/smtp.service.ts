import { Inject, Injectable, Logger, type OnApplicationBootstrap, type BeforeApplicationShutdown } from '@nestjs/common';
import { MAIL_LIMITS, MailError } from '@corvun/formats';
import { SMTPServer, type SMTPServerDataStream, type SMTPServerSession } from 'smtp-server';
import { AccountsService } from '../accounts/accounts.service';
import type { User } from '../accounts/user.entity';
import { CONFIG, type Config } from '../base/config';
import { asRefusal } from '../base/database-problem';
import { Refusal } from '../base/refusal';
import { Intake } from './intake.service';

type Reply = Error & { responseCode: number };

const reply = (code: number, message: string): Reply => Object.assign(new Error(message), { responseCode: code });

/** Mail intake over SMTP (RFC 5321): a message to a user's capture address becomes an incoming. */
@Injectable()
export class SmtpService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('smtp');
  private readonly server: SMTPServer;

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly accounts: AccountsService,
    private readonly intake: Intake,
  ) {
    this.server = new SMTPServer({
      banner: 'Corvun mail intake',
      disabledCommands: ['AUTH', 'STARTTLS'],
      size: MAIL_LIMITS.maxBytes,
      maxClients: 50,
      socketTimeout: 60_000,
      closeTimeout: 2000,
      logger: false,
      onRcptTo: ({ address }, _session, done) => {
        this.accounts.forAddress(address).then(
          (user) => done(user ? undefined : reply(550, `No user has the address ${address.slice(0, 320)}`)),
          () => done(reply(451, 'Try again later')),
        );
      },
      onData: (stream, session, done) => {
        this.take(stream, session).then(
          () => done(),
          (problem: unknown) => done(asReply(problem)),
        );
      },
    });
    this.server.on('error', (problem) => this.logger.warn(problem.message));
  }

  async onApplicationBootstrap(): Promise<void> {
    await new Promise<void>((resolve, reject) => {
      this.server.once('error', reject);
      this.server.listen(this.config.smtpPort, this.config.host, () => {
        this.server.off('error', reject);
        resolve();
      });
    });
  }

  /** The port in use (chosen by the system when 0 was asked for). */
  get port(): number {
    const address = this.server.server.address();
    return typeof address === 'object' && address ? address.port : this.config.smtpPort;
  }

  async beforeApplicationShutdown(): Promise<void> {
    await new Promise<void>((resolve) => this.server.close(() => resolve()));
  }

  private async take(stream: SMTPServerDataStream, session: SMTPServerSession): Promise<void> {
    const chunks: Buffer[] = [];
    let size = 0;
    // Over the limit the rest is read and thrown away: the client only listens for the answer at its end.
    for await (const chunk of stream as AsyncIterable<Buffer>) {
      size += chunk.length;
      if (size <= MAIL_LIMITS.maxBytes) chunks.push(chunk);
    }
    if (size > MAIL_LIMITS.maxBytes) throw reply(552, `The message is larger than ${MAIL_LIMITS.maxBytes / 1048576} MB`);
    const bytes = Buffer.concat(chunks);
    const users = new Map<string, User>();
    for (const { address } of session.envelope.rcptTo) {
      const user = await this.accounts.forAddress(address);
      if (user) users.set(user.id, user);
    }
    for (const user of users.values()) await this.intake.takeMail(user, bytes, 'mail', true);
  }
}

function asReply(problem: unknown): Reply {
  if (problem instanceof Error && 'responseCode' in problem) return problem as Reply;
  if (problem instanceof MailError) return reply(554, problem.message);
  const refusal = asRefusal(problem) ?? (problem instanceof Refusal ? problem : null);
  if (refusal?.code === 'disk-full') return reply(452, 'The disk is full; try again later');
  return reply(451, 'The message could not be kept; try again later');
}
