// Rules on what stands inside another input ask for it, in a browser, too.
import 'reflect-metadata';
import { HoursError, SiteError, isDay, isRule, isWeek, readHours, readSite, type Priority } from '@corvun/core';
import { Matches, ValidateBy, ValidateIf, isISO8601, type ValidationOptions } from 'class-validator';

/** May be left out, but is not null: what cannot be empty here must not arrive as nothing. */
export const Maybe = (): PropertyDecorator => ValidateIf((_, value) => value !== undefined);

const said = (
  name: string,
  message: (value: string) => string,
  test: (value: unknown) => boolean,
  options?: ValidationOptions,
): PropertyDecorator =>
  ValidateBy(
    {
      name,
      validator: {
        validate: test,
        defaultMessage: (about) => message(typeof about?.value === 'string' ? about.value.slice(0, 40) : ''),
      },
    },
    options,
  );

/** Years that calendars are kept for. */
const inReach = (day: string) => day >= '1900' && day < '2200';
const day = (value: unknown) => typeof value === 'string' && isDay(value) && inReach(value);

/** A day that exists, from 1900 to 2199. */
export const IsDay = (options?: ValidationOptions): PropertyDecorator =>
  said(
    'isDay',
    (value) => (/^\d{4}-\d{2}-\d{2}$/.test(value) ? `${value} is not a day in the calendar.` : 'Write the day as YYYY-MM-DD.'),
    day,
    options,
  );

/** A moment as ISO 8601, with or without an offset, from 1900 to 2199. */
export const IsTime = (): PropertyDecorator =>
  said(
    'isTime',
    (value) =>
      isISO8601(value) ? `${value} is too far away.` : 'Write the time as YYYY-MM-DDTHH:MM, with or without an offset.',
    (value) => typeof value === 'string' && isISO8601(value, { strict: true }) && inReach(value.slice(0, 4)),
  );

/** An ISO week that exists. */
export const IsWeek = (): PropertyDecorator =>
  said(
    'isWeek',
    (value) =>
      /^\d{4}-W\d{2}$/.test(value)
        ? `${value} is not a week in the calendar.`
        : 'Write the week as YYYY-Www, for example 2026-W34.',
    (value) => typeof value === 'string' && isWeek(value),
  );

const isMoment = (value: string) => day(value.slice(0, 10)) && /^.{10}(?:T(?:[01]\d|2[0-3]):[0-5]\d)?$/.test(value);

/** A day that exists, or a wall-clock time on one. */
export const IsDeadline = (): PropertyDecorator =>
  said(
    'isDeadline',
    (value) =>
      /^\d{4}-\d{2}-\d{2}(?:T\d{2}:\d{2})?$/.test(value)
        ? `${value} is not a date.`
        : 'Write the deadline as YYYY-MM-DD or YYYY-MM-DDTHH:MM.',
    (value) => typeof value === 'string' && isMoment(value),
  );

/** A wall-clock time on a day that exists. */
export const IsTimeOnDay = (): PropertyDecorator =>
  said(
    'isTimeOnDay',
    () => say.time.message,
    (value) => typeof value === 'string' && isMoment(value) && value.length > 10,
  );

/** A repeat rule that can be followed. */
export const IsRule = (): PropertyDecorator =>
  said(
    'isRule',
    (value) => `“${value}” is no rule that can be followed.`,
    (value) => typeof value === 'string' && value.length <= 500 && isRule(value),
  );

const MOST_STRETCHES = 6;

/** What is wrong with hours by ISO weekday; null where nothing is. */
function wrongHours(value: unknown): string | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return 'Give the hours by weekday, 1 to 7.';
  for (const [day, stretches] of Object.entries(value)) {
    if (!/^[1-7]$/.test(day)) return `There is no weekday ${day.slice(0, 10)}; they are 1 to 7.`;
    if (!Array.isArray(stretches) || stretches.length > MOST_STRETCHES) return `A day has at most ${MOST_STRETCHES} stretches.`;
    let end = '';
    for (const stretch of stretches as unknown[]) {
      try {
        const [from = '', to = ''] = readHours(typeof stretch === 'string' ? stretch.slice(0, 20) : '').split('-');
        if (from < end) return `The stretches of a day come one after the other; ${from} is before ${end}.`;
        end = to;
      } catch (problem) {
        return problem instanceof HoursError ? problem.message : 'Write hours like 09:00-17:30.';
      }
    }
  }
  return null;
}

/** Working hours by ISO weekday, each a list of stretches one after the other. */
export const AreHours = (): PropertyDecorator =>
  ValidateBy({
    name: 'areHours',
    validator: {
      validate: (value) => wrongHours(value) === null,
      defaultMessage: (about) => wrongHours(about?.value) ?? '',
    },
  });

/** Stretches of a day, one after the other. */
export const AreStretches = (): PropertyDecorator =>
  ValidateBy({
    name: 'areStretches',
    validator: {
      validate: (value) => wrongHours({ 1: value as unknown }) === null,
      defaultMessage: (about) => wrongHours({ 1: about?.value as unknown }) ?? '',
    },
  });

export const MOST_SITES = 200;

/** What is wrong with sites; null where nothing is. */
function wrongSites(value: unknown): string | null {
  if (!Array.isArray(value) || value.length > MOST_SITES) return `At most ${MOST_SITES} sites, as a list.`;
  for (const site of value as unknown[]) {
    try {
      readSite(typeof site === 'string' ? site.slice(0, 300) : '');
    } catch (problem) {
      return problem instanceof SiteError ? problem.message : 'Write a site like news.example.';
    }
  }
  return null;
}

/** Sites: hosts, or addresses on them. */
export const AreSites = (): PropertyDecorator =>
  ValidateBy({
    name: 'areSites',
    validator: {
      validate: (value) => wrongSites(value) === null,
      defaultMessage: (about) => wrongSites(about?.value) ?? '',
    },
  });

/** Something besides spaces; that it is there at all is another rule. */
export const NotBlank = (what: string): PropertyDecorator => Matches(/^$|\S/, { message: `${what} is more than spaces.` });

export const PRIORITIES: Priority[] = ['high', 'normal', 'low'];

/** What is said of a field that is not right, wherever it stands. */
export const say = {
  time: { message: 'Write the time as YYYY-MM-DDTHH:MM, with or without an offset.' },
  minutes: { message: 'The duration is a whole number of minutes from 1 to 6000.' },
  title: { message: 'The title has 1 to 500 characters.' },
};
