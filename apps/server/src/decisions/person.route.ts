import type { DecidePerson } from '@corvun/contract';
import type { Work } from '../kernel/work';
import { badField } from '../base/errors';
import { personWith } from '../people/known';
import { nameAndAddress } from '../events/guests';
import type { Outcome, Plan } from './plan';

/** Keeps who wrote: the card that is there, found by address, or a new one. The message itself still waits. */
export async function makePerson(work: Work, { user, incoming, input }: Plan<DecidePerson>): Promise<Outcome> {
  const given = input.with ? nameAndAddress(input.with) : { name: incoming.senderName, address: incoming.senderAddress };
  if (!given.name && !given.address) throw badField('with', 'Say who it is: the message has no sender.');
  const known = given.address ? await personWith(work.manager, user.id, [given.address]) : null;
  const person =
    known ??
    (await work.insert('person', {
      name: given.name || given.address,
      address: given.address,
      addresses: [],
      organisation: '',
      phone: '',
      note: '',
    }));
  return {
    made: [{ kind: 'person', id: person.id, title: person.name }],
    where: known ? `is from ${person.name}, known already` : `made ${person.name} known; it waits still`,
  };
}
