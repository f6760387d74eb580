import path from 'node:path';
import pdfmake from 'pdfmake';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { dateInWords } from '@/core/quantity/calendar';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import type { SheetJob } from '@/core/views/jobs';
import { answerWords, areaOfSheet, NOT_KNOWN, sheetUnit, toldTotal } from '@/core/views/sheetLines';
import { inFigures } from '@/core/views/shown';
import type { SheetDocument } from '@/core/views/sheet';
import { download } from './download';
import { faceFont, fontCuts, type Cuts, type Face } from './pdfFonts';

const SYMBOL = { n: 'N', p: 'P', k: 'K', s: 'S' } as const;
// The shipped latin cut of the face has no true minus; a hyphen reads the same on paper.
const signed = (v: number | null): string => (v === null ? '·' : String(v));
const right = (text: string | number, bold = false): TableCell => ({
  text: String(text),
  alignment: 'right',
  bold,
});
const ruled = {
  hLineWidth: (i: number, node: { table: { body: unknown[] } }) =>
    i === 1 ? 1 : i === node.table.body.length ? 0 : 0.3,
  vLineWidth: () => 0,
  hLineColor: () => '#8a7f6d',
  paddingLeft: () => 0,
  paddingRight: () => 4,
  paddingTop: () => 1,
  paddingBottom: () => 1,
};
const table = (widths: (string | number)[], body: TableCell[][]): Content => ({
  table: { headerRows: 1, widths, body },
  layout: ruled,
  margin: [0, 0, 0, 3],
});
const head = (text: string, alignment: 'left' | 'right' = 'left'): TableCell => ({
  text,
  bold: true,
  alignment,
});

function ledger(sheet: SheetDocument): Content {
  const rows = sheet.rows.map((r): TableCell[] => [
    {
      text: [
        r.label,
        { text: `  ${r.detail}${r.struck ? `; struck out: ${r.struck}` : ''}`, color: '#5f574c' },
      ],
      ...(r.struck ? { decoration: 'lineThrough' as const } : {}),
    },
    ...NUTRIENT_KEYS.map((x) => right(signed(r[x]))),
  ]);
  const totals = sheet.totals.map((t): TableCell[] => [
    { text: t.label.replace('−', '-'), bold: true },
    ...NUTRIENT_KEYS.map((x) => {
      const v = toldTotal(sheet, t, x);
      return right(
        typeof v === 'string' ? v : `${t.kind === 'balance' && v > 0 ? '+' : ''}${signed(v)}`,
        true,
      );
    }),
  ]);
  return table(
    ['*', 34, 34, 34, 34],
    [
      [head(sheetUnit(sheet)), ...NUTRIENT_KEYS.map((x) => head(SYMBOL[x], 'right'))],
      ...rows,
      ...totals,
    ],
  );
}

const STATE: Record<SheetJob['status'], string> = {
  planned: '',
  done: ', done',
  'may not go out': ', may not go out: counts nothing',
};
const faint = (text: string) => ({ text, color: '#5f574c', fontSize: 7 });
const jobs = (sheet: SheetDocument): Content =>
  table(
    [46, '*', 42, 48, 16, 16, 17, 16, 112, 24, 40, 8],
    [
      [
        head('When'),
        head('Job'),
        head('Rate', 'right'),
        head('Field', 'right'),
        ...NUTRIENT_KEYS.map((x) => head(SYMBOL[x], 'right')),
        { ...(head('How') as object), margin: [6, 0, 0, 0] } as TableCell,
        head(`Per ${sheet.area.unit}`, 'right'),
        head('Who'),
        head(''),
      ],
      ...sheet.jobs.map((j): TableCell[] => [
        {
          stack: [j.date ? dateInWords(j.date) : NOT_KNOWN, ...(j.stage ? [faint(j.stage)] : [])],
        },
        {
          text: [`${j.what}${STATE[j.status]}`, ...(j.analysis ? [faint(`  ${j.analysis}`)] : [])],
        },
        right(j.rate ? inFigures(j.rate) : ''),
        {
          stack: [
            right(j.total ? inFigures(j.total) : ''),
            ...(j.loads ? [{ ...faint(`${j.loads} loads`), alignment: 'right' as const }] : []),
          ] as Content[],
        },
        ...NUTRIENT_KEYS.map((x) => right(signed(j[x]))),
        {
          text: [
            j.how,
            ...(j.notIf && j.status === 'planned' ? [faint(`${j.how ? '; ' : ''}${j.notIf}`)] : []),
          ],
          margin: [6, 0, 0, 0],
        },
        right(j.cost === null ? '·' : j.cost.toFixed(0)),
        j.who ?? '',
        // A box to tick in the field.
        {
          canvas: [{ type: 'rect', x: 0, y: 1, w: 7, h: 7, lineWidth: 0.6 }],
        },
      ]),
      ...(sheet.jobs.length === 0
        ? [[{ text: 'Nothing planned yet.', colSpan: 12 }, ...Array.from({ length: 11 }, () => '')]]
        : []),
    ],
  );

