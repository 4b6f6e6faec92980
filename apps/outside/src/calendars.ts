import express, { Router } from 'express';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { iso, workday } from './clock';
import { button, escape, layout } from './layout';
import { Store } from './store';

interface Entry {
  uid: string;
  title: string;
  day: string;
  start: string;
  end: string;
  place: string;
  rrule: string;
  sequence: number;
}

interface Feeds {
  feeds: Record<string, { name: string; entries: Entry[] }>;
  mood: 'well' | 'html' | 'loop' | 'endless' | 'silent';
}

function seed(): Feeds {
  const entry = (uid: string, title: string, day: string, start: string, end: string, place: string, rrule = ''): Entry => ({
    uid,
    title,
    day,
    start,
    end,
    place,
    rrule,
    sequence: 0,
  });
  return {
    feeds: {
      'choir-board': {
        name: 'Choir board',
        entries: [
          entry('choir-1', 'Rehearsal, new pieces', workday(6), '19:30', '21:30', 'Church', 'FREQ=WEEKLY;COUNT=4'),
          entry('choir-2', 'Board: autumn concert', workday(8), '18:00', '19:00', 'Old school'),
        ],
      },
      'county-hearings': {
        name: 'County hearings',
        entries: [
          entry('hearing-1', 'Hearing: summer water level', workday(10), '17:00', '18:30', 'County hall, room 12'),
          entry('hearing-2', 'Hearing: ditch at Lower Fen', workday(3), '14:30', '15:30', 'County hall, room 4'),
          entry('hearing-3', 'Hearing: dogs in the reserve', workday(7), '16:00', '17:00', 'County hall, room 2'),
        ],
      },
    },
    mood: 'well',
  };
}

const ZONE = [
  'BEGIN:VTIMEZONE',
  'TZID:County time',
  'BEGIN:STANDARD',
  'DTSTART:19701025T030000',
  'RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU',
  'TZOFFSETFROM:+0200',
  'TZOFFSETTO:+0100',
  'END:STANDARD',
  'BEGIN:DAYLIGHT',
  'DTSTART:19700329T020000',
  'RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
  'END:DAYLIGHT',
  'END:VTIMEZONE',
];

function text(name: string, entries: Entry[], address: string): string {
  const stamp = (day: string, time: string) => `${day.replaceAll('-', '')}T${time.replace(':', '')}00`;
  const events = entries.flatMap((one) => [
    'BEGIN:VEVENT',
    `UID:${one.uid}@outside.example`,
    `SEQUENCE:${one.sequence}`,
    'DTSTAMP:20260801T080000Z',
    `DTSTART;TZID=County time:${stamp(one.day, one.start)}`,
    `DTEND;TZID=County time:${stamp(one.day, one.end)}`,
    ...(one.rrule ? [`RRULE:${one.rrule}`] : []),
    `SUMMARY:${one.title.replace(/([,;\\])/g, '\\$1')}`,
    `LOCATION:${one.place.replace(/([,;\\])/g, '\\$1')}`,
    `URL:${address}/calendars#${one.uid}`,
    'END:VEVENT',
  ]);
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Outside//Calendars//EN',
    `NAME:${name}`,
    ...ZONE,
    ...events,
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}

/** Two calendar feeds with ETag, and a page on which their events are added, moved and taken away. */
export function calendars(folder: string, address: string): Router {
  const store = new Store<Feeds>(join(folder, 'calendars.json'), seed);
  const { state } = store;
  const router = Router();
  let asked = 0;
  /** The demo's own choir events, handed over by the server that made the demo. */
  const adopt = () => {
    const path = join(folder, 'choir-of-the-demo.json');
    const choir = state.feeds['choir-board'];
    if (!choir || !existsSync(path)) return;
    choir.entries = JSON.parse(readFileSync(path, 'utf8')) as Entry[];
    store.save();
    rmSync(path);
  };
  router.use((_request, _response, next) => {
    adopt();
    next();
  });
  router.get('/:name.ics', (request, response) => {
    asked += 1;
    const feed = state.feeds[request.params.name];
    if (!feed) return void response.status(404).send('no such calendar');
    if (state.mood === 'silent') return;
    if (state.mood === 'html') return void response.type('html').send('<html><body>Please sign in.</body></html>');
    if (state.mood === 'loop') return void response.redirect(302, `/calendars/${request.params.name}.ics?again=${asked}`);
    response.type('text/calendar');
    if (state.mood === 'endless') {
      response.write('BEGIN:VCALENDAR\r\n');
      const more = setInterval(() => response.write(`BEGIN:VEVENT\r\nDESCRIPTION:${'x'.repeat(500_000)}\r\nEND:VEVENT\r\n`), 2);
      request.on('close', () => clearInterval(more));
      return;
    }
    const body = text(feed.name, feed.entries, address);
    const etag = `"${createHash('sha256').update(body).digest('hex').slice(0, 16)}"`;
    response.set('ETag', etag);
    if (request.headers['if-none-match'] === etag) return void response.status(304).end();
    response.send(body);
  });
  router.get('/state.json', (_request, response) => void response.json({ ...state, asked }));
  router.get('/', (_request, response) => void response.type('html').send(page(state)));
  router.use(express.urlencoded({ extended: false }));
  router.post('/mood', (request, response) => {
    state.mood = (request.body as { mood: Feeds['mood'] }).mood;
    store.save();
    response.redirect(303, '/calendars');
  });
  router.post('/:name', (request, response) => {
    const feed = state.feeds[request.params.name];
    if (!feed) return void response.status(404).send('no such calendar');
    const { uid, title = '', day = '', start = '', end = '', remove } = request.body as Record<string, string | undefined>;
    const known = feed.entries.find((one) => one.uid === uid);
    if (remove) feed.entries = feed.entries.filter((one) => one.uid !== uid);
    else if (known) Object.assign(known, { title, day, start, end, sequence: known.sequence + 1 });
    else feed.entries.push({ uid: `e-${iso().replace(/\D/g, '')}`, title, day, start, end, place: '', rrule: '', sequence: 0 });
    store.save();
    response.redirect(303, '/calendars');
  });
  return router;
}

function page(state: Feeds): string {
  const moods = (['well', 'html', 'loop', 'endless', 'silent'] as const).map((mood) =>
    button('/calendars/mood', mood === state.mood ? `[${mood}]` : mood, { mood }),
  );
  const fields = (one?: Entry) =>
    `<input name="title" aria-label="Title" required value="${escape(one?.title)}" size="30"> <input name="day" aria-label="Day" value="${escape(one?.day ?? workday(1))}" size="11"> <input name="start" aria-label="From" value="${escape(one?.start ?? '15:00')}" size="6"> <input name="end" aria-label="Until" value="${escape(one?.end ?? '16:00')}" size="6">`;
  const feeds = Object.entries(state.feeds).map(([id, feed]) => {
    const rows = feed.entries.map(
      (one) =>
        `<li id="${escape(one.uid)}"><form class="inline" method="post" action="/calendars/${id}"><input type="hidden" name="uid" value="${escape(one.uid)}">${fields(one)}<button>Save</button></form>${button(`/calendars/${id}`, 'Take away', { uid: one.uid, remove: '1' })}</li>`,
    );
    return `<h2>${escape(feed.name)}</h2><p class="soft"><a href="/calendars/${id}.ics">/calendars/${id}.ics</a></p><ul>${rows.join('')}<li><form method="post" action="/calendars/${id}">${fields()}<button>Add</button></form></li></ul>`;
  });
  return layout('Calendars', `<p>They behave: ${moods.join('')}</p>${feeds.join('')}`);
}
