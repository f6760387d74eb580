import { describe, expect, it } from 'vitest';
import { sheetOfPlan } from '@/core/views/figures';
import { terraceShortWorked } from '@/demo/terraceShortWorked';
import { pdfResponse } from './pdf';
import { fontCuts } from './pdfFonts';

const fonts = (text: string) => {
  const pieces = fontCuts().pieces(text, 'Hyperlegible');
  return typeof pieces === 'string' ? 'one' : pieces.map((p) => p.font);
};

describe('names in the PDF', () => {
  it('are one piece where the first cut has every letter', () =>
    expect(fonts('Yard Piece, 12 ha: naïve façade')).toBe('one'));
  it.each([
    ['Dolní pole u Řeky', 'atkinson-hyperlegible-next latin-ext'],
    ['Κάτω χωράφι', 'literata greek'],
    ['Нижнее поле', 'literata cyrillic'],
    ['Đồng ruộng', 'literata vietnamese'],
  ])('%s is set in a cut that has its letters', (name, cut) => {
    const cuts = fontCuts();
    const pieces = cuts.pieces(name, 'Hyperlegible');
    if (typeof pieces === 'string') throw new Error('in one piece');
    expect(pieces.map((p) => p.font)).toContain(cut);
    expect(pieces.map((p) => p.text).join('')).toBe(name.normalize('NFC'));
    expect(cuts.missing.size).toBe(0);
  });
  it('letters that no cut has become boxes, and are counted', () => {
    const cuts = fontCuts();
    const pieces = cuts.pieces('下の畑', 'Hyperlegible');
    expect(typeof pieces === 'string' ? pieces : pieces.map((p) => p.text).join('')).toBe('□□□');
    expect([...cuts.missing]).toEqual(['下', 'の', '畑']);
  });
  it('are written into a file on either paper, in either units', async () => {
    const plan = terraceShortWorked();
    const named = { ...plan, field: { ...plan.field, name: 'Dolní Řeka · Поле · 畑' } };
    for (const paper of ['a4', 'letter'])
      for (const units of ['metric', 'us'] as const) {
        const answer = await pdfResponse(
          new Request(`http://here/pdf?paper=${paper}`),
          sheetOfPlan(named, units),
          'Draft, not agreed',
        );
        const bytes = Buffer.from(await answer.arrayBuffer());
        expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
        // The sheet in front, its reasons on the back.
        expect(bytes.toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(2);
      }
  });
});
