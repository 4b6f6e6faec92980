import { tellTask, type Telling } from './tellTask';

const telling: Telling = {
  today: '2026-08-03',
  listName: (id) => ({ g: 'Grant report' })[id] ?? '',
  taskTitle: (id) => ({ t: 'Interim report' })[id] ?? '',
};
const tell = (before: object, after: object) => tellTask(before as never, after as never, telling);

describe('tellTask', () => {
  it.each([
    [{ title: 'a' }, { title: 'Send the readings' }, ['called “Send the readings”']],
    [{ listId: null }, { listId: 'g' }, ['on Grant report']],
    [{ listId: 'g' }, { listId: 'gone' }, ['on a list that is gone']],
    [{ parentId: null }, { parentId: 't' }, ['a step of “Interim report”']],
    [{ plannedDay: null, plannedWeek: '2026-W33' }, { plannedDay: '2026-08-04', plannedWeek: null }, ['on Tue 4 Aug']],
    [{ plannedDay: '2026-08-04', plannedWeek: null }, { plannedDay: null, plannedWeek: '2026-W33' }, ['in week 33']],
    [{ plannedWeek: '2026-W33' }, { plannedWeek: null }, ['in no week']],
    [
      { deadline: '2026-08-28', deadlineFixed: false },
      { deadline: '2026-08-31', deadlineFixed: true },
      ['due Mon 31 Aug, fixed, was Fri 28 Aug'],
    ],
    [{ deadline: '2026-08-28' }, { deadline: null }, ['no deadline, was Fri 28 Aug']],
    [{ deadline: null }, { deadline: '2026-08-14T12:00' }, ['due Fri 14 Aug 12:00']],
    [{ deadlineFixed: true }, { deadlineFixed: false }, ['deadline flexible']],
    [{ estimate: 60 }, { estimate: 240 }, ['takes 4 h, was 1 h']],
    [{ tags: ['call', 'site'] }, { tags: ['site', 'write'] }, ['#write added', '#call taken off']],
    [{ repeat: null }, { repeat: 'FREQ=WEEKLY;BYDAY=MO' }, ['repeats every Mon']],
    [{ waitingOn: null, waitingSince: null }, { waitingOn: 'Anna', waitingSince: 1 }, ['waiting on Anna']],
    [{ position: 1 }, { position: 2 }, []],
    [{ status: 'NEEDS-ACTION', completed: null }, { status: 'COMPLETED', completed: 1 }, ['done']],
  ])('%j to %j', (before, after, words) => expect(tell(before, after)).toEqual(words));
});
