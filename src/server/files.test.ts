import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it, vi } from 'vitest';
import { PLAN_VERSION } from '@/core/document/document';
import { writePlanFile } from '@/core/document/seasonFile';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { CSV_TYPE, download } from './download';
import { schemas } from './schemas';

describe('published schemas', () => {
  it('has each version once, under a lasting id', () => {
    const all = schemas();
    const names = all.map((s) => s.name);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toEqual(
      expect.arrayContaining(['season-file-1', 'season-file-6', 'farm-file-1', 'sample-list-1']),
    );
    for (const { name, schema } of all)
      expect(schema).toMatchObject({
        $id: `urn:patient-furrow:${name.replace(/-(\d+)$/u, ':$1')}`,
        title: expect.stringContaining('version'),
        description: expect.any(String),
      });
  });
  it('takes the file that is written today, and refuses another', () => {
    const ajv = new Ajv2020({ strict: false, validateFormats: false });
    const all = schemas();
    for (const { schema } of all) ajv.compile(schema);
    const fits = ajv.getSchema(`urn:patient-furrow:season-file:${PLAN_VERSION}`);
    const file = JSON.parse(writePlanFile(terraceShortWorked())) as Record<string, unknown>;
    expect(fits?.(file), JSON.stringify(fits?.errors)).toBe(true);
    expect(fits?.({ ...file, version: 5 })).toBe(false);
  });
});

describe('a file to keep', () => {
  const asked = (tag?: string) =>
    new Request('http://localhost/x', tag ? { headers: { 'if-none-match': tag } } : {});
  const file = { name: 'Низкое поле 2027', extension: 'csv', type: CSV_TYPE, says: 'a,b\n' };
  it('is sent once, and again when it says something else', async () => {
    const first = await download(asked(), file);
    const tag = first.headers.get('etag') ?? '';
    const sent = new Uint8Array(await first.arrayBuffer());
    // A spreadsheet program takes it for UTF-8 by its first three bytes.
    expect([first.status, ...sent]).toEqual([
      200,
      0xef,
      0xbb,
      0xbf,
      ...new TextEncoder().encode('a,b\n'),
    ]);
    const again = await download(asked(`"other", ${tag}`), file);
    expect([again.status, await again.text(), again.headers.get('etag')]).toEqual([304, '', tag]);
    expect((await download(asked(tag), { ...file, says: 'a,c\n' })).status).toBe(200);
  });
  it('is not even written where the asker has it', async () => {
    const body = vi.fn(() => Promise.resolve(new Uint8Array([1, 2])));
    const first = await download(asked(), { ...file, body });
    const tag = first.headers.get('etag') ?? '';
    expect(tag).toMatch(/^W\/"/u);
    expect((await download(asked(tag), { ...file, body })).status).toBe(304);
    expect(body).toHaveBeenCalledTimes(1);
  });
  it('keeps its name in any script', async () => {
    const said = (await download(asked(), file)).headers.get('content-disposition') ?? '';
    expect(said).toContain('filename="2027.csv"');
    expect(decodeURIComponent(said)).toContain("filename*=UTF-8''низкое-поле-2027.csv");
    expect(
      (await download(asked(), { ...file, name: '梨' })).headers.get('content-disposition'),
    ).toContain('filename="file.csv"');
  });
});
