import ICAL from 'ical.js';
import { linesOf } from './lines';

type Jcal = ConstructorParameters<typeof ICAL.Component>[0];

/** A component, and sentences on lines of it that could not be read and were left out. */
export interface Lenient {
  root: ICAL.Component;
  problems: string[];
}

/** Components inside components: deeper ones are no calendar. */
const MOST_DEPTH = 12;
const MOST_SAID = 5;

/** Builds a component from its lines; a line that cannot be read is left out and said. Null when it is none at all. */
export function componentOf(lines: readonly string[]): Lenient | null {
  if (tooDeep(lines)) return null;
  const normal = lines.map(upperDurations);
  const whole = parsed(normal);
  if (whole) return { root: whole, problems: [] };
  const broken = new Set(normal.filter((line) => !isReadable(line)));
  const root = broken.size ? parsed(normal.filter((line) => !broken.has(line))) : null;
  if (!root) return null;
  const said = [...broken].slice(0, MOST_SAID).map((line) => `“${line.slice(0, 60)}”`);
  return { root, problems: [`${broken.size === 1 ? 'A line' : `${broken.size} lines`} could not be read: ${said.join(', ')}.`] };
}

/** A whole iCalendar text as its first VCALENDAR; null when there is none. */
export function calendarOf(text: Buffer | string): Lenient | null {
  const found = componentOf(linesOf(text));
  return found?.root.name === 'vcalendar' ? found : null;
}

function parsed(lines: readonly string[]): ICAL.Component | null {
  try {
    const result = ICAL.parse(lines.join('\r\n')) as unknown[];
    return new ICAL.Component((Array.isArray(result[0]) ? result[0] : result) as Jcal);
  } catch {
    return null;
  }
}

/** Whether one line can be read by itself. */
function isReadable(line: string): boolean {
  if (!line.trim() || /^(?:BEGIN|END):/i.test(line)) return line.trim() !== '';
  try {
    ICAL.Property.fromString(line).getValues();
    return true;
  } catch {
    return false;
  }
}

/** Some writers say `pt1h`; the standard and the parser want capitals. */
const upperDurations = (line: string): string =>
  /^(?:DURATION|TRIGGER|ESTIMATED-DURATION)[;:]/i.test(line)
    ? line.replace(/:\s*([+-]?p[0-9wdthms]+)\s*$/i, (value) => value.toUpperCase())
    : line;

function tooDeep(lines: readonly string[]): boolean {
  let depth = 0;
  for (const line of lines) {
    if (/^BEGIN:/i.test(line)) depth += 1;
    else if (/^END:/i.test(line)) depth -= 1;
    if (depth > MOST_DEPTH) return true;
  }
  return false;
}
