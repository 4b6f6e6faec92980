import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { isZone } from '@corvun/core';
import type { AccountInput } from '@corvun/contract';
import { Repository } from 'typeorm';
import { Clock } from '../base/clock';
import { Refusal, badField } from '../base/errors';
import { newId } from '../base/ids';
import { Writes } from '../base/writes';
import { hashPassword, hashSecret, newSecret, passwordFits } from './passwords';
import { Access, User } from './user.entity';

const SESSION_DAYS = 30;
const WORKING = ['09:00-17:30'];
const TRIES = 8;
const PAUSE = 5 * 60_000;

@Injectable()
export class AccountsService {
  private readonly failures = new Map<string, { count: number; until: number }>();

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(Access) private readonly accesses: Repository<Access>,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  async hasAccounts(): Promise<boolean> {
    return (await this.users.count()) > 0;
  }

  /** @throws Refusal when it is not the first account, or the zone is unknown */
  async createFirst(input: AccountInput): Promise<User> {
    if (await this.hasAccounts()) throw new Refusal(403, 'not-allowed', 'There is an account already; sign in with it.');
    return this.create(input);
  }

  async create({ name, email, password, zone = 'Europe/Vienna' }: AccountInput, id = newId()): Promise<User> {
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
      captureAddress: `${local}@capture.example`,
      passwordHash: await hashPassword(password),
      zone,
      hours: { 1: WORKING, 2: WORKING, 3: WORKING, 4: WORKING, 5: WORKING },
      created: this.clock.now(),
    };
    await this.writes.write((manager) => manager.insert(User, user));
    return user;
  }

  /** @throws Refusal wrong address or password, or too many tries */
  async signIn(email: string, password: string): Promise<User> {
    const key = email.toLowerCase();
    const failed = this.failures.get(key);
    if (failed && failed.count >= TRIES && failed.until > Date.now())
      throw new Refusal(429, 'too-many', 'Too many tries. Wait five minutes, then try again.');
    const user = await this.users.findOneBy({ email: key });
    if (!(await passwordFits(password, user?.passwordHash ?? null)) || !user) {
      const count = failed && failed.until > Date.now() ? failed.count + 1 : 1;
      if (this.failures.size > 10_000) this.failures.clear();
      this.failures.set(key, { count, until: Date.now() + PAUSE });
      throw new Refusal(401, 'wrong-password', 'The mail address or the password is not right.');
    }
    this.failures.delete(key);
    return user;
  }

  /** @returns the secret; it is shown once and only its hash is kept */
  async grant(userId: string, kind: Access['kind'], name: string, secret = newSecret()): Promise<{ id: string; secret: string }> {
    const now = this.clock.now();
    const access: Access = {
      id: newId(),
      userId,
      secretHash: hashSecret(secret),
      kind,
      name,
      created: now,
      expires: kind === 'session' ? now + SESSION_DAYS * 86_400_000 : null,
    };
    await this.writes.write(async (manager) => {
      await manager.createQueryBuilder().delete().from(Access).where('expires < :now', { now }).execute();
      await manager.insert(Access, access);
    });
    return { id: access.id, secret };
  }

  async userOf(secret: string, kind: Access['kind']): Promise<User | null> {
    const access = await this.accesses.findOneBy({ secretHash: hashSecret(secret), kind });
    if (!access || (access.expires !== null && access.expires < this.clock.now())) return null;
    return this.users.findOneBy({ id: access.userId });
  }

  async withdraw(where: { secretHash: string } | { id: string; userId: string; kind: Access['kind'] }): Promise<boolean> {
    const { affected } = await this.writes.write((manager) => manager.delete(Access, where));
    return (affected ?? 0) > 0;
  }

  tokensOf(userId: string): Promise<Access[]> {
    return this.accesses.find({ where: { userId, kind: 'token' }, order: { created: 'ASC' } });
  }

  /** The user whose capture address, or own mail address, this is. */
  async forAddress(address: string): Promise<User | null> {
    const wanted = address.trim().toLowerCase();
    return this.users.findOne({ where: [{ captureAddress: wanted }, { email: wanted }] });
  }

  byId(id: string): Promise<User | null> {
    return this.users.findOneBy({ id });
  }

  byEmail(email: string): Promise<User | null> {
    return this.users.findOneBy({ email });
  }
}
