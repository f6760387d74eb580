import { z } from 'zod';
import { METHODS } from '@/core/methods/registry';

/** All methods with the schemas of their input and output. */
export function GET() {
  return Response.json(
    METHODS.map(({ id, title, group, chapter, input, output }) => ({
      id,
      title,
      group,
      chapter,
      input: z.toJSONSchema(input),
      output: z.toJSONSchema(output),
    })),
  );
}
