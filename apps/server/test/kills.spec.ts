import { verify } from '@corvun/keeping';
import Libsql from 'libsql';
import { join } from 'node:path';
import { ServerProcess, Caller, clear, multipart, sendMail, tempFolder } from './harness';

/** How often the server is killed; `npm run torture` sets 200. */
const KILLS = Number(process.env['CORVUN_KILLS'] || 4);
const WRITERS = 4;

interface Acknowledged {
  lines: string[];
  mails: string[];
  titles: Map<string, string>;
}

const data = tempFolder();
afterAll(() => clear(data));

/** Writes in every way at once until the server is gone; only what was answered counts. */
async function writeUntilGone(server: ServerProcess, caller: Caller, round: number, kept: Acknowledged): Promise<void> {
  let gone = false;
  void server.ended.then(() => (gone = true));
  const writer = async (number: number) => {
    for (let at = 0; !gone; at += 1) {
      const name = `${round}-${number}-${at}`;
      try {
        const line = await caller.post<{ id: string }>('/captures', { text: `Count ${name} tomorrow` });
        if (line.status !== 201) continue;
        kept.lines.push(`Count ${name}`);
        const changed = await caller.patch(`/tasks/${line.body.id}`, { notes: `Changed ${name}` });
        if (changed.status === 200) kept.titles.set(line.body.id, `Changed ${name}`);
        if (number === 0) {
          const answer = await sendMail(server.smtpPort, { to: 'maren@alderfen.example', subject: `Mail ${name}`, text: 'x' });
          if (answer.startsWith('250')) kept.mails.push(`Mail ${name}`);
        }
        if (number === 1) {
          const eml = `From: t@x.example\r\nSubject: File ${name}\r\nMessage-ID: <${name}@x.example>\r\n\r\nx`;
          const taken = await caller.post<{ taken: number }>('/import', multipart('a.eml', eml));
          if (taken.status === 200 && taken.body.taken === 1) kept.mails.push(`File ${name}`);
        }
      } catch {
        // It died in the middle: nothing was answered.
      }
    }
  };
  await Promise.all(Array.from({ length: WRITERS }, (_, number) => writer(number)));
}

it(
  `killed ${KILLS} times while it is written to in every way, nothing that was acknowledged is lost, and all is whole`,
  async () => {
    const kept: Acknowledged = { lines: [], mails: [], titles: new Map() };
    const caller: { signed: Record<string, string> } = { signed: {} };
    for (let round = 0; round < KILLS; round += 1) {
      const server = await ServerProcess.start(data);
      const maren = new Caller(server.url, caller.signed);
      if (round === 0) {
        await maren.post('/account', { name: 'Maren Holt', email: 'maren@alderfen.example', password: 'reed-bed-and-bittern' });
        caller.signed = maren.signedHeaders();
      }
      const writing = writeUntilGone(server, maren, round, kept);
      const enough = kept.lines.length + 6;
      // A moment that differs from round to round, after some writes were acknowledged.
      while (kept.lines.length < enough) await new Promise((resolve) => setTimeout(resolve, 1 + ((round * 7919) % 23)));
      await server.kill('SIGKILL');
      await writing;
    }
    const last = await ServerProcess.start(data);
    expect(await last.listens()).toBe(true);
    await last.kill('SIGTERM');
    const database = new Libsql(join(data, 'corvun.sqlite'));
    const column = <T>(sql: string) => new Set((database.prepare(sql).all() as { value: T }[]).map((row) => row.value));
    const titles = column<string>('SELECT title AS value FROM task');
    const subjects = column<string>('SELECT subject AS value FROM incoming');
    const notes = column<string>('SELECT notes AS value FROM task');
    database.close();
    expect(kept.lines.filter((one) => !titles.has(one))).toEqual([]);
    expect(kept.mails.filter((one) => !subjects.has(one))).toEqual([]);
    expect([...kept.titles.values()].filter((one) => !notes.has(one))).toEqual([]);
    expect(await verify(data)).toMatchObject({ ok: true });
    if (KILLS > 10)
      process.stderr.write(
        `${KILLS} kills, ${kept.lines.length + kept.mails.length + kept.titles.size} acknowledged writes, none lost\n`,
      );
  },
  KILLS * 15_000 + 30_000,
);
