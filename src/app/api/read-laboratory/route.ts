import { labAnswers } from '@/core/laboratory/answers';
import { laboratoryJson, readLaboratory } from '@/core/laboratory/readLaboratory';
import { LAB_KINDS } from '@/core/laboratory/samples';
import { oneOf } from '@/core/quantity/range';
import { Refusal } from '@/core/quantity/refusal';
import { apiAnswer, apiRefusal, onlyVerbs } from '@/server/apiAnswer';

const MAX_FORM_BYTES = 12 * 1024 * 1024;
const textOf = (form: FormData, key: string): string | null => {
  const v = form.get(key);
  return typeof v === 'string' && v !== '' ? v : null;
};

/** Reads a laboratory's file and keeps nothing: as `furrow read-laboratory` does. */
export async function POST(request: Request): Promise<Response> {
  if (Number(request.headers.get('content-length') ?? 0) > MAX_FORM_BYTES)
    return apiRefusal(413, {
      code: 'out_of_range',
      field: 'file',
      message: 'The file is too large: at most 10 MB are read.',
    });
  let form: FormData;
  let answers: unknown;
  try {
    form = await request.formData();
    answers = JSON.parse(textOf(form, 'answers') ?? '{}');
  } catch {
    return apiRefusal(400, {
      code: 'malformed',
      field: 'body',
      message: 'A form with a file is wanted (multipart/form-data); answers are JSON.',
    });
  }
  const file = form.get('file');
  const kind = textOf(form, 'kind');
  try {
    const report = await readLaboratory(
      file instanceof File ? new Uint8Array(await file.arrayBuffer()) : new Uint8Array(),
      {
        kind: kind === null ? null : oneOf('kind', kind, LAB_KINDS),
        fields: null,
        answers: labAnswers(answers),
        sheet: textOf(form, 'sheet'),
      },
    );
    return apiAnswer(laboratoryJson(report));
  } catch (e) {
    if (e instanceof Refusal) return apiRefusal(422, e.detail);
    throw e;
  }
}
const other = onlyVerbs('POST');
export { other as GET, other as PUT, other as PATCH, other as DELETE };
