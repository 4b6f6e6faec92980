import { handOverText, isMeant, nudgeText } from './waiting';

describe('waiting on somebody', () => {
  const tomas = { name: 'Tomas Rieger', addresses: ['tomas.rieger@county-water.example'] };

  it.each(['Tomas Rieger', 'tomas', ' TOMAS rieger ', 'tomas.rieger@county-water.example'])('means them: %s', (said) => {
    expect(isMeant(said, tomas)).toBe(true);
  });

  it.each(['Tom', 'Rieger', '', 'rieger@county-water.example'])('does not mean them: %s', (said) => {
    expect(isMeant(said, tomas)).toBe(false);
  });

  it('is asked for once more in a few lines', () => {
    const asked = {
      title: 'Readings of July',
      who: 'Tomas Rieger',
      since: '2026-07-30',
      until: '2026-08-01',
      from: 'Maren Holt',
    };
    expect(nudgeText(asked, '2026-08-03')).toBe(
      'Hello Tomas,\n\nOn Thu 30 Jul I asked you for this: “Readings of July”.\nI had hoped for it by Sat 1 Aug. When can I count on it, and is there anything you need for it?\n\nMaren Holt',
    );
    expect(nudgeText({ ...asked, since: null, until: null }, '2026-08-03')).toContain(
      'I wait for this from you: “Readings of July”.\nWhen can I count on it',
    );
  });

  it('is asked to take something over, with what is known of it', () => {
    const about = {
      title: 'Survey the dyke',
      deadline: '2026-08-07',
      fixed: true,
      minutes: 90,
      who: 'Pia Keller',
      from: 'Maren',
    };
    expect(handOverText(about, '2026-08-03')).toBe(
      'Hello Pia,\n\ncould you take this over from me: “Survey the dyke”?\nIt is due Fri 7 Aug, and that will not move. I reckon with 1 h 30 for it. Please tell me whether you can, and what you need for it.\n\nMaren',
    );
    const bare = handOverText({ ...about, deadline: null, minutes: 0, who: 'pia@crew.example' }, '2026-08-03');
    expect(bare).toContain('Hello pia,');
    expect(bare).toContain('“Survey the dyke”?\nPlease tell me');
  });
});
