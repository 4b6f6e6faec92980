import { createServer, type IncomingMessage, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** What a server of calendars answers: its status, and a body of XML or of a calendar. */
export interface Said {
  status?: number;
  body: string;
  type?: string;
}

export const XML = 'application/xml; charset=utf-8';
export const multistatus = (inner: string): string =>
  `<?xml version="1.0"?><d:multistatus xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav">${inner}</d:multistatus>`;
export const response = (href: string, props: string): string =>
  `<d:response><d:href>${href}</d:href><d:propstat><d:prop>${props}</d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response>`;
const gone = (href: string) => `<d:response><d:href>${href}</d:href><d:status>HTTP/1.1 404 Not Found</d:status></d:response>`;

/** A calendar server that does what it likes: one calendar at `/home/fen/` with the objects it is given. */
export class HostileDav {
  readonly asked: { method: string; url: string; authorization: string; body: string }[] = [];
  readonly objects = new Map<string, string>();
  principal = '/me/';
  home = '/home/';
  /** Answers instead; null: the usual is answered. */
  instead: (request: IncomingMessage, body: string) => Said | null = () => null;
  private readonly server: Server;

  constructor() {
    this.server = createServer((request, answer) => {
      const parts: Buffer[] = [];
      request.on('data', (part: Buffer) => parts.push(part));
      request.on('end', () => {
        const body = Buffer.concat(parts).toString();
        const { method = '', url = '', headers } = request;
        this.asked.push({ method, url, authorization: headers.authorization ?? '', body });
        const { status, body: said, type = XML } = this.instead(request, body) ?? this.usual(method, url, body);
        answer.writeHead(status ?? 207, { 'Content-Type': type, ETag: '"1"' }).end(said);
      });
    });
  }

  async start(): Promise<this> {
    await new Promise<void>((done) => this.server.listen(0, '127.0.0.1', done));
    return this;
  }

  stop(): void {
    this.server.closeAllConnections();
    this.server.close();
  }

  get url(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  private usual(method: string, url: string, body: string): Said {
    if (method === 'GET') {
      const text = this.objects.get(decodeURIComponent(url));
      return text === undefined ? { status: 404, body: '' } : { status: 200, body: text, type: 'text/calendar' };
    }
    if (/current-user-principal\/?>/.test(body) && !/displayname/.test(body))
      return {
        body: multistatus(
          response('/', `<d:current-user-principal><d:href>${this.principal}</d:href></d:current-user-principal>`),
        ),
      };
    if (/calendar-home-set/.test(body))
      return { body: multistatus(response('/me/', `<c:calendar-home-set><d:href>${this.home}</d:href></c:calendar-home-set>`)) };
    if (method === 'PROPFIND')
      return {
        body: multistatus(
          response(
            '/home/fen/',
            `<d:resourcetype><d:collection/><c:calendar/></d:resourcetype><d:displayname>Fen</d:displayname><d:sync-token>urn:${this.objects.size}</d:sync-token>`,
          ),
        ),
      };
    const all = [...this.objects].map(([href, text]) =>
      response(
        href,
        `<d:getetag>"${text.length}"</d:getetag>${/multiget/.test(body) ? `<c:calendar-data><![CDATA[${text}]]></c:calendar-data>` : ''}`,
      ),
    );
    return {
      body: multistatus(
        `${all.join('')}${/sync-collection/.test(body) ? `<d:sync-token>urn:${this.objects.size}</d:sync-token>` : ''}`,
      ),
    };
  }

  /** Says of an object that it is gone. */
  static readonly gone = gone;
}
