import type { Me } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayTime, type NumberedGap } from '@corvun/core';
import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { addOffer, useOthers } from '../../data/others';
import { useDraft } from '../../sheets/drafts';
import { OfferOut } from '../others/OfferOut';
import { Key } from '../../parts/signs';
import { usePlanning } from './planning';
import { turnOffered } from './useOffering';

const LENGTHS = [15, 30, 45, 60, 90, 120];
const DAYS = [
  [2, '2 days'],
  [7, 'a week'],
  [14, '2 weeks'],
] as const;
const DRAFT = 'offer-title';

interface OfferingProps {
  me: Me;
  today: string;
  /** The gaps that fit, by number. */
  gaps: readonly NumberedGap[];
}

/** The bar in which marked times become an offer; after that what is given to whoever may choose. */
export function Offering({ me, today, gaps }: OfferingProps): ReactNode {
  const offering = usePlanning((state) => state.offering);
  const [kept, write] = useDraft(DRAFT);
  const [days, setDays] = useState(7);
  const [made, setMade] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const offer = useOthers().data?.offers.find(({ id }) => id === made);
  const title = kept ?? '';
  const frame = useRef<HTMLElement | null>(null);
  const stand = (element: HTMLElement | null) => {
    frame.current = element;
  };
  // What is said stands above it.
  useLayoutEffect(() => {
    const offerBar = frame.current?.offsetHeight ?? 0;
    if (usePlanning.getState().offerBar !== offerBar) usePlanning.setState({ offerBar });
  });
  useEffect(() => () => usePlanning.setState({ offerBar: 0 }), []);
  const bar = 'flex shrink-0 flex-wrap items-center gap-x-4 gap-y-2 border-t border-ink bg-teal-wash px-[18px] py-2';
  if (offer && !offering)
    return (
      <div ref={stand} role="region" aria-label="The offer" className={bar}>
        <p>
          <b className="font-semibold">{offer.title}</b>: {count(offer.slots.length, 'time')} held. Give this to whoever may
          choose:
        </p>
        <div className="min-w-[280px] flex-1">
          <OfferOut me={me} offer={offer} />
        </div>
        <button type="button" className={button} onClick={() => setMade(null)}>
          That is all
        </button>
      </div>
    );
  if (!offering) return null;
  const send = async () => {
    if (busy || !title.trim() || !offering.starts.length) return;
    setBusy(true);
    const slots = offering.starts.map((start) => ({ start: new Date(start).toISOString(), minutes: offering.minutes }));
    const answer = await addOffer({ title: title.trim(), slots, days });
    setBusy(false);
    if (!answer) return;
    write(null);
    setMade(answer.id);
    usePlanning.setState({ offering: null });
  };
  return (
    <form
      ref={stand}
      aria-label="Times to offer"
      className={bar}
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <label htmlFor="offer-title" className="font-semibold">
        Offer times for
      </label>
      <input
        id="offer-title"
        autoFocus
        className="w-[220px] border-b border-ink bg-transparent py-1"
        placeholder="Talk about the boardwalk"
        maxLength={200}
        autoComplete="off"
        value={title}
        onChange={(event) => write(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && usePlanning.setState({ offering: null })}
      />
      <label className="flex items-center gap-1">
        of
        <select
          className={select}
          aria-label="How long"
          value={offering.minutes}
          onChange={(event) => usePlanning.setState({ offering: { minutes: Number(event.target.value), starts: [] } })}
        >
          {[...new Set([...LENGTHS, offering.minutes])]
            .sort((a, b) => a - b)
            .map((one) => (
              <option key={one} value={one}>
                {sayMinutes(one)}
              </option>
            ))}
        </select>
      </label>
      <label className="flex items-center gap-1">
        held for
        <select
          className={select}
          aria-label="For how long they are held"
          value={days}
          onChange={(event) => setDays(Number(event.target.value))}
        >
          {DAYS.map(([one, name]) => (
            <option key={one} value={one}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <span role="group" aria-label="Gaps that fit" className="flex flex-wrap gap-1">
        {gaps.map(({ number, slot }) => (
          <button
            key={number}
            type="button"
            aria-pressed={offering.starts.includes(slot.start)}
            className="flex min-h-6 items-center gap-1 border border-soft bg-card px-1 text-xs aria-pressed:border-teal aria-pressed:font-semibold"
            onClick={() => turnOffered(slot.start)}
          >
            <Key>{number}</Key> {sayDay(dayOf(slot.start, me.zone), today)}, {sayTime(slot.start, me.zone)}
          </button>
        ))}
      </span>
      <span role="status" className="text-soft">
        {offering.starts.length
          ? `${count(offering.starts.length, 'time')} marked`
          : 'Press a numbered gap, or any time on the grid'}
      </span>
      <button
        type="submit"
        disabled={busy || !title.trim() || !offering.starts.length}
        className="bg-teal px-3 py-1 font-semibold text-on-teal disabled:bg-rule disabled:text-soft"
      >
        Hold them, and make an address
      </button>
      <button type="button" className={button} onClick={() => usePlanning.setState({ offering: null })}>
        Leave it
      </button>
      <Link to="/others" className="text-xs underline underline-offset-2">
        all offers
      </Link>
    </form>
  );
}

const button = 'border border-ink px-2 py-[2px] text-xs hover:bg-card';
const select = 'border border-soft bg-card px-1 py-[2px]';
