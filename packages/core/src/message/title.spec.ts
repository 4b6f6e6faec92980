import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { readMessage } from './facts';
import { plainSubject, reasonOf, titleOf } from './title';

const ZONE = 'Europe/Vienna';
const read = (text: string) => readMessage({ text, written: instantOf('2026-08-02T18:20', ZONE), zone: ZONE, names: ['Maren'] });
const title = (text: string, subject = 'A subject', ask = 0) => titleOf(text, read(text), subject, ask);

describe('titles say what to do, verb first, without the date', () => {
  it.each([
    ['Could you send us the raw readings by Friday?', 'Send the raw readings'],
    ['Hi Maren,\n\ncan you please check the budget before 12 August?', 'Check the budget'],
    ['Please return the signed form no later than 12 August.', 'Return the signed form'],
    ['You need to fill in parts B and D.', 'Fill in parts B and D'],
    ['I need half a page from you by noon on Tuesday.', 'Send half a page'],
    ['Would you be so kind as to move the car?', 'Move the car'],
    ['Do you mind moving the boat to the other landing?', 'Moving the boat to the other landing'],
    ['Maren: call the school about the nets', 'Call the school about the nets'],
    ['Don’t forget the flowers for Oda.'.replace('’', "'"), 'Remember the flowers for Oda'],
    ['Please tell me who has the key.', 'Say who has the key'],
    ['Please let me know whether you want oak or larch.', 'Say whether you want oak or larch'],
    ['Tell the neighbours, too.', 'Tell the neighbours, too'],
    ['Book the hut for the 12th, please.', 'Book the hut'],
    ['Könnten Sie uns bitte bis Freitag die Karte schicken?', 'Die Karte schicken'],
    ['Könnten Sie uns sagen, wer die Reparatur bezahlt?', 'Sagen, wer die Reparatur bezahlt'],
    ['Bitte rufen Sie mich wegen der Weide an.', 'Anrufen wegen der Weide'],
  ])('%s', (text, expected) => {
    expect(title(text)).toBe(expected);
  });

  it.each([
    ['Could you send the map, so that the crew finds the gate?', 'Send the map', 'So that the crew finds the gate.'],
    ['Please move the boat because the landing is repaired.', 'Move the boat', 'Because the landing is repaired.'],
    ['Please sign the form, otherwise the permit ends.', 'Sign the form', 'Otherwise the permit ends.'],
    ['Bitte schicken Sie uns die Karte, damit wir planen können.', 'Die Karte schicken', 'Damit wir planen können.'],
    ['Bitte rufen Sie mich wegen der Weide an, weil der Zaun offen ist.', 'Anrufen wegen der Weide', 'Weil der Zaun offen ist.'],
    ['Could you count the posts?', 'Count the posts', ''],
  ])('what says why goes into the notes: %s', (text, expected, why) => {
    expect(title(text)).toBe(expected);
    expect(reasonOf(text, read(text), 'A subject', expected)).toBe(why);
  });

  it.each([
    ['Who has the keys of the minibus?', 'Answer: who has the keys of the minibus'],
    ['Does that work for you?', 'Answer: does that work for you'],
    ['Would Wednesday suit you?', 'Answer: would Wednesday suit you'],
    ['Any objections?', 'Any objections'],
  ])('a question is answered: %s', (text, expected) => {
    expect(title(text)).toBe(expected);
  });

  it('name what “it” is by the subject, without reply marks', () => {
    expect(title('Can you book it?', 'Re: AW: Minibus')).toBe('Book it – Minibus');
    expect(title('Please sign it.', 'Fwd: WG: Lease of the lower meadow')).toBe('Sign it – Lease of the lower meadow');
  });

  it('are of the ask that is wanted', () => {
    const text = 'Could you send the plan? Please also ask Ines for a price.';
    expect(title(text, '', 0)).toBe('Send the plan');
    expect(title(text, '', 1)).toBe('Ask Ines for a price');
    expect(title(text, 'Plan', 7)).toBe('Plan');
  });

  it.each([
    ['It rained.', 'Fwd: Re: Cake', 'Cake'],
    ['It rained.', '', 'It rained.'],
    ['', '', 'Message without a subject'],
    ['…', 'AW:', 'Message without a subject'],
  ])('fall back: “%s” under “%s” is “%s”', (text, subject, expected) => {
    expect(title(text, subject)).toBe(expected);
  });

  it('are cut at a word, not in it, when an ask is long', () => {
    const long = title(`Could you send ${'the very long list of everything that grows here '.repeat(5)}?`);
    expect(long.length).toBeLessThanOrEqual(90);
    expect(long).toMatch(/^Send the very long list/);
    expect('the very long list of everything that grows here'.split(' ')).toContain(long.split(' ').at(-1));
  });

  it('are never empty, never longer than they may be, and never begin or end with a blank', () => {
    const words = fc.constantFrom(
      'please',
      'could you',
      'send',
      'the',
      'plan',
      'by Friday',
      '?',
      '.',
      ',',
      'it',
      '\n',
      'Re:',
      'bitte',
      '12 August',
      ':',
    );
    fc.assert(
      fc.property(fc.array(words, { maxLength: 24 }), fc.array(words, { maxLength: 6 }), (text, subject) => {
        const made = title(text.join(' '), subject.join(' '));
        expect(made.trim()).toBe(made);
        expect(made.length).toBeGreaterThan(0);
        expect(made.length).toBeLessThanOrEqual(90);
      }),
    );
  });
});

describe('a bare subject', () => {
  it.each([
    ['AW: WG: Re[2]: Zaun', 'Zaun'],
    ['Fwd:Fw: fw: Gate', 'Gate'],
    ['Regarding the gate', 'Regarding the gate'],
    ['  Re:  ', ''],
    ['A  gate\n and a ditch', 'A gate and a ditch'],
  ])('of “%s” is “%s”', (subject, expected) => {
    expect(plainSubject(subject)).toBe(expected);
  });
});
