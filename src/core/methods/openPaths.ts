// Doors of the open edge that are not calculations.

type Json = Record<string, unknown>;

const REFUSAL = '#/components/schemas/refusal';
const answered = (description: string, schema: Json, type = 'application/json'): Json => ({
  description,
  content: { [type]: { schema } },
});
const refused = (description: string): Json => answered(description, { $ref: REFUSAL });
/** A form with a file, as a body. */
const formOf = (required: readonly string[], properties: Json): Json => ({
  required: true,
  content: { 'multipart/form-data': { schema: { type: 'object', required, properties } } },
});
const FILE: Json = { type: 'string', description: 'CSV, XLSX or GeoJSON points; at most 10 MB.' };
const COUNT: Json = { type: 'integer', minimum: 0 };
const NAMED: Json = { type: 'string', minLength: 1 };

const importPath: Json = {
  post: {
    operationId: 'soil-import',
    summary: 'Bring in a laboratory file of soil samples, all of it or nothing',
    description:
      'What can be read several ways is refused until it is answered. Rows that cannot be stored wait with their reason. The answer is one JSON value a line: progress first, the outcome last.',
    tags: ['Files'],
    requestBody: formOf(['farmId', 'laboratory', 'fileName', 'file'], {
      farmId: { ...NAMED, description: 'The farm’s id.' },
      laboratory: { ...NAMED, maxLength: 80, description: 'Name of the laboratory.' },
      fileName: NAMED,
      file: FILE,
      answers: {
        type: 'string',
        contentMediaType: 'application/json',
        description:
          'Answers to what can be read several ways, by the keys that `furrow read-laboratory` prints: {"date_order: Sampled": "dmy"}.',
      },
    }),
    responses: {
      200: answered(
        'Lines of progress, then the outcome.',
        {
          oneOf: [
            {
              type: 'object',
              required: ['progress'],
              properties: {
                progress: { type: 'object', properties: { done: COUNT, of: COUNT } },
              },
            },
            {
              type: 'object',
              required: ['ok'],
              properties: {
                ok: { type: 'boolean' },
                value: { type: 'object', properties: { imported: COUNT, waiting: COUNT } },
                refusal: { type: 'object', description: 'As `error` of a refusal.' },
              },
            },
          ],
        },
        'application/x-ndjson',
      ),
      413: refused('The file is too large.'),
    },
  },
};

const LIST: Json = { type: 'array', items: { type: 'object' } };
const readPath: Json = {
  post: {
    operationId: 'read-laboratory',
    summary: 'What a laboratory file says, in the core’s units, and what has to be asked',
    description: 'Nothing is kept. The same as `furrow read-laboratory`.',
    tags: ['Files'],
    requestBody: formOf(['file'], {
      file: FILE,
      kind: { type: 'string', enum: ['soil', 'leaf', 'manure', 'water'] },
      sheet: { type: 'string', description: 'Sheet of a workbook; else the first.' },
      answers: {
        type: 'string',
        contentMediaType: 'application/json',
        description: 'Answers by the keys of the questions.',
      },
    }),
    responses: {
      200: answered('What the file says.', {
        type: 'object',
        required: ['kind', 'samples', 'questions', 'waiting', 'left_out'],
        properties: {
          kind: { type: 'string' },
          samples: LIST,
          questions: LIST,
          waiting: LIST,
          left_out: LIST,
        },
      }),
      400: refused('No form.'),
      413: refused('The file is too large.'),
      422: refused('The file is no table of results.'),
    },
  },
};

/** Import, reading, schemas and health, as OpenAPI paths. */
export const OPEN_PATHS: Json = {
  '/api/soil-import': importPath,
  '/api/read-laboratory': readPath,
  '/api/schemas': {
    get: {
      operationId: 'schemas',
      summary: 'Schemas of season file, farm file and sample list, of every version',
      tags: ['Files'],
      responses: {
        200: answered('A list of schemas.', {
          type: 'array',
          items: {
            type: 'object',
            required: ['name', 'title', 'version', 'href'],
            properties: {
              name: NAMED,
              title: NAMED,
              version: { type: 'integer', minimum: 1 },
              href: NAMED,
            },
          },
        }),
      },
    },
  },
  '/api/schemas/{name}': {
    get: {
      operationId: 'schema',
      summary: 'One of them, as JSON schema',
      tags: ['Files'],
      parameters: [
        { name: 'name', in: 'path', required: true, schema: NAMED, example: 'season-file-6' },
      ],
      responses: {
        200: answered('The schema.', { type: 'object' }, 'application/schema+json'),
        404: refused('There is no schema of that name.'),
      },
    },
  },
  '/api/health': {
    get: {
      operationId: 'health',
      summary: 'Whether the program and its database answer',
      tags: ['Files'],
      responses: {
        200: answered('They do.', { type: 'object' }),
        503: answered('They do not; what is wrong.', { type: 'object' }),
      },
    },
  },
};
