import { Validator } from '@seriousme/openapi-schema-validator';
import Ajv2020 from 'ajv/dist/2020';
import fs from 'node:fs';
import { describe, expect, it } from 'vitest';
import { openApi } from './openApi';
import { METHODS, run } from './registry';
import { workedExamples } from './workedExample';

const examples = await workedExamples();
const shown = METHODS.map((m) => m.id).filter((id) =>
  examples.some((e) => e.method === id && !('refuse' in e.expected)),
);
const description = openApi('0.1.0', examples);
interface Described {
  paths: Record<
    string,
    {
      post: {
        requestBody: { content: { 'application/json': { schema: object } } };
        responses: Record<string, { content: { 'application/json': { schema: object } } }>;
      };
    }
  >;
}
/** Whether a value fits a schema of the description, and why not. */
function fits(schema: object, value: unknown): string | null {
  const ajv = new Ajv2020({ strict: false, validateFormats: false });
  const components = JSON.parse(
    JSON.stringify(description.components).replaceAll(/"\$id":"[^"]*",/g, ''),
  ) as object;
  const check = ajv.compile({ ...schema, components });
  return check(value) ? null : ajv.errorsText(check.errors);
}

describe('the description for programs', () => {
  it('is valid OpenAPI 3.1', async () => {
    const result = await new Validator().validate(
      JSON.parse(JSON.stringify(description)) as Record<string, unknown>,
    );
    expect(result.errors ?? []).toEqual([]);
    expect(result.valid).toBe(true);
  });
  it('is the file in the docs', () => {
    expect(JSON.parse(fs.readFileSync('docs/openapi.json', 'utf8'))).toEqual(
      JSON.parse(JSON.stringify(description)),
    );
  });
  it('speaks of every method', () => {
    const paths = Object.keys((description as unknown as Described).paths);
    expect(METHODS.filter((m) => !paths.includes(`/api/methods/${m.id}`))).toEqual([]);
  });
  // Every eleventh method, over all groups: what goes in and what comes out fits what is told.
  it.each(shown.filter((_, k) => k % 11 === 0))('%s takes and gives what it says', async (id) => {
    const { post } = (description as unknown as Described).paths[`/api/methods/${id}`] ?? {};
    if (!post) throw new Error(id);
    const example = examples.find((e) => e.method === id && !('refuse' in e.expected));
    expect(fits(post.requestBody.content['application/json'].schema, example?.input)).toBeNull();
    const answer = JSON.parse(JSON.stringify(await run(id, example?.input))) as unknown;
    const given = post.responses['200']?.content['application/json'].schema ?? {};
    expect(fits(given, answer)).toBeNull();
    expect(fits(given, [])).not.toBeNull();
  });
});
