import { ERRORS, type ErrorCode } from '@corvun/contract';
import { mapValues, mapped, nameOf, refTo, REF, type Schema, type Schemas } from './schema';

/** A description of the interface (OpenAPI 3.1). */
export interface Document {
  openapi: string;
  info: { title: string; version: string; description: string };
  servers: { url: string }[];
  tags: { name: string }[];
  paths: Record<string, Record<string, Operation>>;
  components: { schemas: Schemas; securitySchemes: Record<string, object> };
}

export interface Operation {
  operationId: string;
  tags: string[];
  summary: string;
  security: object[];
  parameters: { name: string; in: 'path' | 'query'; required: boolean; description?: string; schema: Schema }[];
  requestBody?: { required: true; content: Content };
  responses: Record<string, { description: string; content?: Content; 'x-codes'?: ErrorCode[] }>;
}

type Content = Record<string, { schema: Schema; example?: unknown }>;

/** What was written down as an example of a route. */
export type Examples = Record<string, { body?: unknown; answer?: unknown }>;

/** One row of the table of routes, read from its schema. */
interface Row {
  method: string;
  path: string;
  does: string;
  parts: Record<string, Schema>;
}

const ABOUT =
  'Everything the web application and the command line do goes through these routes. Programs send a token as `Authorization: Bearer …`; browsers have a cookie. Instants are ISO 8601 with an offset, in the zone of the account; days are `YYYY-MM-DD`; durations are whole minutes. Answers to writes say in `changed` what the request changed.';

/**
 * @param routes schema of the table of routes
 * @param schemas of every type it names, with their limits
 */
export function documentOf(routes: Schema, schemas: Schemas, examples: Examples): Document {
  const all = mapValues(schemas, (one) => mapped(one, readable));
  for (const one of Object.values(all))
    if (one.anyOf?.every((part) => all[nameOf(part)]?.properties?.['to'])) one.discriminator = { propertyName: 'to' };
  const rows = Object.entries(routes.properties ?? {}).map(([name, row]): Row => {
    const [method = '', path = ''] = name.split(' ');
    return {
      method,
      path,
      does: row.description ?? '',
      parts: mapValues(row.properties ?? {}, (part) => mapped(part, readable)),
    };
  });
  const queries = new Set(rows.flatMap(({ parts }) => (parts['query'] ? [nameOf(parts['query'])] : [])));
  const paths: Document['paths'] = {};
  for (const row of rows) {
    const path = `/api${row.path.replace(/:(\w+)/g, '{$1}')}`;
    (paths[path] ??= {})[row.method.toLowerCase()] = operationOf(row, all, examples[`${row.method} ${row.path}`] ?? {});
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Corvun', version: '0.1', description: ABOUT },
    servers: [{ url: '/' }],
    tags: [...new Set(rows.map(tagOf))].map((name) => ({ name })),
    paths,
    components: {
      schemas: Object.fromEntries(Object.entries(all).filter(([name]) => !queries.has(name))),
      securitySchemes: {
        session: { type: 'apiKey', in: 'cookie', name: 'corvun_session' },
        token: { type: 'http', scheme: 'bearer' },
      },
    },
  };
}

/** Refs of the generator as those of the document, and what is fixed as a choice of one. */
function readable(part: Schema): Schema {
  const { $ref, ...rest } = part;
  if ($ref) return { ...rest, $ref: `${REF}${nameOf(part)}` };
  return part.const === undefined || part.enum ? part : { ...rest, enum: [part.const], const: undefined };
}

const tagOf = ({ path }: Row) => path.split('/')[1] ?? '';

function operationOf(row: Row, schemas: Schemas, example: { body?: unknown; answer?: unknown }): Operation {
  const { method, path, does, parts } = row;
  const body = contentOf(parts, example.body);
  const status = String(parts['status']?.enum?.[0] ?? (method === 'POST' ? 201 : 200));
  return {
    operationId: `${method.toLowerCase()}${path.replace(/[/:-]+(\w)/g, (_, letter: string) => letter.toUpperCase())}`,
    tags: [tagOf(row)],
    summary: does.replace(/\s+/g, ' ').replace(/\.$/, ''),
    security: parts['open'] ? [] : [{ session: [] }, { token: [] }],
    parameters: [
      ...[...path.matchAll(/:(\w+)/g)].map(([, name = '']) => ({
        name,
        in: 'path' as const,
        required: true,
        schema: { type: 'string' },
      })),
      ...queryOf(parts['query'], schemas),
    ],
    ...(body ? { requestBody: { required: true as const, content: body } } : {}),
    responses: { [status]: answerOf(row, schemas, example.answer), ...errorsOf(row, schemas) },
  };
}

