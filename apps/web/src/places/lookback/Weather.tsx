import type { WeatherInfo } from '@corvun/contract';
import { lightHours, sayWeather, type HourOfWeather } from '@corvun/core';
import type { ReactNode } from 'react';
import { useWeather } from '../../data/lookback';

/** What fills an hour, in millimetres. */
const FULL = 3;
const EVERY = 3;

/** The weather of a day on which work outside is, at its place; on all others nothing. */
export function Weather({ day }: { day: string }): ReactNode {
  const weather = useWeather(day).data;
  if (!weather) return null;
  const hours = lightHours(weather.hours);
  return (
    <section aria-label="Outside" className="mt-6">
      <h2 className="font-head font-semibold">
        Outside <span className="font-sans font-normal text-soft">at {weather.place}</span>
      </h2>
      <p className="mt-1">{saysWeather(weather)}</p>
      {hours.some(({ rain }) => rain > 0) && <Hours hours={hours} />}
      <p className="mt-1 text-xs text-soft">for {weather.outside.join(', ')}</p>
    </section>
  );
}

/** The weather in a line, or why nothing is known of it. */
export const saysWeather = ({ problem, hours }: WeatherInfo): string => problem || sayWeather(hours) || 'Nothing is known of it.';

/** Rain by the hour, and how warm it is; what it shows is said above. */
function Hours({ hours }: { hours: readonly HourOfWeather[] }): ReactNode {
  return (
    <div className="mt-2 flex" aria-hidden="true">
      {hours.map(({ hour, rain, celsius }) => (
        <div key={hour} className="min-w-0 flex-1">
          <p className="h-4 text-center text-xs text-soft">{hour % EVERY ? '' : `${Math.round(celsius)}°`}</p>
          <div className="flex h-5 items-end border-b border-ink">
            <div className="mx-px w-full bg-teal" style={{ height: `${Math.min(1, rain / FULL) * 100}%` }} />
          </div>
          <p className="h-4 text-center text-xs text-soft">{hour % EVERY ? '' : hour}</p>
        </div>
      ))}
    </div>
  );
}
