import { Inject, Injectable } from '@nestjs/common';
import type { SourceLook } from '@corvun/contract';
import { count, dayOf } from '@corvun/core';
import { NOTE_LIMITS, NoteError, changeNote, type LineChange, type NoteTask } from '@corvun/formats';
import { promises as fs } from 'node:fs';
import { join, sep } from 'node:path';
import { In } from 'typeorm';
import { CONFIG, type Config } from '../base/config';
import { newId } from '../base/ids';
import { blankTask } from '../decisions/blanks';
import { Kernel, bySource } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { List } from '../lists/list.entity';
import { keepTags } from '../tags/keep-tags';
import { ReadingLimit, ReadingPool } from '../reading/reading-pool.service';
import type { Adapter, Reach, Step } from './adapter';
import { filesBelow, hashOf, isOut, replaceFile, type NoteFile } from './notes-folder';
import { roundsBegun, roundsChange, roundsTold, roundsToTell } from './goes-on';
import { isLeftOut, lineChange, stateThere, wantedIn } from './notes-lines';
import type { OutboxEntry } from './outbox.entity';
import { SourceProblem } from './problem';
import { Counterpart, type Source } from './source.entity';
import { TwoWay } from './two-way.service';

const NAME_LENGTH = 8;
const MOST_ROUNDS = 5;
const MOST_FILES_LOOKED_AT = 5000;

