import { KEYS, type Where } from './keys';

/** How a command is called in the help; where a menu has it, too, first how that calls it. */
type Words = string | readonly [menu: string, help: string];

/** What each command does; one without words does not compile. */
const WORDS: { [W in Where]: Record<keyof (typeof KEYS)[W], Words> } = {
  everywhere: {
    sort: 'Go to Sort',
    plan: 'Go to Plan',
    lists: 'Go to Lists',
    now: 'Go to Now',
    notes: 'Go to Notes',
    lookBack: 'Go to Look back',
    sources: ['Sources', 'Go to Sources, the ways in'],
    data: ['Data', 'Go to Data: backups, export, checks'],
    settings: ['All settings', 'Go to the settings'],
    people: ['People', 'Go to the people you have to do with'],
    day: ['Open or close the day', 'Open the day, or close it when it is time; go on with a pass'],
    others: ['Time for others', 'Go to what others can see and choose of your time'],
    capture: 'Write in the capture line',
    gather: ['Gather thoughts', 'Gather thoughts for five minutes'],
    find: 'Find anything that came in or was made of it',
    undo: 'Take the last thing back',
    redo: 'Do it again',
    reminders: 'Go to what you are reminded of',
    help: ['Keys', 'Show these keys'],
  },
  sort: {
    next: 'Next incoming',
    previous: 'Previous incoming',
    accept: 'Do what is proposed',
    mark: 'Mark, to decide several together',
    markSender: 'Mark all from this sender',
    markShown: 'Mark all that are shown',
    list: 'Put on a list',
    day: 'Put on a day or in a week',
    time: 'Give it time: Enter for the best, 1 to 9 for a gap, + for several blocks',
    event: 'Make it an event',
    answer: 'Answer an invitation',
    writeBack: 'Write back, by mail or in the chat',
    passOn: 'Give a mail on to somebody',
    more: 'Take the other asks as tasks, too',
    handOver: 'Hand over, and wait for it',
    person: 'Keep a new sender as a person, or see the card of a known one',
    shelf: 'Put on the shelf',
    reference: 'Keep for reference, or write it into a note',
    done: 'Done already, and how long it took',
    drop: 'Drop',
    name: 'Change the title',
    beforeItGoes: 'Before it goes: notes, steps, tags, priority, repeat, files',
    turn: 'Turn between text and as sent',
    original: 'Save the original',
  },
  plan: {
    earlier: 'Earlier days',
    later: 'Later days',
    today: 'Back to today',
    make: 'Make something: an event, time for a task, quiet or a break',
    tray: 'Fold the tray away, or open it',
    goTo: 'Go to a day, in words or in a small month',
    taller: 'Make hours taller',
    lower: 'Make hours lower',
    offer: 'Keep times for somebody, and offer them',
    side: 'One day, its calendars side by side',
    draft: 'Fill the gaps of these days: a plan to look at',
    rest: 'Plan the rest of today again, from now on',
    fits: 'A little time: what fits into it, the best first',
    entries: 'Go to what is now or next; the arrow keys go on from there, Esc goes back',
    cards: 'Go to the cards of the tray',
  },
  entry: {
    open: ['Open', 'On one of them: open its sheet'],
    move: ['Move with the arrow keys', 'On one of them: move it with the arrow keys, Enter puts it there'],
    mark: ['Mark', 'On one of them: mark it, to change several together'],
    tick: ['Done', 'On a block or task: done'],
    ended: ['Done for now: count this time', 'On a block that has begun: done for now; its time counts, the task stays open'],
    another: ['Another block like this', 'On a block: another one of the same length, in the next gap that fits'],
    notToday: ['Not today', 'On a block: not today, in the next gap that fits from tomorrow on'],
    nextWeek: ['Next week, any day', 'On a block or task: next week, any day; its time is given back'],
    shown: ['Shown to others as busy or free', 'On a block: shown to others as busy or free'],
    pin: ['Pinned, or not', 'On a block: pin it, so that planning leaves it where it is'],
    remove: ['Take away', 'On one of them: take it away, or give its time back'],
    original: ['Open the message it came from', 'On one of them: open the message it came from'],
  },
  card: {
    place: ['Give it time', 'On a card of the tray: give it time with 1 to 9, or the arrow keys and Enter'],
    open: ['Open', 'On a card: open its sheet'],
    menu: ['Menu', 'On a card: all it can do'],
    mark: ['Mark', 'On a card: mark it, to place several in a row'],
    tick: ['Done', 'On a card: done'],
  },
  now: {
    done: ['Done', 'Done; what is left of its time is given back'],
    longer: ['Needs longer', 'It needs longer: push the rest of the day, or plan it again'],
    notToday: ['Not today', 'Not today: in the next gap from tomorrow on'],
    cameUp: ['Something came up', 'Something came up: note it down, then back'],
    measure: ['Timer', 'Start the timer, or stop it'],
    headsDown: ['Heads-down', 'Heads-down: this task and nothing else'],
    join: ['Join', 'Join the meeting'],
    open: ['Open', 'Open its sheet'],
    original: ['Open the message it came from', 'Open the message it came from'],
    fits: 'What fits into the time there is, the best first',
    questions: 'Answer the questions that ask',
  },
  alone: {
    goOn: 'Go on: into a pause, or back to work',
    done: 'Done',
    cameUp: 'Something came up: note it down, then back',
    leave: 'Leave it; what was worked is kept',
  },
  notes: {
    next: 'Next note',
    previous: 'Previous note',
    name: 'Write in the note',
  },
  lookBack: {
    earlier: 'The day, week or month before',
    later: 'The day, week or month after',
    present: 'Today, or this week',
    log: 'The log of a day',
    ledger: 'Where time went',
    questions: 'Questions that come back, and their answers',
    review: 'What a week came to',
    line: 'Write a line into the day, or a new check-in',
    search: 'Search your days',
  },
  sheet: {
    close: ['Close', 'Close the sheet; the focus goes back to where it was'],
    next: 'The next task of the list',
    previous: 'The task before it',
    name: 'Change the title',
    notes: 'Write notes',
    step: 'Add a step',
    time: ['Give it time', 'Give it time: the best three, or a numbered gap'],
    more: 'Say more of it: deadline, repeat, waiting on …',
    tick: ['Done', 'Done'],
    reply: 'Write back to whom it came from',
    remind: 'Remind whom it waits on, by mail',
    handOver: 'Hand it over to somebody',
    measure: 'Start the timer, or stop it',
    skip: 'Skip one date of what repeats',
    original: ['Open the message it came from', 'Open the message it came from'],
  },
  pass: {
    next: 'The next step of a pass',
    previous: 'The step before it',
  },
  lists: {
    add: 'Write a new task; paste many lines for many',
    filter: 'Filter by words, #tag, @name, by Friday …',
    change: 'Change this list: name, code, colour, group …',
    markShown: 'Mark all that are shown',
    unmark: 'Mark none',
  },
  task: {
    open: ['Open', 'On a task: open its sheet'],
    menu: ['Menu', 'On a task: all it can do'],
    name: ['Change the title', 'On a task: change its title where it stands'],
    mark: ['Mark', 'On a task: mark it; Shift with ↑ ↓ marks on'],
    list: ['Put on a list', 'Put it, or all that are marked, on a list'],
    day: ['Put on a day or in a week', 'Put it, or all that are marked, on a day'],
    tag: ['Tag', 'Tag it, or all that are marked'],
    time: ['Give it time', 'On a task: give it time, the best three or a numbered gap'],
    next: 'Next task',
    previous: 'Previous task',
    tick: ['Done', 'On a task: done'],
    remind: ['Remind them', 'On a task that waits on somebody: remind them by mail'],
    skip: ['Skip this one', 'On a task that repeats: skip this one, it comes on its next date'],
    original: ['Open the message it came from', 'On a task: open the message it came from'],
  },
};

type Command<W extends Where> = keyof (typeof KEYS)[W] & string;

const wordsOf = <W extends Where>(where: W, name: Command<W>): Words => WORDS[where][name];

/** How a menu calls a command. */
export function inMenu<W extends Where>(where: W, name: Command<W>): string {
  const words = wordsOf(where, name);
  return typeof words === 'string' ? words : words[0];
}

/** Every command of a place by its name, and what it does. */
export const commandsOf = (where: Where): [name: string, does: string][] =>
  Object.entries(WORDS[where] as Record<string, Words>).map(([name, words]) => [
    name,
    typeof words === 'string'
      ? words
      : words[1].replace(
          /^On (?:one of them|a task|a block or task|a block|a card of the tray|a card): (.)/,
          (_, first: string) => first.toUpperCase(),
        ),
  ]);

/** The commands of a place for the help: keys, and what they do. */
export const helpFor = (where: Where): [key: string, does: string][] =>
  Object.entries(KEYS[where]).map(([name, key]: [string, string]) => {
    const words = (WORDS[where] as Record<string, Words>)[name] ?? '';
    return [key, typeof words === 'string' ? words : words[1]];
  });
