import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Added, Done, MeetPageChange, MeetPageInput, OfferInput, OthersInfo, ShareInput } from '@corvun/contract';
import { count, isoInZone, parseIso, placeOf, timesBetween } from '@corvun/core';
import { In, LessThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { newId } from '../base/ids';
import { Calendar } from '../calendars/calendar.entity';
import { mainCalendar } from '../calendars/main-calendar';
import { blankEvent } from '../decisions/blanks';
import { Runner } from '../due/runner';
import { Event } from '../events/event.entity';
import { Kernel, bySystem, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Secrets } from '../base/secrets.service';
import { Booking, MeetPage, Offer, Share } from './others.entities';
import { newLink, pathOf } from './public-link';
import { saidSlots } from './public-times';

const DAY = 86_400_000;
/** For how many days times are held where it is not said. */
const HELD = 7;
/** A page as it is where nothing is said of it. */
const USUAL = {
  ...{ about: '', place: '', lengths: [30], hours: null, notice: 240, horizon: 28, buffer: 0, perDay: null },
  ...{ from: null, to: null, calendars: null, questions: [], firm: true, open: true },
};

/** What a user lets others see or choose. */
@Injectable()
export class OthersService implements OnModuleInit {
  constructor(
    @InjectRepository(Share) private readonly shares: Repository<Share>,
    @InjectRepository(MeetPage) private readonly pages: Repository<MeetPage>,
    @InjectRepository(Offer) private readonly offers: Repository<Offer>,
    private readonly secrets: Secrets,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
    private readonly runner: Runner,
  ) {}

  /** Offers that are over give their times back. */
  onModuleInit(): void {
    const due = async (now: number, most: number) =>
      (await this.offers.find({ where: { state: 'open', expires: LessThanOrEqual(now) }, take: most })).map((offer) => ({
        key: `offer:${offer.id}`,
        run: () => this.expire(offer),
      }));
    this.runner.register({ name: 'offers', atOnce: 1, due });
  }

  async all(user: User): Promise<OthersInfo> {
    const own = { where: { ownerId: user.id }, order: { created: 'ASC', id: 'ASC' } } as const;
    const [shares, pages, offers] = await Promise.all([
      this.shares.find(own),
      this.pages.find(own),
      this.offers.find({ where: { ownerId: user.id }, order: { created: 'DESC', id: 'ASC' } }),
    ]);
    const bookings = await this.pages.manager.findBy(Booking, { ownerId: user.id, state: 'booked' });
    const ids = [...bookings.map(({ eventId }) => eventId), ...offers.flatMap(({ events }) => events)];
    const events = ids.length ? await this.pages.manager.findBy(Event, { ownerId: user.id, id: In(ids) }) : [];
    const find = (id: string) => events.find((event) => event.id === id);
    const iso = (at: number) => isoInZone(at, user.zone);
    const now = this.clock.now();
    return {
      shares: shares.map((share) => ({
        ...{ id: share.id, calendarId: share.calendarId, shows: share.shows, created: iso(share.created) },
        path: pathOf(this.secrets, share, (secret) => `/calendars/${secret}.ics`),
        version: share.version,
      })),
      pages: pages.map(({ ownerId: _owner, created: _created, changed: _changed, link, linkHash, ...page }) => ({
        ...page,
        path: pathOf(this.secrets, { ownerId: user.id, link, linkHash } as MeetPage, (secret) => `/meet/${secret}`),
        booked: bookings
          .filter(({ pageId }) => pageId === page.id)
          .flatMap(({ eventId, name }) => {
            const event = find(eventId);
            return event ? [{ event: eventId, name, at: placeOf(event, user.zone) }] : [];
          })
          .filter(({ at }) => at.end > now)
          .sort((a, b) => a.at.start - b.at.start)
          .map(({ event, name, at }) => ({ event, name, start: iso(at.start) })),
      })),
      offers: offers.map((offer) => ({
        ...{ id: offer.id, title: offer.title, place: offer.place, state: offer.state, takenBy: offer.takenBy },
        path: pathOf(this.secrets, offer, (secret) => `/offer/${secret}`),
        expires: iso(offer.expires),
        slots: offer.events
          .flatMap((id) => find(id) ?? [])
          .map((event) => ({ event: event.id, at: placeOf(event, user.zone) }))
          .sort((a, b) => a.at.start - b.at.start)
          .flatMap(({ event, at }) => saidSlots([at], user.zone).map((slot) => ({ event, ...slot }))),
        version: offer.version,
      })),
    };
  }

  share = (user: User, { calendarId, shows }: ShareInput): Promise<Added> =>
    this.adding(user, async (work) => {
      const calendar = calendarId === null ? null : await work.manager.findOneBy(Calendar, { ownerId: user.id, id: calendarId });
      if (calendarId !== null && !calendar) throw badField('calendarId', 'There is no such calendar.');
      if (!calendar && shows !== 'busy') throw badField('shows', 'Of all calendars together only busy time is shown.');
      const { secret: _secret, ...linked } = newLink(this.secrets, user.id);
      const made = await work.insert('share', { ...linked, calendarId, shows });
      return { id: made.id, sentence: `${calendar ? `“${calendar.name}”` : 'Your busy time'} can be seen at a secret address` };
    });

  addPage = (user: User, input: MeetPageInput): Promise<Added> =>
    this.adding(user, async (work) => {
      const { secret: _secret, ...linked } = newLink(this.secrets, user.id);
      const fields = await pageFields(work, user, { ...USUAL, ...input });
      const page = await work.insert('meetPage', { ...USUAL, ...linked, ...fields, name: input.name.trim() });
      return { id: page.id, sentence: `The page “${page.name}” can be given to others` };
    });

  changePage = (user: User, id: string, { version, ...input }: MeetPageChange): Promise<Done> =>
    this.doing(user, async (work) => {
      const page = await work.find('meetPage', id);
      const name = input.name === undefined ? {} : { name: input.name.trim() };
      const after = await work.update('meetPage', page, { ...(await pageFields(work, user, input)), ...name }, version);
      if (input.open !== undefined && input.open !== page.open)
        return `The page “${after.name}” ${after.open ? 'can be booked' : 'cannot be booked any more'}`;
      return `The page “${after.name}” was changed`;
    });

  /** Holds times in the main calendar. What has begun, or stands twice, is refused. */
  offer = (user: User, { title, place = '', slots, days = HELD }: OfferInput): Promise<Added> =>
    this.adding(user, async (work) => {
      const starts = slots.map(({ start }) => parseIso(start, user.zone));
      if (starts.some((at) => !(at > work.now))) throw badField('slots', 'One of these times is over already.');
      if (new Set(starts).size < starts.length) throw badField('slots', 'One of these times stands twice.');
      const calendarId = (await mainCalendar(work)).id;
      const events: string[] = [];
      for (const [at, { minutes }] of slots.entries()) {
        const stretch = { start: starts[at] ?? 0, end: (starts[at] ?? 0) + minutes * 60_000 };
        const event = await work.insert('event', {
          ...blankEvent(timesBetween(stretch, user.zone), user.zone),
          ...{ calendarId, uid: `${newId()}@corvun`, status: 'TENTATIVE', location: place.trim() },
          title: `Offered: ${title.trim()}`.slice(0, 500),
        });
        events.push(event.id);
      }
      const { secret: _secret, ...linked } = newLink(this.secrets, user.id);
      const expires = Math.min(work.now + days * DAY, Math.max(...starts));
      const fields = { title: title.trim(), place: place.trim(), events, expires, takenBy: '' };
      const made = await work.insert('offer', { ...linked, ...fields, state: 'open' });
      return {
        id: made.id,
        sentence: `${count(events.length, 'time')} for “${title.trim()}” ${events.length === 1 ? 'is' : 'are'} held`,
      };
    });

  withdrawOffer = (user: User, id: string): Promise<Done> =>
    this.doing(user, async (work) => {
      const offer = await work.find('offer', id);
      const freed = offer.state === 'open' ? await this.free(work, offer) : 0;
      await work.remove('offer', offer);
      return `“${offer.title}” is not offered any more${freed ? `; ${count(freed, 'time')} ${freed === 1 ? 'is' : 'are'} free again` : ''}`;
    });

  /** Gives a share or a page another address; the one before leads nowhere. */
  renew = (user: User, kind: 'share' | 'meetPage', id: string): Promise<Done> =>
    this.doing(user, async (work) => {
      const { secret: _secret, ...linked } = newLink(this.secrets, user.id);
      await work.update(kind, await work.find(kind, id), linked);
      return 'It has another address; the one before leads nowhere now';
    });

  remove = (user: User, kind: 'share' | 'meetPage', id: string): Promise<Done> =>
    this.doing(user, async (work) => {
      await work.remove(kind, await work.find(kind, id));
      return kind === 'share' ? 'The secret address is withdrawn' : 'The page is gone; what is booked stays';
    });

  private async expire({ id, ownerId }: Offer): Promise<void> {
    await this.kernel.transact(bySystem(ownerId), async (work) => {
      const offer = await work.find('offer', id);
      if (offer.state !== 'open') return;
      await this.free(work, offer);
      await work.update('offer', offer, { state: 'expired' });
      work.say({ action: 'remove', sentence: `The times for “${offer.title}” were not taken and are free again` });
    });
  }

  /** Takes the events away that still hold a time. */
  private async free(work: Work, { ownerId, events }: Offer): Promise<number> {
    const rows = events.length ? await work.manager.findBy(Event, { ownerId, id: In(events), status: 'TENTATIVE' }) : [];
    await work.removeAll('event', rows);
    return rows.length;
  }

  private async adding(user: User, make: (work: Work) => Promise<{ id: string; sentence: string }>): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const made = await make(work);
      work.say({ action: 'change', sentence: made.sentence });
      return made.id;
    });
    return { decision, sentence, id: result };
  }

  private async doing(user: User, change: (work: Work) => Promise<string>): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      work.say({ action: 'change', sentence: await change(work) });
    });
    return { decision, sentence };
  }
}

/** @throws Refusal 422 for a calendar there is not, and days in the wrong order */
async function pageFields(work: Work, user: User, input: Omit<MeetPageChange, 'version' | 'name'>): Promise<Partial<MeetPage>> {
  const { about, place, lengths, questions, calendars, from, to } = input;
  if (calendars?.length && (await work.manager.countBy(Calendar, { ownerId: user.id, id: In(calendars) })) < calendars.length)
    throw badField('calendars', 'One of these calendars is not there any more.');
  if (from && to && to < from) throw badField('to', 'The last day is before the first one.');
  const said = Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as Partial<MeetPage>;
  return {
    ...said,
    ...(about === undefined ? {} : { about: about.trim() }),
    ...(place === undefined ? {} : { place: place.trim() }),
    ...(lengths === undefined ? {} : { lengths: [...new Set(lengths)].sort((a, b) => a - b) }),
    ...(questions === undefined
      ? {}
      : { questions: questions.map(({ label, required }) => ({ label: label.trim(), required })) }),
  };
}
