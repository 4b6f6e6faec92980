import type { TimeStretch } from '@corvun/contract';
import { useState } from 'react';

const OWN = Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';
const KEPT = 'corvun-zone';

/** The zone in which times are shown: the visitor's own until another is chosen. */
export function useZone(): [string, (zone: string) => void] {
  const [zone, set] = useState(() => sessionStorage.getItem(KEPT) ?? OWN);
  return [
    zone,
    (next) => {
      sessionStorage.setItem(KEPT, next);
      set(next);
    },
  ];
}

/** Zones to choose from: the visitor's, that of whoever offers, then all. */
export const zonesFor = (theirs: string): string[] => [...new Set([OWN, theirs, ...Intl.supportedValuesOf('timeZone'), 'UTC'])];

export const cityOf = (zone: string): string => (zone.split('/').at(-1) ?? zone).replaceAll('_', ' ');

const format = (zone: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...options });

export const timeOf = (iso: string, zone: string): string =>
  format(zone, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }).format(new Date(iso));
export const dayOf = (iso: string, zone: string): string =>
  format(zone, { weekday: 'short', day: 'numeric', month: 'short' }).format(new Date(iso)).replace(',', '');
export const longDay = (iso: string, zone: string): string =>
  format(zone, { weekday: 'long', day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(iso));

/** `Tuesday 4 August 2026, 10:00–10:30` */
export const sayStretch = ({ start, end }: TimeStretch, zone: string): string =>
  `${longDay(start, zone).replace(',', '')}, ${timeOf(start, zone)}–${timeOf(end, zone)}`;

/** The same with the zone it is said in. */
export const sayInZone = (stretch: TimeStretch, zone: string): string => `${sayStretch(stretch, zone)} (${zone})`;

/** How long times last, where all last as long: `30 min each`. */
export function lengthOf(slots: readonly TimeStretch[]): string {
  const all = new Set(slots.map(({ start, end }) => (Date.parse(end) - Date.parse(start)) / 60_000));
  const [minutes = 0] = all;
  if (all.size !== 1) return '';
  const hours = Math.floor(minutes / 60);
  const said = [hours ? `${hours} h` : '', minutes % 60 ? `${minutes % 60} min` : ''].filter(Boolean).join(' ');
  return slots.length === 1 ? said : `${said} each`;
}

/** Times by the day on which they are for whoever looks. */
export function byDay(slots: readonly TimeStretch[], zone: string): [day: string, slots: TimeStretch[]][] {
  const days = new Map<string, TimeStretch[]>();
  for (const slot of slots) {
    const day = dayOf(slot.start, zone);
    days.set(day, [...(days.get(day) ?? []), slot]);
  }
  return [...days];
}
