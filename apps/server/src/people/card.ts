import type { Vcard } from '@corvun/formats';
import { addressesOf } from './known';
import type { Person } from './person.entity';

/** Somebody as a contact (vCard 4, RFC 6350). */
export const cardOf = (person: Person): Vcard & { uid: string } => ({
  uid: person.id,
  name: person.name,
  addresses: addressesOf(person),
  phone: person.phone,
  organisation: person.organisation,
  note: person.note,
});
