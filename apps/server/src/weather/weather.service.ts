import { Inject, Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { WeatherInfo } from '@corvun/contract';
import { MINUTE, addDays, dayOf, endOfDay, outsideOn, startOfDay, type DoneSomewhere, type HourOfWeather } from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { settingsOf } from '../settings/settings-of';
import { OutsideHttp } from '../sources/outside-http';
import { sentenceOf } from '../sources/problem';

/** How long an answer is good; one that was none is asked for again sooner. */
const GOOD = 30 * MINUTE;
const GOOD_PROBLEM = 2 * MINUTE;
const MOST_KEPT = 200;
/** Days from today on of which something can be known. */
const AHEAD = 14;
const LIMITS = { idle: 3000, total: 5000, maxBytes: 65_536, maxRedirects: 2 };
const MOST_TITLES = 5;

type Known = Pick<WeatherInfo, 'hours' | 'problem'>;

/** The weather at the place of a day, where work outside is on it. What the service must understand is in docs/sources/weather.md. */
@Injectable()
export class WeatherService {
  private readonly known = new Map<string, { at: number; answer: Promise<Known> }>();

  constructor(
    @InjectDataSource() private readonly source: DataSource,
    @Inject(CONFIG) private readonly config: Config,
    private readonly agenda: AgendaService,
    private readonly http: OutsideHttp,
    private readonly clock: Clock,
  ) {}

  /** @returns null where nothing is done outside on the day, no place is known, or no service is named */
  async on(user: User, day: string): Promise<WeatherInfo | null> {
    const { weather } = this.config;
    const { outside } = settingsOf(user);
    if (!weather || !outside.words.length || day > addDays(dayOf(this.clock.now(), user.zone), AHEAD)) return null;
    const { things, place } = outsideOn(await this.thingsOn(user, day), outside.words);
    const where = place || outside.place;
    if (!things.length || !where) return null;
    const titles = [...new Set(things.map(({ title }) => title))].slice(0, MOST_TITLES);
    return { day, place: where, outside: titles, ...(await this.at(weather, where, day)) };
  }

  /** What is planned on a day, and what was worked on. */
  private async thingsOn(user: User, day: string): Promise<DoneSomewhere[]> {
    const entries = (await this.agenda.entries(user, day, 1)).filter(({ status }) => status !== 'CANCELLED');
    const ids = entries.flatMap(({ taskId }) => taskId ?? []);
    const tasks = await this.source.query<{ id: string; title: string; tags: string }[]>(
      `SELECT "id", "title", "tags" FROM "task" WHERE "ownerId" = ? AND ("id" IN (SELECT value FROM json_each(?)) OR "id" IN (
         SELECT "taskId" FROM "time_entry" WHERE "ownerId" = ? AND "startAt" < ? AND "endAt" > ?))`,
      [user.id, JSON.stringify(ids), user.id, endOfDay(day, user.zone), startOfDay(day, user.zone)],
    );
    return [
      ...entries
        .filter(({ kind }) => kind === 'event')
        .map(({ title, category, location }) => ({ title, tags: category ? [category] : [], location })),
      ...tasks.map(({ title, tags }) => ({ title, tags: JSON.parse(tags) as string[], location: '' })),
    ];
  }

  private async at(service: string, place: string, day: string): Promise<Known> {
    const key = `${day} ${place}`;
    const now = this.clock.now();
    const before = this.known.get(key);
    if (before && now - before.at < ((await before.answer).problem ? GOOD_PROBLEM : GOOD)) return before.answer;
    const answer = this.ask(service, place, day);
    this.known.delete(key);
    this.known.set(key, { at: now, answer });
    const [oldest] = this.known.keys();
    if (this.known.size > MOST_KEPT && oldest !== undefined) this.known.delete(oldest);
    return answer;
  }

  private async ask(service: string, place: string, day: string): Promise<Known> {
    try {
      const query = new URLSearchParams({ place });
      const said = await this.http.json<unknown>(`${service.replace(/\/$/, '')}/days/${day}?${query}`, { limits: LIMITS });
      const hours = hoursOf(said);
      return hours ? { hours, problem: '' } : { hours: [], problem: 'The weather service sent what cannot be read.' };
    } catch (problem) {
      return { hours: [], problem: sentenceOf(problem, 'The weather service') };
    }
  }
}

const isNumber = (value: unknown, least: number, most: number): value is number =>
  typeof value === 'number' && value >= least && value <= most;

/** The hours of an answer; null where it is none. */
function hoursOf(answer: unknown): HourOfWeather[] | null {
  const hours = (answer as { hours?: unknown } | null)?.hours;
  if (!Array.isArray(hours) || hours.length > 48) return null;
  const right = (hours as Partial<Record<keyof HourOfWeather, unknown>>[]).flatMap((one): HourOfWeather[] => {
    const { hour, celsius, rain, wind } = one ?? {};
    const fits = isNumber(hour, 0, 23) && isNumber(celsius, -90, 60) && isNumber(rain, 0, 500) && isNumber(wind, 0, 500);
    return fits ? [{ hour, celsius, rain, wind }] : [];
  });
  return right.length === hours.length ? right : null;
}
