import type { Vcard } from '@corvun/formats';
import { In } from 'typeorm';
import type { Work } from '../kernel/work';
import { Person } from '../people/person.entity';

/** Takes a contact: known by an address (else by name), what is still empty is filled in. */
export async function takePerson(work: Work, card: Vcard): Promise<'taken' | 'updated' | 'known'> {
  const where = card.addresses.length ? { address: In(card.addresses) } : { name: card.name, address: '' };
  const known = await work.manager.findOneBy(Person, { ownerId: work.ownerId, ...where });
  const others = card.addresses.slice(1);
  const note = [card.note, others.length ? `Also: ${others.join(', ')}` : ''].filter(Boolean).join('\n');
  if (!known) {
    await work.insert('person', {
      name: card.name,
      address: card.addresses[0] ?? '',
      organisation: card.organisation,
      phone: card.phone,
      note,
    });
    return 'taken';
  }
  const patch: Partial<Person> = {
    ...(known.organisation || !card.organisation ? {} : { organisation: card.organisation }),
    ...(known.phone || !card.phone ? {} : { phone: card.phone }),
    ...(known.note || !note ? {} : { note }),
  };
  if (!Object.keys(patch).length) return 'known';
  await work.update('person', known, patch);
  return 'updated';
}
