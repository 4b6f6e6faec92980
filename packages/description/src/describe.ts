import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createGenerator } from 'ts-json-schema-generator';
import { documentOf, type Document, type Examples } from './document';
import { limited, rulesOfInputs } from './limits';
import type { Schema, Schemas } from './schema';

/** Types that stand in answers beside those of the table. */
const BESIDES = ['ChangedByRequest', 'ApiError'];

/** The description of the interface, from the table of routes, the rules of the inputs and the examples. @param root of the repository */
export function describe(root: string): Document {
  const generator = createGenerator({
    path: join(root, 'packages/contract/src/*.ts'),
    tsconfig: join(root, 'packages/contract/tsconfig.json'),
    skipTypeCheck: true,
    topRef: false,
    additionalProperties: false,
    expose: 'export',
    jsDoc: 'extended',
  });
  const [routes, ...others] = ['Routes', ...BESIDES].map(
    (type) => generator.createSchema(type) as Schema & { definitions?: Schemas },
  );
  if (!routes) throw new Error('There is no table of routes.');
  const schemas: Schemas = { ...routes.definitions };
  for (const [at, { definitions, $schema: _schema, ...shape }] of others.entries())
    Object.assign(schemas, definitions, { [BESIDES[at] ?? '']: shape });
  const examples = JSON.parse(readFileSync(join(root, 'packages/description/examples.json'), 'utf8')) as Examples;
  return documentOf(routes, limited(schemas, rulesOfInputs()), examples);
}
