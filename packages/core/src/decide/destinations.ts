/** Where a decision can send an incoming, described once; see docs/how-to-add-a-destination.md. */
export interface DestinationKind {
  /** What it is called beside its key. */
  name: string;
  /** It makes a task, which can have steps, go on a list and come with more tasks from the same message. */
  makesTask: boolean;
  /** Whether many things can be sent there at once with the same words. */
  many: boolean;
  /** As a proposal: “Put it on the shelf”. Null where the proposal says more than that. */
  proposed: string | null;
  /** What became of like things: “5 of 6 like this were shelved”. */
  past: string;
  /** As it is counted on a day: “6 on a list, 3 dropped”. */
  counted: string;
}

const task = { makesTask: true, many: true, proposed: null, past: 'became tasks' } as const;
const other = { makesTask: false, many: true } as const;

export const DESTINATIONS = {
  list: { ...task, name: 'List', counted: 'on a list' },
  day: { ...task, name: 'Day', past: 'were put on a day', counted: 'on a day' },
  week: { ...task, name: 'Week', counted: 'in a week' },
  time: { ...task, name: 'Time', many: false, counted: 'given time' },
  event: { ...other, name: 'Event', many: false, proposed: null, past: 'became events', counted: 'made an event' },
  answer: { ...other, name: 'Answer', many: false, proposed: 'Say yes', past: 'were answered', counted: 'answered' },
  person: {
    ...other,
    name: 'Person',
    proposed: 'Keep the sender as a person',
    past: 'were kept as a person',
    counted: 'kept as a person',
  },
  'hand-over': { ...task, name: 'Hand over', proposed: 'Hand it over', past: 'were handed over', counted: 'handed over' },
  shelf: { ...task, name: 'Shelf', proposed: 'Put it on the shelf', past: 'were shelved', counted: 'shelved' },
  reference: {
    ...other,
    name: 'Reference',
    proposed: 'Keep it for reference',
    past: 'were kept for reference',
    counted: 'kept for reference',
  },
  done: { ...task, name: 'Done already', proposed: 'Done already', past: 'were done at once', counted: 'done at once' },
  drop: { ...other, name: 'Drop', proposed: 'Drop it', past: 'were dropped', counted: 'dropped' },
} as const satisfies Record<string, DestinationKind>;

export type Destination = keyof typeof DESTINATIONS;

/** Every destination, in the order in which they are offered. */
export const DESTINATION_NAMES = Object.keys(DESTINATIONS) as Destination[];
