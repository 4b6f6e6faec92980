import { object } from '../../../testing/calendar-object';
import { ReadingPool } from '../src/reading/reading-pool.service';
import { ownServer } from './harness';

/** Far longer than what is read at once may take. */
const here = ownServer('test', { CORVUN_READ_TIME: '15000' });

it('what takes too long to read is read behind everything that does not', async () => {
  const pool = here.server.app.get(ReadingPool);
  const long = Array.from({ length: 2000 }, (_, at) =>
    ['BEGIN:VEVENT', `UID:${at}`, 'DTSTART:20260804T080000Z', 'RRULE:FREQ=SECONDLY', 'END:VEVENT'].join('\r\n'),
  );
  const text = object(...long);
  const finished: string[] = [];
  const slow = Array.from({ length: 4 }, () =>
    pool
      .expanded({ text, zone: 'Europe/Vienna', from: 0, to: Date.UTC(2030, 0) })
      .catch((problem: Error) => problem.message)
      .then((said) => finished.push(typeof said === 'string' ? said : 'read')),
  );
  const { tasks } = await pool.note(Buffer.from('- [ ] Oil the gate'));
  expect([tasks[0]?.title, finished]).toEqual(['Oil the gate', []]);
  await Promise.race(slow);
  expect(finished).toEqual(['It takes too long to read.']);
});