type Margins = [number, number, number, number];
/** Papers that a sheet is printed on. */
type Paper = 'A4' | 'LETTER';
const paperOf = (url: string): Paper =>
  new URL(url).searchParams.get('paper')?.toUpperCase() === 'LETTER' ? 'LETTER' : 'A4';

function document(
  sheet: SheetDocument,
  standing: string,
  paper: Paper,
  cuts: Cuts,
): TDocumentDefinitions {
  return {
    info: { title: `${sheet.farm}, ${sheet.field}, ${sheet.season}` },
    language: 'en',
    tagged: true,
    displayTitle: true,
    pageSize: paper,
    pageMargins: [36, 24, 36, 30],
    defaultStyle: { font: faceFont('Hyperlegible'), fontSize: 8, lineHeight: 1.05 },
    styles: {
      title: { font: faceFont('Literata'), fontSize: 15, bold: true },
      part: { font: faceFont('Literata'), fontSize: 10.5, bold: true, margin: [0, 4, 0, 1] },
    },
    footer: (page: number, pages: number) => ({
      text: cuts.pieces(`Patient Furrow, ${standing}, page ${page} of ${pages}`, 'Hyperlegible'),
      alignment: 'center',
      fontSize: 7,
      color: '#5f574c',
      margin: [0, 8, 0, 0],
    }),
    content: [
      { text: `${sheet.farm}: ${sheet.field}, ${sheet.season}`, style: 'title' },
      {
        text: `${areaOfSheet(sheet)}, ${sheet.crop}. ${standing}; figures of ${dateInWords(sheet.asOf)}; ${sheetUnit(sheet)} of the element.`,
        margin: [0, 0, 0, 4],
      },
      { text: 'Jobs', style: 'part' },
      jobs(sheet),
      {
        text: `Fertiliser ${sheet.cost.fertiliser.toFixed(0)} for the field${sheet.cost.lime > 0 ? `, lime ${sheet.cost.lime.toFixed(0)}` : ''}${sheet.demoPrices ? ', at placeholder prices' : ''}.`,
      },
      { text: 'The sheet', style: 'part' },
      ledger(sheet),
      ...(sheet.unknown.length > 0
        ? [
            {
              text: [
                { text: 'Not known: ', bold: true },
                sheet.unknown.map((u) => `${u.label} (${u.usual})`).join('; '),
                '.',
              ],
              margin: [0, 1, 0, 0] as Margins,
            },
          ]
        : []),
      {
        columnGap: 16,
        columns: [
          {
            width: '42%',
            stack: [
              { text: 'This ground', style: 'part' },
              table(
                ['*', 'auto', 84],
                [
                  [head('Reading'), head('Value'), head('Class')],
                  ...sheet.ground.map((g): TableCell[] => [
                    g.label,
                    { text: g.value, noWrap: true },
                    g.cls,
                  ]),
                ],
              ),
              ...(sheet.limiting
                ? [{ text: `${sheet.limiting}. Repair it before more N.`, bold: true }]
                : []),
            ],
          },
          {
            width: '*',
            stack: [
              { text: 'Cautions', style: 'part' },
              sheet.cautions.length === 0
                ? 'None open.'
                : {
                    ul: sheet.cautions.map((c) => ({
                      text: [
                        { text: `${c.level === 'stop' ? 'Stop' : 'Caution'}. `, bold: true },
                        `${c.message} `,
                        { text: c.action, color: '#5f574c' },
                      ],
                    })),
                  },
              ...(sheet.smaller.length > 0
                ? [faint(`and ${sheet.smaller.length} smaller: see the back`)]
                : []),
            ],
          },
        ],
      },
      // Who signs has the page's figures before them: the reasons are the sheet's back.
      {
        unbreakable: true,
        stack: [
          {
            text: 'Book values unless said otherwise. This sheet gives agronomic guidance: local rules, closed periods, labels and licensed advisers decide. Keep spreaders away from ditches, wells and watercourses, and off frozen, snow-covered or saturated ground.',
            color: '#5f574c',
            margin: [0, 3, 0, 8],
          },
          {
            columns: [
              { text: 'Advisor: ______________________' },
              { text: 'Farmer: ______________________' },
              { text: 'Date: ______________' },
            ],
          },
        ],
      },
      { text: 'Reasons and sources for N', style: 'part', pageBreak: 'before' },
      {
        fontSize: 6.6,
        columns: [0, 1, 2].map((column) => ({
          stack: sheet.reasons
            .filter((_, i) => i % 3 === column)
            .map((r) => ({
              stack: [
                { text: `${r.label} (confidence ${r.confidence})`, bold: true, fontSize: 7.2 },
                ...r.text.map((t) => ({
                  text: t.trim(),
                  margin: [(t.match(/^ */)?.[0].length ?? 0) * 3, 0, 0, 0] as Margins,
                })),
              ],
              margin: [0, 0, 0, 3] as Margins,
            })),
        })),
        columnGap: 12,
      },
      ...(sheet.smaller.length + sheet.answered.length > 0
        ? [
            { text: 'Other cautions', style: 'part' },
            {
              ul: [
                ...sheet.answered.map((x) => `${x.message} ${answerWords(x)}`),
                ...sheet.smaller,
              ],
            },
          ]
        : []),
    ],
  };
}

