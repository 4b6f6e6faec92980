import { Column, Entity, Index } from 'typeorm';
import { Row } from '../base/row';

/** A person (vCard 4, RFC 6350); found again by address. */
@Entity('person')
@Index('person_address', ['ownerId', 'address'])
export class Person extends Row {
  @Column('text') name: string;
  @Column('text') address: string;
  /** Further addresses. */
  @Column('simple-json', { default: '[]' }) addresses: string[];
  @Column('text') organisation: string;
  @Column('text') phone: string;
  @Column('text') note: string;
}
