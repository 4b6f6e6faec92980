import {
  ProblemError,
  costOfPlan,
  isoInZone,
  planStretch,
  readDemands,
  readProblem,
  safeStarts,
  sayMend,
  sayMinutes,
  sayWhyNot,
  subtract,
} from '@corvun/core';
import type { Command } from 'commander';
import { readFile } from 'node:fs/promises';
import { Client, type ServerOptions } from './client';
import { Refused, WrongUse, print } from './usage';

interface Common {
  json?: boolean;
}

/** The commands that calculate with a planning problem from a file, and what a server says of days. */
export function planningCommands(program: Command): void {
  outlineCommand(program);
  program
    .command('safe-start')
    .argument('<file>', 'a planning problem, as JSON')
    .description('the last moment to begin each task with a deadline')
    .action(async (path: string, { json }: Common) => {
      const { zone, free, demands } = reading(path, readDemands, await problemIn(path));
      const found = safeStarts(subtract(free.working, free.busy), demands).map(({ id, lastSafeStart, lateMinutes }) => ({
        id,
        lastSafeStart: lastSafeStart === null ? null : isoInZone(lastSafeStart, zone),
        lateMinutes,
      }));
      print(
        json,
        found,
        found.map(({ id, lastSafeStart, lateMinutes }) =>
          lastSafeStart === null ? `${id}: ${sayMinutes(lateMinutes)} too late` : `${id}: begin by ${lastSafeStart}`,
        ),
      );
    });

  program
    .command('plan')
    .argument('[file]', 'a planning problem, as JSON')
    .description('a plan for a stretch of days, or what a server proposes for a week')
    .option('--week <week>', 'YYYY-Www: ask a server instead')
    .option('--again', 'with --week: what has its time may move')
    .option('--server <url>', 'where the server is')
    .option('--token <token>', 'token to use')
    .action(async (path: string | undefined, options: Week) => {
      const { json, week } = options;
      if (week !== undefined) return proposed(week, options);
      if (path === undefined) throw new WrongUse('Name a file with a planning problem, or a week with --week.');
      const input = reading(path, readProblem, await problemIn(path));
      const { zone } = input;
      const plan = planStretch(input);
      const saying = { nameOf: (id: string) => id, zone, now: input.from };
      const blocks = plan.blocks.map(({ task, start, end }) => ({
        task,
        start: isoInZone(start, zone),
        end: isoInZone(end, zone),
      }));
      const unplaced = plan.unplaced.map((one) => ({
        task: one.task,
        minutes: one.minutes,
        reason: sayWhyNot(one, saying),
        change: sayMend(one, saying),
      }));
      print(json, { blocks, unplaced, cost: costOfPlan(input, plan.blocks) }, [
        ...blocks.map(({ task, start, end }) => `${start} – ${end}  ${task}`),
        ...unplaced.map(({ task, reason, change }) => `no place: ${task}. ${reason} ${change}`.trim()),
      ]);
    });
}

/** The outline of a day in words, from a server. */
function outlineCommand(program: Command): void {
  program
    .command('today')
    .argument('[day]', 'YYYY-MM-DD; today when left out')
    .description('a day in words: what comes when, what it needs, what is at risk, what could give')
    .option('--server <url>', 'where the server is')
    .option('--token <token>', 'token to use')
    .action(async (day: string | undefined, options: ServerOptions & Common) => {
      const outline = await new Client(options).request('GET /days/outline', day === undefined ? {} : { day });
      print(options.json, outline, outline.text.split('\n'));
    });
}

interface Week extends ServerOptions {
  week?: string;
  again?: boolean;
}

/** What a server proposes for a week. */
async function proposed(week: string, options: Week): Promise<void> {
  const query = { week, ...(options.again ? { again: 'true' as const } : {}) };
  const proposal = await new Client(options).request('GET /plan/proposal', query);
  const { blocks, gone, without } = proposal;
  print(options.json, proposal, [
    ...blocks.map(({ start, end, title, was }) => `${start} – ${end}  ${title}${was ? `, from ${was.start}` : ''}`),
    ...gone.map(({ start, end, title }) => `${start} – ${end}  free again: ${title}`),
    ...without.map(({ title, reason, change }) => `no place: ${title}. ${reason} ${change}`.trim()),
  ]);
}

async function problemIn(path: string): Promise<unknown> {
  const text = await readFile(path, 'utf8').catch((problem: NodeJS.ErrnoException) => {
    throw new Refused(problem.code === 'ENOENT' ? `There is no file ${path}.` : `${path} cannot be read: ${problem.message}.`);
  });
  try {
    return JSON.parse(text.replace(/^\uFEFF/, '')) as unknown;
  } catch (problem) {
    throw new Refused(`${path} is no JSON: ${problem instanceof Error ? problem.message : ''}`);
  }
}

function reading<T>(path: string, read: (json: unknown) => T, json: unknown): T {
  try {
    return read(json);
  } catch (problem) {
    throw problem instanceof ProblemError ? new Refused(`${path}: ${problem.message}`) : problem;
  }
}