/** Every text of a definition as pieces in the cuts that have its letters; styles keep their face. */
function inCuts(whole: TDocumentDefinitions, cuts: Cuts): TDocumentDefinitions {
  // A text may hold pieces; a cell or a paragraph that is a bare text becomes one that does.
  const walked = (node: unknown, face: Face, ofText = false): unknown => {
    if (typeof node === 'string') {
      const pieces = cuts.pieces(node, face);
      return typeof pieces === 'string' || ofText ? pieces : { text: pieces };
    }
    if (Array.isArray(node)) return node.map((x) => walked(x, face));
    if (node === null || typeof node !== 'object') return node;
    const own = 'style' in node && typeof node.style === 'string' ? 'Literata' : face;
    return Object.fromEntries(
      Object.entries(node).map(([k, v]) => [
        k,
        TEXT_KEYS.has(k) ? walked(v, own, k === 'text' && typeof v === 'string') : v,
      ]),
    );
  };
  const content = walked(whole.content, 'Hyperlegible') as Content[];
  const said =
    cuts.missing.size === 0
      ? []
      : [
          {
            text: `□: the fonts of this file have no ${[...cuts.missing].length === 1 ? 'sign' : 'signs'} for ${[...cuts.missing].length} letter${cuts.missing.size === 1 ? '' : 's'} of a name. Print the sheet from the browser to have them.`,
            color: '#b23a10',
          },
        ];
  return { ...whole, content: [...said, ...content] };
}
const TEXT_KEYS = new Set(['text', 'stack', 'columns', 'ul', 'table', 'body']);

/**
 * The plan sheet as a PDF. Fonts come from the shipped packages; the maker may read nothing else
 * and fetch nothing.
 */
async function written(
  sheet: SheetDocument,
  standing: string,
  paper: Paper,
): Promise<Uint8Array<ArrayBuffer>> {
  const cuts = fontCuts();
  pdfmake.setFonts(cuts.fonts);
  pdfmake.setLocalAccessPolicy((file: string) =>
    file.includes(`${path.sep}@fontsource${path.sep}`),
  );
  pdfmake.setUrlAccessPolicy(() => false);
  const whole = inCuts(document(sheet, standing, paper, cuts), cuts);
  return new Uint8Array(await pdfmake.createPdf(whole).getBuffer());
}

/** The plan sheet as a PDF that the browser shows. */
export const pdfResponse = (
  request: Request,
  sheet: SheetDocument,
  standing: string,
): Promise<Response> =>
  download(request, {
    name: `${sheet.farm}-${sheet.field}-${sheet.season}`,
    extension: 'pdf',
    type: 'application/pdf',
    says: JSON.stringify([sheet, standing, paperOf(request.url)]),
    body: () => written(sheet, standing, paperOf(request.url)),
    shown: 'inline',
  });
