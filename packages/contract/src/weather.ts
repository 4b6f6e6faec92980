import type { HourOfWeather } from '@corvun/core';
import { IsDay } from './rules';

/** The weather of a day on which one works outside. */
export interface WeatherInfo {
  day: string;
  place: string;
  /** What is done outside. */
  outside: string[];
  /** In order; empty where the service said nothing of it. */
  hours: HourOfWeather[];
  /** Why nothing is known, as a sentence; empty where something is. */
  problem: string;
}

export class WeatherQuery {
  @IsDay() day: string;
}

/** The routes of the weather; a part of the table in `routes.ts`. */
export interface WeatherRoutes {
  /** The weather at the place of a day; null where no work outside is on it, or no service is named. */
  'GET /weather': { query: WeatherQuery; answer: { weather: WeatherInfo | null } };
}
