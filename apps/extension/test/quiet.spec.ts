import type { QuietState } from '@corvun/contract';
import {
  asciiOf,
  heldAt,
  hostOf,
  knownOf,
  letOn,
  looksOf,
  originOf,
  rulesOf,
  runsAt,
  siteOf,
  turnsAt,
  type KnownQuiet,
  type Let,
} from '../src/quiet';

const MINUTE = 60_000;
const SITES = ['fen-news.example', 'marsh-board.example'];
const iso = (clock: string) => `2026-08-03T${clock}:00+02:00`;
/** The browser’s clock is an hour behind that of the server. */
const local = (clock: string) => Date.parse(iso(clock)) - 60 * MINUTE;
const state = (more: Partial<QuietState> = {}): QuietState => ({
  ...{ at: iso('10:50'), zone: 'Europe/Vienna', sites: SITES, graces: [], extension: null },
  quiet: { from: iso('10:50'), until: iso('11:30'), title: 'Results chapter', sites: SITES },
  next: { from: iso('14:00'), until: iso('15:00'), title: '', sites: ['ferry.example'] },
  ...more,
});
const heard = (more: Partial<QuietState> = {}): KnownQuiet => knownOf(state(more), local('10:50'));
const letAt = (site: string, clock: string, told = false): Let => ({
  ...{ site, start: local(clock), end: local(clock) + 5 * MINUTE, told },
});

describe('what the server said of quiet time', () => {
  it('goes by this browser’s clock, whatever that is', () => {
    expect(heard().quiet).toMatchObject({ start: local('10:50'), end: local('11:30') });
    expect(heard().ahead).toBe(60 * MINUTE);
    expect(runsAt(heard(), local('10:49'))?.title).toBe('Results chapter');
  });

  it('holds while the server is away: until its end, and from when the next one begins', () => {
    expect(heldAt(heard(), [], local('11:29'))).toEqual(SITES);
    expect(heldAt(heard(), [], local('11:30'))).toEqual([]);
    expect(heldAt(heard(), [], local('14:00'))).toEqual(['ferry.example']);
    expect(heldAt(heard(), [], local('15:00'))).toEqual([]);
    expect(heldAt(null, [], local('11:00'))).toEqual([]);
  });

  it('says when it turns next', () => {
    const lets = [letAt('fen-news.example', '11:00')];
    expect(turnsAt(heard(), lets, local('10:50'))).toBe(local('11:05'));
    expect(turnsAt(heard(), lets, local('11:05'))).toBe(local('11:30'));
    expect(turnsAt(heard(), [], local('11:30'))).toBe(local('14:00'));
    expect(turnsAt(heard(), [], local('15:00'))).toBeNull();
    expect(turnsAt(null, [], local('15:00'))).toBeNull();
  });
});

describe('a look at what is held back', () => {
  it('is five minutes of one site, no longer than it is held back, and not let anew meanwhile', () => {
    const [first] = letOn(heard(), [], 'fen-news.example', local('11:00'));
    expect(first).toEqual(letAt('fen-news.example', '11:00'));
    expect(heldAt(heard(), first ? [first] : [], local('11:04'))).toEqual(['marsh-board.example']);
    expect(letOn(heard(), first ? [first] : [], 'fen-news.example', local('11:03'))).toEqual([first]);
    expect(letOn(heard(), [], 'fen-news.example', local('11:28'))[0]?.end).toBe(local('11:30'));
    expect(letOn(heard(), [], 'ferry.example', local('11:00'))).toEqual([]);
    expect(letOn(heard(), [], 'fen-news.example', local('12:00'))).toEqual([]);
  });

  it('is counted once, here until the server knows of it', () => {
    const graces = [{ site: 'fen-news.example', from: iso('10:20'), until: iso('10:25') }];
    expect(looksOf(heard({ graces }), [letAt('marsh-board.example', '10:51')])).toEqual({ times: 2, long: 10 * MINUTE });
    expect(looksOf(heard({ graces }), [letAt('fen-news.example', '10:20', true)])).toEqual({ times: 1, long: 5 * MINUTE });
    expect(looksOf(null, [])).toEqual({ times: 0, long: 0 });
  });

  it('that was let in another browser holds here, too', () => {
    const graces = [{ site: 'fen-news.example', from: iso('10:48'), until: iso('10:53') }];
    expect(heldAt(heard({ graces }), [], local('10:51'))).toEqual(['marsh-board.example']);
  });
});

describe('rules of the browser', () => {
  it('send pages of the sites to ours, and never Corvun itself', () => {
    const rules = rulesOf(SITES, 'http://127.0.0.1:4600', 'chrome-extension://id/held.html');
    const [corvun, held] = rules;
    expect(rules).toHaveLength(2);
    expect(corvun).toMatchObject({ action: { type: 'allow' }, condition: { urlFilter: '|http://127.0.0.1:4600/' } });
    expect(corvun?.priority).toBeGreaterThan(held?.priority ?? 0);
    expect(held).toMatchObject({
      action: { type: 'redirect', redirect: { regexSubstitution: 'chrome-extension://id/held.html#\\0' } },
      condition: { requestDomains: SITES, resourceTypes: ['main_frame'] },
    });
    expect(rulesOf([], 'http://127.0.0.1:4600', 'x')).toEqual([]);
  });

  it.each([
    ['fen-news.example', '*://*.fen-news.example/*'],
    ['fähre.example', '*://*.xn--fhre-loa.example/*'],
    ['10.0.0.7', '*://10.0.0.7/*'],
    ['localhost', '*://localhost/*'],
  ])('of %s ask for %s', (site, origin) => expect(originOf(site)).toBe(origin));

  it('know on which site an address lies', () => {
    expect(siteOf('https://mill.fen-news.example/a?b#c', SITES)).toBe('fen-news.example');
    expect(siteOf('https://xn--fhre-loa.example/', ['fähre.example'])).toBe('fähre.example');
    expect(siteOf('https://notfen-news.example/', SITES)).toBeNull();
    expect(siteOf('chrome-extension://fen-news.example/held.html', SITES)).toBeNull();
    expect([hostOf('javascript:alert(1)'), hostOf('held'), asciiOf('fen-news.example')]).toEqual(['', '', 'fen-news.example']);
  });
});
