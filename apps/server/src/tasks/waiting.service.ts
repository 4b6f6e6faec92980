import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, Nudge, NudgeInput } from '@corvun/contract';
import { dayOf, isMeant, nudgeText, plainSubject, type Step } from '@corvun/core';
import { In, Repository } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, notFound } from '../base/errors';
import { Incoming } from '../incoming/incoming.entity';
import { messageIdOf } from '../incoming/reading';
import { Kernel, byUser, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { addressesOf } from '../people/known';
import { Person } from '../people/person.entity';
import { noteSending } from '../sources/note-sending';
import { Task } from './task.entity';

const OPEN = ['NEEDS-ACTION', 'IN-PROCESS'] as const;

/** Tasks that wait on somebody: asking once more, and what their answer ends. */
@Injectable()
export class WaitingService implements Follower, OnModuleInit {
  readonly name = 'answers that were waited for';
  readonly actors = ['source', 'user'] as const;

  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Person) private readonly people: Repository<Person>,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  /** A message from whom one waits on, in the thread in which they were asked, ends the waiting. */
  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const ids = changes.filter(({ kind, before }) => kind === 'incoming' && !before).map(({ id }) => id);
    if (!ids.length) return;
    const waiting = await this.waitingIn(work);
    if (!waiting.length) return;
    const arrived = await work.manager.findBy(Incoming, { ownerId: work.ownerId, id: In(ids) });
    const people = await work.manager.findBy(Person, { ownerId: work.ownerId });
    for (const { task, threads } of waiting) {
      const answer = arrived.find(
        (one) => threads.includes(one.threadKey) && isMeant(task.waitingOn ?? '', senderOf(one, people)),
      );
      if (answer)
        await work.update('task', task, {
          ...{ waitingOn: null, waitingSince: null, waitingUntil: null, nudged: null, waitingThread: null },
          answeredBy: answer.id,
        });
    }
  }

  /** Tasks that wait, each with the threads an answer can come in. */
  private async waitingIn(work: Work): Promise<{ task: Task; threads: string[] }[]> {
    const tasks = await work.manager
      .createQueryBuilder(Task, 't')
      .where('t.ownerId = :owner AND t.waitingOn IS NOT NULL AND t.status IN (:...open)', { owner: work.ownerId, open: OPEN })
      .getMany();
    const origins = new Map(
      (
        await work.manager.findBy(Incoming, { ownerId: work.ownerId, id: In(tasks.flatMap((task) => task.incomingId ?? [])) })
      ).map((one) => [one.id, one]),
    );
    return tasks.map((task) => {
      const origin = origins.get(task.incomingId ?? '');
      const threads = [task.waitingThread, ...(origin ? [origin.threadKey, messageIdOf(origin)] : [])];
      return { task, threads: threads.filter((one) => one !== null) };
    });
  }

  /** The mail that would ask once more. @throws Refusal 404, or 422 where nobody is waited on or no address is known */
  async draft(user: User, id: string): Promise<Nudge> {
    const task = await this.tasks.findOneBy({ ownerId: user.id, id });
    if (!task) throw notFound('task with this id');
    const who = task.waitingOn;
    if (!who) throw new Refusal('waits-for-nobody', 'It waits for nobody. Say on whom first.');
    const origin = task.incomingId ? await this.incoming.findOneBy({ ownerId: user.id, id: task.incomingId }) : null;
    const people = await this.people.find({ where: { ownerId: user.id }, order: { created: 'ASC' } });
    const answers = origin && origin.senderAddress.includes('@') && isMeant(who, senderOf(origin, people)) ? origin : null;
    const person = people.find((one) => isMeant(who, { name: one.name, addresses: addressesOf(one) }));
    const address = answers?.senderAddress ?? person?.address ?? (who.includes('@') ? who : '');
    if (!address)
      throw new Refusal('no-address', `Corvun knows no mail address of ${who}. Write it on a card of theirs, among the people.`);
    const today = dayOf(this.clock.now(), user.zone);
    const since = task.waitingSince === null ? null : dayOf(task.waitingSince, user.zone);
    const subject = answers ? plainSubject(answers.subject) : task.title;
    return {
      to: { name: answers?.senderName ?? person?.name ?? '', address },
      subject: answers ? `Re: ${subject}` : subject,
      text: nudgeText({ title: task.title, who, since, until: task.waitingUntil, from: user.name }, today),
      inReplyTo: answers ? messageIdOf(answers) : null,
    };
  }

  /** Asks once more, by mail; undo holds it back until it went out. */
  async nudge(user: User, id: string, { text }: NudgeInput): Promise<Done> {
    const { inReplyTo, ...draft } = await this.draft(user, id);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      const name = draft.to.name || draft.to.address;
      const entry = await noteSending(work, {
        kind: 'mail',
        written: true,
        what: `Ask ${name} again: ${task.title}`,
        payload: {
          to: [draft.to],
          from: { name: user.name, address: user.email },
          subject: draft.subject,
          text: text?.trim() ? text.trim() : draft.text,
          attachments: [],
          ...(inReplyTo ? { inReplyTo } : {}),
        },
      });
      const waitingThread = inReplyTo ? task.waitingThread : `${entry.id}@${user.email.split('@')[1] ?? ''}`;
      await work.update('task', task, { nudged: work.now, waitingThread });
      work.say({ action: 'change', sentence: `${name} is asked again for “${task.title}”` });
    });
    return { decision, sentence };
  }
}

/** Who wrote a message, with the addresses on their card. */
function senderOf({ senderName, senderAddress }: Incoming, people: readonly Person[]) {
  const known = people.find((one) => senderAddress !== '' && addressesOf(one).includes(senderAddress.toLowerCase()));
  return { name: known?.name ?? senderName, addresses: [senderAddress, ...(known ? addressesOf(known) : [])] };
}
