import type { QuietState, QuietTime } from '@corvun/contract';
import { GRACE, heldOf, isOnSite, type Grace } from '@corvun/core';

/** A quiet time, by this browser's clock. */
export interface Span {
  start: number;
  end: number;
  title: string;
  sites: string[];
}

/** What the server said of quiet time, by this browser's clock. */
export interface KnownQuiet {
  heard: number;
  /** What the server's clock is ahead of this browser's, in milliseconds. */
  ahead: number;
  zone: string;
  quiet: Span | null;
  next: Span | null;
  /** What is held back wherever nothing else is said. */
  sites: string[];
  /** Looks of today that the server knows of. */
  graces: Grace[];
}

/** A look that was let here; until the server was told of it, it is counted here. */
export interface Let extends Grace {
  told: boolean;
}

/** @param now when it was heard, in milliseconds */
export function knownOf(state: QuietState, now: number): KnownQuiet {
  const ahead = Date.parse(state.at) - now;
  const here = (iso: string) => Date.parse(iso) - ahead;
  const span = (one: QuietTime | null) =>
    one && { start: here(one.from), end: here(one.until), title: one.title, sites: one.sites };
  return {
    ...{ heard: now, ahead, zone: state.zone, sites: state.sites },
    ...{ quiet: span(state.quiet), next: span(state.next) },
    graces: state.graces.map(({ site, from, until }) => ({ site, start: here(from), end: here(until) })),
  };
}

/** The quiet time that runs, also while the server is away: what it said holds until it is over, and what comes next begins. */
export function runsAt(known: KnownQuiet | null, now: number): Span | null {
  const { quiet = null, next = null } = known ?? {};
  if (quiet && now < quiet.end) return quiet;
  return next && next.start <= now && now < next.end ? next : null;
}

/** What is held back at a moment. */
export const heldAt = (known: KnownQuiet | null, lets: readonly Let[], now: number): string[] =>
  heldOf(runsAt(known, now)?.sites ?? [], [...(known?.graces ?? []), ...lets], now);

/** When that can change by itself; null: nothing is known that changes it. */
export function turnsAt(known: KnownQuiet | null, lets: readonly Let[], now: number): number | null {
  const spans = [known?.quiet, known?.next].flatMap((one) => (one ? [one.start, one.end] : []));
  const ahead = [...spans, ...[...(known?.graces ?? []), ...lets].map(({ end }) => end)].filter((at) => at > now);
  return ahead.length ? Math.min(...ahead) : null;
}

/** Lets a site be looked at for five minutes, no longer than it is held back. One that may be looked at is not let anew. */
export function letOn(known: KnownQuiet | null, lets: readonly Let[], site: string, now: number): Let[] {
  const runs = runsAt(known, now);
  if (!runs || !heldAt(known, lets, now).includes(site)) return [...lets];
  return [...lets, { site, start: now, end: Math.min(now + GRACE, runs.end), told: false }];
}

/** How often something was looked at all the same today, and for how many milliseconds. */
export function looksOf(known: KnownQuiet | null, lets: readonly Let[]): { times: number; long: number } {
  const all = [...(known?.graces ?? []), ...lets.filter(({ told }) => !told)];
  return { times: all.length, long: all.reduce((sum, { start, end }) => sum + end - start, 0) };
}

/** The host of an address, as requests have it; empty where it is none of the web. */
export function hostOf(address: string): string {
  if (!URL.canParse(address)) return '';
  const { protocol, hostname } = new URL(address);
  return /^https?:$/.test(protocol) ? hostname : '';
}

/** A site as requests name it: letters beyond ASCII are written otherwise there. */
export const asciiOf = (site: string): string => hostOf(`http://${site}`) || site;

/** The one of these sites that an address lies on; null: on none. */
export function siteOf(address: string, sites: readonly string[]): string | null {
  const host = hostOf(address);
  return (host && sites.find((site) => isOnSite(host, asciiOf(site)))) || null;
}

/** What the browser has to allow before a site can be held back (match pattern). */
export function originOf(site: string): string {
  const host = asciiOf(site);
  return /^[\d.]+$/.test(host) || host === 'localhost' ? `*://${host}/*` : `*://*.${host}/*`;
}

/**
 * The rules by which sites are held back: pages on them become our own page, which is told where one wanted to go. Corvun
 * itself is never held back.
 */
export function rulesOf(sites: readonly string[], server: string, page: string): chrome.declarativeNetRequest.Rule[] {
  if (!sites.length) return [];
  const resourceTypes = ['main_frame' as chrome.declarativeNetRequest.ResourceType];
  const type = (name: string) => name as chrome.declarativeNetRequest.RuleActionType;
  return [
    {
      ...{ id: 1, priority: 2, action: { type: type('allow') } },
      condition: { urlFilter: `|${server}/`, resourceTypes },
    },
    {
      ...{ id: 2, priority: 1, action: { type: type('redirect'), redirect: { regexSubstitution: `${page}#\\0` } } },
      condition: { regexFilter: '^https?://.*', requestDomains: sites.map(asciiOf), resourceTypes },
    },
  ];
}
