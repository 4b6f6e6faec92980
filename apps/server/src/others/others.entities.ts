import type { MeetQuestion, OfferState, ShareShows } from '@corvun/contract';
import { Column, Entity, Index } from 'typeorm';
import { LINK_INDEX, Linked } from './public-link';

/** A calendar that is published at a secret address. */
@Entity('share')
@Index('share_link', ['linkHash'], LINK_INDEX)
export class Share extends Linked {
  /** Null: everything that takes time, as busy. */
  @Column('text', { nullable: true }) calendarId: string | null;
  @Column('text') shows: ShareShows;
}

/** A page on which others choose a free time. */
@Entity('meet_page')
@Index('meet_page_link', ['linkHash'], LINK_INDEX)
export class MeetPage extends Linked {
  @Column('text') name: string;
  @Column('text') about: string;
  @Column('text') place: string;
  /** Minutes. */
  @Column('simple-json') lengths: number[];
  /** By ISO weekday; null: the working hours. */
  @Column('simple-json', { nullable: true }) hours: Record<string, string[]> | null;
  /** Minutes. */
  @Column('integer') notice: number;
  /** Days. */
  @Column('integer') horizon: number;
  /** Minutes. */
  @Column('integer') buffer: number;
  @Column('integer', { nullable: true }) perDay: number | null;
  @Column('text', { nullable: true }) from: string | null;
  @Column('text', { nullable: true }) to: string | null;
  /** Null: those that count as busy. */
  @Column('simple-json', { nullable: true }) calendars: string[] | null;
  @Column('simple-json') questions: MeetQuestion[];
  @Column('boolean') firm: boolean;
  @Column('boolean') open: boolean;
}

/** A time that somebody took on a page. */
@Entity('booking')
@Index('booking_link', ['linkHash'], LINK_INDEX)
@Index('booking_page', ['ownerId', 'pageId'])
@Index('booking_address', ['address', 'changed'])
export class Booking extends Linked {
  @Column('text') pageId: string;
  @Column('text') eventId: string;
  @Column('text') name: string;
  @Column('text') address: string;
  @Column('text') state: 'booked' | 'cancelled';
  /** SHA-256 of what only the mail to the address knows; empty once it came back, and of bookings from before. */
  @Column('text', { default: '' }) proofHash: string;
  /** Mails to the address as long as nobody confirmed it. */
  @Column('integer', { default: 0 }) unproven: number;
}

/** Some times that are held until one of them is taken. */
@Entity('offer')
@Index('offer_link', ['linkHash'], LINK_INDEX)
@Index('offer_due', ['state', 'expires'])
export class Offer extends Linked {
  @Column('text') title: string;
  @Column('text') place: string;
  /** The events that hold the times. */
  @Column('simple-json') events: string[];
  @Column('text') state: OfferState;
  @Column('integer') expires: number;
  @Column('text') takenBy: string;
}
