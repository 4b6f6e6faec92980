import type { ReactNode } from 'react';
import { useWeather } from '../../data/lookback';
import { saysWeather } from '../lookback/Weather';

/** The weather of today, where work outside is on it. */
export function OutsideLine({ today }: { today: string }): ReactNode {
  const weather = useWeather(today).data;
  if (!weather) return null;
  return (
    <p className="mt-2 text-xs text-soft">
      Outside today, at {weather.place}: <b className="font-semibold text-ink">{saysWeather(weather)}</b>, for{' '}
      {weather.outside.join(', ')}
    </p>
  );
}
