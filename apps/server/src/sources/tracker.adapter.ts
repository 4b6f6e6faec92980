import { Injectable } from '@nestjs/common';
import type { BoardChoice, SourceLook } from '@corvun/contract';
import { count, type Value } from '@corvun/core';
import { createHash } from 'node:crypto';
import { In } from 'typeorm';
import { blankIncoming } from '../decisions/blanks';
import { Kernel, bySource } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Incoming } from '../incoming/incoming.entity';
import { JoinService } from '../incoming/join.service';
import { Task } from '../tasks/task.entity';
import type { Adapter, Reach, Step } from './adapter';
import { OutsideHttp } from './outside-http';
import type { OutboxEntry } from './outbox.entity';
import { SourceProblem } from './problem';
import { Counterpart, type Source } from './source.entity';
import { face, guess, isCard, itemOf, stateThere, wanted } from './tracker.card';
import type { Board, Card, CardPage } from './tracker.types';
import { makeStep } from './steps';
import { TimeBack } from './time-back.service';
import { TwoWay } from './two-way.service';

const PAGE = 250;
const MOST_ROUNDS = 4;
/** So many labels are offered, the most used first. */
const MOST_LABELS = 40;

/** A team's tracker: boards with cards. What it must understand over HTTP is in docs/sources/tracker.md. */
@Injectable()
export class TrackerAdapter implements Adapter {
  readonly kind = 'tracker';
  readonly every = 60;
  readonly defaults = { boards: [], due: 'fixed' as const, writeTime: true };

  constructor(
    private readonly http: OutsideHttp,
    private readonly twoWay: TwoWay,
    private readonly time: TimeBack,
    private readonly kernel: Kernel,
    private readonly joins: JoinService,
  ) {}

