import type { MailSecurity } from '@corvun/contract';
import { Column, Entity, ForeignKey, PrimaryColumn } from 'typeorm';

/** Where mail of an account is handed over (RFC 6409), where it has a way of its own. */
@Entity('mail_way')
export class MailWay {
  @ForeignKey('User') @PrimaryColumn('text') ownerId: string;
  @Column('text') host: string;
  @Column('integer') port: number;
  @Column('text') security: MailSecurity;
  /** Empty: it is handed over without a name. */
  @Column('text') user: string;
  /** The password, encrypted with the key outside the database. */
  @Column('text', { nullable: true }) secret: string | null;
  @Column('integer') changed: number;
}
