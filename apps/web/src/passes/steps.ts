import type { PassKind } from '@corvun/contract';
import { addDays, mondayOf, weekInReview } from '@corvun/core';
import type { ComponentType } from 'react';
import { Pick, Rest } from './Choosing';
import { Gather, Question, Wishes } from './Clearing';
import { Ends, Spent, Ticks, Tomorrow } from './Closing';
import { PlanWeek, ShelfDue, StandingWeek, StuckProjects } from './Coming';
import { Left, Mind, Risky, Today } from './Opening';
import { Finished, Waits, WhyLeft } from './Reviewing';
import { Around, Gives, Matters } from './Settling';
import { OneADay, Quiet, ThreeProjects } from './Sighting';
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
const sort = () => '/sort';
const lists = () => '/lists';
const list = (path: string) => () => `/lists/${path}`;
const comingWeek = (today: string) => `/plan/${mondayOf(weekInReview(today).coming)}`;

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
  'week-review': [
    {
      ...{ id: 'finished', title: 'What was finished', place: (today) => `/plan/${weekInReview(today).from}`, View: Finished },
      says: 'What you did in the week, and what you took part in.',
    },
    {
      ...{ id: 'left', title: 'What was not, and why', place: list('all'), View: WhyLeft },
      says: 'Say why, and it goes where that leads: into steps, after what blocks it, to somebody, into the next week, or nowhere.',
    },
    {
      ...{ id: 'waits', title: 'What waits on whom', place: list('waiting'), View: Waits },
      says: 'Since when, and until when it was expected. One key drafts a mail that asks again.',
    },
    {
      ...{ id: 'projects', title: 'Projects that do not move', place: lists, View: StuckProjects },
      says: 'A project needs one step that can be done now.',
    },
    {
      ...{ id: 'shelf', title: 'What is to be looked at again', place: list('shelf'), View: ShelfDue },
      says: 'Things on the shelf whose day comes until the end of the coming week.',
    },
    {
      ...{ id: 'standing', title: 'What stands already', place: comingWeek, View: StandingWeek },
      says: 'What comes in the coming week as in every other, and how full its days are.',
    },
    {
      ...{ id: 'plan', title: 'Plan the coming week', place: comingWeek, View: PlanWeek },
      says: 'What is for the week, against the time that is free in it.',
    },
  ],
  'clear-decks': [
    {
      ...{ id: 'gather', title: 'Gather everything', place: sort, View: Gather },
      says: 'Five to ten minutes: every source is asked for what is new, and you write down what is in your head.',
    },
    {
      ...{ id: 'wishes', title: 'Deadlines and wishes', place: list('all'), View: Wishes },
      says: 'Which dates did others set? The others are your own wishes, and stop looking like deadlines.',
    },
    {
      ...{ id: 'question', title: 'One question', place: list('all'), View: Question },
      says: 'Which one, once it is done, makes the others easier or unnecessary?',
    },
    {
      ...{ id: 'pick', title: 'The shortlist', place: list('all'), View: Pick },
      says: 'The few things you will look at. The likeliest come first.',
    },
    {
      ...{ id: 'rest', title: 'The rest to the shelf', place: list('shelf'), View: Rest },
      says: 'Out of sight, with a day to look at it again. What others rely on stays.',
    },
    {
      ...{ id: 'week', title: 'One a day', place: (today) => `/plan/${addDays(today, 1)}`, View: OneADay },
      says: 'Each thing of the shortlist gets a day of the coming week, and a time on it.',
    },
    {
      ...{ id: 'projects', title: 'Three projects', place: lists, View: ThreeProjects },
      says: 'Go on with three, each with three steps that can be done now.',
    },
    {
      ...{ id: 'quiet', title: 'A quiet week', place: sort, View: Quiet },
      says: 'New things only go to the inbox, and Corvun says so.',
    },
  ],
};

/** What is said of passes once they are through, and the last button. */
export const TITLES: Record<PassKind, { done: string; leave: string }> = {
  'open-day': { done: 'The day is open', leave: 'The day is open' },
  'close-day': { done: 'The day is closed', leave: 'Close the day' },
  'week-review': { done: 'The week is looked back on', leave: 'Finish' },
  'clear-decks': { done: 'The decks are clear', leave: 'Finish' },
};
