import 'reflect-metadata';
import '@corvun/contract';
import { defaultMetadataStorage } from 'class-transformer/cjs/storage';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { REF, mapValues, type Schema, type Schemas } from './schema';

const WEEK = '^\\d{4}-W\\d{2}$';
const DEADLINE = '^\\d{4}-\\d{2}-\\d{2}(?:T\\d{2}:\\d{2})?$';
/** Keywords of a rule that the type of a field does not say. */
const LIMITS = ['minLength', 'maxLength', 'minimum', 'maximum', 'minItems', 'maxItems', 'pattern', 'format'];

/** The rules of the input classes, as schemas. */
export const rulesOfInputs = (): Schemas =>
  validationMetadatasToSchemas({
    classTransformerMetadataStorage: defaultMetadataStorage as never,
    refPointerPrefix: REF,
    additionalConverters: {
      isDay: { type: 'string', format: 'date' },
      isWeek: { type: 'string', pattern: WEEK },
      isDeadline: { type: 'string', pattern: DEADLINE },
      isIso8601: { type: 'string', format: 'date-time' },
    },
  }) as Schemas;

/** Schemas of types, with the limits that the rules of their classes set. */
export const limited = (types: Schemas, rules: Schemas): Schemas =>
  mapValues(types, (type, name) => (rules[name] ? withLimits(type, rules[name]) : type));

function withLimits(type: Schema, rule: Schema): Schema {
  return {
    ...type,
    ...limitsIn(rule),
    ...(whole(type, rule) ? { type: Array.isArray(type.type) ? type.type.map(asWhole) : 'integer' } : {}),
    ...(type.properties
      ? {
          properties: mapValues(type.properties, (part, name) =>
            rule.properties?.[name] ? withLimits(part, rule.properties[name]) : part,
          ),
        }
      : {}),
    ...(type.items ? { items: rule.items ? withLimits(type.items, rule.items) : type.items } : {}),
  };
}

const limitsIn = (rule: Schema): Schema =>
  Object.fromEntries(LIMITS.flatMap((limit) => (rule[limit] === undefined ? [] : [[limit, rule[limit]]])));

const whole = ({ type }: Schema, rule: Schema) => rule.type === 'integer' && [type].flat().includes('number');
const asWhole = (type: string) => (type === 'number' ? 'integer' : type);
