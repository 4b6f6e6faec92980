import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import Ajv, { type ValidateFunction } from 'ajv/dist/2020';

interface Described {
  paths: Record<string, Record<string, { responses: Record<string, AnswerShape>; requestBody?: { content: Content } }>>;
}

interface AnswerShape {
  'x-codes'?: string[];
  content?: Content;
}

type Content = Record<string, { schema: object; example?: unknown }>;

/** The description that ships with the server. */
export const described = JSON.parse(readFileSync(join(__dirname, '../apps/server/dist/openapi.json'), 'utf8')) as Described;

const ajv = new Ajv({ strict: false, validateFormats: false, allErrors: true });
ajv.addSchema(described, 'api');
const known = new Map<string, ValidateFunction>();

/** A check of what stands at a place of the description. */
function checkAt(...place: string[]): ValidateFunction {
  const pointer = place.map((part) => encodeURIComponent(part.replaceAll('~', '~0').replaceAll('/', '~1'))).join('/');
  const check = known.get(pointer) ?? ajv.getSchema(`api#/${pointer}`);
  if (!check) throw new Error(`The description has nothing at ${pointer}.`);
  known.set(pointer, check);
  return check;
}

const templates = Object.keys(described.paths).map((path) => ({
  path,
  like: new RegExp(`^${path.replace(/\{\w+\}/g, '[^/]+')}$`),
  named: path.includes('{'),
}));

/** The path of the description that an address belongs to; one without names first. */
const pathOf = (address: string) =>
  templates.filter(({ like }) => like.test(address)).sort((a, b) => Number(a.named) - Number(b.named))[0]?.path;

const complaints = (check: ValidateFunction) =>
  (check.errors ?? []).map((one) => `${one.instancePath || '/'} ${one.message} ${JSON.stringify(one.params)}`).join('; ');

/**
 * Whether an answer is as the description says.
 * @throws Error a sentence on what is not
 */
export function conform(method: string, url: string, status: number, type: string, body: unknown): void {
  const address = url.split('?')[0] ?? '';
  if (address === '/api/openapi.json') return;
  const path = pathOf(address);
  const shapes = path ? described.paths[path]?.[method.toLowerCase()]?.responses : undefined;
  if (!path || !shapes) {
    if (status !== 404) throw new Error(`${method} ${address} answers ${status} and is not described.`);
    return;
  }
  const where = `${method} ${path} ${status}`;
  const shape = shapes[String(status)];
  if (!shape) throw new Error(`${where}: this status is not described. ${JSON.stringify(body)?.slice(0, 200)}`);
  const code = (body as { error?: { code?: string } } | null)?.error?.code;
  if (shape['x-codes'] && !shape['x-codes'].includes(code ?? '')) throw new Error(`${where}: the code ${code} is not described.`);
  if (!shape.content || !/json/.test(type)) return;
  const check = checkAt(
    'paths',
    path,
    method.toLowerCase(),
    'responses',
    String(status),
    'content',
    'application/json',
    'schema',
  );
  if (!check(body)) throw new Error(`${where}: ${complaints(check)}`);
}

/** What an example or an input has against its schema; empty when it fits. */
export function misfit(value: unknown, ...place: string[]): string {
  const check = checkAt(...place);
  return check(value) ? '' : complaints(check);
}
