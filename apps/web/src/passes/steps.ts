import type { PassKind } from '@corvun/contract';
import type { ComponentType } from 'react';
import { Ends, Spent, Ticks, Tomorrow } from './Closing';
import { Left, Mind, Risky, Today } from './Opening';
import { Around, Gives, Matters } from './Settling';
import type { StepProps } from './stepProps';

export interface Step {
  id: string;
  title: string;
  /** What it is for, in a sentence or two. */
  says: string;
  /** The address where its things stand; null: wherever one is. */
  place: (today: string) => string | null;
  View: ComponentType<StepProps>;
}

const plan = () => '/plan';
const anywhere = () => null;

/** The steps of each pass, in the order in which the work is done. */
export const STEPS: Record<PassKind, readonly Step[]> = {
  'open-day': [
    {
      ...{ id: 'mind', title: 'What is on your mind?', place: anywhere, View: Mind },
      says: 'A line each, before mail and chat are looked at. They go to the inbox and are decided later.',
    },
    {
      ...{ id: 'today', title: 'What is today', place: plan, View: Today },
      says: 'What is promised and what you planned, in order, and how much room there is.',
    },
    {
      ...{ id: 'risk', title: 'What is at risk', place: plan, View: Risky },
      says: 'Deadlines for which the work hardly fits any more, while something can still be done.',
    },
    {
      ...{ id: 'left', title: 'What stayed open', place: plan, View: Left },
      says: 'It was for a day before. Each thing goes somewhere: today again, another day, the shelf, into steps, or nowhere.',
    },
    {
      ...{ id: 'around', title: 'What meetings need', place: plan, View: Around },
      says: 'Time to prepare before them, and for what follows after them.',
    },
    {
      ...{ id: 'matter', title: 'What matters most', place: plan, View: Matters },
      says: 'A few things that make it a good day once they are done. Give each its time.',
    },
    {
      ...{ id: 'fit', title: 'Does it fit?', place: plan, View: Gives },
      says: 'Whether more is promised than there is time for, and what could go to another day.',
    },
  ],
  'close-day': [
    {
      ...{ id: 'tick', title: 'What is done', place: plan, View: Ticks },
      says: 'Tick off what is done. What stays open is moved in one step, or by itself.',
    },
    {
      ...{ id: 'spent', title: 'How long it took', place: plan, View: Spent },
      says: 'The planned time is offered; another figure makes the next estimates better.',
    },
    {
      ...{ id: 'tomorrow', title: 'What tomorrow brings', place: anywhere, View: Tomorrow },
      says: 'A look ahead, so that nothing surprises you in the morning.',
    },
    {
      ...{ id: 'stop', title: 'Stop', place: anywhere, View: Ends },
      says: 'What arrives from now on waits in the inbox, without a number, until tomorrow.',
    },
  ],
};

/** What passes are called, what is said once they are through, and the last button. */
export const TITLES: Record<PassKind, { begun: string; done: string; leave: string }> = {
  'open-day': { begun: 'Open the day', done: 'The day is open', leave: 'The day is open' },
  'close-day': { begun: 'Close the day', done: 'The day is closed', leave: 'Close the day' },
};
