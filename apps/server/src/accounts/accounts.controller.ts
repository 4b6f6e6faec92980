import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Req, Res } from '@nestjs/common';
import { isoInZone } from '@corvun/core';
import {
  AccountInput,
  PasswordInput,
  SignInInput,
  TokenInput,
  type Me,
  type SessionInfo,
  type SignInOptions,
  type TokenInfo,
  type TokenMade,
} from '@corvun/contract';
import type { Request, Response } from 'express';
import { Clock } from '../base/clock';
import { StreamService } from '../stream/stream.service';
import { CONFIG, type Config } from '../base/config';
import { Refusal, notFound } from '../base/errors';
import { AccountsService } from './accounts.service';
import { MailWays } from '../mail-way/mail-way.service';
import { COOKIE, CurrentAccess, OfAccount, Open, Owner } from './auth.guard';
import { hashSecret } from './passwords';
import { settingsOf } from '../settings/settings-of';
import type { Access, User } from './user.entity';

export const DEMO_EMAIL = 'maren.holt@alderfen.example';
const LOOPBACK = /^(?:::1|::ffff:127\.|127\.)/;
/** A name that only this machine has; the demo lets nobody else in. */
const LOCAL_NAMES = /^(?:localhost|127\.0\.0\.1|\[::1\])(?::\d+)?$/;

@Controller('api')
export class AccountsController {
  constructor(
    private readonly accounts: AccountsService,
    private readonly clock: Clock,
    private readonly stream: StreamService,
    private readonly ways: MailWays,
    @Inject(CONFIG) private readonly config: Config,
  ) {}

  /** What the sign-in page offers. */
  @Open()
  @Get('session')
  async options(@Req() request: Request): Promise<SignInOptions> {
    return { demo: this.demoAllowed(request), firstAccount: !(await this.accounts.hasAccounts()) };
  }

  @Open()
  @Post('session')
  @HttpCode(204)
  async signIn(
    @Body() { email, password }: SignInInput,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.open(await this.accounts.signIn(email, password, request.ip ?? ''), request, response);
  }

  /** Signs in as the demo user: only in the demo, and only from this machine. */
  @Open()
  @Post('session/demo')
  @HttpCode(204)
  async demo(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    const user = this.demoAllowed(request) ? await this.accounts.byEmail(DEMO_EMAIL) : null;
    if (!user) throw new Refusal('not-allowed', 'The demo sign-in works in the demo only, and only on the machine it runs on.');
    await this.open(user, request, response);
  }

  @OfAccount('session')
  @Delete('session')
  @HttpCode(204)
  async signOut(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<void> {
    const cookie = (request.cookies as Record<string, string> | undefined)?.[COOKIE];
    if (cookie) await this.accounts.withdraw({ secretHash: hashSecret(cookie) });
    response.clearCookie(COOKIE, { path: '/' });
  }

  /** Where this user is signed in. */
  @OfAccount('session')
  @Get('sessions')
  async sessions(@Owner() user: User, @CurrentAccess() access: Access): Promise<SessionInfo[]> {
    const now = this.clock.now();
    return (await this.accounts.accessesOf(user.id, 'session'))
      .filter(({ expires }) => expires === null || expires > now)
      .map(({ id, name, created }) => ({ id, name, created: isoInZone(created, user.zone), present: id === access.id }));
  }

  @OfAccount('session')
  @Delete('sessions/:id')
  @HttpCode(204)
  async endSession(@Owner() user: User, @Param('id') id: string): Promise<void> {
    if (!(await this.accounts.withdraw({ id, userId: user.id, kind: 'session' }))) throw notFound('session with this id');
  }

  /** Ends every session of this user, this one too. Tokens stay; they are withdrawn one by one. */
  @OfAccount('session')
  @Post('session/everywhere')
  @HttpCode(200)
  async signOutEverywhere(@Owner() user: User, @Res({ passthrough: true }) response: Response): Promise<{ ended: number }> {
    const ended = await this.accounts.signOutEverywhere(user.id);
    response.clearCookie(COOKIE, { path: '/' });
    return { ended };
  }

  /** Sets another password; every other session ends. */
  @OfAccount('session')
  @Post('password')
  @HttpCode(204)
  async changePassword(
    @Owner() user: User,
    @CurrentAccess() access: Access,
    @Body() { present, wanted }: PasswordInput,
    @Req() request: Request,
  ): Promise<void> {
    await this.accounts.changePassword(user, present, wanted, access, request.ip ?? '');
  }

  @Open()
  @Post('account')
  @HttpCode(204)
  async firstAccount(
    @Body() input: AccountInput,
    @Req() request: Request,
    @Res({ passthrough: true }) response: Response,
  ): Promise<void> {
    await this.open(await this.accounts.createFirst(input), request, response);
  }

  @Get('me')
  async me(@Owner() user: User): Promise<Me> {
    const { id, name, email, captureAddress, zone, hours } = user;
    const settings = settingsOf(user);
    const revision = await this.stream.revisionOf(id);
    const now = isoInZone(this.clock.now(), zone);
    const mailOut = await this.ways.isOut(id);
    return { id, name, email, captureAddress, zone, hours, settings, now, demo: this.config.demo, mailOut, revision };
  }

  @OfAccount()
  @Get('tokens')
  async tokens(@Owner() user: User): Promise<TokenInfo[]> {
    return (await this.accounts.accessesOf(user.id, 'token')).map(({ id, name, may, created }) => ({
      id,
      name,
      may,
      created: isoInZone(created, user.zone),
    }));
  }

  @OfAccount()
  @Post('tokens')
  async addToken(
    @Owner() user: User,
    @CurrentAccess() access: Access,
    @Body() { name, may = 'write' }: TokenInput,
  ): Promise<TokenMade> {
    const isToken = access.kind === 'token';
    if (isToken && may === 'account') throw new Refusal('not-allowed', 'A token makes none that may as much as itself.');
    const { id, secret } = await this.accounts.grant(user.id, 'token', name, { may, madeBy: isToken ? access.id : '' });
    return { id, token: secret, name, may };
  }

  @OfAccount()
  @Delete('tokens/:id')
  @HttpCode(204)
  async removeToken(@Owner() user: User, @Param('id') id: string): Promise<void> {
    if (!(await this.accounts.withdraw({ id, userId: user.id, kind: 'token' }))) throw notFound('token with this id');
  }

  private async open(user: User, request: Request, response: Response): Promise<void> {
    const { secret } = await this.accounts.grant(user.id, 'session', browserOf(request));
    response.cookie(COOKIE, secret, {
      httpOnly: true,
      sameSite: 'strict',
      secure: this.config.origin?.startsWith('https:') ?? false,
      path: '/',
      maxAge: 30 * 86_400_000,
    });
  }

  // The Host header is checked too: a foreign page whose name is pointed at 127.0.0.1 must not be let in.
  private demoAllowed(request: Request): boolean {
    return this.config.demo && LOOPBACK.test(request.socket.remoteAddress ?? '') && LOCAL_NAMES.test(request.headers.host ?? '');
  }
}

const SYSTEMS: [RegExp, string][] = [
  [/android/i, 'Android'],
  [/iphone|ipad/i, 'iOS'],
  [/windows/i, 'Windows'],
  [/mac os/i, 'macOS'],
  [/linux|x11/i, 'Linux'],
];

/** What a session is called: a browser, and on what. */
function browserOf(request: Request): string {
  const agent = request.headers['user-agent'] ?? '';
  const system = SYSTEMS.find(([form]) => form.test(agent))?.[1];
  return system ? `browser on ${system}` : 'browser';
}
