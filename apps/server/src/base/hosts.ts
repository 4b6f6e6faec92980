import { isIP } from 'node:net';
import type { NextFunction, Request, Response } from 'express';

/** The name in a Host header, without its port; empty when there is none. */
const nameOf = (host = ''): string => host.replace(/:\d+$/, '').toLowerCase();

/**
 * Refuses requests under a name that is not this server's: a page of another site can point its own name at this machine
 * (DNS rebinding), and would then be of the same origin. An address cannot be pointed elsewhere, so addresses are let in.
 */
export function onlyOwnHosts(names: readonly string[]) {
  const own = new Set(['localhost', ...names]);
  return (request: Request, response: Response, next: NextFunction): void => {
    const name = nameOf(request.headers.host);
    if (own.has(name) || isIP(name.replace(/^\[|\]$/g, ''))) return next();
    response.status(421).json({
      error: {
        code: 'wrong-host',
        message: `This server is not known as “${name.slice(0, 200)}”. Whoever runs it names it with CORVUN_HOSTS.`,
      },
    });
  };
}