function queryOf(query: Schema | undefined, schemas: Schemas): Operation['parameters'] {
  const type = query ? schemas[nameOf(query)] : undefined;
  return Object.entries(type?.properties ?? {}).map(([name, { description, ...schema }]) => ({
    name,
    in: 'query',
    required: type?.required?.includes(name) ?? false,
    ...(description ? { description } : {}),
    schema,
  }));
}

function contentOf({ body, file, files }: Record<string, Schema>, example: unknown): Content | null {
  if (body) return { 'application/json': { schema: body, ...(example === undefined ? {} : { example }) } };
  const field = file ?? files;
  if (!field) return null;
  const bytes: Schema = { type: 'string', format: 'binary' };
  const properties = { [String(field.enum?.[0])]: file ? bytes : { type: 'array', items: bytes } };
  return { 'multipart/form-data': { schema: { type: 'object', properties, required: Object.keys(properties) } } };
}

function answerOf(
  { method, parts: { answer = {}, bytes } }: Row,
  schemas: Schemas,
  example: unknown,
): { description: string; content?: Content } {
  if (bytes)
    return { description: 'The bytes', content: { [String(bytes.enum?.[0])]: { schema: { type: 'string', format: 'binary' } } } };
  if (answer.type === 'null') return { description: 'Done' };
  const object = answer.$ref ? schemas[nameOf(answer)] : answer;
  // What a request changed stands in every answer to a write that is an object.
  const schema =
    method !== 'GET' && object?.properties
      ? { ...object, properties: { ...object.properties, changed: refTo('ChangedByRequest') } }
      : answer;
  return {
    description: 'The answer',
    content: { 'application/json': { schema, ...(example === undefined ? {} : { example }) } },
  };
}

/** The errors that a route names, and those that the shape of its requests brings along. */
function errorsOf({ method, path, parts }: Row, schemas: Schemas): Operation['responses'] {
  const write = method !== 'GET';
  const { body, file, files, query, errors, open } = parts;
  const bodies = body ? [body, ...(schemas[nameOf(body)]?.anyOf ?? [])].map((one) => schemas[nameOf(one)]) : [];
  const codes = new Set<ErrorCode>([
    'bad-request',
    ...(body ? (['bad-json', 'too-large'] as const) : []),
    ...(file || files ? (['too-large'] as const) : []),
    ...(open ? [] : (['not-signed-in', 'not-allowed'] as const)),
    ...(path.includes(':') ? (['not-found'] as const) : []),
    ...(bodies.some((one) => one?.properties?.['version']) ? (['changed-meanwhile'] as const) : []),
    ...(write ? (['foreign-origin', 'database-busy', 'disk-full'] as const) : []),
    ...((errors?.enum ?? []) as ErrorCode[]),
    'wrong-host',
    'failed',
    'database-damaged',
  ]);
  if (!body && !query && !path.includes(':') && !write) codes.delete('bad-request');
  const byStatus = new Map<number, ErrorCode[]>();
  for (const code of codes) byStatus.set(ERRORS[code][0], [...(byStatus.get(ERRORS[code][0]) ?? []), code]);
  return Object.fromEntries([...byStatus].sort(([a], [b]) => a - b).map(([status, all]) => [status, errorOf(all)]));
}

function errorOf(codes: ErrorCode[]): Operation['responses'][string] {
  const [code = 'failed'] = codes;
  const example = { error: { code, message: ERRORS[code][1] } };
  return {
    description: codes.map((one) => `\`${one}\`: ${ERRORS[one][1]}`).join(' '),
    'x-codes': codes,
    content: { 'application/json': { schema: refTo('ApiError'), example } },
  };
}
