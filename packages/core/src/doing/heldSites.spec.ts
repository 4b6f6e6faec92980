import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { GRACE, SiteError, heldOf, isOnSite, quietAfter, quietAt, readSite, readSites } from './heldSites';

const at = (clock: string) => instantOf(`2026-08-03T${clock}`, 'Europe/Vienna');
const span = (from: string, to: string) => ({ start: at(from), end: at(to) });

describe('a site as it is typed', () => {
  it.each([
    ['news.example', 'news.example'],
    [' https://www.News.example/today?page=2#top ', 'news.example'],
    ['http://maren@mill.news.example:8080', 'mill.news.example'],
    ['www.news.example.', 'news.example'],
    ['www.example', 'www.example'],
    ['fähre.example', 'fähre.example'],
    ['localhost:3000', 'localhost'],
    ['10.0.0.7/board', '10.0.0.7'],
  ])('%s is %s', (text, site) => expect(readSite(text)).toBe(site));

  it.each([
    '',
    'news',
    'ftp://news.example',
    'news..example',
    '-news.example',
    'the news.example',
    '[::1]',
    'javascript:alert(1)',
  ])('“%s” is none', (text) => expect(() => readSite(text)).toThrow(SiteError));

  it('is one of several, each of them once', () => {
    expect(readSites('news.example, www.news.example\nboard.example;  ')).toEqual(['news.example', 'board.example']);
    expect(readSites('')).toEqual([]);
    expect(() => readSites('news.example, board')).toThrow('“board” is no site. Write one like news.example.');
  });

  it('has what lies below it, and nothing else', () => {
    expect(isOnSite('news.example', 'news.example')).toBe(true);
    expect(isOnSite('mill.news.example', 'news.example')).toBe(true);
    expect(isOnSite('fakenews.example', 'news.example')).toBe(false);
    expect(isOnSite('example', 'news.example')).toBe(false);
  });
});

describe('sites that are held back', () => {
  it('are let through for five minutes, each by itself', () => {
    const sites = ['news.example', 'board.example'];
    const graces = [{ site: 'news.example', start: at('10:00'), end: at('10:00') + GRACE }];
    expect(heldOf(sites, graces, at('09:59'))).toEqual(sites);
    expect(heldOf(sites, graces, at('10:00'))).toEqual(['board.example']);
    expect(heldOf(sites, graces, at('10:05'))).toEqual(sites);
  });
});

describe('quiet time', () => {
  const quiet = [{ ...span('10:00', '12:00'), name: 'quiet' }];
  const meetings = [span('10:30', '11:00')];
  const none = { quiet: [], meetings: [], headsDown: null };

  it('runs until its end, or until a meeting begins in it', () => {
    expect(quietAt({ ...none, quiet }, at('10:10'))).toEqual({ start: at('10:10'), end: at('12:00'), block: quiet[0] });
    expect(quietAt({ ...none, quiet, meetings }, at('10:10'))?.end).toBe(at('10:30'));
    expect(quietAt({ ...none, quiet, meetings }, at('10:30'))).toBeNull();
    expect(quietAt({ ...none, quiet, meetings }, at('11:00'))?.end).toBe(at('12:00'));
    expect(quietAt({ ...none, quiet }, at('12:00'))).toBeNull();
  });

  it('is heads-down while one works, in quiet time and out of it; its pauses are none', () => {
    const works = { phase: 'work' as const, until: at('10:25') };
    expect(quietAt({ ...none, headsDown: works }, at('10:10'))).toEqual({ start: at('10:10'), end: at('10:25'), block: null });
    expect(quietAt({ ...none, quiet, headsDown: works }, at('10:10'))).toMatchObject({ end: at('10:25'), block: quiet[0] });
    // A turn that was not made yet does not make it last.
    expect(quietAt({ ...none, headsDown: works }, at('10:25'))).toBeNull();
    expect(quietAt({ ...none, quiet, headsDown: { phase: 'short', until: at('10:30') } }, at('10:26'))).toBeNull();
    expect(quietAt({ ...none, quiet, headsDown: { phase: 'over', until: null } }, at('10:31'))).toBeNull();
  });

  it('says when it begins next: with what was set aside, or after a meeting in it', () => {
    expect(quietAfter({ ...none, quiet, meetings }, at('09:00'))).toMatchObject({ start: at('10:00'), end: at('10:30') });
    expect(quietAfter({ ...none, quiet, meetings }, at('10:10'))).toMatchObject({ start: at('11:00'), end: at('12:00') });
    expect(quietAfter({ ...none, quiet, meetings }, at('11:00'))).toBeNull();
  });

  it('that is told ahead is the one that runs when it comes, and ends when it said it would', () => {
    const minute = fc.integer({ min: 0, max: 40 });
    const spans = fc.array(
      fc.tuple(minute, fc.integer({ min: 1, max: 20 })).map(([start, length]) => ({ start, end: start + length })),
      { maxLength: 4 },
    );
    fc.assert(
      fc.property(spans, spans, minute, (own, held, now) => {
        const day = { quiet: own, meetings: held, headsDown: null };
        const quietNow = quietAt(day, now);
        if (quietNow) for (let moment = now; moment < quietNow.end; moment += 1) expect(quietAt(day, moment)).not.toBeNull();
        const next = quietAfter(day, now);
        if (next) expect(quietAt(day, next.start)).toEqual(next);
        // Between what runs and what is told next nothing is missed.
        for (let moment = quietNow?.end ?? now; moment < (next?.start ?? 70); moment += 1)
          expect(quietAt(day, moment)).toBeNull();
      }),
    );
  });
});
