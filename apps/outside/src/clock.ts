const fixed = process.env['CORVUN_NOW'] ? Date.parse(process.env['CORVUN_NOW']) : NaN;
const offset = Number.isNaN(fixed) ? 0 : fixed - Date.now();
const ZONE = 'Europe/Vienna';
const DAY = 86_400_000;

/** The stand-ins live at the same time as Corvun. */
export const now = (): number => Date.now() + offset;
export const iso = (at = now()): string => new Date(at).toISOString();

/** Day so many days from today, as YYYY-MM-DD; weekends are passed over. */
export function workday(count: number): string {
  let at = now();
  const step = count < 0 ? -1 : 1;
  const isFree = (time: number) => [0, 6].includes(new Date(`${dayOf(time)}T12:00Z`).getUTCDay());
  while (isFree(at)) at += DAY;
  for (let left = Math.abs(count); left > 0;) {
    at += step * DAY;
    if (!isFree(at)) left -= 1;
  }
  return dayOf(at);
}

export const dayOf = (at: number): string => new Intl.DateTimeFormat('en-CA', { timeZone: ZONE }).format(at);
