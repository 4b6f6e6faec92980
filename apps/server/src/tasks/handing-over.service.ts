import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, HandOverInput, NamedAddress, Nudge } from '@corvun/contract';
import { dayOf, handOverText, isMeant, sayMinutes } from '@corvun/core';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField, notFound } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { addressesOf } from '../people/known';
import { Person } from '../people/person.entity';
import { minutesOf } from '../planning/open-work';
import { noteSending } from '../sources/note-sending';
import { freeComing } from './free-time';
import { Task } from './task.entity';

/** Hands tasks over to somebody else: it waits on them then, and they are told by mail. */
@Injectable()
export class HandingOver {
  constructor(
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    @InjectRepository(Person) private readonly people: Repository<Person>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** The mail that would ask them for it. @throws Refusal 404, 409 where it is done or no address is known */
  async draft(user: User, id: string, wanted: string | undefined): Promise<Nudge> {
    const task = await this.tasks.findOneBy({ ownerId: user.id, id });
    if (!task) throw notFound('task with this id');
    if (!wanted?.trim()) throw badField('to', 'Say to whom.');
    return this.draftTo(user, task, await this.whoIs(user, wanted));
  }

  private draftTo(user: User, task: Task, who: NamedAddress): Nudge {
    if (!who.address)
      throw new Refusal('no-address', `Corvun knows no mail address of ${who.name}. Hand it over without a mail, or write one.`);
    const about = { title: task.title, deadline: task.deadline, fixed: task.deadlineFixed, minutes: left(task, user) };
    return {
      to: who,
      subject: task.title,
      text: handOverText({ ...about, who: who.name || who.address, from: user.name }, dayOf(this.clock.now(), user.zone)),
      inReplyTo: null,
    };
  }

  /** Hands it over; time to come that was set aside for it is free again. @throws Refusal as the draft does */
  async handOver(user: User, id: string, { to, mail = true, text }: HandOverInput): Promise<Done> {
    const who = await this.whoIs(user, to);
    const name = who.name || who.address;
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      if (task.status === 'COMPLETED' || task.status === 'CANCELLED')
        throw badField('status', 'It is done already. Open it again, then hand it over.');
      const entry = mail ? await this.send(work, user, this.draftTo(user, task, who), text) : null;
      const freed = await freeComing(work, [id]);
      await work.update('task', task, {
        ...{ waitingOn: name, waitingSince: work.now, waitingUntil: task.deadline?.slice(0, 10) ?? null },
        ...{ nudged: null, answeredBy: null, assignedTo: null, shelved: false, lookAgain: null },
        ...{ plannedDay: null, plannedWeek: null },
        waitingThread: entry ? `${entry.id}@${user.email.split('@')[1] ?? ''}` : null,
      });
      const back = freed ? `; ${sayMinutes(freed)} of your time is free again` : '';
      work.say({ action: 'change', sentence: `“${task.title}” is handed over to ${name}${back}` });
    });
    return { decision, sentence };
  }

  private async send(work: Work, user: User, { to, subject, text: drafted }: Nudge, text: string | undefined) {
    return noteSending(work, {
      kind: 'mail',
      written: true,
      what: `Hand over to ${to.name || to.address}: ${subject}`,
      payload: {
        to: [to],
        from: { name: user.name, address: user.email },
        subject,
        text: text?.trim() ? text.trim() : drafted,
        attachments: [],
      },
    });
  }

  /** Somebody who is known by that name or address, or what was written. */
  private async whoIs(user: User, wanted: string): Promise<NamedAddress> {
    const said = wanted.trim();
    const people = await this.people.find({ where: { ownerId: user.id }, order: { created: 'ASC' } });
    const known = people.find((one) => isMeant(said, { name: one.name, addresses: addressesOf(one) }));
    if (known) return { name: known.name, address: known.address || (addressesOf(known)[0] ?? '') };
    return said.includes('@') ? { name: '', address: said } : { name: said, address: '' };
  }
}

const left = (task: Task, user: User): number => Math.max(0, minutesOf(task, user) - task.spent);
