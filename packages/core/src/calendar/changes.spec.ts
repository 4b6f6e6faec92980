import { sayEventChanges, tellEvent, type Edited, type Noticed } from './changes';

const walk: Noticed = {
  title: 'Section C on site',
  start: '2026-08-04T10:00',
  end: '2026-08-04T11:00',
  allDay: false,
  zone: 'Europe/Vienna',
  location: 'North gate',
  rrule: null,
  status: 'TENTATIVE',
};
const said = (change: Partial<Noticed>) => sayEventChanges(walk, { ...walk, ...change }, 'Europe/Vienna', '2026-08-03');

describe('what changed in an event', () => {
  it('says from when to when it moved, and nothing when nothing moved', () => {
    expect(said({ start: '2026-08-05T14:00', end: '2026-08-05T15:00' })).toEqual([
      'moved from Tue 4 Aug 10:00 to Wed 5 Aug 14:00',
    ]);
    expect(said({})).toEqual([]);
  });

  it('sees through zones: the same moment written in another zone is no move', () => {
    expect(said({ zone: 'America/Halifax', start: '2026-08-04T05:00', end: '2026-08-04T06:00' })).toEqual([]);
    expect(said({ zone: 'America/Halifax' })).toEqual(['moved from Tue 4 Aug 10:00 to Tue 4 Aug 15:00']);
  });

  it('says length, place, name, repeat and cancellation', () => {
    expect(said({ end: '2026-08-04T11:30' })).toEqual(['now until 11:30 instead of 11:00']);
    expect(said({ location: 'South gate', title: 'Section C' })).toEqual([
      'now at South gate',
      'renamed from “Section C on site” to “Section C”',
    ]);
    expect(said({ location: '' })).toEqual(['no longer at North gate']);
    expect(said({ rrule: 'FREQ=WEEKLY' })).toEqual(['repeats differently']);
    expect(said({ status: 'CANCELLED', location: '' })).toEqual(['cancelled']);
    expect(said({ allDay: true, zone: null, start: '2026-08-04', end: '2026-08-05' })).toEqual([
      'moved from Tue 4 Aug 10:00 to Tue 4 Aug',
    ]);
  });
});

describe('what was changed of an event', () => {
  const before: Edited = {
    ...{ title: walk.title, location: walk.location, rrule: null, description: '', meetingLink: '', category: '' },
    ...{ status: 'CONFIRMED', transparent: false, class: 'PUBLIC', alarms: null, buffers: null },
    attendees: [{ name: 'Ines Aalto', address: 'ines@aalto-timber.example' }],
  };
  const told = (change: Partial<Edited>) => tellEvent(before, { ...before, ...change }, '2026-08-03');

  it.each<[Partial<Edited>, string[]]>([
    [{}, []],
    [
      { location: 'South gate', title: 'Section C' },
      ['called “Section C”, was “Section C on site”', 'at South gate, was North gate'],
    ],
    [{ location: '' }, ['at no place, was North gate']],
    [{ rrule: 'FREQ=WEEKLY' }, ['repeats every week']],
    [{ transparent: true }, ['shown as free']],
    [{ status: 'TENTATIVE', transparent: false }, ['shown as tentative']],
    [
      { attendees: [{ name: '', address: 'jonas.brandl@alderfen.example' }] },
      ['with jonas.brandl@alderfen.example', 'without Ines Aalto'],
    ],
    [{ description: 'Boots', alarms: [] }, ['notes changed', 'other reminders']],
    [{ buffers: { prep: 15, followUp: null, travel: null, tasks: [] } }, ['other time beside it']],
    [{ buffers: { prep: null, followUp: null, travel: null, tasks: [{ id: 'a', at: 'prep' }] } }, ['with a task beside it']],
  ])('%j', (change, words) => expect(told(change)).toEqual(words));
});
