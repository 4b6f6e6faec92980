import { All, Controller, Module, Req, Res } from '@nestjs/common';
import { XmlError, readXml, type XmlElement } from '@corvun/formats';
import type { Request, Response } from 'express';
import { AccountsModule } from '../accounts/accounts.module';
import { AccountsService } from '../accounts/accounts.service';
import { Open } from '../accounts/auth.guard';
import { Refusal } from '../base/errors';
import { sendInParts } from '../base/send-in-parts';
import { ReadingLimit, ReadingPool } from '../reading/reading-pool.service';
import { Collections } from './collections';
import { DavError } from './dav-error';
import type { Asking } from './asking';
import { DavService } from './dav.service';
import { DavProppatch } from './proppatch.service';
import { DavReports } from './reports.service';
import { DavSync } from './sync';
import { DavWrites } from './writes.service';
import { QUESTION_LIMITS } from './xml';

/** Characters of a question that is read at once; a longer one is read in a thread. */
const SHORT = 16_000;
const ALLOW = 'OPTIONS, GET, HEAD, PUT, DELETE, COPY, MOVE, PROPFIND, PROPPATCH, REPORT';
const PLACES = ['/dav', '/dav/principal', '/dav/home'];

/** A small CalDAV server for other programs, with a token as its password. */
@Open()
@Controller()
class DavController {
  constructor(
    private readonly dav: DavService,
    private readonly reports: DavReports,
    private readonly writes: DavWrites,
    private readonly properties: DavProppatch,
    private readonly accounts: AccountsService,
    private readonly reading: ReadingPool,
  ) {}

  @All('.well-known/caldav')
  found(@Res() response: Response): void {
    response.redirect(301, '/dav/');
  }

  @All(['dav', 'dav/*path'])
  async answer(@Req() request: Request, @Res() response: Response): Promise<void> {
    response.setHeader('DAV', '1, 3, access-control, calendar-access');
    response.setHeader('Cache-Control', 'no-cache');
    try {
      const asking = await this.asking(request);
      if (!asking) {
        response.setHeader('WWW-Authenticate', 'Basic realm="Corvun", charset="UTF-8"');
        response.status(401).type('text/plain').send('Sign in with your mail address and a token.');
        return;
      }
      await this.carryOut(asking, request, response);
    } catch (problem) {
      const refused =
        problem instanceof DavError
          ? problem
          : problem instanceof Refusal
            ? new DavError(problem.getStatus(), '', problem.message)
            : problem instanceof RangeError
              ? new DavError(400, '', problem.message)
              : null;
      if (!refused) throw problem;
      response.status(refused.status);
      if (refused.body) response.type('application/xml; charset=utf-8').send(refused.body);
      else response.type('text/plain').send(refused.message);
    }
  }

  private async carryOut(asking: Asking, request: Request, response: Response): Promise<void> {
    const path = pathOf(request.path);
    const body = typeof request.body === 'string' ? request.body : '';
    const only = { match: request.get('If-Match'), noneMatch: request.get('If-None-Match') };
    const { user, write } = asking;
    const xml = (status: number, parts: readonly string[]) => {
      response.status(status).type('application/xml; charset=utf-8');
      return sendInParts(response, parts);
    };
    switch (request.method) {
      case 'OPTIONS':
        response.setHeader('Allow', ALLOW);
        response.status(200).end();
        return;
      case 'PROPFIND':
        return xml(207, await this.dav.propfind(asking, path, request.get('Depth') ?? 'infinity', await this.question(body)));
      case 'REPORT': {
        // A report is about what it is asked at, where it says nothing else (RFC 3253, 3.6).
        const { type, parts } = await this.reports.report(asking, path, request.get('Depth') ?? '0', await this.question(body));
        response.status(type.startsWith('text/calendar') ? 200 : 207).type(type);
        return sendInParts(response, parts);
      }
      case 'GET':
      case 'HEAD': {
        const { etag, text } = await this.dav.text(user, path);
        response.setHeader('ETag', etag);
        response.setHeader('Content-Security-Policy', "default-src 'none'; sandbox");
        response.type('text/calendar; charset=utf-8').send(text);
        return;
      }
      case 'PUT': {
        refuseReader(write);
        const isNew = await this.writes.put(user, path, body, only);
        // It may be gone again by now, and is put all the same.
        const kept = await this.dav.text(user, path).catch(() => null);
        // Only of what is kept letter by letter is there an ETag (RFC 4791, 5.3.4).
        if (kept?.text === body) response.setHeader('ETag', kept.etag);
        response.status(isNew ? 201 : 204).end();
        return;
      }
      case 'DELETE':
        refuseReader(write);
        await this.writes.remove(user, path, only);
        response.status(204).end();
        return;
      case 'COPY':
      case 'MOVE': {
        refuseReader(write);
        const to = destinationOf(request);
        const overwrite = request.get('Overwrite')?.toUpperCase() !== 'F';
        response.status((await this.writes.carry(user, request.method, path, to, overwrite)) ? 201 : 204).end();
        return;
      }
      case 'PROPPATCH':
        refuseReader(write);
        return xml(207, await this.properties.change(user, path, await this.question(body)));
      case 'ACL':
        throw new DavError(403, '', 'Who may see something is said in Corvun.');
      default:
        response.setHeader('Allow', ALLOW);
        throw new DavError(405, '', 'This cannot be done here.');
    }
  }

  /** What a program asks; null where it says nothing more. @throws DavError */
  private async question(body: string): Promise<XmlElement | null> {
    if (!body.trim()) return null;
    try {
      return body.length < SHORT ? readXml(body, QUESTION_LIMITS) : await this.reading.xml(body, QUESTION_LIMITS);
    } catch (problem) {
      if (problem instanceof XmlError || problem instanceof ReadingLimit) throw new DavError(400, '', problem.message);
      throw problem;
    }
  }

  /** Whose mail address and token stand in the request; null where that is nobody. */
  private async asking(request: Request): Promise<Asking | null> {
    const [, coded = ''] = /^Basic\s+(\S+)$/i.exec(request.get('Authorization') ?? '') ?? [];
    const [, address = '', token = ''] = /^([^:]*):([^]*)$/.exec(Buffer.from(coded, 'base64').toString('utf8')) ?? [];
    const access = token ? await this.accounts.accessOf(token, 'token') : null;
    const user = access && (await this.accounts.byId(access.userId));
    return access && user && user.email.toLowerCase() === address.trim().toLowerCase()
      ? { user, write: access.may !== 'read' }
      : null;
  }
}

const pathOf = (path: string): string => (PLACES.includes(path) ? `${path}/` : path);

/** Where something is to be put: at an address of this server. @throws DavError */
function destinationOf(request: Request): string {
  const said = request.get('Destination')?.trim() ?? '';
  const base = `${request.protocol}://${request.get('Host') ?? ''}`;
  if (!said || !URL.canParse(said, base)) throw new DavError(400, '', 'Say where it is to be.');
  const to = new URL(said, base);
  if (to.host !== new URL(base).host) throw new DavError(502, '', 'That is at another server.');
  return pathOf(to.pathname);
}

function refuseReader(write: boolean): void {
  if (!write) throw new DavError(403, '', 'This token may only read.');
}

@Module({
  imports: [AccountsModule],
  controllers: [DavController],
  providers: [DavService, DavReports, DavWrites, DavProppatch, DavSync, Collections],
})
export class DavModule {}
