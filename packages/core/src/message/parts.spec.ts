import fc from 'fast-check';
import { languageOf } from './language';
import { ownWords, quotedFrom, sentencesIn } from './parts';
import { linksIn, peopleIn } from './readers/people';

const own = (text: string) =>
  ownWords(text)
    .map((part) => text.slice(part.start, part.end).trim())
    .filter(Boolean)
    .join(' | ');
const sentences = (text: string) =>
  sentencesIn(text, { start: 0, end: text.length }).map((one) => text.slice(one.start, one.end));

describe('the writer’s own words', () => {
  it('end before a signature after two dashes', () => {
    expect(own('Come by.\n\n-- \nPia Keller\nAlder Fen Trust')).toBe('Come by.');
  });

  it.each(['Best regards', 'Kind regards,', 'Cheers', 'Thanks!', 'Mit freundlichen Grüßen', 'Viele Grüße', 'LG'])(
    'end before “%s” and a name',
    (signOff) => {
      expect(own(`Come by.\n\n${signOff}\nPia\nAlder Fen Trust, Hut 3`)).toBe('Come by.');
    },
  );

  it('go on after a thank-you that is no sign-off', () => {
    const text = `Thanks\n\n${'The boards arrived and were counted, all forty-eight of them, in the rain on Tuesday. '.repeat(2)}\nPlease pay them.`;
    expect(own(text)).toContain('Please pay them.');
  });

  it('keep a postscript', () => {
    expect(own('Come by.\n\nBest regards\nPia\n\nPS: could you bring the key?')).toContain('could you bring the key');
  });

  it.each([
    'On Mon, 3 Aug 2026 at 09:00, Pia Keller wrote:\n> Could you call?',
    'Am 3. August 2026 schrieb Karl Moos:\n> Bitte rufen Sie an.',
    'Pia Keller <pia@alderfen.example> wrote:\n> > Older still\n> Old',
    '-----Original Message-----\nFrom: Pia\nSent: Monday\nSubject: x\n\nCould you call?',
    'From: Pia Keller\nSent: Monday\nTo: Maren\nSubject: x\n\nCould you call?',
    'Von: Karl Moos\nGesendet: Montag\nAn: Maren Holt\nBetreff: x\n\nBitte rufen Sie an.',
    '________________________________\nFrom: Pia\nDate: Monday\n\nCould you call?',
  ])('leave out the earlier message in %j', (earlier) => {
    expect(own(`I will.\n\n${earlier}`)).toBe('I will.');
  });

  it('stand between quoted lines', () => {
    expect(own('> Could you come?\nYes.\n> And bring cake?\nNo cake.')).toBe('Yes. | No cake.');
  });

  it('leave out the footer of a newsletter', () => {
    expect(own('News.\n\nMore news.\n\nYou receive this mail because you signed up.\nUnsubscribe here.')).toBe(
      'News.\n\nMore news.',
    );
    expect(own('Neuigkeiten.\n\nMehr davon.\n\nNewsletter abbestellen')).toBe('Neuigkeiten.\n\nMehr davon.');
  });

  it('are the forwarded ones where there are no others', () => {
    const text =
      'From: Dana\nDate: Monday\nSubject: Query\n\nHow long is it closed?\n\nFrom: Old\nDate: Sunday\nSubject: Older\n\nOlder words.';
    expect(own(text)).toBe('How long is it closed?');
    expect(own(`For you.\n\n${text}`)).toBe('For you.');
  });

  it('are always stretches of the text, in order', () => {
    const line = fc.constantFrom(
      '> quoted',
      'words here',
      '',
      '-- ',
      'Best regards',
      'From: a',
      'Subject: b',
      'On Monday at 9, X wrote:',
      'Unsubscribe',
      '---------- Forwarded message ----------',
    );
    fc.assert(
      fc.property(fc.array(line, { maxLength: 14 }), (lines) => {
        const text = lines.join('\n');
        const parts = ownWords(text);
        expect(
          parts.every((part, at) => part.start < part.end && part.end <= text.length && (parts[at - 1]?.end ?? 0) <= part.start),
        ).toBe(true);
        expect(parts.some((part) => /^\s*>/.test(text.slice(part.start, part.end)))).toBe(false);
      }),
    );
  });
});

