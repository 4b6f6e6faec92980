import express, { Router, type Request, type Response } from 'express';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { accountPage } from './account-page';
import type { Account, Kept, Mood } from './account-state';
import { colleague, freeBusy, OWNERS, ownerOf, seedColleague } from './account-colleague';
import { workday } from './clock';
import { escape } from './layout';
import { Store } from './store';

const ROOT = '/account';
const HOME = `${ROOT}/maren/`;
/** User name and password, as `places.json` gives them. */
export const LOGIN = { account: 'maren', secret: 'fen-water' };

function seed(): Account {
  const state: Account = {
    collections: {
      fen: { name: 'Fen', component: 'VEVENT', objects: {}, gone: {} },
      stores: { name: 'Stores', component: 'VTODO', objects: {}, gone: {} },
      jonas: colleague(),
    },
    changes: 0,
    mood: 'well',
  };
  const due = workday(4).replaceAll('-', '');
  for (const [name, text] of seedColleague()) keep(state, 'jonas', name, text);
  keep(state, 'stores', 'screws.ics', todo('stores-1', 'Deck screws, stainless, 4 boxes', `DUE;VALUE=DATE:${due}`));
  keep(state, 'stores', 'coffee.ics', todo('stores-2', 'Coffee for the hut'));
  keep(state, 'stores', 'hose.ics', todo('stores-3', 'Hose for pump 2', 'PRIORITY:1'));
  keep(state, 'stores', 'clamps.ics', todo('stores-4', 'Two clamps for it', 'RELATED-TO:stores-3'));
  return state;
}

