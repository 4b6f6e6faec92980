import { Inject, Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { isZone } from '@corvun/core';
import type { AccountInput } from '@corvun/contract';
import { In, Not, Repository, type FindOptionsWhere, type EntityManager } from 'typeorm';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { Refusal, badField } from '../base/errors';
import { newId } from '../base/ids';
import { Writes } from '../base/writes';
import { Incoming } from '../incoming/incoming.entity';
import { SettingsRow } from '../settings/settings.entity';
import { StreamService } from '../stream/stream.service';
import { hashPassword, hashSecret, newSecret, passwordFits } from './passwords';
import { Tries } from './tries';
import { Access, User } from './user.entity';

const SESSION_DAYS = 30;
const WORKING = ['09:00-17:30'];

@Injectable()
export class AccountsService {
  private readonly tries = new Tries();

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(Access) private readonly accesses: Repository<Access>,
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly stream: StreamService,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  async hasAccounts(): Promise<boolean> {
    return (await this.users.count()) > 0;
  }

  /** @throws Refusal when it is not the first account, or the zone is unknown */
  async createFirst(input: AccountInput): Promise<User> {
    if (await this.hasAccounts()) throw notFirst();
    return this.create(input, newId(), true);
  }

  /** @param first refuses when there is an account: asked inside the transaction, so that ten at once make one */
  async create({ name, email, password, zone = 'Europe/Vienna' }: AccountInput, id = newId(), first = false): Promise<User> {
    if (!isZone(zone)) throw badField('zone', `"${zone}" is not a zone name like Europe/Vienna.`);
    const local =
      email
        .split('@')[0]
        ?.toLowerCase()
        .replace(/[^a-z0-9.-]/g, '') || 'user';
    const user: User = {
      id,
      name: name.trim(),
      email: email.toLowerCase(),
      captureAddress: '',
      passwordHash: await hashPassword(password),
      zone,
      hours: { 1: WORKING, 2: WORKING, 3: WORKING, 4: WORKING, 5: WORKING },
      settings: {},
      created: this.clock.now(),
      remindedUntil: this.clock.now(),
      outlinedOn: '',
      extensionSince: 0,
      extensionSeen: 0,
    };
    await this.writes.write(async (manager) => {
      if (first && (await manager.count(User)) > 0) throw notFirst();
      if (first && (await manager.count(Incoming)) > 0)
        throw new Refusal('not-allowed', 'There are things of an account that is gone here; restore a backup instead.');
      user.captureAddress = await this.freeAddress(manager, local);
      await manager.insert(User, user);
      const now = this.clock.now();
      await manager.insert(SettingsRow, {
        id: newId(),
        ownerId: id,
        version: 1,
        created: now,
        changed: now,
        chosen: { name: user.name, zone, hours: user.hours },
      });
    });
    return user;
  }

  /** Two whose mail begins alike get different addresses. */
  private async freeAddress(manager: EntityManager, local: string): Promise<string> {
    for (let more = 1; ; more += 1) {
      const captureAddress = `${local}${more > 1 ? more : ''}@${this.config.captureDomain}`;
      if (!(await manager.existsBy(User, { captureAddress }))) return captureAddress;
    }
  }

  /**
   * @param address of the network, where the try comes from
   * @throws Refusal wrong address or password, or too many tries
   */
  async signIn(email: string, password: string, address: string): Promise<User> {
    const key = email.toLowerCase();
    const user = await this.tries.attempt(key, address, async () => {
      const known = await this.users.findOneBy({ email: key });
      return (await passwordFits(password, known?.passwordHash ?? null)) ? known : null;
    });
    if (!user) throw new Refusal('wrong-password', 'The mail address or the password is not right.');
    return user;
  }

  /** Sets another password; every other session ends, and tokens stay. @throws Refusal when the present one is wrong */
  async changePassword(user: User, present: string, wanted: string, access: Access, address: string): Promise<void> {
    const right = await this.tries.attempt(user.email, address, async () =>
      (await passwordFits(present, user.passwordHash)) ? true : null,
    );
    if (!right) throw badField('present', 'The present password is not right.');
    const passwordHash = await hashPassword(wanted);
    await this.writes.write((manager) => manager.update(User, { id: user.id }, { passwordHash }));
    await this.signOutEverywhere(user.id, access.id);
  }

  /** Ends every session of a user, and the streams open with them. @param except one that stays */
  async signOutEverywhere(userId: string, except = ''): Promise<number> {
    return this.end({ userId, kind: 'session', id: Not(except) });
  }

  /** @returns the secret; it is shown once and only its hash is kept */
  async grant(
    userId: string,
    kind: Access['kind'],
    name: string,
    { secret = newSecret(), may = 'write', madeBy = '' }: { secret?: string; may?: Access['may']; madeBy?: string } = {},
  ): Promise<{ id: string; secret: string }> {
    const now = this.clock.now();
    const access: Access = {
      id: newId(),
      userId,
      secretHash: hashSecret(secret),
      kind,
      name,
      may,
      madeBy,
      created: now,
      expires: kind === 'session' ? now + SESSION_DAYS * 86_400_000 : null,
    };
    await this.writes.write(async (manager) => {
      await manager.createQueryBuilder().delete().from(Access).where('expires < :now', { now }).execute();
      await manager.insert(Access, access);
    });
    return { id: access.id, secret };
  }

  /** The session or token with this secret, while it lasts. */
  async accessOf(secret: string, kind: Access['kind']): Promise<Access | null> {
    const access = await this.accesses.findOneBy({ secretHash: hashSecret(secret), kind });
    return !access || (access.expires !== null && access.expires < this.clock.now()) ? null : access;
  }

  async withdraw(where: { secretHash: string } | { id: string; userId: string; kind: Access['kind'] }): Promise<boolean> {
    return (await this.end(where)) > 0;
  }

  private async end(where: FindOptionsWhere<Access>): Promise<number> {
    const ids = await this.writes.write(async (manager) => {
      const found = (await manager.findBy(Access, where)).map(({ id }) => id);
      if (!found.length) return [];
      const made = (await manager.findBy(Access, { madeBy: In(found) })).map(({ id }) => id);
      await manager.delete(Access, { id: In([...found, ...made]) });
      return [...found, ...made];
    });
    for (const id of ids) this.stream.close(id);
    return ids.length;
  }

  accessesOf(userId: string, kind: Access['kind']): Promise<Access[]> {
    return this.accesses.find({ where: { userId, kind }, order: { created: 'ASC' } });
  }

  /** The user whose capture address, or own mail address, this is; what stands after a plus is the user's own mark (RFC 5233). */
  async forAddress(address: string): Promise<User | null> {
    const wanted = address.trim().toLowerCase();
    const plain = wanted.replace(/^([^+@]+)\+[^@]*@/, '$1@');
    return this.users.findOne({
      where: [wanted, plain].flatMap((one) => [{ captureAddress: one }, { email: one }]),
    });
  }

  byId(id: string): Promise<User | null> {
    return this.users.findOneBy({ id });
  }

  byEmail(email: string): Promise<User | null> {
    return this.users.findOneBy({ email });
  }

  /** The one whose server this is: the first account. Backups hold everything of everybody. */
  async isKeeper({ id }: User): Promise<boolean> {
    const [first] = await this.users.find({ order: { created: 'ASC', id: 'ASC' }, take: 1 });
    return first?.id === id;
  }
}

const notFirst = () => new Refusal('not-allowed', 'There is an account already; sign in with it.');
