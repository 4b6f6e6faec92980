import { SettingsChange } from '@corvun/contract';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import {
  FIRST_SETTINGS,
  dayOffNamed,
  withChoices,
  workingTimeOf,
  type Day,
  type Interval,
  type Settings,
  type WorkingHours,
} from '@corvun/core';
import type { User } from '../accounts/user.entity';

/** Settings that come from a file, as far as they are right. */
export function readSettings(from: unknown): Partial<Settings> {
  const change = plainToInstance(SettingsChange, typeof from === 'object' && from !== null ? from : {});
  const wrong = new Set<string>(validateSync(change, { whitelist: true }).map(({ property }) => property));
  const right = Object.entries(change).filter(([name, value]) => value !== undefined && !wrong.has(name));
  return JSON.parse(JSON.stringify(Object.fromEntries(right))) as Partial<Settings>;
}

/** Everything a user chose, and what is so where nothing was. */
export const settingsOf = ({ name, zone, hours, settings }: Pick<User, 'name' | 'zone' | 'hours' | 'settings'>): Settings => ({
  ...withChoices(FIRST_SETTINGS, settings ?? {}),
  name,
  zone,
  hours,
});

/** Working time of some days, without days off. @param hours other than the user's */
export function workingOn(user: User, days: readonly Day[], hours: WorkingHours = user.hours): Interval[] {
  const { daysOff } = settingsOf(user);
  return days.flatMap((day) => (dayOffNamed(day, daysOff) === null ? workingTimeOf(day, hours, user.zone) : []));
}
