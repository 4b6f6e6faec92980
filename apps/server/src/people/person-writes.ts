import { Injectable } from '@nestjs/common';
import type { Added, Done, PersonChange, PersonInput, PersonMail } from '@corvun/contract';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { noteSending } from '../sources/note-sending';
import { Task } from '../tasks/task.entity';
import { addressesOf, personWith } from './known';
import type { Person } from './person.entity';

type Fields = Pick<Person, 'name' | 'address' | 'addresses' | 'organisation' | 'phone' | 'note'>;

/** Makes people known, changes them, makes one of two, and writes to them. */
@Injectable()
export class PersonWrites {
  constructor(private readonly kernel: Kernel) {}

  async add(user: User, input: PersonInput): Promise<Added> {
    const fields: Fields = {
      ...{ address: '', addresses: [], organisation: '', phone: '', note: '' },
      ...tidy(input),
      name: input.name.trim(),
    };
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      await freeAddresses(work, fields);
      const person = await work.insert('person', fields);
      work.say({ action: 'change', sentence: `${person.name} is known now` });
      return person.id;
    });
    return { decision, sentence, id: result };
  }

  async change(user: User, id: string, { version, ...input }: PersonChange): Promise<Done> {
    const patch = tidy(input);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const person = await work.find('person', id);
      await freeAddresses(work, { ...person, ...patch }, id);
      const after = await work.update('person', person, patch, version);
      if (after.name !== person.name) await rename(work, person.name, after.name);
      work.say({ action: 'change', sentence: `${after.name} was changed` });
    });
    return { decision, sentence };
  }

  async remove(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const person = await work.find('person', id);
      await work.remove('person', person);
      work.say({ action: 'remove', sentence: `The card of ${person.name} was taken away; messages and tasks stay` });
    });
    return { decision, sentence };
  }

  /** Makes one of two: what is empty is filled from the other, and what waits on the other waits on this one. */
  async merge(user: User, id: string, otherId: string): Promise<Done> {
    if (id === otherId) throw badField('other', 'This is the same person.');
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const [person, other] = [await work.find('person', id), await work.find('person', otherId)];
      const addresses = [...new Set([...addressesOf(person), ...addressesOf(other)])];
      await work.remove('person', other);
      await work.update('person', person, {
        address: addresses[0] ?? '',
        addresses: addresses.slice(1),
        organisation: person.organisation || other.organisation,
        phone: person.phone || other.phone,
        note: [person.note, other.note].filter(Boolean).join('\n\n'),
      });
      if (other.name !== person.name) await rename(work, other.name, person.name);
      work.say({ action: 'change', sentence: `${other.name} and ${person.name} are one now` });
    });
    return { decision, sentence };
  }

  async mail(user: User, id: string, { subject, text, to }: PersonMail): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const person = await work.find('person', id);
      const { name } = person;
      const known = addressesOf(person);
      const address = to?.toLowerCase() ?? known[0];
      if (!address || !known.includes(address)) throw badField('to', `${name} has no such mail address.`);
      await noteSending(work, {
        kind: 'mail',
        written: true,
        what: `Mail to ${name}: ${subject.trim()}`,
        payload: {
          to: [{ name, address }],
          from: { name: user.name, address: user.email },
          subject: subject.trim(),
          text: text.trim(),
          attachments: [],
        },
      });
      work.say({ action: 'change', sentence: `The mail to ${name} is on its way` });
    });
    return { decision, sentence };
  }
}

function tidy<T extends Partial<Fields>>(input: T): Partial<Fields> {
  const said = Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as Partial<Fields>;
  const low = (one: string) => one.trim().toLowerCase();
  return {
    ...said,
    ...(said.name === undefined ? {} : { name: said.name.trim() }),
    ...(said.address === undefined ? {} : { address: low(said.address) }),
    ...(said.addresses === undefined ? {} : { addresses: [...new Set(said.addresses.map(low))] }),
  };
}

/** @throws Refusal where somebody else has one of the addresses */
async function freeAddresses(work: Work, { address, addresses }: Pick<Fields, 'address' | 'addresses'>, id = ''): Promise<void> {
  const all = addressesOf({ address, addresses });
  const other = all.length ? await personWith(work.manager, work.ownerId, all, id) : null;
  if (!other) return;
  const shared = addressesOf(other).find((one) => all.includes(one)) ?? '';
  throw badField(
    shared === address ? 'address' : 'addresses',
    `${other.name} has the address ${shared}. Make one of the two there.`,
  );
}

/** What waits on somebody is written by name: it goes along with another name. */
async function rename(work: Work, before: string, after: string): Promise<void> {
  for (const task of await work.manager.findBy(Task, { ownerId: work.ownerId, waitingOn: before }))
    await work.update('task', task, { waitingOn: after });
}
