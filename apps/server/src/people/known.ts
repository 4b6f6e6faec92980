import type { EntityManager } from 'typeorm';
import { Person } from './person.entity';

/** Whoever has one of these addresses, as the first or as a further one. @param except the id of somebody who is not meant */
export const personWith = (
  manager: EntityManager,
  ownerId: string,
  addresses: readonly string[],
  except = '',
): Promise<Person | null> =>
  manager
    .createQueryBuilder(Person, 'p')
    .where('p.ownerId = :ownerId AND p.id != :except', { ownerId, except })
    .andWhere('(p.address IN (:...addresses) OR EXISTS (SELECT 1 FROM json_each(p.addresses) WHERE value IN (:...addresses)))', {
      addresses: addresses.map((one) => one.trim().toLowerCase()),
    })
    .orderBy('p.created')
    .getOne();

/** All addresses of somebody. */
export const addressesOf = ({ address, addresses }: Pick<Person, 'address' | 'addresses'>): string[] =>
  [address, ...addresses].filter(Boolean);
