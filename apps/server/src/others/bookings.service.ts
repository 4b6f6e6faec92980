import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Booked, BookingInput, PublicBooking, PublicMeet, PublicOffer, OfferTake } from '@corvun/contract';
import { dayOf, isoInZone, parseIso, placeOf, sayDay, sayTime, timesBetween, type Interval } from '@corvun/core';
import { Repository } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { inMannerOf } from '../accounts/manner';
import { hashSecret, newSecret } from '../accounts/passwords';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Refusal, badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import { mainCalendar } from '../calendars/main-calendar';
import { blankEvent } from '../decisions/blanks';
import { carryOut } from '../events/edit-events';
import { Event } from '../events/event.entity';
import { tellGuests } from '../events/tell-guests';
import { Kernel, type By } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { noteToSelf } from '../sources/note-sending';
import { Secrets } from '../base/secrets.service';
import { Booking, MeetPage, Offer } from './others.entities';
import { newLink } from './public-link';
import { refuseTooMany, tellStranger } from './strangers';
import { PublicTimes, saidSlots } from './public-times';

/** Somebody with an address they were given, on things of whoever gave it. */
const byGuest = (owner: string): By => ({ actor: { kind: 'guest', id: null }, owner });

/** What strangers do at the addresses they were given. */
@Injectable()
export class BookingsService {
  constructor(
    @InjectRepository(MeetPage) private readonly pages: Repository<MeetPage>,
    @InjectRepository(Booking) private readonly bookings: Repository<Booking>,
    @InjectRepository(Offer) private readonly offers: Repository<Offer>,
    private readonly accounts: AccountsService,
    private readonly times: PublicTimes,
    private readonly secrets: Secrets,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** @throws Refusal 404, 422 */
  async page(link: string, asked?: number): Promise<PublicMeet> {
    const { row: page, user } = await this.at(this.pages, link);
    const minutes = this.lengthOf(page, asked);
    const { name, about, place, lengths, questions, firm, open } = page;
    const slots = await this.times.slots(this.pages.manager, user, page, { minutes, now: this.clock.now() });
    return {
      ...{ name, about, place, lengths, questions, firm, open, minutes },
      ...{ host: user.name, zone: user.zone, slots: saidSlots(slots, user.zone) },
    };
  }

  /** Takes a time: of two who want the same one the first gets it. @throws Refusal 404, 409, 422 */
  async book(link: string, input: BookingInput, base: string): Promise<Booked> {
    const { row: known, user } = await this.at(this.pages, link);
    const minutes = this.lengthOf(known, input.minutes);
    const start = parseIso(input.start, user.zone);
    known.questions.forEach(({ label, required }, at) => {
      if (required && !input.answers?.[at]?.trim()) throw badField('answers', `“${label}” wants an answer.`);
    });
    const { result } = await this.kernel.transact(byGuest(user.id), async (work) => {
      const page = await work.find('meetPage', known.id);
      const slots = await this.times.slots(work.manager, user, page, { minutes, now: work.now });
      const slot = slots.find((one) => one.start === start);
      if (!slot) throw this.taken(slots, user);
      const { name, address } = guestOf(input);
      await refuseTooMany(work, page, address);
      const event = await work.insert('event', {
        ...blankEvent({ ...timesBetween(slot, user.zone), allDay: false, zone: user.zone }, user.zone),
        calendarId: (await mainCalendar(work)).id,
        uid: `${newId()}@corvun`,
        title: `${page.name}: ${name}`.slice(0, 500),
        location: page.place,
        description: said(page, input),
        status: page.firm ? 'CONFIRMED' : 'TENTATIVE',
        organizer: user.email,
        attendees: [{ name, address, partstat: 'ACCEPTED' }],
      });
      const { secret, ...linked } = newLink(this.secrets, user.id);
      const proof = newSecret();
      const booking = await work.insert('booking', {
        ...{ ...linked, pageId: page.id, eventId: event.id, name, address, state: 'booked' },
        ...{ proofHash: hashSecret(proof), unproven: 0 },
      });
      const path = `/meet/${link}/${secret}`;
      const agreed = page.firm ? 'It is agreed' : `${user.name} has yet to confirm it`;
      const note = `Somebody took a time with ${user.name} for this address. ${agreed}. If that was you, open this address: what else there is to say then reaches you. There you can move or cancel it, too: ${base}${path}?mail=${proof}`;
      await tellStranger(work, user, booking, page, { before: [], after: [event], gone: [] }, note);
      await this.tellOwner(work, user, event, `${name} <${address}> took a time: ${page.name}`);
      work.say({ action: 'capture', sentence: `${name} took a time: “${event.title}”` });
      return { slot, path };
    });
    const [times] = saidSlots([result.slot], user.zone);
    return { start: times?.start ?? '', end: times?.end ?? '', path: result.path };
  }

  /** @throws Refusal 404 */
  async booking(link: string): Promise<PublicBooking> {
    const { row, user } = await this.at(this.bookings, link);
    return this.say(row, user);
  }

  /** @throws Refusal 404, 409 */
  async move(link: string, to: string): Promise<PublicBooking> {
    const { row, user } = await this.at(this.bookings, link);
    const start = parseIso(to, user.zone);
    await this.kernel.transact(byGuest(user.id), async (work) => {
      const { booking, event, page } = await this.thingsOf(work, row.id);
      const { start: from, end } = placeOf(event, user.zone);
      const minutes = Math.round((end - from) / 60_000);
      const slots = await this.times.slots(work.manager, user, page, { minutes, now: work.now, without: event.id });
      if (!slots.some((one) => one.start === start)) throw this.taken(slots, user);
      const command = { do: 'change', scope: 'all', occurrence: null, fields: {}, to: { start, minutes } } as const;
      const { became } = await carryOut(work, user, event, command);
      await tellStranger(work, user, booking, page, became, '');
      const moved = became.after.find(({ id }) => id === event.id) ?? event;
      await this.tellOwner(work, user, moved, `${row.name} moved “${event.title}”`);
      work.say({ action: 'move', sentence: `${row.name} moved “${event.title}”` });
    });
    return this.booking(link);
  }

  /** Whoever reads the mail to the address is who booked: from now on everything reaches them. @throws Refusal 404 */
  async confirm(link: string, proof: string): Promise<PublicBooking> {
    const { row, user } = await this.at(this.bookings, link);
    if (row.proofHash && row.proofHash === hashSecret(proof))
      await this.kernel.transact(byGuest(user.id), async (work) => {
        const booking = await work.update('booking', await work.find('booking', row.id), { proofHash: '' });
        const event = await work.manager.findOneBy(Event, { ownerId: user.id, id: booking.eventId });
        if (event && booking.state === 'booked') await tellGuests(work, user, { before: [], after: [event], gone: [] }, '');
      });
    return this.booking(link);
  }

  /** Cancelled twice is cancelled. @throws Refusal 404 */
  async cancel(link: string): Promise<PublicBooking> {
    const { row, user } = await this.at(this.bookings, link);
    const now = await this.say(row, user);
    if (now.state === 'booked')
      await this.kernel.transact(byGuest(user.id), async (work) => {
        const { event, booking, page } = await this.thingsOf(work, row.id);
        const { became } = await carryOut(work, user, event, { do: 'remove', scope: 'all', occurrence: null });
        const cancelled = await work.update('booking', booking, { state: 'cancelled' });
        await tellStranger(work, user, cancelled, page, became, '');
        await this.tellOwner(work, user, event, `${row.name} cancelled “${event.title}”`);
        work.say({ action: 'remove', sentence: `${row.name} cancelled “${event.title}”` });
      });
    return { ...now, state: 'cancelled', slots: [] };
  }

  /** @throws Refusal 404 */
  async offer(link: string): Promise<PublicOffer> {
    const { row, user } = await this.at(this.offers, link);
    const { title, place, expires } = row;
    const now = this.clock.now();
    const state = row.state === 'open' && expires <= now ? 'expired' : row.state;
    const held = state === 'open' ? await this.held(this.offers.manager.getRepository(Event), row, user, now) : [];
    return {
      ...{ title, place, state, host: user.name, zone: user.zone, expires: isoInZone(expires, user.zone) },
      slots: saidSlots(held, user.zone),
    };
  }

  /** Takes one of the offered times; the others are given back. @throws Refusal 404, 409 */
  async take(link: string, input: OfferTake): Promise<PublicOffer> {
    const { row: known, user } = await this.at(this.offers, link);
    const start = parseIso(input.start, user.zone);
    const { result } = await this.kernel.transact(byGuest(user.id), async (work) => {
      const offer = await work.find('offer', known.id);
      const open = offer.state === 'open' && offer.expires > work.now;
      const held = open ? await this.held(work.manager.getRepository(Event), offer, user, work.now) : [];
      const slot = held.find((one) => one.start === start);
      if (!slot) throw this.taken(held, user);
      const { name, address } = guestOf(input);
      for (const one of held) if (one !== slot) await work.remove('event', one.event);
      const event = await work.update('event', slot.event, {
        ...{ status: 'CONFIRMED', title: offer.title, organizer: user.email },
        ...{ attendees: [{ name, address, partstat: 'ACCEPTED' }], sequence: slot.event.sequence + 1 },
        description: input.note?.trim() ?? '',
      });
      await work.update('offer', offer, { state: 'taken', takenBy: name, events: [event.id] });
      // It may be anybody's address: what was written along stays here.
      const plain = { ...event, description: '', attendees: [{ name: '', address, partstat: 'ACCEPTED' as const }] };
      await tellGuests(work, user, { before: [], after: [plain], gone: [] }, 'It is agreed.');
      await this.tellOwner(work, user, event, `${name} <${address}> took a time: ${offer.title}`);
      work.say({ action: 'capture', sentence: `${name} took a time: “${offer.title}”` });
      return slot;
    });
    return { ...(await this.offer(link)), slots: saidSlots([result], user.zone) };
  }

  /** The times of an offer that are still there and to come, with the events that hold them. */
  private async held(
    events: Repository<Event>,
    { ownerId, events: ids }: Offer,
    user: User,
    now: number,
  ): Promise<(Interval & { event: Event })[]> {
    const rows = await events.findBy(ids.map((id) => ({ ownerId, id })));
    return rows
      .filter(({ status }) => status === 'TENTATIVE')
      .map((event) => ({ ...placeOf(event, user.zone), event }))
      .filter(({ start }) => start > now)
      .map(({ start, end, event }) => ({ start, end, event }))
      .sort((a, b) => a.start - b.start);
  }

  private async say(row: Booking, user: User): Promise<PublicBooking> {
    const { manager } = this.bookings;
    const [event, page] = await Promise.all([
      manager.findOneBy(Event, { ownerId: user.id, id: row.eventId }),
      manager.findOneBy(MeetPage, { ownerId: user.id, id: row.pageId }),
    ]);
    const now = this.clock.now();
    if (!event || row.state === 'cancelled')
      return {
        ...{ title: page?.name ?? '', host: user.name, place: '', zone: user.zone, start: '', end: '' },
        state: 'cancelled',
        confirmed: row.proofHash === '',
        slots: [],
      };
    const place = placeOf(event, user.zone);
    const minutes = Math.round((place.end - place.start) / 60_000);
    const free = page ? await this.times.slots(manager, user, page, { minutes, now, without: event.id }) : [];
    const [times] = saidSlots([place], user.zone);
    return {
      ...{ title: page?.name ?? event.title, host: user.name, place: event.location, zone: user.zone },
      ...{ start: times?.start ?? '', end: times?.end ?? '', state: 'booked', confirmed: row.proofHash === '' },
      slots: saidSlots(
        free.filter(({ start }) => start !== place.start),
        user.zone,
      ),
    };
  }

  private async thingsOf(work: Work, id: string): Promise<{ booking: Booking; event: Event; page: MeetPage }> {
    const booking = await work.find('booking', id);
    const event = await work.manager.findOneBy(Event, { ownerId: work.ownerId, id: booking.eventId });
    const page = await work.manager.findOneBy(MeetPage, { ownerId: work.ownerId, id: booking.pageId });
    if (!event || !page || booking.state === 'cancelled') throw notFound('such booking any more');
    return { booking, event, page };
  }

  /** What an address leads to, and whose it is. @throws Refusal 404 */
  private async at<T extends MeetPage | Booking | Offer>(rows: Repository<T>, link: string): Promise<{ row: T; user: User }> {
    const row = link
      ? await rows
          .createQueryBuilder('l')
          .where('l.linkHash = :hash', { hash: hashSecret(link) })
          .getOne()
      : null;
    const user = row && (await this.accounts.byId(row.ownerId));
    if (!row || !user) throw notFound('page at this address');
    return { row, user };
  }

  private lengthOf({ lengths }: MeetPage, asked = lengths[0] ?? 30): number {
    if (!lengths.includes(asked)) throw badField('minutes', 'This length is not offered.');
    return asked;
  }

  private taken(slots: readonly Interval[], user: User): Refusal {
    const left = saidSlots(slots, user.zone);
    const rest = left.length
      ? 'Choose another; these are still free.'
      : `Nothing is left; write to ${user.name} to find another.`;
    return new Refusal('slot-taken', `Somebody was quicker: this time is not free any more. ${rest}`, {
      present: { slots: left },
    });
  }

  private async tellOwner(work: Work, user: User, event: Event, what: string): Promise<void> {
    const { start } = placeOf(event, user.zone);
    const when = inMannerOf(
      user,
      () => `${sayDay(dayOf(start, user.zone), dayOf(work.now, user.zone))}, ${sayTime(start, user.zone)}`,
    );
    const text = [what, `${when} (${user.zone})`, event.location, event.description].filter(Boolean).join('\n');
    await noteToSelf(work, user, { what, subject: `${event.title}: ${when}`, text });
  }
}

const guestOf = ({ name, address }: { name: string; address: string }) => ({
  name: name.trim(),
  address: address.trim().toLowerCase(),
});

/** What whoever books has said, for the description of the event. */
function said({ questions }: MeetPage, { answers = [], note = '' }: BookingInput): string {
  const lines = questions.flatMap(({ label }, at) => (answers[at]?.trim() ? [`**${label}**\n\n${answers[at].trim()}`] : []));
  return [...lines, note.trim()].filter(Boolean).join('\n\n');
}
