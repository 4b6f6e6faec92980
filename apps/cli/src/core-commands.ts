import type { Command } from 'commander';
import { promises as fs } from 'node:fs';
import {
  HoursError,
  freeGaps,
  isoInZone,
  parseLine,
  readHours,
  readMessage,
  writersZone,
  readWeekdays,
  sayMinutes,
  union,
  workingTime,
  type WorkingHours,
} from '@corvun/core';
import type { CalendarEvent } from '@corvun/formats';
import { Refused, WrongUse, minutesOption, print, timeOption, zoneOption } from './usage';

/** Loaded only by the commands that read files: it takes longer to load than most commands to run. */
const formats = () => import('@corvun/formats');

interface Common {
  json?: boolean;
  zone?: string;
  now?: string;
}

interface Window extends Common {
  from: string;
  to: string;
}

async function readFileOf(path: string): Promise<Buffer> {
  return fs.readFile(path).catch((problem: NodeJS.ErrnoException) => {
    throw new Refused(problem.code === 'ENOENT' ? `There is no file ${path}.` : `${path} cannot be read: ${problem.message}.`);
  });
}

async function eventsOf(paths: string[], zone: string): Promise<CalendarEvent[]> {
  const { readCalendar } = await formats();
  const all: CalendarEvent[] = [];
  for (const path of paths) {
    try {
      all.push(...readCalendar((await readFileOf(path)).toString('utf8'), zone));
    } catch (problem) {
      throw problem instanceof Refused
        ? problem
        : new Refused(`${path}: ${problem instanceof Error ? problem.message : 'cannot be read'}`);
    }
  }
  return all;
}

function windowOf({ from, to, zone: named }: Window): { from: number; to: number; zone: string } {
  const zone = zoneOption(named);
  const window = { from: timeOption('from', from, zone), to: timeOption('to', to, zone), zone };
  if (window.to <= window.from) throw new WrongUse('--to must come after --from.');
  return window;
}

/** The commands that need no server: the core on its own. */
export function coreCommands(program: Command): void {
  program
    .command('parse')
    .argument('<text>', 'a capture line')
    .description('what a capture line means')
    .option('--now <time>', 'what "today" is counted from')
    .option('--zone <zone>', 'IANA zone')
    .action((text: string, { json, now, zone: named }: Common) => {
      const zone = zoneOption(named);
      const draft = parseLine(text, { now: now ? timeOption('now', now, zone) : Date.now(), zone });
      for (const problem of draft.problems) process.stderr.write(`${problem.message}\n`);
      const { kind, title, spans } = draft;
      print(json, draft, [`${kind}: ${title}`, ...spans.map((span) => `  ${span.field}: ${text.slice(span.start, span.end)}`)]);
    });

  program
    .command('facts')
    .argument('<file>', 'a mail message')
    .description('what a message asks, and when')
    .option('--now <time>', 'when it is read')
    .option('--zone <zone>', 'IANA zone')
    .action(async (path: string, { json, now, zone: named }: Common) => {
      const zone = zoneOption(named);
      const { readMail } = await formats();
      const mail = await readMail(await readFileOf(path)).catch((problem: Error) => {
        throw new Refused(problem.message);
      });
      const written = mail.date ?? (now ? timeOption('now', now, zone) : Date.now());
      const facts = readMessage({
        text: mail.text,
        written,
        zone: writersZone(mail.dateOffset, written, zone),
        reader: zone,
        from: mail.from,
        bulk: mail.bulk,
        invitation: mail.invitation,
      });
      const { asks, dates, durations: _durations, ...rest } = facts;
      print(json, { text: mail.text, asks, dates, ...rest }, [
        ...asks.map((ask) => `asks: ${ask.text}`),
        ...dates.map((date) => `${date.role}: ${date.value} (${date.text})`),
        ...(facts.minutes ? [`takes: ${sayMinutes(facts.minutes)}`] : []),
      ]);
    });

  program
    .command('expand')
    .argument('<file>', 'an iCalendar file')
    .description('every occurrence in a stretch of time')
    .requiredOption('--from <time>')
    .requiredOption('--to <time>')
    .option('--zone <zone>', 'IANA zone')
    .action(async (path: string, options: Window) => {
      const { from, to, zone } = windowOf(options);
      const { expandEvents } = await formats();
      const all = expandEvents(await eventsOf([path], zone), from, to, zone).map(
        ({ uid, start, end, allDay, startDay, endDay, title, status }) => ({
          uid,
          start: allDay ? startDay : isoInZone(start, zone),
          end: allDay ? endDay : isoInZone(end, zone),
          allDay,
          title,
          status,
        }),
      );
      print(
        options.json,
        all,
        all.map((one) => `${one.start} – ${one.end}  ${one.title}`),
      );
    });

  program
    .command('free')
    .argument('<files...>', 'iCalendar files')
    .description('free gaps in working hours')
    .requiredOption('--from <time>')
    .requiredOption('--to <time>')
    .option('--hours <hours>', 'working hours, for example 09:00-12:00,13:00-17:30', '09:00-17:30')
    .option('--days <days>', 'weekdays, 1 is Monday', '1-5')
    .option('--minutes <minutes>', 'least length', '30')
    .option('--zone <zone>', 'IANA zone')
    .action(async (paths: string[], options: Window & { hours: string; days: string; minutes: string }) => {
      const { from, to, zone } = windowOf(options);
      const least = minutesOption('minutes', options.minutes);
      const hours = weekOf(options.hours, options.days);
      const { expandEvents } = await formats();
      const busy = expandEvents(await eventsOf(paths, zone), from, to, zone).filter((one) => one.busy);
      const gaps = freeGaps(workingTime(from, to, hours, zone), union(busy), least).map(({ start, end }) => ({
        start: isoInZone(start, zone),
        end: isoInZone(end, zone),
      }));
      print(
        options.json,
        gaps,
        gaps.map((gap) => `${gap.start} – ${gap.end}`),
      );
    });
}

function weekOf(hours: string, days: string): WorkingHours {
  try {
    const spans = hours.split(',').map(readHours);
    return Object.fromEntries(readWeekdays(days).map((day) => [day, spans]));
  } catch (problem) {
    throw problem instanceof HoursError ? new WrongUse(problem.message) : problem;
  }
}
