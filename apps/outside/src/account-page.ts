import { MOODS, type Account } from './account-state';
import { workday } from './clock';
import { button, escape, layout } from './layout';

const line = (text: string, name: string): string =>
  new RegExp(`^${name}(?:;[^:\r\n]*)?:(.*)$`, 'm')
    .exec(text.replace(/\r?\n[ \t]/g, ''))?.[1]
    ?.replace(/\\([,;\\])/g, '$1')
    .trim() ?? '';

/** What the account holds, and what its owner can do with another program. */
export function accountPage(state: Account): string {
  const moods = MOODS.map((mood) => button('/account/act', mood === state.mood ? `[${mood}]` : mood, { what: 'mood', mood }));
  const parts = Object.entries(state.collections).map(([collection, { name: title, component, objects }]) => {
    const rows = Object.entries(objects).map(([name, { text }]) => {
      const said = line(text.slice(text.indexOf(`BEGIN:${component}`)), 'SUMMARY');
      const at = line(text.slice(text.indexOf(`BEGIN:${component}`)), component === 'VEVENT' ? 'DTSTART' : 'STATUS');
      return `<li><form class="inline" method="post" action="/account/act"><input type="hidden" name="what" value="title"><input type="hidden" name="collection" value="${escape(collection)}"><input type="hidden" name="name" value="${escape(name)}"><input name="text" aria-label="Title" value="${escape(said)}" size="40"> <span class="soft">${escape(at)}</span> <button>Save</button></form>${button('/account/act', 'Take away', { what: 'drop', collection, name })}</li>`;
    });
    return `<h2>${escape(title)}</h2><ul>${rows.join('')}</ul>${adding(collection, component)}`;
  });
  return layout('Calendar account', `<p>It behaves: ${moods.join('')}</p>${parts.join('')}`);
}

function adding(collection: string, component: 'VEVENT' | 'VTODO'): string {
  const day = workday(1).replaceAll('-', '');
  const uid = `outside-${Math.floor(Math.random() * 1e9)}`;
  const time =
    component === 'VEVENT'
      ? `DTSTART;TZID=Europe/Vienna:${day}T150000\r\nDTEND;TZID=Europe/Vienna:${day}T160000`
      : `DUE;VALUE=DATE:${day}`;
  const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Outside//Account//EN\r\nBEGIN:${component}\r\nUID:${uid}\r\nDTSTAMP:20260801T080000Z\r\nSUMMARY:New\r\n${time}\r\nEND:${component}\r\nEND:VCALENDAR\r\n`;
  return `<details><summary>Add</summary><form method="post" action="/account/act"><input type="hidden" name="what" value="put"><input type="hidden" name="collection" value="${escape(collection)}"><input type="hidden" name="name" value="${uid}.ics"><label>iCalendar<textarea name="text">${escape(text)}</textarea></label><button>Add</button></form></details>`;
}
