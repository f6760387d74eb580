import path from 'node:path';
import pdfmake from 'pdfmake';
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces';
import { dateInWords } from '@/core/quantity/calendar';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import { areaOfSheet, toldTotal } from '@/core/views/sheetLines';
import type { SheetDocument } from '@/core/views/sheet';
import { download } from './download';

const font = (family: string, weight: number) =>
  path.join(
    process.cwd(),
    'node_modules/@fontsource',
    family,
    'files',
    `${family}-latin-${weight}-normal.woff`,
  );
const face = (family: string) => ({
  normal: font(family, 400),
  bold: font(family, 700),
  italics: font(family, 400),
  bolditalics: font(family, 700),
});

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
    [[head('kg/ha'), ...NUTRIENT_KEYS.map((x) => head(SYMBOL[x], 'right'))], ...rows, ...totals],
  );
}

const planned = (sheet: SheetDocument): Content =>
  table(
    [86, '*', 44, 44, 22, 22, 22, 22, 140],
    [
      [
        head('When'),
        head('What'),
        head('Per ha', 'right'),
        head('Field', 'right'),
        ...NUTRIENT_KEYS.map((x) => head(SYMBOL[x], 'right')),
        { ...(head('How') as object), margin: [6, 0, 0, 0] } as TableCell,
      ],
      ...sheet.organics.map((o): TableCell[] => [
        dateInWords(o.date),
        o.material,
        right(o.rate),
        '',
        right(o.n),
        '',
        '',
        '',
        { text: o.detail, margin: [6, 0, 0, 0] },
      ]),
      ...sheet.passes.map((p): TableCell[] => [
        `${dateInWords(p.date)} ${p.stage}`,
        p.product,
        right(`${p.rateKgHa} kg`),
        right(`${p.totalKg} kg`),
        right(p.n),
        right(p.p),
        right(p.k),
        right(p.s),
        { text: p.placement, margin: [6, 0, 0, 0] },
      ]),
    ],
  );

/** Papers that a sheet is printed on. */
type Paper = 'A4' | 'LETTER';
const paperOf = (url: string): Paper =>
  new URL(url).searchParams.get('paper')?.toUpperCase() === 'LETTER' ? 'LETTER' : 'A4';

function document(sheet: SheetDocument, standing: string, paper: Paper): TDocumentDefinitions {
  return {
    info: { title: `${sheet.farm}, ${sheet.field}, ${sheet.season}` },
    language: 'en',
    tagged: true,
    displayTitle: true,
    pageSize: paper,
    pageMargins: [36, 24, 36, 30],
    defaultStyle: { font: 'Hyperlegible', fontSize: 8, lineHeight: 1.05 },
    styles: {
      title: { font: 'Literata', fontSize: 15, bold: true },
      part: { font: 'Literata', fontSize: 10.5, bold: true, margin: [0, 4, 0, 1] },
    },
    footer: (page: number, pages: number) => ({
      text: `Patient Furrow, ${standing}, page ${page} of ${pages}`,
      alignment: 'center',
      fontSize: 7,
      color: '#5f574c',
      margin: [0, 8, 0, 0],
    }),
    content: [
      { text: `${sheet.farm}: ${sheet.field}, ${sheet.season}`, style: 'title' },
      {
        text: `${areaOfSheet(sheet)} ha, ${sheet.crop}. ${standing}; figures of ${dateInWords(sheet.asOf)}; kg/ha of the element.`,
        margin: [0, 0, 0, 4],
      },
      { text: 'The sheet', style: 'part' },
      ledger(sheet),
      { text: 'What goes on', style: 'part' },
      planned(sheet),
      {
        text: `Fertiliser ${sheet.costPerHa.toFixed(0)} per ha, ${(sheet.costPerHa * sheet.areaHa).toFixed(0)} for the field${sheet.demoPrices ? ', at placeholder prices' : ''}.`,
      },
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
                ? 'None.'
                : {
                    ul: sheet.cautions.map((c) => ({
                      text: [
                        { text: `${c.level === 'stop' ? 'Stop' : 'Caution'}. `, bold: true },
                        `${c.message} `,
                        { text: c.action, color: '#5f574c' },
                      ],
                    })),
                  },
            ],
          },
        ],
      },
      { text: 'Reasons and sources for N', style: 'part' },
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
                  margin: [(t.match(/^ */)?.[0].length ?? 0) * 3, 0, 0, 0] as [
                    number,
                    number,
                    number,
                    number,
                  ],
                })),
              ],
              margin: [0, 0, 0, 3] as [number, number, number, number],
            })),
        })),
        columnGap: 12,
      },
      // Who signs has the page's figures before them: the lines never stand on a page alone.
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
    ],
  };
}

/**
 * The plan sheet as a PDF. Fonts come from the shipped packages; the maker may read nothing else
 * and fetch nothing.
 */
async function written(
  sheet: SheetDocument,
  standing: string,
  paper: Paper,
): Promise<Uint8Array<ArrayBuffer>> {
  pdfmake.setFonts({
    Hyperlegible: face('atkinson-hyperlegible-next'),
    Literata: face('literata'),
  });
  pdfmake.setLocalAccessPolicy((file: string) =>
    file.includes(`${path.sep}@fontsource${path.sep}`),
  );
  pdfmake.setUrlAccessPolicy(() => false);
  return new Uint8Array(await pdfmake.createPdf(document(sheet, standing, paper)).getBuffer());
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
