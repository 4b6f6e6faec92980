import { isZone, wallOf, type Instant, type Zone } from './zones';

/** Abbreviations that readers of these languages write, and a place that keeps that time. */
const ABBREVIATIONS: Record<string, Zone> = {
  UTC: 'UTC',
  GMT: 'UTC',
  CET: 'Europe/Berlin',
  CEST: 'Europe/Berlin',
  MEZ: 'Europe/Berlin',
  MESZ: 'Europe/Berlin',
  BST: 'Europe/London',
  EET: 'Europe/Helsinki',
  EEST: 'Europe/Helsinki',
  AST: 'America/Halifax',
  ADT: 'America/Halifax',
  EST: 'America/New_York',
  EDT: 'America/New_York',
  PST: 'America/Los_Angeles',
  PDT: 'America/Los_Angeles',
};

const AFTER_TIME =
  /^(?:\s*(?:h|Uhr|o'clock))?[\s,(]*(?:(UTC|GMT|CES?T|MES?Z|BST|EES?T|A[SD]T|E[SD]T|P[SD]T)\b|((?:\p{Lu}[\p{L}]+ ){0,1}\p{Lu}\p{L}+)(?: time\b|er Zeit\b)|(your|my|our) time\b|(?:(eurer|deiner|Ihrer|meiner|unserer) Zeit\b))/u;

/**
 * The zone that words right after a clock time name: `10:00 UTC`, `9:30 Halifax time`, `your time`.
 * @returns null when they name none
 */
export function zoneAfter(text: string, writer: Zone, reader: Zone): Zone | null {
  const match = AFTER_TIME.exec(text.slice(0, 40));
  if (!match) return null;
  const [, short, city, whose, wessen] = match;
  if (short) return ABBREVIATIONS[short] ?? null;
  if (whose) return whose === 'your' ? reader : writer;
  if (wessen) return /^(?:eurer|deiner|Ihrer)$/.test(wessen) ? reader : writer;
  const name = (city ?? '').replace(/ /g, '_');
  return (
    ['Europe', 'America', 'Asia', 'Africa', 'Australia', 'Pacific', 'Atlantic']
      .flatMap((part) => [`${part}/${name}`, `${part}/${name.replace(/^.*_/, '')}`])
      .find((zone) => isZone(zone)) ?? null
  );
}

/**
 * The zone a mail was written in, from the offset of its Date header (RFC 5322, 3.3).
 * An offset of zero says nothing: many machines stamp every mail so. The reader's own offset means the reader's zone.
 * @param offset in minutes east of UTC
 */
export function writersZone(offset: number | null, written: Instant, reader: Zone): Zone {
  if (offset === null || offset === 0 || Math.abs(offset) > 14 * 60) return reader;
  const sign = offset < 0 ? '-' : '+';
  const minutes = Math.abs(offset) % 60;
  const zone = `UTC${sign}${Math.floor(Math.abs(offset) / 60)}${minutes ? `:${String(minutes).padStart(2, '0')}` : ''}`;
  return isZone(zone) && wallOf(written, zone) !== wallOf(written, reader) ? zone : reader;
}
