import { read, write } from './desk';
import { Refused, ask } from './link';
import { heldAt, knownOf, letOn, originOf, rulesOf, siteOf, turnsAt, type Let } from './quiet';

export const TURN = 'turn';
/** Looks are told for so long, then forgotten. */
const KEPT = 24 * 3_600_000;

/** What is read, changed and written here is changed by one at a time. */
const alone = <T>(work: () => Promise<T>): Promise<T> => navigator.locks.request('corvun-hold', work);

/** Asks the server what is held back, which says that the extension is there; what was known stays while it is away. */
export async function hear(): Promise<void> {
  const { link } = await read();
  if (!link.token) return;
  try {
    const asked = Date.now();
    const state = await ask(link, 'POST /quiet/here', {});
    // Halfway there and back the server looked at its clock.
    const quiet = knownOf(state, Math.round((asked + Date.now()) / 2));
    await alone(() => write({ quiet }));
  } catch {
    // Away, or refused: what it said last holds until it is over.
  }
}

/** Puts the rules in place that hold now, and has it done again when that changes. */
export function hold(): Promise<void> {
  return alone(async () => {
    const { quiet, lets, link } = await read();
    const now = Date.now();
    const sites = heldAt(quiet, lets, now);
    const before = await chrome.declarativeNetRequest.getSessionRules();
    const addRules = rulesOf(sites, link.server, chrome.runtime.getURL('held.html'));
    if (JSON.stringify(before) !== JSON.stringify(addRules))
      await chrome.declarativeNetRequest.updateSessionRules({ removeRuleIds: before.map(({ id }) => id), addRules });
    const turns = turnsAt(quiet, lets, now);
    if (turns === null) await chrome.alarms.clear(TURN);
    else await chrome.alarms.create(TURN, { when: turns });
    await holdFront(sites);
  });
}

/** Tabs that were sent to our page, and when; a page may take so long to come. */
const sent = new Map<number, number>();
const UNDER_WAY = 10_000;

/** What is in front and held back makes room for our page; it can be gone back to. */
async function holdFront(sites: readonly string[]): Promise<void> {
  if (!sites.length) return;
  for (const { id, url } of await chrome.tabs.query({ active: true })) {
    if (id === undefined || !url || !siteOf(url, sites)) continue;
    // What is on its way there already is not sent once more: going back would lead to our page again.
    if (Date.now() - (sent.get(id) ?? 0) < UNDER_WAY) continue;
    sent.set(id, Date.now());
    // A tab can be gone by now.
    await chrome.tabs.update(id, { url: `${chrome.runtime.getURL('held.html?back')}#${url}` }).catch(() => undefined);
  }
}

/** Lets a site be looked at. The server is told afterwards, also when it is away now. */
export async function letThrough(site: string): Promise<void> {
  await alone(async () => {
    const { quiet, lets } = await read();
    await write({ lets: letOn(quiet, lets, site, Date.now()) });
  });
  await hold();
}

/** Tells the server of the looks it does not know of. */
export async function tellLets(): Promise<void> {
  const { link, lets, quiet } = await read();
  if (!link.token) return;
  const told: Let[] = [];
  for (const one of lets.filter((other) => !other.told)) {
    const at = new Date(one.start + (quiet?.ahead ?? 0)).toISOString();
    try {
      await ask(link, 'POST /quiet/graces', {}, { site: one.site, at });
    } catch (problem) {
      // What the server does not take cannot be counted; a token can be mended.
      if (!(problem instanceof Refused) || problem.status === 401) break;
    }
    told.push(one);
  }
  const isTold = ({ site, start }: Let) => told.some((one) => one.site === site && one.start === start);
  const isOver = ({ end, told: known }: Let) => Date.now() - end > (known ? 0 : KEPT);
  await alone(async () => {
    const known = (await read()).lets;
    const next = known.map((one) => (isTold(one) ? { ...one, told: true } : one)).filter((one) => !isOver(one));
    if (JSON.stringify(next) !== JSON.stringify(known)) await write({ lets: next });
  });
}

/** Sites that the browser does not allow to be held back. */
export async function notAllowed(sites: readonly string[]): Promise<string[]> {
  const allowed = await Promise.all(sites.map((site) => chrome.permissions.contains({ origins: [originOf(site)] })));
  return sites.filter((_, index) => !allowed[index]);
}
