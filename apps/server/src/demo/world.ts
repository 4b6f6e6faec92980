import { addDays, instantOf, weekdayOf, type Day } from '@corvun/core';

export const ZONE = 'Europe/Vienna';
/** Where the research partner is. */
export const PARTNER_ZONE = 'America/Halifax';

export const PEOPLE = {
  director: { name: 'Oda Lindqvist', address: 'oda.lindqvist@alderfen.example' },
  lead: { name: 'Jonas Brandl', address: 'jonas.brandl@alderfen.example' },
  volunteers: { name: 'Pia Keller', address: 'pia.keller@alderfen.example' },
  books: { name: 'Emil Sander', address: 'emil.sander@alderfen.example' },
  crew: { name: 'Field crew', address: 'field-crew@alderfen.example' },
  county: { name: 'Tomas Rieger', address: 'tomas.rieger@county-water.example' },
  permits: { name: 'County Permit Office', address: 'permits@county.example' },
  contractor: { name: 'Ines Aalto', address: 'ines@aalto-timber.example' },
  funder: { name: 'Ruth Okafor', address: 'ruth.okafor@wet-places-fund.example' },
  owner: { name: 'Karl Moos', address: 'karl.moos@nordweg.example' },
  neighbour: { name: 'Hanna Vogt', address: 'hanna.vogt@lower-fen.example' },
  seeds: { name: 'Sedge & Seed', address: 'orders@sedge-seed.example' },
  halifax: { name: 'Lea Marchand', address: 'lea.marchand@tide-lab.example' },
  letter: { name: 'Fen & Field Letter', address: 'letter@fen-field-letter.example' },
  offers: { name: 'Spade and Sons', address: 'offers@spade-and-sons.example' },
  choir: { name: 'Gerd Pohl', address: 'gerd@choir-board.example' },
  insurer: { name: 'Lowland Mutual', address: 'service@lowland-mutual.example' },
  tracker: { name: 'Boardwalk board', address: 'board@tracker.alderfen.example' },
  school: { name: 'Vera Stein', address: 'vera.stein@brook-school.example' },
} as const;

export type Who = keyof typeof PEOPLE;

export const LISTS = [
  { name: 'Permits', code: 'PE', hue: 0, group: 'Trust', project: false, outcome: '', concentration: 'medium' },
  { name: 'Field season', code: 'FS', hue: 2, group: 'Trust', project: false, outcome: '', concentration: 'light' },
  {
    name: 'Boardwalk repair',
    code: 'BR',
    hue: 3,
    group: 'Trust',
    project: true,
    outcome: 'Section C is open to visitors again',
    concentration: 'medium',
  },
  {
    name: 'Grant report',
    code: 'GR',
    hue: 4,
    group: 'Trust',
    project: true,
    outcome: 'The interim report is accepted by the fund',
    concentration: 'deep',
  },
  { name: 'Volunteer days', code: 'VD', hue: 5, group: 'Trust', project: false, outcome: '', concentration: 'light' },
  { name: 'Reading', code: 'RE', hue: 6, group: 'Own', project: false, outcome: '', concentration: 'medium' },
  { name: 'In town', code: 'IT', hue: 7, group: 'Own', project: false, outcome: '', concentration: 'light' },
  { name: 'Home', code: 'HM', hue: 8, group: 'Own', project: false, outcome: '', concentration: 'light' },
] as const;

export type ListName = (typeof LISTS)[number]['name'];

export const CALENDARS = [
  { name: 'Fen', code: 'FE', hue: 0, origin: 'own', main: true, busy: true },
  { name: 'Home', code: 'HO', hue: 2, origin: 'own', main: false, busy: true },
  { name: 'Choir board', code: 'CB', hue: 1, origin: 'feed', main: false, busy: true },
] as const;

export const TAGS = [
  { name: 'call', hue: 1 },
  { name: 'money', hue: 3 },
  { name: 'site', hue: 2 },
  { name: 'survey', hue: 6 },
  { name: 'write', hue: 4 },
] as const;

const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const MONATE = [
  'Januar',
  'Februar',
  'März',
  'April',
  'Mai',
  'Juni',
  'Juli',
  'August',
  'September',
  'Oktober',
  'November',
  'Dezember',
];
const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const WOCHENTAGE = ['Montag', 'Dienstag', 'Mittwoch', 'Donnerstag', 'Freitag', 'Samstag', 'Sonntag'];

/** The days around the demo's today, and how the people in it write them. */
export class Around {
  constructor(readonly today: Day) {}

  /** The working day `count` working days from today (0: today, or the next working day). */
  workday(count: number): Day {
    let day = this.today;
    const step = count < 0 ? -1 : 1;
    while (weekdayOf(day) > 5) day = addDays(day, step);
    for (let left = Math.abs(count); left > 0;) {
      day = addDays(day, step);
      if (weekdayOf(day) <= 5) left -= 1;
    }
    return day;
  }

  at(day: Day, time: string): number {
    return instantOf(`${day}T${time}`, ZONE);
  }

  /** `Friday, 14 August` */
  long(count: number): string {
    const day = this.workday(count);
    return `${WEEKDAYS[weekdayOf(day) - 1]}, ${this.short(count)}`;
  }

  /** `14 August` */
  short(count: number): string {
    const day = this.workday(count);
    return `${Number(day.slice(8))} ${MONTHS[Number(day.slice(5, 7)) - 1]}`;
  }

  weekday(count: number): string {
    return WEEKDAYS[weekdayOf(this.workday(count)) - 1] ?? '';
  }

  /** `Freitag, den 14. August` */
  deutsch(count: number): string {
    const day = this.workday(count);
    return `${WOCHENTAGE[weekdayOf(day) - 1]}, den ${Number(day.slice(8))}. ${MONATE[Number(day.slice(5, 7)) - 1]}`;
  }
}
