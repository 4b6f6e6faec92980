import type { AgendaEntry, CalendarInfo } from '@corvun/contract';
import type { Caller, Running } from './harness';

const EMAIL = 'maren@alderfen.example';

/** Maren’s calendars as a program without a library of its own sees them: by requests made by hand. */
export const asProgram = (here: { server: Running; maren: Caller }) => ({
  /** Asks at `/dav/` with a fresh token. */
  program: async () => {
    const { token } = (await here.maren.post<{ token: string }>('/tokens', { name: 'Telephone', may: 'calendars' })).body;
    const basic = `Basic ${Buffer.from(`${EMAIL}:${token}`).toString('base64')}`;
    return (method: string, path: string, body = '', headers: Record<string, string> = {}) =>
      fetch(`${here.server.url}${path}`, { method, headers: { Authorization: basic, ...headers }, ...(body ? { body } : {}) });
  },
  /** The path of a calendar of one's own, made with the first call. */
  home: async (name = 'Fen') => {
    const known = async () => (await here.maren.get<CalendarInfo[]>('/calendars')).body.find((one) => one.name === name);
    if (!(await known())) await here.maren.post('/calendars', { name });
    return `/dav/home/cal-${(await known())?.id ?? ''}/`;
  },
  /** What stands in the fortnight that the tests begin with. */
  agenda: async () => (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14')).body.entries,
});
