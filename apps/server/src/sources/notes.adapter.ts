import { Inject, Injectable } from '@nestjs/common';
import type { SourceLook, SourceSettings } from '@corvun/contract';
import { count, dayOf, type Value } from '@corvun/core';
import { NoteError, changeNote, noteText, tasksInNote, type LineChange, type NoteTask } from '@corvun/formats';
import { promises as fs } from 'node:fs';
import { join, sep } from 'node:path';
import { In } from 'typeorm';
import { CONFIG, type Config } from '../base/config';
import { newId } from '../base/ids';
import { blankTask } from '../decisions/blanks';
import { Journal, type Work } from '../decisions/journal.service';
import { List } from '../lists/list.entity';
import { keepTags } from '../tags/keep-tags';
import { Task } from '../tasks/task.entity';
import type { Adapter, Reach, Step } from './adapter';
import { filesBelow, hashOf, isOut, replaceFile, type NoteFile } from './notes-folder';
import type { OutboxEntry } from './outbox.entity';
import { SourceProblem } from './problem';
import { Counterpart, type Source } from './source.entity';
import { TwoWay } from './two-way.service';

const NAME_LENGTH = 8;
const MOST_ROUNDS = 5;
const DAY = 86_400_000;
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
    private readonly journal: Journal,
  ) {}

  async look({ source, now }: Reach): Promise<SourceLook> {
    const root = await this.root(source);
    const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings: source.settings };
    const folders = new Map<string, number>();
    let files = 0;
    for await (const file of filesBelow(root, [])) {
      files += 1;
      if (files > MOST_FILES_LOOKED_AT) break;
      const tasks = await tasksOf(join(root, file.path)).catch(() => []);
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
    if (Object.keys(before).length !== all.length || problems.length)
      yield { write: () => Promise.resolve(), cursor: { files }, done: all.length, total: all.length };
    if (problems.length) throw new SourceProblem(`${problems.slice(0, 3).join(' ')} The other notes were read.`, 'wait');
  }

  /** The task lines of a file that are brought in, each with its stable name; new names are written into the file first. */
  private async named({ source, user, now }: Reach, path: string, file: NoteFile): Promise<NoteTask[]> {
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const bytes = await fs.readFile(path);
      const text = noteText(bytes);
      const tasks = tasksInNote(text);
      const known = await this.known(user.id, source, tasks);
      const fresh = isLeftOut(file, source.settings, now) ? new Set<NoteTask>() : new Set(wantedIn(tasks, source.settings));
      const used = new Set<string>();
      const changes = new Map<number, LineChange>();
      const kept: NoteTask[] = [];
      for (const task of tasks) {
        // A line that was copied brings the name of the first along; the copy is another task.
        const id = task.id && !used.has(task.id) ? task.id : null;
        if (id) used.add(id);
        if (id && known.has(id)) kept.push({ ...task, id });
        else if (fresh.has(task)) {
          const name = id ?? newId().slice(0, NAME_LENGTH);
          if (name !== task.id) changes.set(task.line, { id: name });
          kept.push({ ...task, id: name });
        }
      }
      if (!changes.size || (await replaceFile(path, hashOf(bytes), changeNote(text, changes)))) return kept;
    }
    throw new SourceProblem(`${file.path} is being changed all the time. It is read again in a while.`);
  }

  private async known(ownerId: string, source: Source, tasks: NoteTask[]): Promise<Set<string>> {
    const ids = tasks.flatMap((task) => task.id ?? []);
    if (!ids.length) return new Set();
    const rows = await this.journal.quietly(ownerId, (work) =>
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

  /** A line that was taken out of its file: its task stays, on its own. */
  private async forget(work: Work, source: Source, path: string, present: Set<string>): Promise<void> {
    const rows = await work.manager.findBy(Counterpart, { sourceId: source.id, gone: false });
    for (const row of rows.filter((one) => one.place['path'] === path && !present.has(one.externalId)))
      await work.update('counterpart', row, { gone: true });
  }

  async send(reach: Reach, entry: OutboxEntry): Promise<void> {
    const { source, user, now } = reach;
    const find = (work: Work) => work.manager.findOneBy(Counterpart, { id: entry.counterpartId ?? '' });
    const row = await this.journal.quietly(user.id, find);
    if (!row || row.gone) return;
    const root = await this.root(source);
    const path = join(root, String(row.place['path']));
    const real = await fs.realpath(path);
    if (!real.startsWith(root + sep)) throw new SourceProblem('The note no longer lies in its folder.', 'refused');
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const bytes = await fs.readFile(real);
      const text = noteText(bytes);
      const line = tasksInNote(text).find((one) => one.id === row.externalId);
      if (!line) {
        await this.journal.quietly(user.id, async (work) => work.update('counterpart', row, { gone: true }));
        throw new SourceProblem(`The line is no longer in ${String(row.place['path'])}. The task stays here.`, 'refused');
      }
      const change = await this.journal.quietly(user.id, async (work) => {
        const fresh = await work.manager.findOneByOrFail(Counterpart, { id: row.id });
        const after = await this.twoWay.bring(work, source, fresh, stateThere(line), { ...fresh.place, line: line.line });
        return this.twoWay.beginSending(work, after);
      });
      if (!Object.keys(change).length) return;
      const changed = changeNote(text, new Map([[line.line, lineChange(change, dayOf(now, user.zone))]]));
      if (!(await replaceFile(real, hashOf(bytes), changed))) continue;
      const after = tasksInNote(changed).find((one) => one.id === row.externalId);
      await this.journal.quietly(user.id, async (work) => {
        const fresh = await work.manager.findOneByOrFail(Counterpart, { id: row.id });
        if (after) await this.twoWay.bring(work, source, fresh, stateThere(after), fresh.place);
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

const tasksOf = async (path: string): Promise<NoteTask[]> => tasksInNote(noteText(await fs.readFile(path)));

const isLeftOut = (file: NoteFile, { untouchedDays }: SourceSettings, now: number) =>
  Boolean(untouchedDays && file.mtime < now - untouchedDays * DAY);

/** Open lines that come in: all, or those with the chosen tag and what stands under them. */
function wantedIn(tasks: NoteTask[], { tag }: SourceSettings): NoteTask[] {
  const wanted = tag?.replace(/^#/, '').toLowerCase();
  const taken = new Set<number>();
  return tasks.filter((task) => {
    const has =
      !wanted || task.tags.some((one) => one.toLowerCase() === wanted) || (task.parent !== null && taken.has(task.parent));
    if (has && !task.done) taken.add(task.line);
    return has && !task.done;
  });
}

function stateThere(task: NoteTask): Record<string, Value> {
  return {
    title: task.title,
    done: task.done,
    due: task.due,
    fixed: task.fixed,
    day: task.day,
    priority: task.priority,
    repeat: task.repeat,
  };
}

function lineChange(fields: Record<string, Value>, today: string): LineChange {
  const change: LineChange = {};
  if ('title' in fields) change.title = String(fields['title']).replace(/\s+/g, ' ');
  if ('done' in fields) Object.assign(change, { done: fields['done'] === true, doneOn: fields['done'] ? today : null });
  if ('due' in fields) change.due = fields['due'] as string | null;
  if ('fixed' in fields) change.fixed = fields['fixed'] === true;
  if ('day' in fields) change.day = fields['day'] as string | null;
  if ('priority' in fields) change.priority = fields['priority'] as Task['priority'];
  if ('repeat' in fields) change.repeat = fields['repeat'] as string | null;
  return change;
}
