import type { DecideInput, ImportReport, IncomingLine, IncomingPage } from '@corvun/contract';
import { DESTINATION_NAMES } from '@corvun/core';
import type { Command } from 'commander';
import { openAsBlob } from 'node:fs';
import { stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { Client, type ServerOptions } from './client';
import { EXPORT_MANIFEST, importFolder } from './data-commands';
import { Refused, WrongUse, minutesOption, print } from './usage';

type Line = Pick<IncomingLine, 'id' | 'source' | 'kind' | 'sender' | 'subject' | 'received' | 'suggestion'>;

type Flags = ServerOptions & Record<string, string | boolean | string[] | undefined>;

const PAGE = 200;

/** The commands that speak to a running server. */
export function serverCommands(program: Command): void {
  const command = (name: string, description: string) =>
    program
      .command(name)
      .description(description)
      .option('--server <url>', 'where the server is')
      .option('--token <token>', 'token to use');

  command('capture', 'turn a typed line into an incoming, a task or an event')
    .argument('<text...>')
    .action(async (words: string[], options: ServerOptions) => {
      const { kind, id, title, sentence } = await new Client(options).request('POST /captures', {}, { text: words.join(' ') });
      print(options.json, { kind, id, title }, [sentence]);
    });

  command('token', 'make a token for a program or a calendar; it is shown once')
    .argument('<name>', 'what it is for')
    .option('--read', 'it may only read')
    .action(async (name: string, options: ServerOptions & { read?: boolean }) => {
      const made = await new Client(options).request('POST /tokens', {}, { name, may: options.read ? 'read' : 'write' });
      const { token, may } = made;
      print(options.json, { token, name: made.name, may }, [token]);
    });

  command('inbox', 'what waits')
    .option('--limit <n>', 'how many', '50')
    .option('--source <source>', 'only from there')
    .action(async (options: ServerOptions & { limit: string; source?: string }) => {
      const result = await inbox(new Client(options), Number(options.limit), options.source);
      print(options.json, result, [
        `${result.total} to decide`,
        ...result.items.map(
          (one) => `${one.id}  ${one.received.slice(0, 16)}  ${one.sender.name || one.sender.address}: ${one.subject}`,
        ),
      ]);
    });

  command('show', 'one incoming, whole')
    .argument('<id>')
    .action(async (id: string, options: ServerOptions) => {
      const one = await new Client(options).request('GET /incoming/:id', { id });
      const { attachmentList, ...rest } = one;
      print(options.json, { ...rest, attachments: attachmentList }, [
        `${one.sender.name} <${one.sender.address}>, ${one.received}`,
        one.subject,
        '',
        one.text,
        ...one.made.map((thing) => `→ ${thing.kind}: ${thing.title}`),
      ]);
    });

  command('decide', 'decide what an incoming becomes')
    .argument('<id>')
    .requiredOption('--to <destination>', DESTINATION_NAMES.join(', '))
    .option('--title <title>')
    .option('--list <list>')
    .option('--day <day>')
    .option('--week <week>')
    .option('--start <time>')
    .option('--minutes <minutes>')
    .option('--deadline <deadline>')
    .option('--fixed', 'the deadline will not move')
    .option('--tag <tag...>')
    .option('--priority <priority>')
    .option('--with <who>')
    .option('--look-again <day>')
    .option('--reply <answer>', 'yes, maybe or no')
    .option('--notes <text>')
    .option('--step <title...>', 'a step of the task; can be said several times')
    .option('--repeat <rule>', 'an RRULE without its prefix')
    .option('--note <title>', 'reference: the note it is written into')
    .action(async (id: string, options: Flags) => {
      if (!(DESTINATION_NAMES as readonly string[]).includes(String(options['to'])))
        throw new WrongUse(`--to is one of ${DESTINATION_NAMES.join(', ')}.`);
      const answer = await new Client(options).request('POST /decisions', {}, decisionOf(id, options));
      print(options.json, { decision: answer.decision, made: answer.made.map((thing) => ({ kind: thing.kind, id: thing.id })) }, [
        answer.sentence,
      ]);
    });

  for (const turn of ['undo', 'redo'] as const) {
    command(turn, turn === 'undo' ? 'take the last thing back' : 'do it again').action(async (options: ServerOptions) => {
      const { decision, sentence } = await new Client(options).request(`POST /decisions/${turn}`, {});
      print(options.json, { decision, undone: true }, [`${turn === 'undo' ? 'Taken back' : 'Done again'}: ${sentence}`]);
    });
  }

  command('agenda', 'what stands on the coming days')
    .argument('[day]', 'YYYY-MM-DD, today when left out')
    .option('--days <n>', 'how many days', '1')
    .action(async (day: string | undefined, options: ServerOptions & { days: string }) => {
      const { entries } = await new Client(options).request('GET /agenda', {
        days: options.days,
        ...(day ? { from: day } : {}),
      });
      const said = entries.map(({ kind, id, title, start, end, allDay, calendar, status, showAs }) => ({
        kind,
        id,
        title,
        start,
        end,
        allDay,
        calendar,
        status,
        showAs,
      }));
      print(
        options.json,
        { entries: said },
        said.map((one) => `${one.start?.slice(0, 16).replace('T', ' ') ?? ''}  ${one.kind}: ${one.title}`),
      );
    });

  command('import', 'bring files in (eml, mbox, ics, vcf, csv, md), or an exported folder into an empty account')
    .argument('<files...>')
    .action(async (paths: string[], options: ServerOptions) => {
      const client = new Client(options);
      const total: ImportReport = { taken: 0, updated: 0, known: 0, refused: [] };
      const [only = ''] = paths;
      if (paths.length === 1 && (await isExport(only))) {
        const { sentence, rows } = await importFolder(client, only);
        return print(options.json, { ...total, taken: rows ?? 0 }, [sentence]);
      }
      for (const [at, path] of paths.entries()) {
        process.stderr.write(`${at + 1} of ${paths.length}: ${path}\n`);
        const form = new FormData();
        const blob = await openFile(path);
        if (!blob) {
          total.refused.push({ file: path, at: '', reason: 'There is no such file.' });
          continue;
        }
        form.append('files', blob, basename(path));
        const report = await client.request('POST /import', {}, form);
        total.taken += report.taken;
        total.updated += report.updated;
        total.known += report.known;
        total.refused.push(...report.refused);
      }
      print(options.json, total, [
        `${total.taken} taken, ${total.updated} updated, ${total.known} known already, ${total.refused.length} refused`,
        ...total.refused.map((one) => `  ${one.file} ${one.at}: ${one.reason}`),
      ]);
      if (total.refused.length && total.taken + total.updated + total.known === 0)
        throw new Refused('Nothing could be taken in.');
    });
}

const isExport = (path: string): Promise<boolean> =>
  stat(join(path, EXPORT_MANIFEST)).then(
    () => true,
    () => false,
  );

/** The file as it is sent, streamed from the disk; null when there is none. */
async function openFile(path: string): Promise<Blob | null> {
  const found = await stat(path).catch(() => null);
  if (!found?.isFile()) return null;
  // A file-backed blob of no bytes cannot be read.
  return found.size ? openAsBlob(path) : new Blob([]);
}

async function inbox(client: Client, limit: number, source?: string): Promise<{ total: number; items: Line[] }> {
  if (!Number.isInteger(limit) || limit < 1) throw new WrongUse('--limit is a whole number from 1 on.');
  const items: Line[] = [];
  let cursor: string | null = '';
  let total = 0;
  while (cursor !== null && items.length < limit) {
    const page: IncomingPage = await client.request('GET /incoming', {
      limit: String(Math.min(PAGE, limit - items.length)),
      ...(source ? { source } : {}),
      ...(cursor ? { cursor } : {}),
    });
    total = page.total;
    items.push(
      ...page.items.map(({ id, source: from, kind, sender, subject, received, suggestion }) => ({
        id,
        source: from,
        kind,
        sender,
        subject,
        received,
        suggestion,
      })),
    );
    cursor = page.next;
  }
  return { total, items };
}

/** What the options say; whether the destination takes it, the server says. */
function decisionOf(id: string, options: Flags): DecideInput {
  const fields: Record<string, unknown> = { incoming: [id] };
  for (const name of [
    'to',
    'title',
    'list',
    'day',
    'week',
    'start',
    'deadline',
    'priority',
    'with',
    'lookAgain',
    'reply',
    'notes',
    'repeat',
    'note',
  ]) {
    if (options[name] !== undefined) fields[name] = options[name];
  }
  if (options['minutes'] !== undefined) fields['minutes'] = minutesOption('minutes', String(options['minutes']));
  if (options['fixed']) fields['fixed'] = true;
  if (options['tag'] !== undefined) fields['tags'] = options['tag'];
  if (options['step'] !== undefined) fields['steps'] = options['step'];
  return fields as unknown as DecideInput;
}
