import fc from 'fast-check';
import { overlaps } from '../time/intervals';
import { MINUTE, instantOf } from '../time/zones';
import { NO_BUFFERS, readBuffers, sayBuffers, withTravel, type BufferSettings, type EventBuffers } from './bufferRules';
import { buffersOf, comesFrom, type Buffered } from './buffers';

const ZONE = 'Europe/Vienna';
const at = (wall: string) => instantOf(`2026-08-03T${wall}`, ZONE);

const said = (more: Partial<EventBuffers>): EventBuffers => ({ prep: null, followUp: null, travel: null, tasks: [], ...more });
const date = (id: string, from: string, to: string, more: Partial<Buffered> = {}): Buffered => ({
  ...{ id, start: at(from), end: at(to), occurrence: null, calendarId: 'fen', category: '', location: '' },
  ...{ ofOthers: false, buffers: null, carried: { prep: 0, followUp: 0 } },
  ...more,
});
const rules = (more: Partial<BufferSettings>): BufferSettings => ({ ...NO_BUFFERS, ...more });
const RULE = { prep: 15, followUp: 30, of: 'all', calendarId: null, category: '', over: 0 } as const;

const shown = (dates: Buffered[], settings: BufferSettings) =>
  buffersOf(dates, settings, ZONE).map(({ kind, of, start, end, wanted }) => {
    const clock = (instant: number) => new Date(instant + 120 * MINUTE).toISOString().slice(11, 16);
    const whole = Math.round((end - start) / MINUTE) === wanted ? '' : ` of ${wanted}`;
    return `${of.id} ${kind} ${clock(start)}-${clock(end)}${whole}`;
  });

