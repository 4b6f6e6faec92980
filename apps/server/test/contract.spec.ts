import { described, misfit } from '../../../testing/conform';
import { Caller, clear, startServer, type Running } from './harness';

let server: Running;

beforeAll(async () => {
  server = await startServer('empty');
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

interface Layer {
  route?: { path: string | string[]; methods: Record<string, boolean> };
}

/** Every route of the running server, as the description writes them. */
function routesOf(): string[] {
  const http = server.app.getHttpAdapter().getInstance() as unknown as { router: { stack: Layer[] } };
  return http.router.stack
    .flatMap(({ route }) =>
      route
        ? [route.path].flat().flatMap((path) => Object.keys(route.methods).map((method) => `${method.toUpperCase()} ${path}`))
        : [],
    )
    .filter((route) => /^\w+ \/api\/./.test(route) && !route.endsWith('/openapi.json'))
    .map((route) => route.replace(/:(\w+)/g, '{$1}'));
}

const operations = Object.entries(described.paths).flatMap(([path, methods]) =>
  Object.entries(methods).map(([method, operation]) => ({ method, path, operation })),
);

describe('the description of the API', () => {
  it('has every route of the running server, and none that is not there', () => {
    const said = operations.map(({ method, path }) => `${method.toUpperCase()} ${path}`);
    expect(routesOf().sort()).toEqual(said.sort());
    expect(said.length).toBeGreaterThan(70);
  });

  it('is given out, as it is and as a page that loads nothing from elsewhere', async () => {
    const nobody = new Caller(server.url);
    expect((await nobody.call('GET', '/api/openapi.json')).body).toEqual(described);
    const page = await nobody.call<string>('GET', '/api');
    expect([page.status, page.headers.get('content-type')]).toEqual([200, expect.stringContaining('text/html')]);
    for (const { path } of operations) expect(page.body).toContain(path);
    expect(page.body).not.toMatch(/<script|(?:src|href)="(?![#\/])|url\((?!\/assets)/);
  });

  it('has an example of every body and of every answer, and all of them fit', () => {
    const missing: string[] = [];
    for (const { method, path, operation } of operations) {
      const places = [
        ['requestBody', operation.requestBody?.content] as const,
        ...Object.entries(operation.responses).map(([status, { content }]) => [`responses/${status}`, content] as const),
      ];
      for (const [place, content] of places) {
        const json = content?.['application/json'];
        if (!json) continue;
        const where = `${method.toUpperCase()} ${path} ${place}`;
        if (json.example === undefined) missing.push(where);
        else
          expect([
            where,
            misfit(json.example, 'paths', path, method, ...place.split('/'), 'content', 'application/json', 'schema'),
          ]).toEqual([where, '']);
      }
    }
    expect(missing).toEqual([]);
  });

  it('says the limits that the server keeps', () => {
    const schema = (name: string) => ['components', 'schemas', name];
    expect(misfit({ title: 'x'.repeat(501) }, ...schema('TaskChange'))).toContain('500');
    expect(misfit({ tags: ['x'.repeat(81)] }, ...schema('TaskChange'))).toContain('80');
    expect(misfit({ estimate: 1.5 }, ...schema('TaskChange'))).toContain('integer');
    expect(misfit({ plannedDay: null, deadline: '2026-08-03T09:00' }, ...schema('TaskChange'))).toBe('');
    expect(misfit({ incoming: ['a'], to: 'drop', list: 'Permits' }, ...schema('DecideInput'))).not.toBe('');
    expect(misfit({ incoming: [], to: 'drop' }, ...schema('DecideInput'))).not.toBe('');
    expect(misfit({ incoming: ['a'], to: 'week', week: '2026-W33' }, ...schema('DecideInput'))).toBe('');
  });
});
