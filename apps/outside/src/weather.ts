import { Router } from 'express';

/** A number between 0 and 1 that is always the same for a text. */
function chance(text: string): number {
  let sum = 2166136261;
  for (const letter of text) sum = Math.imul(sum ^ letter.charCodeAt(0), 16777619) >>> 0;
  return (sum >>> 8) / 2 ** 24;
}

const rounded = (number: number) => Math.round(number * 10) / 10;

/** Weather that is made up, and the same each time: warm afternoons, and a shower on some days. */
function hoursOf(day: string, place: string) {
  const [mild, wet, begins, long, windy] = ['mild', 'wet', 'begins', 'long', 'windy'].map((what) =>
    chance(`${day} ${place} ${what}`),
  ) as [number, number, number, number, number];
  const season = Math.cos(((Number(day.slice(5, 7)) - 7.5) / 12) * 2 * Math.PI);
  const from = 9 + Math.floor(begins * 8);
  const until = from + 1 + Math.floor(long * 4);
  return [...Array(24).keys()].map((hour) => {
    const sun = Math.cos(((hour - 15) / 24) * 2 * Math.PI);
    return {
      hour,
      celsius: rounded(9 + 9 * season + (mild - 0.5) * 6 + sun * 4.5),
      rain: wet > 0.5 && hour >= from && hour < until ? rounded(0.4 + chance(`${day} ${place} ${hour}`) * 2.4) : 0,
      wind: rounded(6 + windy * 24 + sun * 4 + 4),
    };
  });
}

/** A weather service: the hours of a day at a place. */
export function weather(): Router {
  const router = Router();
  router.get('/days/:day', ({ params, query }, response) => {
    const place = typeof query['place'] === 'string' ? query['place'].slice(0, 200) : '';
    if (!/^\d{4}-\d{2}-\d{2}$/.test(params.day) || !place)
      return void response.status(404).json({ error: 'no such day or place' });
    return void response.json({ day: params.day, place, hours: hoursOf(params.day, place) });
  });
  return router;
}
