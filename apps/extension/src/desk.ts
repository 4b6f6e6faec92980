import type { CaptureInput } from '@corvun/contract';
import type { KnownQuiet, Let } from './quiet';
import { Away, DEFAULT_SERVER, Refused, ask, fetchToday, type Link, type Today } from './link';

/** Something that is to be sent; kept until the server has it. */
export type Kept =
  { id: string; what: 'capture'; input: CaptureInput } | { id: string; what: 'finish'; taskId: string; title: string };

/** What became of one that was sent. */
export interface Sent {
  sentence: string;
  waits: boolean;
}

interface Store {
  link: Link;
  today: Today | null;
  kept: Kept[];
  /** Why something kept was given back by the server; it stays until the user takes it away. */
  problem: string;
  /** What the server said of quiet time. */
  quiet: KnownQuiet | null;
  /** Looks at sites that are held back. */
  lets: Let[];
}

const EMPTY: Store = {
  ...{ link: { server: DEFAULT_SERVER, token: '' }, today: null, kept: [], problem: '' },
  ...{ quiet: null, lets: [] },
};

/** Reads what is kept in this browser. */
export const read = async (): Promise<Store> => ({ ...EMPTY, ...(await chrome.storage.local.get(EMPTY as object)) });
export const write = (patch: Partial<Store>): Promise<void> => chrome.storage.local.set(patch);

/** The window, its page and the background are separate programs: only one of them may send at a time. */
const alone = <T>(work: () => Promise<T>): Promise<T> => navigator.locks.request('corvun-desk', work);

/** Keeps something first and sends it then: what was once kept is not lost with the window. */
export async function keep(one: Kept): Promise<Sent> {
  const sentences = await alone(async () => {
    await write({ kept: [...(await read()).kept, one] });
    return sendAll();
  });
  const sentence = sentences.get(one.id);
  if (sentence !== undefined) return { sentence, waits: false };
  const { problem } = await read();
  return { sentence: problem || 'The server does not answer. It is kept here and sent later.', waits: true };
}

/** Sends what is kept, oldest first; stops where the server is away. @returns what the server said, by id */
export const sendKept = (): Promise<Map<string, string>> => alone(sendAll);

async function sendAll(): Promise<Map<string, string>> {
  const said = new Map<string, string>();
  let problem = '';
  for (const one of (await read()).kept) {
    try {
      said.set(one.id, await send((await read()).link, one));
    } catch (failed) {
      if (failed instanceof Away) break;
      if (!(failed instanceof Refused)) throw failed;
      problem = failed.message;
      // A token can be mended; a line that the server cannot take stays for the user to see.
      if (failed.status === 401) break;
      continue;
    }
    const { kept } = await read();
    await write({ kept: kept.filter((other) => other.id !== one.id) });
  }
  await write({ problem });
  return said;
}

async function send(link: Link, one: Kept): Promise<string> {
  if (one.what === 'finish') {
    const { sentence } = await ask(link, 'PATCH /tasks/:id', { id: one.taskId }, { status: 'COMPLETED' }).catch(
      (problem: unknown) => {
        // Taken away meanwhile: nothing is left to tick off.
        if (problem instanceof Refused && problem.status === 404) return { sentence: 'It is no longer there.' };
        throw problem;
      },
    );
    return sentence;
  }
  try {
    return (await ask(link, 'POST /captures', {}, { ...one.input, key: one.id })).sentence;
  } catch (problem) {
    if (problem instanceof Refused && problem.code === 'taken-before') return 'It is there.';
    throw problem;
  }
}

/** Takes one that cannot be sent away. */
export const forget = (id: string): Promise<void> =>
  alone(async () => write({ kept: (await read()).kept.filter((one) => one.id !== id), problem: '' }));

/** Fetches what the small window shows; what was fetched before stays while the server is away. */
export async function refresh(): Promise<{ today: Today | null; away: boolean; problem: string }> {
  const { link, today } = await read();
  if (!link.token) return { today, away: false, problem: '' };
  try {
    const fresh = await fetchToday(link);
    await write({ today: fresh });
    return { today: fresh, away: false, problem: '' };
  } catch (failed) {
    if (failed instanceof Refused) return { today, away: false, problem: failed.message };
    return { today, away: true, problem: '' };
  }
}