/** A folder of Markdown notes whose task-list items are tasks. The notation is in docs/sources/notes.md. */
@Injectable()
export class NotesAdapter implements Adapter {
  readonly kind = 'notes';
  readonly every = 15;
  readonly defaults = { tag: null, leaveOut: [], untouchedDays: null, list: null };

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly twoWay: TwoWay,
    private readonly kernel: Kernel,
    private readonly reading: ReadingPool,
  ) {}

  async look({ source, now }: Reach): Promise<SourceLook> {
    const root = await this.root(source);
    const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings: source.settings };
    const folders = new Map<string, number>();
    let files = 0;
    for await (const file of filesBelow(root, [])) {
      files += 1;
      if (files > MOST_FILES_LOOKED_AT) break;
      const tasks = await this.tasksOf(join(root, file.path)).catch(() => []);
      const folder = file.path.includes('/') ? (file.path.split('/')[0] ?? '') : '';
      if (folder) folders.set(folder, (folders.get(folder) ?? 0) + tasks.length);
      look.total += tasks.length;
      const left = isLeftOut(file, source.settings, now) || isOut(file.path, source.settings.leaveOut ?? []);
      const chosen = left ? [] : wantedIn(tasks, source.settings);
      look.matching += chosen.length;
      look.sample.push(...chosen.slice(0, 5 - look.sample.length).map((one) => one.title));
    }
    const out = new Set(source.settings.leaveOut);
    look.choices = [...folders].map(([name, lines]) => ({ id: name, name, count: lines, chosen: !out.has(name) }));
    look.sentence = `${look.matching} of ${count(look.total, 'task line')} in ${count(files, 'note')}`;
    return look;
  }

  async *steps(reach: Reach): AsyncGenerator<Step> {
    const { source } = reach;
    const root = await this.root(source);
    const before = (source.cursor['files'] ?? {}) as Record<string, string>;
    const files: Record<string, string> = {};
    const all: NoteFile[] = [];
    for await (const file of filesBelow(root, source.settings.leaveOut ?? [])) all.push(file);
    const problems: string[] = [];
    for (const [at, file] of all.entries()) {
      const mark = `${file.mtime}:${file.size}`;
      if (before[file.path] === mark) {
        files[file.path] = mark;
        continue;
      }
      try {
        const tasks = await this.named(reach, join(root, file.path), file);
        const stat = await fs.stat(join(root, file.path));
        files[file.path] = `${Math.round(stat.mtimeMs)}:${stat.size}`;
        yield {
          write: (work) => this.write(work, reach, file.path, tasks),
          cursor: { files: { ...before, ...files } },
          done: at + 1,
          total: all.length,
        };
      } catch (problem) {
        if (!(problem instanceof NoteError)) throw problem;
        problems.push(`${file.path}: ${problem.message}`);
        files[file.path] = mark;
      }
    }
    const removed = await this.removedFrom(root, Object.keys(before), files);
    if (Object.keys(before).length !== all.length || problems.length)
      yield {
        write: async (work) => {
          for (const path of removed) await this.forget(work, source, path, new Set());
        },
        cursor: { files },
        done: all.length,
        total: all.length,
      };
    if (problems.length) throw new SourceProblem(`${problems.slice(0, 3).join(' ')} The other notes were read.`, 'wait');
  }

  /** Files that were read before and do not exist any more; one that is only left out now still does. */
  private async removedFrom(root: string, before: string[], now: Record<string, string>): Promise<string[]> {
    const missing = before.filter((path) => !(path in now));
    const exists = await Promise.all(
      missing.map((path) =>
        fs.access(join(root, path)).then(
          () => true,
          () => false,
        ),
      ),
    );
    return missing.filter((_, at) => !exists[at]);
  }

  /** The task lines of a file that are brought in, each with its stable name; new names are written into the file first. */
  private async named({ source, user, now }: Reach, path: string, file: NoteFile): Promise<NoteTask[]> {
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const bytes = await fs.readFile(path);
      const { text, tasks } = await this.read(bytes);
      const known = await this.known(user.id, source, tasks);
      const lost = await this.lostIn(user.id, source, file.path, tasks);
      const fresh = isLeftOut(file, source.settings, now) ? new Set<NoteTask>() : new Set(wantedIn(tasks, source.settings));
      const used = new Set<string>();
      const changes = new Map<number, LineChange>();
      const kept: NoteTask[] = [];
      for (const task of tasks) {
        // A line that was copied brings the name of the first along; the copy is another task.
        const id = task.id && !used.has(task.id) ? task.id : null;
        if (id) used.add(id);
        if (id && known.has(id)) kept.push({ ...task, id });
        else if (fresh.has(task) || lost.has(task.title)) {
          // A line without its name that stood here before: the file was put back as it was. It is the same task.
          const name = id ?? lost.get(task.title)?.shift() ?? newId().slice(0, NAME_LENGTH);
          if (name !== task.id) changes.set(task.line, { id: name });
          kept.push({ ...task, id: name });
        }
      }
      if (!changes.size || (await replaceFile(path, hashOf(bytes), changeNote(text, changes)))) return kept;
    }
    throw new SourceProblem(`${file.path} is being changed all the time. It is read again in a while.`);
  }

  /** Names of lines that this file had and that are missing in it now, by their title. */
  private async lostIn(ownerId: string, source: Source, path: string, tasks: NoteTask[]): Promise<Map<string, string[]>> {
    const present = new Set(tasks.flatMap((task) => task.id ?? []));
    const lost = new Map<string, string[]>();
    if (!tasks.some((task) => !task.id)) return lost;
    const { result: rows } = await this.kernel.transact(bySource(ownerId, source.id), (work) =>
      work.manager.findBy(Counterpart, { sourceId: source.id }),
    );
    for (const { externalId, place, base } of rows) {
      const title = String(base['title']);
      if (place['path'] === path && !present.has(externalId)) lost.set(title, [...(lost.get(title) ?? []), externalId]);
    }
    return lost;
  }

  private read(bytes: Buffer): Promise<{ text: string; tasks: NoteTask[] }> {
    if (bytes.length > NOTE_LIMITS.maxBytes) throw new NoteError(`The note is larger than ${NOTE_LIMITS.maxBytes / 1048576} MB.`);
    return this.reading.note(bytes).catch((problem: unknown) => {
      throw problem instanceof ReadingLimit ? new NoteError(problem.message) : problem;
    });
  }

  private async tasksOf(path: string): Promise<NoteTask[]> {
    return (await this.read(await fs.readFile(path))).tasks;
  }

  private async known(ownerId: string, source: Source, tasks: NoteTask[]): Promise<Set<string>> {
    const ids = tasks.flatMap((task) => task.id ?? []);
    if (!ids.length) return new Set();
    const { result: rows } = await this.kernel.transact(bySource(ownerId, source.id), (work) =>
      work.manager.findBy(Counterpart, { sourceId: source.id, externalId: In(ids) }),
    );
    return new Set(rows.map((row) => row.externalId));
  }

  private async write(work: Work, { source }: Reach, path: string, tasks: NoteTask[]): Promise<void> {
    const rows = await work.manager.findBy(Counterpart, {
      sourceId: source.id,
      externalId: In(tasks.map((task) => task.id ?? '')),
    });
    const known = new Map(rows.map((row) => [row.externalId, row]));
    const byLine = new Map<number, string>();
    for (const task of tasks) {
      const row = known.get(task.id ?? '');
      const place = { path, line: task.line };
      if (row) {
        if (row.taskId) byLine.set(task.line, row.taskId);
        await this.twoWay.bring(work, source, row, stateThere(task), place);
        continue;
      }
      const list = source.settings.list
        ? await work.manager.findOneBy(List, { ownerId: work.ownerId, name: source.settings.list })
        : null;
      await keepTags(work, task.tags);
      const made = await work.insert('task', {
        ...blankTask(),
        title: task.title,
        listId: list?.id ?? null,
        parentId: task.parent === null ? null : (byLine.get(task.parent) ?? null),
        tags: task.tags,
        priority: task.priority,
        deadline: task.due,
        deadlineFixed: task.fixed,
        plannedDay: task.day,
        repeat: task.repeat,
        status: task.done ? 'COMPLETED' : 'NEEDS-ACTION',
        completed: task.done ? work.now : null,
        concentration: list?.concentration ?? 'medium',
        position: work.now + task.line,
      });
      byLine.set(task.line, made.id);
      await work.insert('counterpart', {
        sourceId: source.id,
        externalId: task.id ?? '',
        parentId: null,
        incomingId: null,
        taskId: made.id,
        base: stateThere(task),
        sending: {},
        place,
        gone: false,
      });
    }
    await this.forget(work, source, path, new Set(tasks.map((task) => task.id ?? '')));
  }

  /** Lines that were taken out of their file: their tasks stay, and the user is asked about those that are open. */
  private async forget(work: Work, source: Source, path: string, present: Set<string>): Promise<void> {
    const rows = await work.manager.findBy(Counterpart, { sourceId: source.id, gone: false });
    for (const row of rows.filter((one) => one.place['path'] === path && !present.has(one.externalId)))
      await this.twoWay.lose(work, source, row);
  }

  async send(reach: Reach, entry: OutboxEntry): Promise<void> {
    const { source, user, now } = reach;
    const find = (work: Work) => work.manager.findOneBy(Counterpart, { id: entry.counterpartId ?? '' });
    const { result: row } = await this.kernel.transact(bySource(user.id, source.id), find);
    if (!row || row.gone) return;
    const root = await this.root(source);
    const path = join(root, String(row.place['path']));
    const real = await fs.realpath(path);
    if (!real.startsWith(root + sep)) throw new SourceProblem('The note no longer lies in its folder.', 'refused');
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const bytes = await fs.readFile(real);
      const { text, tasks } = await this.read(bytes);
      const line = tasks.find((one) => one.id === row.externalId);
      if (!line) {
        await this.kernel.transact(bySource(user.id, source.id), async (work) => this.twoWay.lose(work, source, row));
        throw new SourceProblem(`The line is no longer in ${String(row.place['path'])}. The task stays here.`, 'refused');
      }
      const { result } = await this.kernel.transact(bySource(user.id, source.id), async (work) => {
        const fresh = await work.manager.findOneByOrFail(Counterpart, { id: row.id });
        const after = await this.twoWay.bring(work, source, fresh, stateThere(line), { ...fresh.place, line: line.line });
        const told = await roundsToTell(work, after);
        await roundsBegun(work, told);
        return { fields: await this.twoWay.beginSending(work, after), rounds: told };
      });
      const { fields, rounds } = result;
      if (!Object.keys(fields).length && !rounds.length) return;
      const change = { ...lineChange(fields, dayOf(now, user.zone)), ...roundsChange(rounds) };
      const changed = changeNote(text, new Map([[line.line, change]]));
      if (!(await replaceFile(real, hashOf(bytes), changed))) continue;
      const after = (await this.read(Buffer.from(changed))).tasks.find((one) => one.id === row.externalId);
      await this.kernel.transact(bySource(user.id, source.id), async (work) => {
        const fresh = await work.manager.findOneByOrFail(Counterpart, { id: row.id });
        if (after) await this.twoWay.bring(work, source, fresh, stateThere(after), { ...fresh.place, line: after.line });
        await roundsTold(work, rounds);
      });
      return;
    }
    throw new SourceProblem(`${String(row.place['path'])} is being changed all the time.`);
  }

  /** The folder, if it is one and lies where folders may be read. */
  private async root(source: Source): Promise<string> {
    const real = await fs.realpath(source.address).catch(() => {
      throw new SourceProblem(`There is no folder ${source.address}.`, 'refused');
    });
    if (!(await fs.stat(real)).isDirectory()) throw new SourceProblem(`${source.address} is no folder.`, 'refused');
    const allowed = await Promise.all(this.config.folders.map((one) => fs.realpath(one).catch(() => one)));
    if (!allowed.some((one) => real === one || real.startsWith(one.endsWith(sep) ? one : one + sep)))
      throw new SourceProblem(`This server reads folders below ${this.config.folders.join(' and ')} only.`, 'refused');
    return real;
  }
}
