import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { readMessage } from './facts';
import { plainSubject, titleOf } from './title';

const ZONE = 'Europe/Vienna';
const read = (text: string, more: Partial<Parameters<typeof readMessage>[0]> = {}) =>
  readMessage({ text, written: instantOf('2026-08-02T18:20', ZONE), zone: ZONE, names: ['Maren'], ...more });

const COUNTY = `Hello Maren,

thank you for the walk along the north bank last week. Could you send us the raw readings of gauge 14 by Friday, 14 August? We close the books that evening and cannot move it. Pulling them from the logger took my predecessor about three quarters of an hour.

Please also tell me who will have the key to the hut from September on.

The readings from March are fine as they are.

Best regards
Tomas Rieger`;

describe('readMessage', () => {
  it('finds both asks, the fixed deadline and the duration, at their places', () => {
    const facts = read(COUNTY);
    expect(facts.asks.map((ask) => COUNTY.slice(ask.start, ask.end))).toEqual([
      'Could you send us the raw readings of gauge 14 by Friday, 14 August?',
      'Please also tell me who will have the key to the hut from September on.',
    ]);
    const deadline = facts.dates.find((date) => date.role === 'deadline');
    expect(deadline).toMatchObject({ value: '2026-08-14', fixed: true, text: 'Friday, 14 August' });
    expect(COUNTY.slice(deadline?.start, deadline?.end)).toBe('Friday, 14 August');
    expect(facts.minutes).toBe(45);
  });

  it('reads German', () => {
    const facts = read(
      'Liebe Frau Holt,\n\nkönnten Sie uns bitte bis zum 12. August die Unterlagen schicken? Das dauert etwa eine halbe Stunde. Die Wiese ist nass.\n\nMit freundlichen Grüßen\nKarl Moos',
    );
    expect(facts.asks).toHaveLength(1);
    expect(facts.dates).toMatchObject([{ value: '2026-08-12', role: 'deadline' }]);
    expect(facts.minutes).toBe(30);
  });

  it('leaves quoted replies, signatures and footers out', () => {
    const facts = read(
      'It rained.\n\nOn Mon, 3 Aug 2026 at 09:00, Pia wrote:\n> Could you call me by Friday?\n\n-- \nPlease consider the environment\n',
    );
    expect(facts.asks).toEqual([]);
    expect(facts.dates).toEqual([]);
  });

  it('reads a mail of nothing but a forwarded one as if it were its own', () => {
    const text =
      '\n---------- Forwarded message ----------\nFrom: Ines <ines@x.example>\nDate: Sunday\nSubject: boards\n\nWe need the quote for the larch boards by end of next week.\n';
    const facts = read(text);
    expect(facts.asks).toHaveLength(1);
    expect(facts.dates).toMatchObject([{ value: '2026-08-07', role: 'deadline' }]);
    expect(titleOf(text, facts, 'Fwd: boards')).toBe('Send the quote for the larch boards');
  });

  it.each<[string, string, string]>([
    ['Can we meet on Thursday at 14:00?', '2026-08-06T14:00', 'meeting'],
    ['Please pay it no later than 10 August.', '2026-08-10', 'deadline'],
    ['The deadline is 27 August.', '2026-08-27', 'deadline'],
    ['I saw two cranes on 5 August.', '2026-08-05', 'mention'],
    ['Thursday in two weeks is a holiday.', '2026-08-13', 'mention'],
    ['Bitte bis Ende August zurückgeben.', '2026-08-31', 'deadline'],
    ['Please send it by close of business tomorrow.', '2026-08-03', 'deadline'],
    ['Could you send it tomorrow?', '2026-08-03', 'deadline'],
    ['In KW 34 ist der Kran da.', '2026-W34', 'mention'],
  ])('“%s” names %s as %s', (text, value, role) => {
    expect(read(text).dates.map((date) => [date.value, date.role])).toContainEqual([value, role]);
  });

  it.each([
    'Thank you for coming.',
    'Please find the list attached.',
    'How are you?',
    'If you have any questions, do not hesitate to call.',
    'Nothing you need to do.',
  ])('hears no ask in “%s”', (text) => {
    expect(read(text).asks).toEqual([]);
  });

  it.each([
    'Maren: call the school about the nets',
    'Please sign the form.',
    'Can you come?',
    'I need half a page from you by noon.',
    'Bitte rufen Sie mich an.',
    'Who has the keys, do you know?',
  ])('hears an ask in “%s”', (text) => {
    expect(read(text).asks).toHaveLength(1);
  });

  it('asks nothing in what is sent to many, and tells points in time from durations', () => {
    expect(read('Please order now.', { bulk: true }).asks).toEqual([]);
    expect(read('I called two hours ago, and come in 20 minutes.').minutes).toBeNull();
    expect(read('It takes 1 h 30, or 90 minutes.').durations.map((one) => one.minutes)).toEqual([90, 90]);
  });

  it('finds people and links', () => {
    const facts = read(
      'Ask Lea Marchand <lea@tide-lab.example>: https://meet.tide-lab.example/marsh and https://x.example/a.pdf.',
      { from: { name: 'Pia', address: 'pia@y.example' } },
    );
    expect(facts.people).toEqual([
      { name: 'Pia', address: 'pia@y.example' },
      { name: 'Lea Marchand', address: 'lea@tide-lab.example' },
    ]);
    expect(facts.links).toEqual([
      { url: 'https://meet.tide-lab.example/marsh', kind: 'meeting' },
      { url: 'https://x.example/a.pdf', kind: 'document' },
    ]);
  });

  it('hears one ask where the next sentence only says when it is due', () => {
    expect(read('Please pay the invoice. It is due on 13 August.').asks).toHaveLength(1);
    expect(read('The invoice came. It is due on 13 August.').asks).toHaveLength(1);
    expect(read('I need it by Friday.').asks).toHaveLength(1);
    expect(read('It is due on 13 August.').asks).toHaveLength(1);
  });

  it('finds places, money and numbers of files, at their places', () => {
    const text =
      'We meet at the field hut by the north bank. Invoice 2026-118 comes to 1.240,50 €; order no. 4471-B was EUR 3 940. On 14 August I am at 12 Mill Lane.\nOrt: Gemeindeamt, Zimmer 4';
    const { places, money, numbers } = read(text);
    expect(places.map((one) => text.slice(one.start, one.end))).toEqual([
      'the field hut by the north bank',
      '12 Mill Lane',
      'Gemeindeamt, Zimmer 4',
    ]);
    expect(money.map(({ amount, currency, start, end }) => [amount, currency, text.slice(start, end)])).toEqual([
      [1240.5, 'EUR', '1.240,50 €'],
      [3940, 'EUR', 'EUR 3 940'],
    ]);
    expect(numbers.map((one) => one.number)).toEqual(['2026-118', '4471-B']);
  });

  it.each(['Order 14 plants.', 'the file of 2026', 'invoice 14 August', 'at the moment, in the end', 'the 3 of us'])(
    'finds no number of a file, money or place in “%s”',
    (text) => {
      const { places, money, numbers } = read(text);
      expect([...places, ...money, ...numbers]).toEqual([]);
    },
  );

  it('turns a clock time said in the writer’s zone into the reader’s, and leaves days as they were said', () => {
    const from = (text: string) =>
      readMessage({ text, written: instantOf('2026-08-03T02:30', ZONE), zone: 'UTC-3', reader: ZONE }).dates;
    expect(from('Can we talk tomorrow at 10:00?')).toMatchObject([{ value: '2026-08-03T15:00', saidIn: 'UTC-3' }]);
    expect(from('Can we talk tomorrow at 10:00 your time?')).toMatchObject([{ value: '2026-08-03T10:00', saidIn: null }]);
    expect(from('Please send it by Friday.')).toMatchObject([{ value: '2026-08-07', saidIn: null }]);
    expect(read('Shall we meet on Tuesday at 9:00 Halifax time?').dates).toMatchObject([
      { value: '2026-08-04T14:00', saidIn: 'America/Halifax' },
    ]);
  });

  it('never throws, keeps spans inside the text, and is quick on hostile text', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (text) => {
        const facts = read(text);
        expect(
          [...facts.asks, ...facts.dates, ...facts.durations].every(
            (one) => one.start >= 0 && one.end <= text.length && one.start < one.end,
          ),
        ).toBe(true);
      }),
      { numRuns: 200 },
    );
    for (const unit of ['please ', 'a.', '> ', 'On Monday ', '1:', 'bis ', '\n', 'could you '])
      expect(read(unit.repeat(8000)).asks.length).toBeLessThanOrEqual(60);
  });
});

describe('titles', () => {
  it.each([
    ['Could you send us the raw readings by Friday?', 'Send the raw readings'],
    ['Please also tell me who has the key.', 'Say who has the key'],
    ['I need you to sign the form before 12 August.', 'Sign the form'],
    ['Can you book it?', 'Book it – Minibus'],
    ['Könnten Sie uns bitte bis Freitag die Karte schicken?', 'Die Karte schicken'],
  ])('%s → %s', (text, title) => {
    expect(titleOf(text, read(text), 'Re: AW: Minibus')).toBe(title);
  });

  it('falls back to the bare subject, and to the first line', () => {
    expect(titleOf('Nothing.', read('Nothing.'), 'Fwd: Re: Cake')).toBe('Cake');
    expect(titleOf('It rains.', read('It rains.'), '')).toBe('It rains.');
    expect(plainSubject('AW: WG: Re[2]: Zaun')).toBe('Zaun');
  });
});
