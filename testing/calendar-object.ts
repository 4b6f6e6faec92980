/** An object of a calendar collection (RFC 4791, 4.1) as another program writes it. */
export const object = (...lines: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...lines, 'END:VCALENDAR', ''].join('\r\n');
export const vevent = (uid: string, ...lines: string[]): string =>
  object('BEGIN:VEVENT', `UID:${uid}`, 'DTSTAMP:20260801T000000Z', ...lines, 'END:VEVENT');
export const vtodo = (uid: string, ...lines: string[]): string =>
  object('BEGIN:VTODO', `UID:${uid}`, 'DTSTAMP:20260801T000000Z', ...lines, 'END:VTODO');
