import type { Me, OfferInfo } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { useId, useState, type ReactNode } from 'react';
import { button } from '../sources/common';
import { ZONES, cityOf } from '../settings/zones';
import { Address, addressOf, copyText } from './Address';

const format = (zone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...options });

/** Offered times as a text for a mail, by the clock of whoever reads it. */
export function textOfOffer({ slots, path }: Pick<OfferInfo, 'slots' | 'path'>, zone: string): string {
  const day = format(zone, { weekday: 'long', day: 'numeric', month: 'long' });
  const time = format(zone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
  const lines = slots.map(({ start, end }) => {
    const [from, to] = [new Date(start), new Date(end)];
    return `- ${day.format(from).replace(',', '')}, ${time.format(from)}–${time.format(to)}`;
  });
  const minutes = new Set(slots.map(({ start, end }) => (Date.parse(end) - Date.parse(start)) / 60_000));
  const lasts = minutes.size === 1 ? `, ${sayMinutes([...minutes][0] ?? 0)} each,` : '';
  return [
    `These times${lasts} would suit me (in the time of ${cityOf(zone)}, ${zone}):`,
    ...lines,
    `Please choose one here: ${addressOf(path)}`,
  ].join('\n');
}

/** What is given to whoever may choose: the address, and the text for a mail. */
export function OfferOut({ me, offer }: { me: Me; offer: OfferInfo }): ReactNode {
  const [zone, setZone] = useState(me.zone);
  const id = useId();
  const near = [...new Set([me.zone, ...me.settings.zones, ...ZONES])];
  return (
    <div className="flex flex-col gap-2">
      <Address path={offer.path} of={`“${offer.title}”`} />
      <p className="flex flex-wrap items-center gap-2 text-xs text-soft">
        <label htmlFor={id}>As a text, in the time of</label>
        <select
          id={id}
          className="max-w-[180px] border border-soft bg-card px-1 py-[2px] text-ink"
          value={zone}
          onChange={(event) => setZone(event.target.value)}
        >
          {near.map((one) => (
            <option key={one} value={one}>
              {cityOf(one)}
            </option>
          ))}
        </select>
        <button type="button" className={button} onClick={() => void copyText(textOfOffer(offer, zone), 'The text')}>
          Copy the text
        </button>
      </p>
    </div>
  );
}
