import { Injectable, type OnApplicationBootstrap, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { addDays, dayOf, instantOf, sayDay, weekdayOf } from '@corvun/core';
import { Repository } from 'typeorm';
import { inMannerOf } from '../accounts/manner';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Runner, type Due } from '../due/runner';
import { Kernel, bySystem } from '../kernel/kernel.service';
import { settingsOf } from '../settings/settings-of';
import { noteToSelf } from '../sources/note-sending';
import { StreamService } from '../stream/stream.service';
import { OutlineService } from './outline.service';

const AFTER_FAILURE = 60_000;
/** A mail that would come later than this after its time is of no use any more. */
const LATEST = 4 * 3_600_000;

/** Mails the outline of the day at a set time on chosen weekdays, each day once. */
@Injectable()
export class OutlineMail implements OnModuleInit, OnApplicationBootstrap {
  /** When it is due next, by account. */
  private readonly next = new Map<string, number>();

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    private readonly outlines: OutlineService,
    private readonly kernel: Kernel,
    private readonly stream: StreamService,
    private readonly clock: Clock,
    private readonly runner: Runner,
  ) {}

  onModuleInit(): void {
    this.runner.register({ name: 'outlines', atOnce: 1, due: (now) => Promise.resolve(this.due(now)) });
    this.stream.all().subscribe(({ ownerId, changes, behind }) => {
      if (behind ?? changes.some(({ kind }) => kind === 'settings')) this.next.set(ownerId, 0);
    });
  }

  async onApplicationBootstrap(): Promise<void> {
    for (const { id } of await this.users.find({ select: { id: true } })) this.next.set(id, 0);
  }

  private due(now: number): Due[] {
    return [...this.next]
      .filter(([, at]) => at <= now)
      .map(([owner]) => ({ key: `outline:${owner}`, run: () => this.run(owner) }));
  }

  private async run(owner: string): Promise<void> {
    this.next.set(owner, Infinity);
    try {
      const next = await this.mail(owner);
      if (this.next.get(owner) === Infinity) this.next.set(owner, next);
    } catch (problem) {
      this.next.set(owner, this.clock.now() + AFTER_FAILURE);
      throw problem;
    }
  }

  /** Mails what is due now. @returns when to look again */
  private async mail(owner: string): Promise<number> {
    const user = await this.users.findOneBy({ id: owner });
    if (!user) return Infinity;
    const { mailAt, mailDays } = settingsOf(user).day;
    if (mailAt === null || !mailDays.length) return Infinity;
    const now = this.clock.now();
    const today = dayOf(now, user.zone);
    const at = (day: string) => instantOf(`${day}T${mailAt}`, user.zone);
    const isDue = (day: string) => mailDays.includes(weekdayOf(day)) && user.outlinedOn < day;
    if (isDue(today) && at(today) <= now && now - at(today) <= LATEST) await this.send(user, today);
    const coming = [...Array(8).keys()].map((ahead) => addDays(today, ahead)).find((day) => isDue(day) && at(day) > now);
    return coming === undefined ? Infinity : at(coming);
  }

  private async send(user: User, day: string): Promise<void> {
    const { text } = await inMannerOf(user, () => this.outlines.of(user, day));
    const subject = inMannerOf(user, () => `Your day: ${sayDay(day, day)}`);
    await this.kernel.transact(bySystem(user.id), async (work) => {
      await noteToSelf(work, user, { what: subject, subject, text: `${text}\n` });
      await work.manager.update(User, { id: user.id }, { outlinedOn: day });
    });
  }
}
