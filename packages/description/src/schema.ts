/** What of JSON Schema (2020-12) the contract needs. */
export interface Schema {
  $ref?: string;
  type?: string | string[];
  description?: string;
  properties?: Record<string, Schema>;
  required?: string[];
  additionalProperties?: boolean | Schema;
  items?: Schema;
  anyOf?: Schema[];
  oneOf?: Schema[];
  enum?: (string | number | boolean | null)[];
  const?: string | number | boolean | null;
  examples?: unknown[];
  discriminator?: { propertyName: string };
  [limit: string]: unknown;
}

export type Schemas = Record<string, Schema>;

/** Where the schemas of a document stand. */
export const REF = '#/components/schemas/';

export const refTo = (name: string): Schema => ({ $ref: `${REF}${name}` });
export const nameOf = ({ $ref }: Schema): string => decodeURIComponent($ref?.split('/').at(-1) ?? '');

/** A schema with each of its parts, and itself at last, put through `change`. */
export function mapped(schema: Schema, change: (part: Schema) => Schema): Schema {
  const deep = (part: Schema) => mapped(part, change);
  return change({
    ...schema,
    ...(schema.properties ? { properties: mapValues(schema.properties, deep) } : {}),
    ...(schema.items ? { items: deep(schema.items) } : {}),
    ...(schema.anyOf ? { anyOf: schema.anyOf.map(deep) } : {}),
    ...(typeof schema.additionalProperties === 'object' ? { additionalProperties: deep(schema.additionalProperties) } : {}),
  });
}

export const mapValues = <A, B>(all: Readonly<Record<string, A>>, change: (one: A, name: string) => B): Record<string, B> =>
  Object.fromEntries(Object.entries(all).map(([name, one]) => [name, change(one, name)]));
