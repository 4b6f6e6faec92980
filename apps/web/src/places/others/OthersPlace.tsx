import type { CalendarInfo, Me, OfferInfo, ShareInfo, ShareShows } from '@corvun/contract';
import { count, dayOf, sayDay, saySpan } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { addShare, removeOffer, removeShare, renewShare, useOthers } from '../../data/others';
import { useCalendars } from '../../data/queries';
import { Failed, Waiting } from '../../parts/states';
import { useNow } from '../../parts/useNow';
import { button, quiet } from '../sources/common';
import { Address } from './Address';
import { MeetPages } from './MeetPages';
import { OfferOut } from './OfferOut';
import { Part } from './Part';

/** What others can see of one's time, and choose in it. */
export function OthersPlace({ me }: { me: Me }): ReactNode {
  const others = useOthers();
  const today = dayOf(useNow(), me.zone);
  if (others.isPending) return <Waiting what="Looking at what others can see" />;
  if (!others.data) return <Failed problem={others.error ?? new Error()} retry={() => void others.refetch()} />;
  const { pages, offers, shares } = others.data;
  return (
    <div className="h-full overflow-y-auto">
      <div className="mx-auto max-w-[860px] px-6 pt-6 pb-24 max-md:px-4">
        <h1 className="font-head text-lg font-semibold tracking-tight">Time for others</h1>
        <p className="mt-1 max-w-[66ch] text-soft">
          Whoever has one of these addresses sees what is said beside it, and nothing else of your calendars. Each can be renewed
          or withdrawn at any time.
        </p>
        <MeetPages me={me} pages={pages} today={today} />
        <Part name="Offered times" about="A few times that are held for somebody until one of them is taken.">
          {offers.map((offer) => (
            <Offered key={offer.id} me={me} offer={offer} today={today} />
          ))}
          <p className="mt-3">
            <Link to="/plan" state={{ offer: true }} className={quiet}>
              Mark times on Plan
            </Link>
          </p>
        </Part>
        <Shares shares={shares} />
      </div>
    </div>
  );
}

function Offered({ me, offer, today }: { me: Me; offer: OfferInfo; today: string }): ReactNode {
  const when = offer.slots.map(({ start, end }) => {
    const [from, to] = [Date.parse(start), Date.parse(end)];
    return `${sayDay(dayOf(from, me.zone), today)}, ${saySpan(from, to, me.zone)}`;
  });
  const said = {
    open: `${count(offer.slots.length, 'time')} held until ${sayDay(dayOf(Date.parse(offer.expires), me.zone), today)}`,
    taken: `taken by ${offer.takenBy}`,
    expired: 'not taken in time; the times are free again',
  }[offer.state];
  return (
    <article aria-label={offer.title} className="border-b border-rule py-3">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <b className="font-semibold">{offer.title}</b>
        <span className={`text-xs ${offer.state === 'open' ? 'text-plum' : 'text-soft'}`}>{said}</span>
        <button
          type="button"
          className={`ml-auto ${button}`}
          aria-label={`${offer.state === 'open' ? 'Withdraw' : 'Forget'} “${offer.title}”`}
          onClick={() => void removeOffer(offer.id)}
        >
          {offer.state === 'open' ? 'Withdraw' : 'Forget'}
        </button>
      </p>
      <p className="mb-2 text-xs text-soft">{when.join(' · ')}</p>
      {offer.state === 'open' && <OfferOut me={me} offer={offer} />}
    </article>
  );
}

const SHOWS: Record<ShareShows, string> = {
  busy: 'only that something is there',
  titles: 'what it is called and when',
  all: 'everything but guests and what is private',
};

function Shares({ shares }: { shares: readonly ShareInfo[] }): ReactNode {
  const calendars = useCalendars().data ?? [];
  return (
    <Part
      name="Secret addresses of calendars"
      about="An iCalendar address (.ics) for a calendar program or a telephone: it shows and changes nothing here."
    >
      {shares.map((share) => (
        <article key={share.id} aria-label={nameOf(share, calendars)} className="border-b border-rule py-3">
          <p className="mb-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
            <b className="font-semibold">{nameOf(share, calendars)}</b>
            <span className="text-xs text-soft">{SHOWS[share.shows]}</span>
            <span className="ml-auto flex gap-2">
              <button type="button" className={button} onClick={() => void renewShare(share.id)}>
                Another address
              </button>
              <button type="button" className={button} onClick={() => void removeShare(share.id)}>
                Withdraw
              </button>
            </span>
          </p>
          <Address path={share.path} of={nameOf(share, calendars)} />
        </article>
      ))}
      <NewShare calendars={calendars} />
    </Part>
  );
}

const EVERYTHING = '';
const nameOf = ({ calendarId }: ShareInfo, calendars: readonly CalendarInfo[]) =>
  calendarId === null
    ? 'Everything that takes time'
    : (calendars.find(({ id }) => id === calendarId)?.name ?? 'A calendar that is gone');

function NewShare({ calendars }: { calendars: readonly CalendarInfo[] }): ReactNode {
  const [calendarId, setCalendar] = useState(EVERYTHING);
  const [shows, setShows] = useState<ShareShows>('busy');
  const select = 'border border-soft bg-card px-1 py-1';
  return (
    <form
      className="mt-3 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void addShare({ calendarId: calendarId || null, shows: calendarId ? shows : 'busy' });
      }}
    >
      <label htmlFor="share-calendar" className="sr-only">
        Calendar
      </label>
      <select id="share-calendar" className={select} value={calendarId} onChange={(event) => setCalendar(event.target.value)}>
        <option value={EVERYTHING}>Everything that takes time</option>
        {calendars.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      <label htmlFor="share-shows">shows</label>
      <select
        id="share-shows"
        className={select}
        value={calendarId ? shows : 'busy'}
        onChange={(event) => setShows(event.target.value as ShareShows)}
      >
        {(Object.keys(SHOWS) as ShareShows[])
          .filter((one) => calendarId || one === 'busy')
          .map((one) => (
            <option key={one} value={one}>
              {SHOWS[one]}
            </option>
          ))}
      </select>
      <button type="submit" className={button}>
        Make an address
      </button>
    </form>
  );
}
