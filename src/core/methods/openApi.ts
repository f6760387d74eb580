import { DICTIONARY } from './dictionary/dictionary';
import { ucum, type Quantity } from './dictionary/quantity';
import type { Field, Fields, QuantityName } from './fields';
import { OPEN_PATHS } from './openPaths';
import { METHODS, type Method } from './registry';
import type { WorkedExample } from './workedExample';

type Json = Record<string, unknown>;
const SCHEMAS = '#/components/schemas';

function bare(q: Quantity): Json {
  switch (q.kind) {
    case 'number':
      return {
        type: q.whole ? 'integer' : 'number',
        [q.above ? 'exclusiveMinimum' : 'minimum']: q.min,
        maximum: q.max,
      };
    case 'figures': {
      const one = { type: q.gaps ? ['number', 'null'] : 'number', minimum: q.min, maximum: q.max };
      return { type: 'object', additionalProperties: one };
    }
    case 'flags':
      return { type: 'object', additionalProperties: { type: 'boolean' } };
    case 'texts':
      return { type: 'object', additionalProperties: { type: 'string' } };
    case 'choice':
      return { type: 'string', enum: Object.keys(q.choices) };
    case 'yes':
      return { type: 'boolean' };
    case 'date':
      return { type: 'string', format: 'date' };
    case 'key':
    case 'text':
      return { type: 'string' };
    case 'rows':
      return { type: 'object' };
  }
}
/** One quantity as a schema: its name, what it is, its unit by UCUM, and what is taken. */
const quantitySchema = (name: string, q: Quantity): Json => ({
  $id: `urn:patient-furrow:quantity:${name}`,
  title: q.label,
  description: q.about,
  ...('unit' in q ? { 'x-ucum': ucum(q.unit) } : {}),
  ...(q.symbol ? { 'x-symbol': q.symbol } : {}),
  ...bare(q),
});

/** Fields as an object: each by its quantity. A result may hold its reasons besides. */
function objectSchema(fields: Fields, open: boolean): Json {
  const entries = Object.entries(fields) as [QuantityName, Field][];
  return {
    type: 'object',
    required: entries.filter(([, f]) => !f.optional).map(([name]) => name),
    additionalProperties: open,
    properties: Object.fromEntries(
      entries.map(([name, f]) => {
        const one = f.of ? objectSchema(f.of, open) : { $ref: `${SCHEMAS}/${name}` };
        const all = f.many ? { type: 'array', items: one, title: DICTIONARY[name].label } : one;
        return [name, f.optional ? { anyOf: [all, { type: 'null' }] } : all];
      }),
    ),
  };
}

/** A method as lists tell it: what it is called, what it takes and gives. */
export const listedMethod = (m: Method): Json => ({
  id: m.id,
  title: m.title,
  group: m.group,
  chapter: m.chapter,
  input: takenSchema(m),
  output: objectSchema(m.fields.gives, true),
});
/** What a method takes: fields that say one thing in several ways exclude each other. */
const takenSchema = ({ fields, either }: Method): Json => ({
  ...objectSchema(fields.takes, false),
  ...(either.length === 0
    ? {}
    : {
        allOf: either.flatMap((names) =>
          names.flatMap((one, i) =>
            names.slice(i + 1).map((other) => ({
              not: {
                required: [one, other],
                properties: {
                  [one]: { not: { type: 'null' } },
                  [other]: { not: { type: 'null' } },
                },
              },
            })),
          ),
        ),
      }),
});

const json = (schema: Json, examples?: Json): Json => ({
  'application/json': { schema, ...(examples ? { examples } : {}) },
});
const refused = (description: string): Json => ({
  description,
  content: json({ $ref: `${SCHEMAS}/refusal` }),
});
const pathOf = (m: Method, examples: readonly WorkedExample[]): Json => ({
  post: {
    operationId: m.id,
    summary: m.title,
    description: `Chapter ${m.chapter}.`,
    tags: [m.group],
    requestBody: {
      required: true,
      content: json(
        takenSchema(m),
        Object.fromEntries(
          examples
            .filter((e) => e.method === m.id && !('refuse' in e.expected))
            .slice(0, 2)
            .map((e) => [e.id, { value: e.input }]),
        ),
      ),
    },
    responses: {
      200: {
        description: 'The result, with its reasons under `why` where it has some.',
        content: json(objectSchema(m.fields.gives, true)),
      },
      400: refused('The body is no JSON.'),
      413: refused('The body is too large.'),
      422: refused('An input is refused: field, value and what is allowed.'),
    },
  },
});
const REFUSAL: Json = {
  type: 'object',
  title: 'Refusal',
  required: ['error'],
  properties: {
    error: {
      type: 'object',
      required: ['code', 'field', 'message'],
      properties: {
        code: { type: 'string' },
        field: { type: 'string', description: 'The field that is refused, by its name.' },
        value: { description: 'What was given.' },
        allowed: { type: 'string', description: 'What would be taken.' },
        message: { type: 'string' },
        rule: { type: 'string' },
      },
    },
  },
};

/**
 * The open edge described for programs (OpenAPI 3.1): every method with its fields, each quantity
 * once.
 *
 * @param version of the program
 * @param examples worked examples, shown at the methods
 */
export const openApi = (version: string, examples: readonly WorkedExample[]): Json => ({
  openapi: '3.1.0',
  info: {
    title: 'Patient Furrow: calculations of a field nutrient budget',
    version,
    description:
      'Every calculation of the plan by itself. Units are in the names; choices and ranges in the schemas. Figures support advice by a qualified person and never replace local code.',
    license: { name: 'see the repository', identifier: 'LicenseRef-repository' },
  },
  servers: [{ url: '/' }],
  tags: [...new Set([...METHODS.map((m) => m.group), 'Files'])].map((name) => ({ name })),
  paths: {
    '/api/methods': {
      get: {
        operationId: 'methods',
        summary: 'All methods with the schemas of their fields',
        responses: {
          200: {
            description: 'A list of methods.',
            content: json({ type: 'array', items: { type: 'object' } }),
          },
        },
      },
    },
    ...OPEN_PATHS,
    ...Object.fromEntries(METHODS.map((m) => [`/api/methods/${m.id}`, pathOf(m, examples)])),
  },
  components: {
    schemas: {
      ...Object.fromEntries(
        (Object.entries(DICTIONARY) as [string, Quantity][])
          .filter(([, q]) => q.kind !== 'rows')
          .map(([name, q]) => [name, quantitySchema(name, q)]),
      ),
      refusal: REFUSAL,
    },
  },
});
