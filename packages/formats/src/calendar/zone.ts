import ICAL from 'ical.js';
import { isZone, wallOf, type Zone } from '@corvun/core';

const SAMPLES = Array.from({ length: 48 }, (_, month) => Date.UTC(2024 + Math.floor(month / 12), month % 12, 3, 12));

/**
 * IANA zone for a zone defined inside a calendar file. Private names ("W. Europe", "Customized 1") are
 * found by their offsets: the reader's own zone first, then the first known zone that always agrees.
 */
export function resolveZone(id: string, component: ICAL.Component, reader: Zone): Zone {
  if (isZone(id)) return id;
  const tail = /[A-Z][A-Za-z_]+\/[A-Za-z_/]+$/.exec(id)?.[0];
  const named = [component.getFirstPropertyValue('x-lic-location'), tail].find(
    (name) => typeof name === 'string' && isZone(name),
  );
  if (typeof named === 'string') return named;
  const zone = new ICAL.Timezone(component);
  const wanted = SAMPLES.map((instant) => offsetAt(zone, instant));
  const agrees = (candidate: Zone) => SAMPLES.every((instant, at) => offsetIn(candidate, instant) === wanted[at]);
  return [reader, 'UTC', ...Intl.supportedValuesOf('timeZone')].find(agrees) ?? reader;
}

/** Offset of the file's own zone at an instant, in minutes: its rules are asked by wall-clock time. */
function offsetAt(zone: ICAL.Timezone, instant: number): number {
  let offset = 0;
  for (let round = 0; round < 2; round += 1) {
    const local = ICAL.Time.fromJSDate(new Date(instant + offset * 60_000), true);
    local.zone = zone;
    offset = zone.utcOffset(local) / 60;
  }
  return offset;
}

function offsetIn(zone: Zone, instant: number): number {
  return Math.round((Date.parse(`${wallOf(instant, zone)}Z`) - instant) / 60_000);
}
