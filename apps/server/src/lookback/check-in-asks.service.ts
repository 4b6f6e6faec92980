import { Inject, Injectable, type OnApplicationBootstrap, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { askedAt, lastAsked, nextAsked } from '@corvun/core';
import { Repository } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { CONFIG, originOf, type Config } from '../base/config';
import { ForEachAccount } from '../due/for-each-account';
import { Runner } from '../due/runner';
import { Kernel, bySystem } from '../kernel/kernel.service';
import { noteToSelf } from '../sources/note-sending';
import { StreamService } from '../stream/stream.service';
import { CheckIn } from './check-in.entities';

const RELEVANT = new Set(['checkIn', 'settings']);
const LONGEST = 6 * 3_600_000;
/** A mail that would come later than this after its time is of no use any more. */
const LATEST = 12 * 3_600_000;

/** Asks when it is time: windows are told, and a mail with a link goes out where that is wanted; each day once. */
@Injectable()
export class CheckInAsks implements OnModuleInit, OnApplicationBootstrap {
  private watch: ForEachAccount | undefined;

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(CheckIn) private readonly checkIns: Repository<CheckIn>,
    private readonly kernel: Kernel,
    private readonly stream: StreamService,
    private readonly clock: Clock,
    private readonly runner: Runner,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  onModuleInit(): void {
    const what = { name: 'check-ins', relevant: RELEVANT, work: (owner: string) => this.ask(owner) };
    this.watch = new ForEachAccount(what, this.clock, this.runner, this.stream);
  }

  async onApplicationBootstrap(): Promise<void> {
    this.watch?.begin((await this.users.find({ select: { id: true } })).map(({ id }) => id));
  }

  /** @returns when to look again; null for an account that is gone */
  private async ask(owner: string): Promise<number | null> {
    const user = await this.users.findOneBy({ id: owner });
    if (!user) return null;
    const now = this.clock.now();
    const all = await this.checkIns.findBy({ ownerId: owner, paused: false });
    for (const { id } of all.filter((one) => isDue(one, now, user))) await this.askOne(user, id);
    const next = all.flatMap((one) => nextAsked(one, now, user.zone) ?? []);
    return Math.min(now + LONGEST, ...next);
  }

  private async askOne(user: User, id: string): Promise<void> {
    await this.kernel.transact(bySystem(user.id), async (work) => {
      const row = await work.manager.findOneBy(CheckIn, { id, ownerId: user.id });
      const day = row && !row.paused && isDue(row, work.now, user) ? lastAsked(row, work.now, row.created, user.zone) : null;
      if (!row || day === null) return;
      await work.update('checkIn', row, { askedOn: day });
      if (!row.byMail || work.now - askedAt(day, row, user.zone) > LATEST) return;
      const address = `${originOf(this.config)}/look-back/questions/${row.id}?day=${day}`;
      const asks = row.questions.map(({ text }) => `- ${text}`).join('\n');
      await noteToSelf(work, user, { what: row.name, subject: row.name, text: `${asks}\n\nAnswer here: ${address}\n` });
    });
  }
}

function isDue(row: CheckIn, now: number, { zone }: User): boolean {
  const day = lastAsked(row, now, row.created, zone);
  return day !== null && day > row.askedOn;
}
