import type { Destination } from '@corvun/core';
import type { ListName, Who } from './world';

/** A kind of message of the past weeks and what Maren did with it. `%d` is a date, `%n` a number. */
export interface Habit {
  from: Who;
  subject: string;
  text: string;
  to: Destination;
  list?: ListName;
  tags?: string[];
  minutes?: number;
  newsletter?: boolean;
  /** How often it came, of about 200. */
  times: number;
}

const topics = [
  'north bank',
  'gauge 14',
  'the reed zone',
  'section B',
  'section C',
  'the lower field',
  'the bird hide',
  'the west ditch',
  'the hut',
  'pump 1',
  'the car park',
  'the info board',
];

/** Words to fill `%t` with. */
export const TOPICS: readonly string[] = topics;

export const HABITS: Habit[] = [
  {
    from: 'county',
    subject: 'Data request %n: %t',
    text: 'Hello Maren,\n\ncould you send us the readings for %t by %d?\n\nBest regards\nTomas Rieger',
    to: 'list',
    list: 'Permits',
    tags: ['survey'],
    minutes: 45,
    times: 8,
  },
  {
    from: 'county',
    subject: 'Water level at %t',
    text: 'Hello Maren,\n\nfor your information: the level at %t is back to normal.\n\nTomas Rieger',
    to: 'reference',
    times: 4,
  },
  {
    from: 'permits',
    subject: 'Application %n: next step',
    text: 'Dear Ms Holt,\n\nplease submit the form for %t by %d.\n\nCounty Permit Office',
    to: 'list',
    list: 'Permits',
    tags: ['write'],
    minutes: 60,
    times: 9,
  },
  {
    from: 'permits',
    subject: 'Decision on application %n',
    text: 'Dear Ms Holt,\n\nthe permit for %t is granted. No action is needed.\n\nCounty Permit Office',
    to: 'reference',
    times: 6,
  },
  {
    from: 'contractor',
    subject: 'Measurements at %t',
    text: 'Hello Maren,\n\nplease confirm the measurements at %t by %d.\n\nInes Aalto',
    to: 'list',
    list: 'Boardwalk repair',
    tags: ['site'],
    minutes: 30,
    times: 12,
  },
  {
    from: 'contractor',
    subject: 'On site at %t',
    text: 'Hello Maren,\n\ncan we meet on %d at 10:00 at %t?\n\nInes Aalto',
    to: 'event',
    times: 8,
  },
  {
    from: 'tracker',
    subject: 'Card ready: repair %t',
    text: 'Card “repair %t” is ready and assigned to you. Estimate: 60 min',
    to: 'time',
    list: 'Boardwalk repair',
    minutes: 60,
    times: 8,
  },
  { from: 'tracker', subject: 'Comment on: %t', text: 'Jonas Brandl wrote: done on our side.', to: 'drop', times: 7 },
  {
    from: 'funder',
    subject: 'Grant: figures for %t',
    text: 'Dear Maren,\n\nplease send me the figures for %t by %d. About an hour and a half is usual.\n\nRuth Okafor',
    to: 'list',
    list: 'Grant report',
    tags: ['write', 'money'],
    minutes: 90,
    times: 8,
  },
  {
    from: 'funder',
    subject: 'News from the fund',
    text: 'Dear all,\n\nthe new call opens in autumn.\n\nRuth Okafor',
    to: 'reference',
    times: 3,
  },
  {
    from: 'director',
    subject: 'Board: %t',
    text: 'Maren, can you write a paragraph on %t by %d?\n\nOda',
    to: 'time',
    tags: ['write'],
    list: 'Grant report',
    minutes: 45,
    times: 7,
  },
  { from: 'director', subject: 'Thanks', text: 'Good work on %t. Oda', to: 'drop', times: 5 },
  {
    from: 'lead',
    subject: 'Needed for %t',
    text: 'Maren, please order what we need for %t, before %d.\n\nJonas',
    to: 'list',
    list: 'Field season',
    tags: ['site'],
    minutes: 20,
    times: 13,
  },
  { from: 'lead', subject: 'Crew notes, %t', text: 'All fine at %t. Nothing to do for you.\n\nJonas', to: 'reference', times: 6 },
  { from: 'crew', subject: 'Field crew: %t', text: 'Mina: heron again at %t\nLuk: it likes us', to: 'drop', times: 9 },
  {
    from: 'volunteers',
    subject: 'Volunteer day at %t',
    text: 'Hi Maren,\n\ncould you confirm the tools for %t by %d?\n\nPia',
    to: 'list',
    list: 'Volunteer days',
    minutes: 20,
    times: 10,
  },
  { from: 'volunteers', subject: 'Sign-ups', text: 'Hi Maren,\n\n%n people so far.\n\nPia', to: 'drop', times: 5 },
  {
    from: 'books',
    subject: 'Receipt %n',
    text: 'Hi Maren,\n\nplease sign the receipt %n.\n\nEmil',
    to: 'done',
    list: 'Grant report',
    minutes: 5,
    times: 7,
  },
  {
    from: 'books',
    subject: 'Budget for %t',
    text: 'Hi,\n\ncan you check the budget for %t by %d? Half an hour.\n\nEmil',
    to: 'day',
    list: 'Grant report',
    tags: ['money'],
    minutes: 30,
    times: 7,
  },
  {
    from: 'owner',
    subject: 'Weg bei %t',
    text: 'Liebe Frau Holt,\n\nbitte rufen Sie mich wegen %t an.\n\nKarl Moos',
    to: 'day',
    list: 'Field season',
    tags: ['call'],
    minutes: 15,
    times: 6,
  },
  {
    from: 'neighbour',
    subject: 'Seen at %t',
    text: 'Hello,\n\nI saw two cranes at %t.\n\nHanna Vogt',
    to: 'reference',
    times: 10,
  },
  {
    from: 'seeds',
    subject: 'Offer %n',
    text: 'Dear customer,\n\nnew plugs are in.\n\nSedge & Seed',
    to: 'drop',
    newsletter: true,
    times: 5,
  },
  {
    from: 'letter',
    subject: 'Fen & Field Letter %n',
    text: 'This week: %t, and other wet places.\n\nUnsubscribe: https://fen-field-letter.example/leave',
    to: 'drop',
    newsletter: true,
    times: 12,
  },
  {
    from: 'letter',
    subject: 'Fen & Field Letter, special %n',
    text: 'Long read on %t.\n\nUnsubscribe: https://fen-field-letter.example/leave',
    to: 'list',
    list: 'Reading',
    newsletter: true,
    minutes: 30,
    times: 4,
  },
  {
    from: 'offers',
    subject: 'Spades, only %n left',
    text: 'Buy now.\n\nUnsubscribe: https://spade-and-sons.example/leave',
    to: 'drop',
    newsletter: true,
    times: 8,
  },
  {
    from: 'halifax',
    subject: 'Salt marsh: plot %n',
    text: 'Hi Maren,\n\ncould you look at plot %n by %d? 30 minutes.\n\nLea',
    to: 'day',
    list: 'Reading',
    tags: ['survey'],
    minutes: 30,
    times: 4,
  },
  { from: 'choir', subject: 'Choir board: minutes', text: 'Dear all,\n\nthe minutes are out.\n\nGerd', to: 'shelf', times: 4 },
  {
    from: 'insurer',
    subject: 'Policy %n',
    text: 'Dear Ms Holt,\n\nyour policy %n is unchanged.\n\nLowland Mutual',
    to: 'reference',
    times: 4,
  },
  {
    from: 'school',
    subject: 'Class visit to %t',
    text: 'Dear Ms Holt,\n\ndo you have a place for us at %t on %d?\n\nVera Stein',
    to: 'hand-over',
    list: 'Volunteer days',
    times: 3,
  },
];
