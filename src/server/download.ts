import { createHash } from 'node:crypto';
import type { UnitSystem } from '@/core/quantity/units';
import { VERSION } from './apiAnswer';

export const JSON_TYPE = 'application/json; charset=utf-8';
export const CSV_TYPE = 'text/csv; charset=utf-8';
export const XLSX_TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
export const ZIP_TYPE = 'application/zip';
export const notFoundAnswer = (): Response => new Response('Not found', { status: 404 });

/** Letters, digits and dashes; other scripts by the name that browsers of today read. */
function disposition(shown: 'attachment' | 'inline', name: string, extension: string): string {
  const made = (keep: RegExp) =>
    name
      .toLowerCase()
      .replaceAll(keep, '-')
      .replaceAll(/^-+|-+$/gu, '');
  const plain = made(/[^a-z0-9]+/gu) || 'file';
  const whole = made(/[^\p{L}\p{M}\p{N}]+/gu) || plain;
  return `${shown}; filename="${plain}.${extension}"${whole === plain ? '' : `; filename*=UTF-8''${encodeURIComponent(whole)}.${extension}`}`;
}

/** A spreadsheet program takes a text for UTF-8 where it begins with this mark. */
const BOM = '\uFEFF';

interface Kept {
  name: string;
  extension: string;
  type: string;
  /** What the file says: as long as it says the same, whoever has it need not fetch it again. */
  says: string;
  /** The file itself, where it is not what it says: written only when it is sent. */
  body?: () => Promise<Uint8Array<ArrayBuffer>>;
  shown?: 'attachment' | 'inline';
}

/** A file for the browser to keep, or 304 where the asker has it already. */
export async function download(request: Request, file: Kept): Promise<Response> {
  const { name, extension, type, says, body, shown = 'attachment' } = file;
  const hash = createHash('sha256').update(`${VERSION}\n${extension}\n${says}`).digest('base64url');
  // Dates inside a PDF differ from one writing to the next: it says the same, byte for byte or not.
  const etag = body ? `W/"${hash}"` : `"${hash}"`;
  const have = (request.headers.get('if-none-match') ?? '').split(',').map((t) => t.trim());
  if (have.some((t) => t.replace(/^W\//u, '') === `"${hash}"`))
    return new Response(null, { status: 304, headers: { etag } });
  return new Response(body ? await body() : extension === 'csv' ? BOM + says : says, {
    headers: {
      etag,
      'content-type': type,
      'content-disposition': disposition(shown, name, extension),
    },
  });
}

/** Units that a file is asked for in: `?units=us` gives lb/ac. */
export const unitsAsked = (request: Request): UnitSystem =>
  new URL(request.url).searchParams.get('units') === 'us' ? 'us' : 'metric';