const todo = (uid: string, title: string, ...more: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Outside//Account//EN', 'BEGIN:VTODO', `UID:${uid}`, 'DTSTAMP:20260801T080000Z']
    .concat([`SUMMARY:${title.replace(/([,;\\])/g, '\\$1')}`, ...more, 'END:VTODO', 'END:VCALENDAR', ''])
    .join('\r\n');

/** A calendar account (CalDAV): as much of RFC 4791 and RFC 6578 as a client needs, and a page to act on. */
export function account(folder: string): { router: Router; wellKnown: (request: Request, response: Response) => void } {
  const store = new Store<Account>(join(folder, 'account.json'), seed);
  const { state } = store;
  let asked = 0;
  /** The demo's own calendar, handed over by the server that made the demo. */
  const adopt = () => {
    const path = join(folder, 'account-of-the-demo.json');
    if (!existsSync(path)) return;
    for (const [id, objects] of Object.entries(JSON.parse(readFileSync(path, 'utf8')) as Record<string, Record<string, string>>))
      for (const [name, text] of Object.entries(objects)) keep(state, id, name, text);
    store.save();
    rmSync(path);
  };
  const router = Router();
  router.use((_request, _response, next) => {
    adopt();
    next();
  });
  router.get('/state.json', (_request, response) => void response.json({ ...state, asked }));
  router.get('/', (_request, response) => void response.type('html').send(accountPage(state)));
  router.post('/act', express.urlencoded({ extended: false, limit: '30mb' }), (request, response) => {
    act(state, request.body as Record<string, string>);
    store.save();
    response.redirect(303, ROOT);
  });
  router.use(express.text({ type: () => true, limit: '30mb' }), (request, response) => {
    asked += 1;
    if (request.headers.authorization !== `Basic ${Buffer.from(`${LOGIN.account}:${LOGIN.secret}`).toString('base64')}`)
      return void response.status(401).set('WWW-Authenticate', 'Basic realm="calendars"').end();
    if (state.mood === 'silent') return;
    if (state.mood === 'html') return void response.type('html').send('<html><body>Please sign in.</body></html>');
    const body = typeof request.body === 'string' ? request.body : '';
    const path = decodeURIComponent(request.originalUrl.split('?')[0] ?? '');
    const [, id = '', name = ''] = /^\/account\/maren\/(?:([\w-]+)\/)?([^/]*)$/.exec(path) ?? [];
    const { of, untold } = state.collections[id] ?? {};
    if (of && !untold && request.method === 'REPORT' && body.includes('free-busy-query'))
      return void response.type('text/calendar').send(freeBusy(Object.values(state.collections[id]?.objects ?? {}), body));
    // Of somebody else's calendar nothing more is told.
    if (of && request.method !== 'PROPFIND') return void response.status(403).end();
    if (request.method === 'PROPFIND' || request.method === 'REPORT') {
      const xml =
        request.method === 'PROPFIND' ? found(state, path, id, request.headers['depth'] !== '0') : reported(state, id, body);
      if (xml === null) return void response.status(404).end();
      if (xml === 'invalid')
        return void response.status(403).type('xml').send('<d:error xmlns:d="DAV:"><d:valid-sync-token/></d:error>');
      const whole = `<?xml version="1.0"?><d:multistatus xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav" xmlns:cs="http://calendarserver.org/ns/">${xml}</d:multistatus>`;
      response.status(207).type('application/xml; charset=utf-8');
      return void response.send(state.mood === 'half' ? whole.slice(0, whole.length / 2) : whole);
    }
    const collection = state.collections[id];
    if (!collection || !name) return void response.status(404).end();
    const present = collection.objects[name];
    if (request.method === 'GET')
      return void (present
        ? response.set('ETag', present.etag).type('text/calendar').send(present.text)
        : response.status(404).end());
    if (request.method !== 'PUT' && request.method !== 'DELETE') return void response.status(405).end();
    const { 'if-match': match, 'if-none-match': none } = request.headers;
    if ((match && match !== present?.etag) || (none === '*' && present)) return void response.status(412).end();
    if (request.method === 'DELETE' && !present) return void response.status(404).end();
    if (request.method === 'PUT' && state.mood === 'full') return void response.status(507).end();
    if (request.method === 'PUT') response.set('ETag', keep(state, id, name, body).etag);
    else drop(state, id, name);
    store.save();
    // It has done what was asked, and nobody hears of it.
    if (state.mood === 'deaf') return void request.socket.destroy();
    response.status(present ? 204 : 201).end();
  });
  return { router, wellKnown: (_request, response) => response.redirect(301, `${ROOT}/dav/`) };
}

function keep(state: Account, id: string, name: string, text: string): Kept {
  const kept = { text, etag: `"${createHash('sha256').update(text).digest('hex').slice(0, 16)}"`, at: (state.changes += 1) };
  const collection = state.collections[id];
  if (collection) {
    collection.objects[name] = kept;
    delete collection.gone[name];
  }
  return kept;
}

function drop(state: Account, id: string, name: string): void {
  const collection = state.collections[id];
  if (!collection?.objects[name]) return;
  delete collection.objects[name];
  collection.gone[name] = state.changes += 1;
}

/** What somebody does with another program. */
function act(state: Account, { what = '', collection: id = '', name = '', text = '', mood = '' }: Record<string, string>): void {
  const known = state.collections[id]?.objects[name];
  if (what === 'mood') state.mood = mood as Mood;
  else if (what === 'put') keep(state, id, name, text);
  else if (what === 'drop') drop(state, id, name);
  else if (what === 'title' && known)
    keep(state, id, name, known.text.replace(/^SUMMARY:.*$/m, `SUMMARY:${text.replace(/([,;\\])/g, '\\$1')}`));
  else if (what === 'close') delete state.collections[id];
  else if (what === 'untell' && state.collections[id]) state.collections[id].untold = true;
}

const token = (state: Account) => `https://outside.example/at/${state.changes}`;
const response = (href: string, props: string) =>
  `<d:response><d:href>${escape(href)}</d:href><d:propstat><d:prop>${props}</d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>`;
const missing = (href: string) =>
  `<d:response><d:href>${escape(href)}</d:href><d:status>HTTP/1.1 404 Not Found</d:status></d:response>`;
const listed = (id: string, name: string, { etag, text }: Kept, data = false) =>
  response(
    `${HOME}${id}/${encodeURIComponent(name)}`,
    `<d:getetag>${escape(etag)}</d:getetag><d:getcontentlength>${Buffer.byteLength(text)}</d:getcontentlength>${data ? `<c:calendar-data>${escape(text)}</c:calendar-data>` : ''}`,
  );

/** What a PROPFIND is told; null where there is nothing. */
function found(state: Account, path: string, id: string, below: boolean): string | null {
  const principal = `<d:current-user-principal><d:href>${ROOT}/dav/</d:href></d:current-user-principal><c:calendar-home-set><d:href>${HOME}</d:href></c:calendar-home-set>`;
  const one = (key: string) => {
    const { name, component, of = '' } = state.collections[key] ?? { name: '', component: '' };
    return response(
      `${HOME}${key}/`,
      `<d:displayname>${escape(name)}</d:displayname><d:resourcetype><d:collection/><c:calendar/></d:resourcetype><c:supported-calendar-component-set><c:comp name="${component}"/></c:supported-calendar-component-set><cs:getctag>${state.changes}</cs:getctag><d:sync-token>${token(state)}</d:sync-token><d:current-user-principal><d:href>${ROOT}/dav/</d:href></d:current-user-principal>${ownerOf(of)}`,
    );
  };
  if (id) return state.collections[id] ? one(id) : null;
  if (path.startsWith(OWNERS))
    return response(
      path,
      `<c:calendar-user-address-set><d:href>mailto:${escape(path.slice(OWNERS.length))}</d:href></c:calendar-user-address-set>`,
    );
  if (path.startsWith(`${ROOT}/dav`) || path === `${ROOT}/`) return response(path, principal);
  if (path !== HOME) return null;
  return (
    response(HOME, `<d:resourcetype><d:collection/></d:resourcetype>${principal}`) +
    (below ? Object.keys(state.collections).map(one).join('') : '')
  );
}

/** What a REPORT is told. Times are not looked at: what is asked for by time is given whole. */
function reported(state: Account, id: string, body: string): string | null {
  const collection = state.collections[id];
  if (!collection) return null;
  const all = Object.entries(collection.objects);
  if (body.includes('sync-collection')) {
    const said = /sync-token>([^<]*)</.exec(body)?.[1] ?? '';
    const at = said ? Number(/\/at\/(\d+)$/.exec(said)?.[1] ?? NaN) : 0;
    if (!(at <= state.changes)) return 'invalid';
    const changed = all.filter(([, kept]) => kept.at > at).map(([name, kept]) => listed(id, name, kept));
    const gone = Object.entries(collection.gone).filter(([, when]) => when > at && at > 0);
    return `${changed.join('')}${gone.map(([name]) => missing(`${HOME}${id}/${encodeURIComponent(name)}`)).join('')}<d:sync-token>${token(state)}</d:sync-token>`;
  }
  if (body.includes('multiget'))
    return [...body.matchAll(/href>([^<]+)</g)]
      .map(([, href = '']) => {
        const name = decodeURIComponent(href.split('/').at(-1) ?? '');
        const kept = collection.objects[name];
        return kept ? listed(id, name, kept, true) : missing(href);
      })
      .join('');
  return all.map(([name, kept]) => listed(id, name, kept)).join('');
}
