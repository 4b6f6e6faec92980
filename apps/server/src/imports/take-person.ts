import type { Vcard } from '@corvun/formats';
import type { Work } from '../kernel/work';
import { addressesOf, personWith } from '../people/known';
import { Person } from '../people/person.entity';

/** Takes a contact: known by an address (else by name), what is still empty is filled in. */
export async function takePerson(work: Work, card: Vcard): Promise<'taken' | 'updated' | 'known'> {
  const known = await knownAs(work, card);
  const { note } = card;
  if (!known) {
    await work.insert('person', {
      name: card.name,
      address: card.addresses[0] ?? '',
      addresses: card.addresses.slice(1),
      organisation: card.organisation,
      phone: card.phone,
      note,
    });
    return 'taken';
  }
  const mine = addressesOf(known);
  const more = card.addresses.filter((one) => !mine.includes(one));
  const patch: Partial<Person> = {
    ...(more.length ? { addresses: [...known.addresses, ...more] } : {}),
    ...(known.organisation || !card.organisation ? {} : { organisation: card.organisation }),
    ...(known.phone || !card.phone ? {} : { phone: card.phone }),
    ...(known.note || !note ? {} : { note }),
  };
  if (!Object.keys(patch).length) return 'known';
  await work.update('person', known, patch);
  return 'updated';
}

const knownAs = (work: Work, { name, addresses }: Vcard): Promise<Person | null> =>
  addresses.length
    ? personWith(work.manager, work.ownerId, addresses)
    : work.manager.findOneBy(Person, { ownerId: work.ownerId, name, address: '' });
