import { instantOf } from '../time/zones';
import { readMessage } from '../message/facts';
import { suggest, type Habit } from './suggest';

const ZONE = 'Europe/Vienna';
const propose = (text: string, habits: Habit[] = [], bulk = false) =>
  suggest({
    title: 'A title',
    subject: 'A subject',
    facts: readMessage({ text, written: instantOf('2026-08-02T18:20', ZONE), zone: ZONE, bulk }),
    bulk,
    habits,
    today: '2026-08-03',
  });

describe('suggest', () => {
  it('proposes a list where this sender’s things usually went, with countable reasons', () => {
    const proposed = propose('Could you send it by Friday?', [
      { to: 'list', list: 'Permits', count: 5 },
      { to: 'day', list: 'Permits', count: 2 },
      { to: 'list', list: 'Reading', count: 1 },
      { to: 'drop', list: null, count: 9 },
    ]);
    expect(proposed).toMatchObject({ to: 'list', list: 'Permits', deadline: '2026-08-07', sure: true });
    expect(proposed.reasons).toContain('7 of 8 from this address went to Permits');
  });

  it('proposes what was done with things that ask nothing', () => {
    expect(propose('News of the week.', [{ to: 'drop', list: null, count: 4 }], true)).toMatchObject({ to: 'drop', sure: true });
  });

  it('proposes an event for one proposed meeting, under its subject', () => {
    expect(propose('Can we meet on Thursday at 14:00?')).toMatchObject({
      to: 'event',
      start: '2026-08-06T14:00',
      title: 'A subject',
    });
  });

  it('says nothing where it knows nothing, and takes no habit from two cases', () => {
    expect(propose('It rains.', [{ to: 'drop', list: null, count: 2 }])).toMatchObject({ sure: false, reasons: [] });
  });

  it('proposes no deadline that is over', () => {
    expect(propose('Could you have sent it by 1 August 2026?').deadline).toBeNull();
  });
});
