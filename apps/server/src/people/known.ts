import type { EntityManager } from 'typeorm';
import { Person } from './person.entity';

/** Whoever has this address, as the first or as a further one. */
export const personWith = (manager: EntityManager, ownerId: string, address: string): Promise<Person | null> =>
  manager
    .createQueryBuilder(Person, 'p')
    .where('p.ownerId = :ownerId', { ownerId })
    .andWhere('(p.address = :address OR EXISTS (SELECT 1 FROM json_each(p.addresses) WHERE value = :address))', {
      address: address.trim().toLowerCase(),
    })
    .orderBy('p.created')
    .getOne();

/** All addresses of somebody. */
export const addressesOf = ({ address, addresses }: Pick<Person, 'address' | 'addresses'>): string[] =>
  [address, ...addresses].filter(Boolean);