describe('sentences', () => {
  it.each<[string, string[]]>([
    ['One. Two? Three!', ['One.', 'Two?', 'Three!']],
    ['It goes\nover two lines. Next.', ['It goes\nover two lines.', 'Next.']],
    ['Paragraph\n\nNext', ['Paragraph', 'Next']],
    ['- one\n- two\n* three\n1. four', ['one', 'two', 'three', 'four']],
    ['Jonas: hello\nMina: hi', ['Jonas: hello', 'Mina: hi']],
    ['Am 14. August um 10 Uhr. Danke.', ['Am 14. August um 10 Uhr.', 'Danke.']],
    ['In room 12. If you come, call.', ['In room 12.', 'If you come, call.']],
    ['E.g. this one, i.e. that. Done.', ['E.g. this one, i.e. that.', 'Done.']],
    ['Dr. Frost and Mr. Moos came. Good.', ['Dr. Frost and Mr. Moos came.', 'Good.']],
    ['It costs 3.50 today. Fine.', ['It costs 3.50 today.', 'Fine.']],
    ['“Really?” he said. Yes.', ['“Really?”', 'he said.', 'Yes.']],
    ['', []],
  ])('of %j', (text, expected) => {
    expect(sentences(text)).toEqual(expected);
  });
});

describe('language, people and links', () => {
  it.each<[string, string]>([
    ['Could you send us the readings?', 'en'],
    ['Könnten Sie uns bitte die Werte schicken?', 'de'],
    ['12345', 'en'],
    ['Bitte um Rückruf, danke und Grüße', 'de'],
  ])('%j is %s', (text, language) => {
    expect(languageOf(text)).toBe(language);
  });

  it('finds each address once, with the name that stands before it', () => {
    expect(peopleIn('a@b.example, Ines Aalto <A@B.example> and x.y+z@sub.fen.example.')).toEqual([
      { name: 'Ines Aalto', address: 'a@b.example' },
      { name: '', address: 'x.y+z@sub.fen.example' },
    ]);
    expect(peopleIn('not@an address, @home, a@b')).toEqual([]);
  });

  it('tells meetings and documents from other links, without the punctuation after them', () => {
    expect(linksIn('See https://fen.example/map, (https://docs.fen.example/x) and https://fen.example/join/9!')).toEqual([
      { url: 'https://fen.example/map', kind: 'other' },
      { url: 'https://docs.fen.example/x', kind: 'document' },
      { url: 'https://fen.example/join/9', kind: 'meeting' },
    ]);
  });
});

describe('what a reply carries behind its own words', () => {
  const own = (text: string) => text.slice(0, quotedFrom(text));
  it.each([
    ['Good.\n\nOn Monday Maren Holt wrote:\n> Is it?\n>\n> M\n', 'Good.\n\n'],
    ['Good.\n\nOn Monday, 3 August 2026 at 10:12 Maren Holt\n<maren@alderfen.example> wrote:\n> Is it?', 'Good.\n\n'],
    ['Gut.\n-----Ursprüngliche Nachricht-----\nVon: Maren Holt\nGesendet: heute\n\nUnd?', 'Gut.\n'],
    ['Ja.\nVon: Maren Holt\nGesendet: heute\nBetreff: Weg\n\nUnd?', 'Ja.\n'],
    ['> Is it?\nYes, it is.\n> And the other?\nAlso.', '> Is it?\nYes, it is.\n> And the other?\nAlso.'],
    [
      '\n---------- Forwarded message ----------\nFrom: Dana\nTo: Oda\n\nText',
      '\n---------- Forwarded message ----------\nFrom: Dana\nTo: Oda\n\nText',
    ],
    ['Nothing quoted.\n\n', 'Nothing quoted.\n\n'],
    ['', ''],
  ])('%j', (text, words) => expect(own(text)).toBe(words));

  it('is never what the readers take for own words', () => {
    const line = fc.constantFrom('Could you call?', '> quoted', '', 'On Monday Maren Holt wrote:', 'Regards', 'Anna', '--');
    fc.assert(
      fc.property(fc.array(line, { maxLength: 9 }), (lines) => {
        const text = lines.join('\n');
        const from = quotedFrom(text);
        if (from === text.length) return;
        for (const { start, end } of ownWords(text)) expect(text.slice(Math.max(start, from), end).trim()).toBe('');
      }),
      { numRuns: 200 },
    );
  });
});
