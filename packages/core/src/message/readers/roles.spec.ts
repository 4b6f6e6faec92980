import { roleOf, saysFixed, tellsPast } from './roles';

/** The role of the part in brackets. */
function role(marked: string): string {
  const start = marked.indexOf('[');
  const end = marked.indexOf(']') - 1;
  const sentence = marked.replace(/[[\]]/g, '');
  return roleOf(sentence, start, end, /\d:\d\d/.test(sentence.slice(start, end)));
}

describe('what a date in a sentence is', () => {
  it.each([
    ['Please send it by [Friday].', 'deadline'],
    ['The price holds until [17 August].', 'deadline'],
    ['The deadline is [27 August].', 'deadline'],
    ['Registration ends on [24 August].', 'deadline'],
    ['Please return it [within two weeks].', 'deadline'],
    ['It must reach us on [13 August].', 'deadline'],
    ['Correct it before it goes to the printer on [12 August].', 'deadline'],
    ['I need it [Friday].', 'deadline'],
    ['Bitte bis spätestens [10. August].', 'deadline'],
    ['Shall we meet on [Tuesday at 15:00]?', 'meeting'],
    ['The hearing takes place on [18 August].', 'meeting'],
    ['Would [Wednesday] suit you?', 'meeting'],
    ['Is [Friday at 9:00] possible?', 'meeting'],
    ['Die Begehung findet am [12. August] statt.', 'meeting'],
    ['Can we move our talk from [Tuesday] to another day?', 'mention'],
    ['I am out of the office until [10 August].', 'mention'],
    ['The boards are not dry before [week 36].', 'mention'],
    ['It comes on Friday, not [Thursday].', 'mention'],
    ['I saw two cranes on [Saturday].', 'mention'],
    ['I shall come by [Thursday] with the plan.', 'meeting'],
  ])('%s → %s', (marked, expected) => {
    expect(role(marked)).toBe(expected);
  });

  it.each([
    ['We close the books that evening and cannot move it.', true],
    ['This date is statutory.', true],
    ['No extension is possible.', true],
    ['Das ist verbindlich.', true],
    ['Sooner is better.', false],
  ])('%s fixed: %s', (around, fixed) => {
    expect(saysFixed(around)).toBe(fixed);
  });

  it.each([
    ['The gate was open again on ', true],
    ['The sensor has been silent since ', true],
    ['Thank you for ', true],
    ['We will come on ', false],
    ['Was it open on Saturday?', false],
  ])('%s… tells of what has been: %s', (sentence, past) => {
    expect(tellsPast(sentence, sentence.length)).toBe(past);
  });
});
