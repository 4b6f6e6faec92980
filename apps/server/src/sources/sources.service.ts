import { Inject, Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, NearPlace, SourceChange, SourceInfo, SourceInput, SourceLook, SourceSettings } from '@corvun/contract';
import { Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { Refusal, badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import { Calendar } from '../calendars/calendar.entity';
import { newCalendar } from '../calendars/new-calendar';
import { endMirrorsOf } from '../mirrors/end-mirrors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Event } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { OutsideHttp } from './outside-http';
import { OutboxEntry } from './outbox.entity';
import { sentenceOf } from './problem';
import { Secrets } from '../base/secrets.service';
import { Counterpart, Source } from './source.entity';
import { SourceHealth } from './source-health.service';
import { SyncService } from './sync.service';
import { mailOut } from '../decisions/mail-out';
import { noteSending } from './note-sending';

const LOOK_TIME = 20_000;
const MOST_SOURCES = 100;

/** Connects, changes and removes sources, and says how they are. */
/** What is taken back there before a source goes may take so many milliseconds. */
const LEAVING = 4000;

@Injectable()
export class SourcesService {
  constructor(
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly sync: SyncService,
    private readonly health: SourceHealth,
    private readonly secrets: Secrets,
    private readonly http: OutsideHttp,
    @Inject(CONFIG) private readonly config: Config,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  async one(user: User, id: string): Promise<Source> {
    const source = await this.sources.findOneBy({ id, ownerId: user.id });
    if (!source) throw notFound('source with this id');
    return source;
  }

  /** Places of the demo's outside world that this user has not connected; none where there is no such world. */
  async near(user: User): Promise<NearPlace[]> {
    if (!this.config.outside) return [];
    const places = await this.http.json<NearPlace[]>(`${this.config.outside}/places.json`).catch(() => []);
    const connected = new Set((await this.sync.of(user.id)).map((one) => one.address));
    return places.filter((place) => !connected.has(place.address));
  }

  /** What a source that is not connected yet offers; nothing is kept. */
  async lookAt(user: User, input: SourceInput): Promise<SourceLook> {
    return this.look(user, this.rowOf(user, input, newId(), 0), input.secret ?? '');
  }

  /** What a connected source offers with these settings. */
  async lookAgain(user: User, id: string, settings?: SourceSettings): Promise<SourceLook> {
    const source = await this.one(user, id);
    const { secret } = await this.sync.reach(source, AbortSignal.timeout(LOOK_TIME));
    return this.look(user, settings ? { ...source, settings: { ...source.settings, ...settings } } : source, secret);
  }

  private async look(user: User, source: Source, secret: string): Promise<SourceLook> {
    try {
      return await this.sync
        .adapter(source.kind)
        .look({ source, secret, user, signal: AbortSignal.timeout(LOOK_TIME), now: this.clock.now() });
    } catch (problem) {
      throw new Refusal('source-failed', sentenceOf(problem, source.name));
    }
  }

  async add(user: User, input: SourceInput): Promise<SourceInfo> {
    const count = await this.sources.countBy({ ownerId: user.id });
    if (count >= MOST_SOURCES) throw new Refusal('too-much', `There can be ${MOST_SOURCES} sources; remove one first.`);
    const source = this.rowOf(user, input, newId(), count);
    if (await this.sources.existsBy({ ownerId: user.id, kind: source.kind, address: source.address, account: source.account }))
      throw badField('address', 'This is connected already.');
    await this.kernel.transact(byUser(user), async (work) => {
      const { name, settings } = source;
      if (source.kind === 'feed')
        source.calendarId = (
          await newCalendar(work, { name, origin: 'feed', busy: settings.busy ?? false, sourceId: source.id })
        ).id;
      await this.sync.adapter(source.kind).prepare?.(work, source, {});
      await work.manager.insert(Source, source as object);
      work.tell('source', source.id);
    });
    this.sync.lookNow(source);
    return this.info(user, source.id);
  }

  private rowOf(user: User, input: SourceInput, id: string, position: number): Source {
    const now = this.clock.now();
    const adapter = this.sync.adapter(input.kind);
    return {
      id,
      ownerId: user.id,
      version: 1,
      created: now,
      changed: now,
      kind: input.kind,
      name: input.name.trim(),
      address: input.address.trim(),
      account: input.account?.trim() ?? '',
      secret: input.secret ? this.secrets.lock(input.secret, id) : null,
      settings: { ...adapter.defaults, ...said(input.settings) },
      cursor: {},
      state: 'active',
      held: false,
      calendarId: null,
      every: adapter.every,
      lastTry: null,
      lastSuccess: null,
      nextTry: now,
      failures: 0,
      problem: '',
      position,
    };
  }

  async change(user: User, id: string, input: SourceChange): Promise<SourceInfo> {
    const before = await this.one(user, id);
    if (input.version !== undefined && input.version !== before.version)
      throw new Refusal('changed-meanwhile', 'This source was changed meanwhile in another place. The present state is shown.', {
        present: await this.info(user, id),
      });
    await this.sync.stop(id);
    const settings = input.settings ? { ...before.settings, ...said(input.settings) } : before.settings;
    const elsewhere = input.address !== undefined && input.address.trim() !== before.address;
    const patch: Partial<Source> = {
      settings,
      version: before.version + 1,
      ...(input.name ? { name: input.name.trim() } : {}),
      ...(input.address ? { address: input.address.trim() } : {}),
      ...(input.account === undefined ? {} : { account: input.account.trim() }),
      ...(input.secret ? { secret: this.secrets.lock(input.secret, id) } : {}),
      ...(input.state ? { state: input.state } : {}),
      // With another choice everything is looked at again; what is known stays known.
      ...(input.settings || elsewhere ? { cursor: {} } : {}),
      failures: 0,
      problem: '',
      nextTry: this.clock.now(),
    };
    await this.kernel.transact(byUser(user), async (work) => {
      const source = { ...before, ...patch };
      if (input.settings) await this.sync.adapter(source.kind).prepare?.(work, source, before.settings);
      await work.manager.update(Source, { id }, { ...patch, settings: source.settings } as object);
      const calendar = before.calendarId ? await work.manager.findOneBy(Calendar, { id: before.calendarId }) : null;
      if (calendar && (input.name || input.settings?.busy !== undefined))
        await work.update('calendar', calendar, { name: patch.name ?? calendar.name, busy: settings.busy ?? calendar.busy });
      await work.manager.update(OutboxEntry, { sourceId: id, state: 'waiting' }, { nextTry: this.clock.now() });
      work.tell('source', id);
    });
    const after = await this.one(user, id);
    if (after.state === 'active') this.sync.lookNow(after);
    return this.info(user, id);
  }

  async lookNow(user: User, id: string): Promise<SourceInfo> {
    const source = await this.one(user, id);
    if (source.state === 'paused') throw new Refusal('paused', `${source.name} is paused; go on with it first.`);
    this.sync.lookNow(source);
    return this.info(user, id);
  }

  /**
   * Removes a source: what waits undecided from it leaves the inbox, what was decided and every task stays, the events
   * of a feed go with their calendar, those of an account stay, and what waits in the outbox for it is given up.
   */
  async remove(user: User, id: string): Promise<{ sentence: string }> {
    const source = await this.one(user, id);
    await this.sync.stop(id);
    const left = await this.left(source);
    let waiting = 0;
    await this.kernel.transact(byUser(user), async (work) => {
      for (const row of await work.manager.findBy(Incoming, { ownerId: user.id, sourceId: id, state: 'waiting' })) {
        waiting += 1;
        await work.update('incoming', row, {
          state: 'decided',
          outcome: 'drop',
          decided: work.now,
          note: `${source.name} was removed`,
        });
      }
      await this.sync.adapter(source.kind).prepare?.(work, { ...source, settings: {} }, source.settings);
      await work.manager.delete(OutboxEntry, { ownerId: user.id, sourceId: id, state: 'waiting' });
      await work.manager.delete(Counterpart, { ownerId: user.id, sourceId: id });
      if (source.calendarId) {
        const events = await work.manager.findBy(Event, { ownerId: user.id, calendarId: source.calendarId });
        await work.removeAll('event', events);
        const calendar = await work.manager.findOneBy(Calendar, { id: source.calendarId });
        if (calendar) await endMirrorsOf(work, calendar.id);
        if (calendar) await work.remove('calendar', calendar);
      }
      await work.manager.delete(Source, { id, ownerId: user.id });
      work.tell('source', id);
      work.tell('outbox');
    });
    const stays = left ? '' : '; it did not answer, and may go on showing how you are';
    return { sentence: `${source.name} is removed${waiting ? `; ${waiting} undecided left the inbox` : ''}${stays}` };
  }

  /** Whether nothing of ours is shown there any more. */
  private async left(source: Source): Promise<boolean> {
    try {
      await this.sync.adapter(source.kind).leave?.(await this.sync.reach(source, AbortSignal.timeout(LEAVING)));
      return true;
    } catch {
      return false;
    }
  }

  info(user: User, id: string): Promise<SourceInfo> {
    return this.health.info(user, id);
  }

  /** Sends a reply to a chat message, or to a mail. */
  async reply(user: User, incomingId: string, text: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const incoming = await work.find('incoming', incomingId);
      const source = incoming.sourceId ? await work.manager.findOneBy(Source, { id: incoming.sourceId }) : null;
      if (incoming.kind === 'mail' || incoming.kind === 'invitation') {
        await mailOut(work, user, incoming, { kind: 'reply', text });
        work.say({
          action: 'change',
          sentence: `Your reply to ${incoming.senderName || incoming.senderAddress} goes out in 20 seconds`,
        });
        return;
      }
      if (source?.kind !== 'chat') throw new SourceRefusal('Only a mail or a chat message can be replied to here.');
      await noteSending(work, {
        sourceId: source.id,
        kind: 'reply',
        what: `Reply to ${incoming.senderName} in ${source.name}: ${text.slice(0, 80)}`,
        payload: { message: incoming.externalId, text },
      });
      work.say({ action: 'change', sentence: `Your reply to ${incoming.senderName} is on its way` });
    });
    return { decision, sentence };
  }
}

class SourceRefusal extends Refusal {
  constructor(message: string) {
    super('no-reply', message);
  }
}

const said = (settings: object | undefined): SourceSettings =>
  Object.fromEntries(Object.entries(settings ?? {}).filter(([, value]) => value !== undefined));
