import { asksReader } from './asks';

const asks = (sentence: string) => asksReader(sentence, ['Maren']);

describe('asks', () => {
  it.each([
    'Could you send the plan?',
    'And could one of you look at the pump?',
    'Please also sign page 4.',
    'I need the photos from you before Thursday.',
    'You still owe me the timesheet.',
    'You will need to register first.',
    'I would be grateful for your outline.',
    'It would help me to have the map.',
    'Is the boardwalk open on Sunday?',
    'Any objections?',
    'OK?',
    'We meet at the barrier, all right?',
    'Tell the neighbours, too.',
    'If it is not too much trouble, bring the old map along.',
    'To renew it, fill in form D and send it to us.',
    'Don’t forget the flowers.'.replace('’', "'"),
    'Someone has to repair it before Wednesday.',
    'Your signature is missing on page 4.',
    'The invoice is due on 13 August.',
    'The report has to be filed by 30 September.',
    'Slides are to be sent in by 10 September.',
    'We look forward to your comments.',
    'The auditors need the signed lists.',
    'You promised me the contact of the man with the boat.',
    'It is high time to book the hall.',
    'Maren: ask the county about the culvert',
    '@Maren bring the tarp',
    'Maren, order the hose today',
    'I wonder whether you could spare an hour.',
    'Unless we hear from you by Friday, the stall goes to others.',
  ])('“%s” asks', (sentence) => {
    expect(asks(sentence)).toBe(true);
  });

  it.each([
    'Könnten Sie uns den Plan schicken?',
    'Bitte rufen Sie mich an.',
    'Gibst du sie frei?',
    'Sollen wir ihn reservieren?',
    'Wir bitten um Rückmeldung bis Freitag.',
    'Festes Schuhwerk ist mitzubringen.',
    'Die Unterlagen sind spätestens am Donnerstag einzureichen.',
    'Seite 7 solltest du noch einmal prüfen.',
    'Wo ist der große Hammer?',
    'Ich brauche die Liste bis Montag.',
  ])('“%s” bittet', (sentence) => {
    expect(asks(sentence)).toBe(true);
  });

  it.each([
    'Thank you for coming.',
    'Please find the minutes attached.',
    'Please accept my apologies.',
    'If you have any questions, do not hesitate to call.',
    'How are you?',
    'We ask for your understanding.',
    'I would be happy to lend you my tractor.',
    'You have 25 minutes including questions.',
    'We shall not need the hut.',
    'As you asked, here is the quote.',
    '@Maren the auger is at the hut again',
    'Maren: thanks, that was it',
    'Maren, looks good to me.',
    'In urgent matters please write to the office.',
    'Correct me if I am wrong.',
    'Register of charities',
    'Order 14 is on its way.',
    'Sie müssen nichts weiter tun.',
    'Ich brauche sie für den Rundbrief.',
    'Wir bitten um Ihr Verständnis.',
    'Order now and save a third.'.replace('Order now', 'Save now'),
    'The crane is back.',
  ])('“%s” asks nothing', (sentence) => {
    expect(asks(sentence)).toBe(false);
  });

  it('judges a very long sentence by its beginning', () => {
    expect(asks(`${'the heron and '.repeat(20_000)} could you come`)).toBe(false);
    expect(asks(`Could you ${'please '.repeat(20_000)} come`)).toBe(true);
  });
});