  async look(reach: Reach): Promise<SourceLook> {
    const [me, boards] = [await this.me(reach), await this.get<Board[]>(reach, '/api/boards')];
    const chosen = new Map((reach.source.settings.boards ?? []).map((one) => [one.id, one]));
    const settings = {
      ...reach.source.settings,
      boards: boards.filter((one) => chosen.has(one.id) || !chosen.size).map((one) => chosen.get(one.id) ?? guess(one)),
    };
    const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings };
    const labels = new Map<string, number>();
    for (const board of boards) {
      const choice = settings.boards.find((one) => one.id === board.id);
      const counts = new Map<string, number>();
      let total = 0;
      for await (const { cards } of this.pages(reach, board.id, 0)) {
        for (const card of cards.filter((one) => !one.deleted)) {
          total += 1;
          if (choice) for (const label of card.labels) labels.set(label, (labels.get(label) ?? 0) + 1);
          counts.set(card.status, (counts.get(card.status) ?? 0) + 1);
          if (!choice || !wanted(card, choice, me.id, settings)) continue;
          look.matching += 1;
          if (look.sample.length < 5) look.sample.push(card.title);
        }
      }
      look.total += total;
      const statuses = board.statuses.map(({ id, name }) => ({ id, name, count: counts.get(id) ?? 0 }));
      look.choices.push({ id: board.id, name: board.name, count: total, chosen: choice !== undefined, statuses });
    }
    look.labels = [...labels]
      .sort(([, a], [, b]) => b - a)
      .slice(0, MOST_LABELS)
      .map(([name, cards]) => ({ id: name, name, count: cards, chosen: settings.labels?.includes(name) ?? false }));
    look.sentence = `${look.matching} of ${count(look.total, 'card')}: yours and ready`;
    return look;
  }

  async *steps(reach: Reach): AsyncGenerator<Step> {
    const me = await this.me(reach);
    const cursor = { ...(reach.source.cursor as Record<string, number>) };
    let done = 0;
    for (const board of reach.source.settings.boards ?? []) {
      for await (const page of this.pages(reach, board.id, cursor[board.id] ?? 0)) {
        done += page.cards.length;
        cursor[board.id] = page.next;
        yield {
          write: (work) => this.write(work, reach, board, me.id, page.cards),
          cursor: { ...cursor },
          done,
          total: page.total,
        };
      }
    }
  }

  private async write(work: Work, { source, now }: Reach, board: BoardChoice, me: string, cards: Card[]): Promise<void> {
    const rows = await work.manager.findBy(Counterpart, {
      sourceId: source.id,
      externalId: In(cards.map((card) => `card:${card.id}`)),
    });
    const known = new Map(rows.map((row) => [row.externalId, row]));
    for (const card of cards) {
      const counterpart = known.get(`card:${card.id}`);
      if (counterpart) await this.update(work, source, board, me, counterpart, card);
    }
    const fresh = cards.filter((card) => !known.has(`card:${card.id}`) && wanted(card, board, me, source.settings));
    await this.takeAll(work, source, board, fresh, now);
  }

  /** Takes new cards in with their checklists, a page with a few statements. */
  private async takeAll(work: Work, source: Source, board: BoardChoice, cards: Card[], now: number): Promise<void> {
    const taken = cards.map((card) => {
      const incoming = work.fresh('incoming', {
        ...blankIncoming(),
        source: source.id,
        sourceId: source.id,
        externalId: `card:${card.id}`,
        kind: 'card',
        senderName: board.name,
        received: Math.min(Date.parse(card.changed) || now, now),
        threadKey: `card:${source.id}:${card.id}`,
        hints: { tags: card.labels.slice(0, 10).map((label) => label.toLowerCase().replace(/\s+/g, '-')) },
        link: card.url,
        ...face(card, source),
      });
      const parent = work.fresh('counterpart', {
        sourceId: source.id,
        externalId: `card:${card.id}`,
        parentId: null,
        incomingId: incoming.id,
        taskId: null,
        base: stateThere(card, board, source),
        sending: {},
        place: { board: board.id, rev: card.rev, url: card.url },
        gone: false,
      });
      return {
        incoming,
        rows: [parent, ...card.checklist.map((item, at) => work.fresh('counterpart', itemOf(parent, card, item, at)))],
      };
    });
    const incomings = taken.map((one) => one.incoming);
    await work.insertAll('incoming', incomings);
    await work.insertAll(
      'counterpart',
      taken.flatMap((one) => one.rows),
    );
    await this.joins.byLink(work, incomings);
  }

  private async update(
    work: Work,
    source: Source,
    board: BoardChoice,
    me: string,
    counterpart: Counterpart,
    card: Card,
  ): Promise<void> {
    if (card.deleted) {
      if (counterpart.gone) return;
      await this.twoWay.lose(work, source, counterpart);
      await this.settleIncoming(work, counterpart, 'drop', 'its card was deleted');
      return;
    }
    const place = { ...counterpart.place, board: board.id, rev: card.rev, url: card.url };
    const row = await this.twoWay.bring(work, source, counterpart, stateThere(card, board, source), place);
    await this.checklist(work, source, row, card);
    if (row.taskId) return;
    const incoming = row.incomingId ? await work.manager.findOneBy(Incoming, { id: row.incomingId }) : null;
    if (incoming?.state !== 'waiting') return;
    if (card.status === board.done) await this.settleIncoming(work, row, 'done', 'done on its board');
    else if (!wanted(card, board, me, source.settings)) await this.settleIncoming(work, row, 'drop', 'no longer yours and ready');
    else {
      const shown = face(card, source);
      if (incoming.text !== shown.text || incoming.subject !== shown.subject) await work.update('incoming', incoming, shown);
    }
  }

  private async settleIncoming(
    work: Work,
    { incomingId, taskId }: Counterpart,
    outcome: 'done' | 'drop',
    note: string,
  ): Promise<void> {
    const incoming = incomingId && !taskId ? await work.manager.findOneBy(Incoming, { id: incomingId, state: 'waiting' }) : null;
    if (incoming) await work.update('incoming', incoming, { state: 'decided', outcome, decided: work.now, note });
  }

  /** Checklist items stay steps of their card. */
  private async checklist(work: Work, source: Source, parent: Counterpart, card: Card): Promise<void> {
    const rows = await work.manager.findBy(Counterpart, { sourceId: source.id, parentId: parent.id });
    const known = new Map(rows.map((row) => [row.externalId, row]));
    for (const [at, item] of card.checklist.entries()) {
      const externalId = `card:${card.id}#${item.id}`;
      const row = known.get(externalId);
      known.delete(externalId);
      const there = { title: item.text, done: item.done };
      if (row) await this.twoWay.bring(work, source, row, there, { ...row.place, at });
      else {
        const made = await work.insert('counterpart', itemOf(parent, card, item, at));
        if (parent.taskId) await makeStep(work, made, parent.taskId);
      }
    }
    for (const row of known.values()) {
      if (row.gone) continue;
      await work.update('counterpart', row, { gone: true });
      const task = row.taskId ? await work.manager.findOneBy(Task, { id: row.taskId }) : null;
      if (task && task.status !== 'COMPLETED') await work.update('task', task, { status: 'CANCELLED' });
    }
  }

  async send(reach: Reach, entry: OutboxEntry): Promise<void> {
    const { source } = reach;
    const by = bySource(reach.user.id, source.id);
    const { result: root } = await this.kernel.transact(by, (work) =>
      work.manager.findOneBy(Counterpart, { id: entry.counterpartId ?? '' }),
    );
    if (!root) return;
    const id = root.externalId.slice('card:'.length);
    if (entry.kind === 'time') {
      const time = await this.time.there(by, entry);
      const path = `/api/cards/${encodeURIComponent(id)}/time/${encodeURIComponent(time.id)}`;
      if ('gone' in time) await this.ask(reach, 'DELETE', path);
      else await this.ask(reach, 'PUT', path, { minutes: time.minutes, at: new Date(time.at).toISOString() });
      return;
    }
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const { result: body } = await this.kernel.transact(by, (work) => this.bodyOf(work, source, root.id));
      if (!body) return;
      const { rev, patch, board } = body;
      let card: Card;
      try {
        const key = createHash('sha256')
          .update(`${entry.id}${JSON.stringify(patch)}${rev}`)
          .digest('hex')
          .slice(0, 40);
        card = await this.ask<Card>(reach, 'PATCH', `/api/cards/${encodeURIComponent(id)}`, patch, key, {
          'If-Match': `"${rev}"`,
        });
      } catch (problem) {
        if (!(problem instanceof SourceProblem) || problem.kind !== 'changed' || !isCard(problem.present)) throw problem;
        card = problem.present;
      }
      const me = await this.me(reach);
      await this.kernel.transact(by, async (work) => {
        const row = await work.manager.findOneByOrFail(Counterpart, { id: root.id });
        await this.update(work, source, board, me.id, row, card);
      });
    }
  }

  async again(work: Work, source: Source, entry: OutboxEntry): Promise<void> {
    if (entry.kind === 'time') await this.time.again(work, source, entry);
  }

  /** What differs from the last common state, as the tracker's own fields. */
  private async bodyOf(
    work: Work,
    source: Source,
    rootId: string,
  ): Promise<{ rev: number; patch: Record<string, unknown>; board: BoardChoice } | null> {
    const root = await work.manager.findOneByOrFail(Counterpart, { id: rootId });
    const board = source.settings.boards?.find((one) => one.id === root.place['board']);
    if (!board) throw new SourceProblem('The board of this card is no longer chosen in the settings of the source.', 'refused');
    const patch: Record<string, unknown> = {};
    const fields = await this.twoWay.beginSending(work, root);
    for (const [field, value] of Object.entries(fields)) {
      if (field === 'done') patch['status'] = value ? board.done : board.reopen;
      else patch[field] = value;
    }
    const items: Record<string, Value>[] = [];
    for (const child of await work.manager.findBy(Counterpart, { parentId: rootId, gone: false })) {
      const own = await this.twoWay.beginSending(work, child);
      if (!Object.keys(own).length) continue;
      items.push({
        id: child.place['item'] ?? '',
        ...('done' in own ? { done: own['done'] ?? false } : {}),
        ...('title' in own ? { text: own['title'] ?? '' } : {}),
      });
    }
    if (items.length) patch['checklist'] = items;
    return Object.keys(patch).length ? { rev: Number(root.place['rev']), patch, board } : null;
  }

  private async *pages(reach: Reach, board: string, after: number): AsyncGenerator<CardPage> {
    let cursor = after;
    for (;;) {
      const page = await this.get<CardPage>(reach, `/api/cards?board=${encodeURIComponent(board)}&after=${cursor}&limit=${PAGE}`);
      if (!Array.isArray(page?.cards) || !page.cards.every(isCard) || typeof page.next !== 'number')
        throw new SourceProblem(`${reach.source.name} sent cards in a form that cannot be read.`);
      if (page.cards.length) yield page;
      if (!page.more || page.next <= cursor) return;
      cursor = page.next;
    }
  }

  private me = (reach: Reach) => this.get<{ id: string; name: string }>(reach, '/api/me');
  private get = <T>(reach: Reach, path: string) => this.ask<T>(reach, 'GET', path);

  private ask<T>(
    { source, secret, signal }: Reach,
    method: string,
    path: string,
    body?: unknown,
    key = '',
    more: Record<string, string> = {},
  ): Promise<T> {
    return this.http.json<T>(`${source.address.replace(/\/+$/, '')}${path}`, {
      method,
      signal,
      ...(body === undefined ? {} : { body }),
      headers: { ...(secret ? { Authorization: `Bearer ${secret}` } : {}), ...(key ? { 'Idempotency-Key': key } : {}), ...more },
    });
  }
}
