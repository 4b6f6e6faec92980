import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { Done, SettingsChange } from '@corvun/contract';
import {
  addDays,
  count,
  tidySites,
  withChoices,
  withDaysOff,
  type DayOff,
  type Settings,
  type SettingsChoice,
  type Step,
} from '@corvun/core';
import { CalendarError, type ExpandedEvent } from '@corvun/formats';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { Kernel, byUser, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { ReadingLimit, ReadingPool } from '../reading/reading-pool.service';
import { SettingsRow } from './settings.entity';

/** How settings are called in what is said of their change. */
const WORDS: Record<keyof Settings, string> = {
  name: 'your name',
  addresses: 'your addresses',
  zone: 'your zone',
  zones: 'the further zones',
  hours: 'the working hours',
  daysOff: 'the days off',
  weekStart: 'the first day of the week',
  lengths: 'how long work takes',
  snap: 'what Plan snaps to',
  textSize: 'the size of text',
  density: 'the room between things',
  clock: 'the clock',
  dates: 'how dates are written',
  typed: 'the language of typed lines',
  remind: 'what you are reminded of',
  buffers: 'the times kept beside events',
  planning: 'how days are planned',
  day: 'how days are opened and closed',
  headsDown: 'how long you work and pause, heads-down',
  quiet: 'what is held back',
  outside: 'what work outside is',
  keys: 'the keys',
  begun: 'the first questions',
};
/** Years ahead for which days off are taken from a calendar that repeats. */
const YEARS = 3;
const MOST_DAYS = 1000;
const LONGEST_HOLIDAY = 62;

@Injectable()
export class SettingsService implements Follower, OnModuleInit {
  readonly name = 'settings';
  readonly actors = ['user'] as const;

  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
    private readonly reading: ReadingPool,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  /** Whatever changes settings, taking them back, too: what every request needs of them stands at the user. */
  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    if (!changes.some(({ kind, after }) => kind === 'settings' && after)) return;
    const { chosen } = await rowOf(work);
    const { name, zone, hours, ...settings } = chosen;
    const known = { ...(name ? { name } : {}), ...(zone ? { zone } : {}), ...(hours ? { hours } : {}) };
    await work.manager.update(User, { id: work.ownerId }, { ...known, settings });
  }

  async change(user: User, input: SettingsChange): Promise<Done> {
    const patch = tidy(input);
    const names = Object.keys(patch) as (keyof Settings)[];
    if (!names.length) throw badField('settings', 'Say what is to change.');
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await rowOf(work);
      await work.update('settings', row, { chosen: withChoices(row.chosen, patch) });
      work.say({ action: 'change', sentence: toldOf(names) });
    });
    return { decision, sentence };
  }

  /** Adds the whole days of a calendar, such as public holidays. @throws Refusal where there are none in it */
  async addDaysOff(user: User, ics: string): Promise<Done> {
    const days = daysIn(await this.eventsIn(ics, user));
    if (!days.length) throw badField('ics', 'There are no whole days to come in this calendar.');
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await rowOf(work);
      const daysOff = withDaysOff(row.chosen.daysOff ?? [], days).slice(0, MOST_DAYS);
      const more = daysOff.length - (row.chosen.daysOff ?? []).length;
      await work.update('settings', row, { chosen: { ...row.chosen, daysOff } });
      work.say({
        action: 'change',
        sentence: more ? `${count(more, 'day')} off ${more === 1 ? 'is' : 'are'} added` : 'These days off were known',
      });
    });
    return { decision, sentence };
  }

  private async eventsIn(text: string, { zone }: User): Promise<ExpandedEvent[]> {
    const from = this.clock.now();
    try {
      return await this.reading.expanded({ text, zone, from, to: from + YEARS * 366 * 86_400_000 });
    } catch (problem) {
      if (problem instanceof CalendarError || problem instanceof ReadingLimit) throw badField('ics', problem.message);
      throw problem;
    }
  }
}

/** What was done, in a sentence. */
function toldOf(names: readonly (keyof Settings)[]): string {
  if (names.join() === 'begun') return 'The first questions were skipped';
  const said = names.filter((one) => one !== 'begun');
  const words = said.map((one) => WORDS[one]);
  const all = words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '');
  const done = said.length < names.length ? 'kept' : 'changed';
  return `${all.charAt(0).toUpperCase()}${all.slice(1)} ${plural(said) ? 'were' : 'was'} ${done}`;
}

const plural = (names: readonly (keyof Settings)[]) => names.length > 1 || /s$/.test(names[0] ?? '');

/** There is one for every account, from its beginning on. */
const rowOf = (work: Work): Promise<SettingsRow> => work.manager.findOneByOrFail(SettingsRow, { ownerId: work.ownerId });

/** A change in the form in which it is kept. */
function tidy(input: SettingsChange): SettingsChoice {
  const said = Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as SettingsChoice;
  return {
    ...said,
    ...(said.name === undefined ? {} : { name: said.name.trim() }),
    ...(said.addresses === undefined ? {} : { addresses: [...new Set(said.addresses.map((one) => one.trim().toLowerCase()))] }),
    ...(said.quiet?.sites ? { quiet: { sites: tidySites(said.quiet.sites) } } : {}),
    ...(said.daysOff === undefined
      ? {}
      : {
          daysOff: withDaysOff(
            [],
            said.daysOff.map(({ day, name }) => ({ day, name: name.trim() })),
          ),
        }),
  };
}

function daysIn(events: readonly ExpandedEvent[]): DayOff[] {
  return events
    .filter(({ allDay, status }) => allDay && status !== 'CANCELLED')
    .flatMap(({ startDay, endDay, title }) => {
      const days: DayOff[] = [];
      for (let day = startDay; day < endDay && days.length < LONGEST_HOLIDAY; day = addDays(day, 1))
        days.push({ day, name: title.slice(0, 120) });
      return days;
    })
    .slice(0, MOST_DAYS);
}
