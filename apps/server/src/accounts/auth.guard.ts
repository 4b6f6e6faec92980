import { CanActivate, ExecutionContext, Injectable, SetMetadata, createParamDecorator } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { Refusal } from '../base/errors';
import { AccountsService } from './accounts.service';
import type { Access, User } from './user.entity';

export const COOKIE = 'corvun_session';
const OPEN = 'corvun:open';
const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

const BELONGS = 'corvun:belongs-to-account';

/** Marks a route that needs no sign-in. All others do. */
export const Open = () => SetMetadata(OPEN, true);

/**
 * Marks a route that belongs to the account itself: for whoever is signed in, and for no token but one that was made for such
 * things. @param who `session`: for no token at all
 */
export const OfAccount = (who: 'token' | 'session' = 'token') => SetMetadata(BELONGS, who);

type SignedRequest = Request & { user?: User; access?: Access };

const signedIn = <K extends 'user' | 'access'>(key: K) =>
  createParamDecorator((_: unknown, context: ExecutionContext) => {
    const found = context.switchToHttp().getRequest<SignedRequest>()[key];
    if (!found) throw new Refusal('not-signed-in', 'Sign in first.');
    return found;
  });

/** The signed-in user of the request. */
export const Owner = signedIn('user');
/** The session or token the request came with. */
export const CurrentAccess = signedIn('access');

@Injectable()
export class AuthGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly accounts: AccountsService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<SignedRequest>();
    const open = this.reflector.getAllAndOverride<boolean>(OPEN, [context.getHandler(), context.getClass()]) ?? false;
    const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    if (!open && bearer) {
      // A program proves itself with its token alone; its cookie, if it sends one, counts for nothing.
      await this.let(request, await this.accounts.accessOf(bearer, 'token'), 'The token is not valid.');
      this.refuseBeyond(request, context);
      return true;
    }
    refuseForeignOrigin(request);
    if (open) return true;
    const cookie = (request.cookies as Record<string, string> | undefined)?.[COOKIE];
    await this.let(request, cookie ? await this.accounts.accessOf(cookie, 'session') : null, 'Sign in first.');
    return true;
  }

  /** @throws Refusal 403 for what a token is not for */
  private refuseBeyond({ access, method }: SignedRequest, context: ExecutionContext): void {
    const refused = (message: string) => new Refusal('not-allowed', message);
    const may = access?.may;
    const belongs = this.reflector.getAllAndOverride<'token' | 'session' | undefined>(BELONGS, [
      context.getHandler(),
      context.getClass(),
    ]);
    if (may === 'calendars') throw refused('This token is for calendar programs only, at /dav/.');
    if (may === 'read' && !READS.has(method)) throw refused('This token may only read.');
    if (belongs === 'session') throw refused('This belongs to the account; sign in with the password for that.');
    if (belongs && may !== 'account')
      throw refused(
        'This belongs to the account; sign in for that, or use a token for everything, which is made on Sources, under Web pages and programs.',
      );
  }

  private async let(request: SignedRequest, access: Access | null, otherwise: string): Promise<void> {
    const user = access ? await this.accounts.byId(access.userId) : null;
    if (!access || !user) throw new Refusal('not-signed-in', otherwise);
    Object.assign(request, { user, access });
  }
}

/** A page of another origin may not act with the user's cookie, even where SameSite does not stop it. */
function refuseForeignOrigin(request: Request): void {
  const { origin, host } = request.headers;
  if (!origin || request.method === 'GET' || request.method === 'HEAD') return;
  if (origin.replace(/^https?:\/\//, '') !== host) throw new Refusal('foreign-origin', 'The request comes from another site.');
}