describe('the time beside events', () => {
  it('stands before and after them, by the first rule that is for them', () => {
    const settings = rules({
      rules: [
        { ...RULE, of: 'others', over: 30 },
        { ...RULE, prep: 5, followUp: 0, category: 'Field work' },
      ],
    });
    const dates = [
      date('long', '09:00', '10:00', { ofOthers: true }),
      date('short', '11:00', '11:30', { ofOthers: true }),
      date('own', '13:00', '14:00'),
      date('field', '15:00', '16:00', { category: 'field work' }),
    ];
    expect(shown(dates, settings)).toEqual(['long prep 08:45-09:00', 'long follow-up 10:00-10:30', 'field prep 14:55-15:00']);
  });

  it('is what the event itself says, rather', () => {
    const dates = [
      date('none', '09:00', '10:00', { buffers: said({ prep: 0, followUp: 0 }) }),
      date('own', '12:00', '13:00', { buffers: said({ prep: 45 }) }),
    ];
    expect(shown(dates, rules({ rules: [RULE] }))).toEqual(['own prep 11:15-12:00', 'own follow-up 13:00-13:30']);
  });

  it('is at least as long as the tasks that are done in it', () => {
    expect(shown([date('a', '09:00', '10:00', { carried: { prep: 40, followUp: 0 } })], rules({ rules: [RULE] }))).toEqual([
      'a prep 08:20-09:00',
      'a follow-up 10:00-10:30',
    ]);
  });

  it('shrinks where another event stands, ways last, and says so where nothing is left', () => {
    const dates = [date('a', '09:00', '10:00'), date('b', '10:20', '11:00'), date('c', '10:40', '11:30')];
    expect(shown(dates, rules({ rules: [RULE] }))).toEqual([
      'a prep 08:45-09:00',
      'a follow-up 10:00-10:05 of 30',
      'b prep 10:05-10:20',
      'c prep 10:40-10:40 of 15',
      'b follow-up 11:00-11:00 of 30',
      'c follow-up 11:30-12:00',
    ]);
  });

  describe('of ways', () => {
    const travel = [
      { from: 'Office', to: 'Gate 3', minutes: 25 },
      { from: 'Yard', to: 'gate  3', minutes: 10 },
    ];
    const settings = rules({ travel });

    it('leads there and back', () => {
      expect(shown([date('a', '09:00', '10:00', { location: 'Gate 3' })], settings)).toEqual([
        'a travel 08:35-09:00',
        'a travel 10:00-10:25',
      ]);
    });

    it('leads straight from one place to the next, and not at all within one', () => {
      const dates = [
        date('a', '09:00', '10:00', { location: 'Gate 3' }),
        date('b', '10:30', '11:00', { location: 'Yard' }),
        date('c', '11:10', '11:30', { location: 'yard' }),
        date('d', '16:00', '17:00', { location: 'Gate 3' }),
      ];
      expect(shown(dates, settings)).toEqual([
        'a travel 08:35-09:00',
        'b travel 10:20-10:30',
        'd travel 15:35-16:00',
        'd travel 17:00-17:25',
      ]);
    });

    it('is as long as the event says, and none to a telephone or to where one is', () => {
      const own = said({ travel: 40 });
      const dates = [
        date('a', '09:00', '10:00', { location: 'Quay', buffers: own }),
        date('b', '13:00', '14:00', { location: 'https://meet.example/x', buffers: own }),
        date('c', '16:00', '17:00', { location: 'OFFICE', buffers: own }),
      ];
      expect(shown(dates, settings)).toEqual(['a travel 08:20-09:00', 'a travel 10:00-10:40']);
    });

    it('is known from where one comes', () => {
      const [a, b, c] = [
        date('a', '09:00', '10:00', { location: 'Gate 3' }),
        date('b', '10:30', '11:00', { location: 'Quay' }),
        date('c', '15:00', '16:00', { location: 'Quay' }),
      ];
      const from = [a, b, c].map((one) => comesFrom([c, b, a], one, settings, ZONE));
      expect(from).toEqual(['Office', 'Gate 3', 'Office']);
    });

    it('has one length for both directions, the one that was said last', () => {
      expect(withTravel(travel, { from: 'gate 3', to: 'office', minutes: 30 })).toEqual([
        { from: 'Yard', to: 'gate  3', minutes: 10 },
        { from: 'gate 3', to: 'office', minutes: 30 },
      ]);
    });
  });

  it('is a pause after a long stretch', () => {
    const dates = [date('a', '09:00', '10:00'), date('b', '10:05', '11:00'), date('c', '13:00', '14:00')];
    expect(shown(dates, rules({ pause: { after: 120, minutes: 15 } }))).toEqual(['b pause 11:00-11:15']);
  });

  it('never lies on an event or on other such time, and touches its event or what belongs to it', () => {
    const dates = fc.array(
      fc.record({
        from: fc.integer({ min: 0, max: 60 }),
        length: fc.integer({ min: 1, max: 12 }),
        location: fc.constantFrom('', 'Gate 3', 'Yard'),
        prep: fc.constantFrom(null, 0, 10, 40),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(dates, (all) => {
        const events = all.map(({ from, length, location, prep }, index) => ({
          ...date(`e${index}`, '08:00', '09:00', { location, buffers: prep === null ? null : said({ prep }) }),
          start: at('08:00') + from * 10 * MINUTE,
          end: at('08:00') + (from + length) * 10 * MINUTE,
        }));
        const settings = rules({
          rules: [RULE],
          travel: [{ from: 'Office', to: 'Gate 3', minutes: 25 }],
          pause: { after: 60, minutes: 15 },
        });
        const found = buffersOf(events, settings, ZONE);
        expect(found.every(({ start, end, wanted }) => end - start <= wanted * MINUTE)).toBe(true);
        const filled = found.filter(({ start, end }) => end > start);
        filled.forEach((one, index) => {
          expect([...events, ...filled.slice(index + 1)].some((other) => overlaps(one, other))).toBe(false);
        });
        const wanted = events.reduce((sum, { buffers }) => sum + Number((buffers?.prep ?? 15) > 0) + 1, 0);
        expect(found.filter(({ kind }) => kind === 'prep' || kind === 'follow-up')).toHaveLength(wanted);
      }),
    );
  });
});

describe('buffers in words', () => {
  it.each([
    ['15 before', { prep: 15, followUp: null, travel: null }, '15 min before'],
    ['15 min before and 30 after', { prep: 15, followUp: 30, travel: null }, '15 min before, 30 min after'],
    ['prep? no', null, ''],
    ['20 travel, 0 after', { prep: null, followUp: 0, travel: 20 }, 'nothing after, 20 min travel'],
    ['none', { prep: 0, followUp: 0, travel: 0 }, 'nothing'],
    ['500 before', null, ''],
  ])('reads %j', (text, read, words) => {
    expect(readBuffers(text)).toEqual(read);
    if (read) expect(sayBuffers(read)).toBe(words);
    if (words) expect(readBuffers(words.replace('nothing after', '0 after'))).toEqual(read);
  });
});
