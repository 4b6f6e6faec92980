import { CanActivate, ExecutionContext, Injectable, SetMetadata, createParamDecorator } from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { Refusal } from '../base/errors';
import { AccountsService } from './accounts.service';
import type { User } from './user.entity';

export const COOKIE = 'corvun_session';
const OPEN = 'corvun:open';

/** Marks a route that needs no sign-in. All others do. */
export const Open = () => SetMetadata(OPEN, true);

type SignedRequest = Request & { user?: User };

/** The signed-in user of the request. */
export const Owner = createParamDecorator((_: unknown, context: ExecutionContext): User => {
  const { user } = context.switchToHttp().getRequest<SignedRequest>();
  if (!user) throw new Refusal(401, 'not-signed-in', 'Sign in first.');
  return user;
});

@Injectable()
export class AuthGuard implements CanActivate {
  constructor(
    private readonly reflector: Reflector,
    private readonly accounts: AccountsService,
  ) {}

  async canActivate(context: ExecutionContext): Promise<boolean> {
    const request = context.switchToHttp().getRequest<SignedRequest>();
    refuseForeignOrigin(request);
    if (this.reflector.getAllAndOverride<boolean>(OPEN, [context.getHandler(), context.getClass()])) return true;
    const bearer = /^Bearer\s+(\S+)$/i.exec(request.headers.authorization ?? '')?.[1];
    const cookie = (request.cookies as Record<string, string> | undefined)?.[COOKIE];
    const user = bearer
      ? await this.accounts.userOf(bearer, 'token')
      : cookie
        ? await this.accounts.userOf(cookie, 'session')
        : null;
    if (!user) throw new Refusal(401, 'not-signed-in', bearer ? 'The token is not valid.' : 'Sign in first.');
    request.user = user;
    return true;
  }
}

/** A page of another origin may not act with the user's cookie, even where SameSite does not stop it. */
function refuseForeignOrigin(request: Request): void {
  const { origin, host } = request.headers;
  if (!origin || request.method === 'GET' || request.method === 'HEAD' || request.headers.authorization) return;
  if (origin.replace(/^https?:\/\//, '') !== host)
    throw new Refusal(403, 'foreign-origin', 'The request comes from another site.');
}
