import fs from 'node:fs';
import path from 'node:path';

// The fonts' cuts by script: each piece of a text is set in the first cut that has its letters.

interface Cut {
  family: string;
  script: string;
  /** Ranges of code points, from and to. */
  has: [number, number][];
}
const FONTS = path.join(process.cwd(), 'node_modules/@fontsource');
const FACES = { Hyperlegible: 'atkinson-hyperlegible-next', Literata: 'literata' } as const;
export type Face = keyof typeof FACES;
const SCRIPTS = [
  'latin',
  'latin-ext',
  'vietnamese',
  'cyrillic',
  'cyrillic-ext',
  'greek',
  'greek-ext',
];

const rangesOf = (written: string): [number, number][] =>
  written.split(',').map((r) => {
    const [from = '0', to = from] = r.trim().replace('U+', '').split('-');
    return [Number.parseInt(from, 16), Number.parseInt(to, 16)];
  });
/** Cuts that are shipped of a face, latin first. */
function cutsOf(family: string): Cut[] {
  const ranges = JSON.parse(
    fs.readFileSync(path.join(FONTS, family, 'unicode.json'), 'utf8'),
  ) as Record<string, string>;
  return SCRIPTS.filter((script) => ranges[script] !== undefined).map((script) => ({
    family,
    script,
    has: rangesOf(ranges[script] as string),
  }));
}
const nameOf = (cut: Pick<Cut, 'family' | 'script'>): string => `${cut.family} ${cut.script}`;
const file = (cut: Cut, weight: number): string =>
  path.join(FONTS, cut.family, 'files', `${cut.family}-${cut.script}-${weight}-normal.woff`);

export interface Cuts {
  /** What the maker of the PDF is told. */
  fonts: Record<string, Record<'normal' | 'bold' | 'italics' | 'bolditalics', string>>;
  /** A text as pieces, each in a cut that has its letters; what no cut has becomes a box. */
  pieces: (text: string, face: Face) => string | { text: string; font: string }[];
  /** Letters that no cut has, as they came up. */
  missing: Set<string>;
}
/** The cuts for one PDF. Where a face lacks a script, the other face's cut takes its place. */
export function fontCuts(): Cuts {
  const own = { Hyperlegible: cutsOf(FACES.Hyperlegible), Literata: cutsOf(FACES.Literata) };
  const all = [...own.Hyperlegible, ...own.Literata];
  const missing = new Set<string>();
  const order: Record<Face, Cut[]> = {
    Hyperlegible: all,
    Literata: [...own.Literata, ...own.Hyperlegible],
  };
  const cutFor = (letter: string, face: Face): Cut | undefined => {
    const code = letter.codePointAt(0) ?? 0;
    return order[face].find((c) => c.has.some(([from, to]) => code >= from && code <= to));
  };
  return {
    fonts: Object.fromEntries(
      all.map((c) => [
        nameOf(c),
        {
          normal: file(c, 400),
          bold: file(c, 700),
          italics: file(c, 400),
          bolditalics: file(c, 700),
        },
      ]),
    ),
    missing,
    pieces: (text, face) => {
      const first = order[face][0] as Cut;
      const runs: { text: string; font: string }[] = [];
      for (const letter of text.normalize('NFC')) {
        const cut = cutFor(letter, face);
        if (!cut && letter.trim() !== '') missing.add(letter);
        const font = nameOf(cut ?? first);
        const last = runs[runs.length - 1];
        const shown = cut ? letter : letter.trim() === '' ? ' ' : '□';
        if (last?.font === font) last.text += shown;
        else runs.push({ text: shown, font });
      }
      return runs.length === 1 && runs[0]?.font === nameOf(first) && runs[0].text === text
        ? text
        : runs;
    },
  };
}
/** The font that a style of a face names. */
export const faceFont = (face: Face): string => `${FACES[face]} latin`;
