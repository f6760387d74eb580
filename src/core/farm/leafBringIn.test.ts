import { describe, expect, it } from 'vitest';
import { PRINTED } from '../book/book';
import { leafRowsOf, type LeafFileRow } from '../laboratory/leafFile';
import { readLaboratory } from '../laboratory/readLaboratory';
import type { OtherReport } from '../laboratory/samples';
import { leafBringIn, MOST_OF_FIELD, type LeafField } from './leafBringIn';

const field = (more: Partial<LeafField> = {}): LeafField => ({
  name: 'Long Field',
  areaHa: 6,
  seasons: [{ startDate: '2026-10-01', cropKey: 'sugar_beet', use: null }],
  known: [],
  ...more,
});
let made = 0;
const bring = (
  rows: readonly LeafFileRow[],
  fields: readonly LeafField[] = [field()],
  answers: Record<string, string> = {},
) =>
  leafBringIn(PRINTED, rows, fields, {
    today: '2027-07-01',
    answers,
    newId: () => `new-${(made += 1)}`,
  });
const row = (more: Partial<LeafFileRow> = {}): LeafFileRow => ({
  row: 2,
  name: 'A1',
  label: 'A1',
  field: 'Long Field',
  crop: 'sugar beet',
  date: '2027-06-24',
  bbch: 37,
  part: 'blade',
  role: 'survey',
  values: [
    { nutrient: 'N', reported: '4.6', unit: '%' },
    { nutrient: 'K', reported: '3.4', unit: '%' },
  ],
  notFound: [],
  ...more,
});

describe('leaves of a laboratory’s file', () => {
  it('a good one comes in, for the crop of its field on its day', () => {
    const { good, left, questions } = bring([row()]);
    expect([left, questions]).toEqual([[], []]);
    expect(good[0]).toMatchObject({
      fieldName: 'Long Field',
      cropKey: 'sugar_beet',
      fills: null,
      sample: { laboratoryNumber: 'A1', bbch: 37 },
    });
  });
  it('one of a crop without ranges comes in too, its part asked among all parts of plants', () => {
    const spinach = field({
      seasons: [{ startDate: '2026-10-01', cropKey: 'spinach', use: null }],
    });
    const asked = bring([row({ part: null, bbch: 45 })], [spinach]);
    expect(asked.good).toEqual([]);
    const [question] = asked.questions;
    expect(question?.choices.map((c) => c.answer)).toContain('wrapper_leaf');
    const { good, left } = bring([row({ part: null, bbch: 45 })], [spinach], {
      [question?.key ?? '']: 'wrapper_leaf',
    });
    expect(left).toEqual([]);
    expect(good[0]).toMatchObject({
      cropKey: 'spinach',
      assessment: { standard: null, order: [] },
    });
  });
  it.each<[Partial<LeafFileRow>, Partial<LeafField>, RegExp]>([
    [{ field: 'Nowhere' }, {}, /Nowhere is not a field of this farm: Long Field/u],
    [{ date: null }, {}, /day of sampling is missing/u],
    [{ date: '2028-01-01' }, {}, /lies in the future/u],
    [{ date: '2026-01-01' }, {}, /has no crop for 2026-01-01/u],
    [{}, { seasons: [{ startDate: '2026-10-01', cropKey: null, use: null }] }, /has no crop/u],
    [{ bbch: null }, {}, /growth stage is missing/u],
    [{ bbch: 120 }, {}, /0/u],
    [{ bbch: 12 }, {}, /outside every window/u],
    [{ values: [] }, {}, /no value that can be read/u],
    [{ values: [{ nutrient: 'N', reported: 'n.d.', unit: '%' }] }, {}, /not a number/u],
    [
      {},
      { known: [{ id: 'x', date: '2027-06-24', part: 'blade', label: 'A1', waits: false }] },
      /here already/u,
    ],
    [
      {},
      {
        known: Array.from({ length: MOST_OF_FIELD }, (_, k) => ({
          id: `k${k}`,
          date: '2026-11-01',
          part: 'petiole',
          label: null,
          waits: false,
        })),
      },
      /take old ones away/u,
    ],
  ])('%j of %j stays out and says why', (more, of, why) => {
    const { good, left } = bring([row(more)], [field(of)]);
    expect(good).toEqual([]);
    expect(left[0]?.reasons.join(' ')).toMatch(why);
  });
  it('a bad row never keeps a good one out', () => {
    const { good, left } = bring([row({ row: 2, bbch: 12 }), row({ row: 3, label: 'A2' })]);
    expect([good.map((g) => g.row), left.map((l) => l.row)]).toEqual([[3], [2]]);
  });
  it('a number that stands twice in the file comes in once', () => {
    const { good, left } = bring([row({ row: 2 }), row({ row: 3 })]);
    expect(good.map((g) => g.row)).toEqual([2]);
    expect(left[0]?.reasons[0]).toContain('stands twice');
  });
  it('a sample that waits gets its values, by its number', () => {
    const known = [{ id: 'waits', date: '2027-06-23', part: 'blade', label: 'A1', waits: true }];
    expect(bring([row()], [field({ known })]).good[0]?.fills).toBe('waits');
  });
  it('words of a part that are not ours are asked once, and the answer is remembered for all', () => {
    const rows = [row({ part: 'lamina' }), row({ row: 3, label: 'A2', part: 'lamina' })];
    const asked = bring(rows);
    expect(asked.good).toEqual([]);
    expect(asked.questions).toHaveLength(1);
    expect(asked.questions[0]?.choices.map((c) => c.answer)).toEqual(['petiole', 'blade']);
    const key = asked.questions[0]?.key ?? '';
    expect(bring(rows, undefined, { [key]: 'blade' }).good).toHaveLength(2);
  });
  it('a unit that does not fit is asked; as written it is shown and not counted', () => {
    const rows = [row({ values: [{ nutrient: 'Mn', reported: '0.006', unit: 'mg/kg' }] })];
    const { questions, good } = bring(rows);
    expect(good).toEqual([]);
    expect(questions[0]).toMatchObject({ key: 'meant:2:Mn', about: 'value' });
    const taken = bring(rows, undefined, { 'meant:2:Mn': '0.006 %' });
    expect(taken.good[0]?.sample.values).toEqual([
      { nutrient: 'Mn', reported: '0.006', unit: '%' },
    ]);
    const kept = bring(rows, undefined, { 'meant:2:Mn': 'as_written' });
    expect(kept.good[0]?.assessment.results[0]?.blocked).toBe(true);
  });
  it('more than a leaf can hold in all is not believed', () => {
    const values = ['N', 'K', 'Ca'].map((nutrient) => ({ nutrient, reported: '7.9', unit: '%' }));
    const { left, questions } = bring([row({ values })]);
    // What looks like another unit is asked first.
    const answers = Object.fromEntries(questions.map((q) => [q.key, 'as_written']));
    const again = questions.length > 0 ? bring([row({ values })], undefined, answers) : { left };
    expect(again.left.length + questions.length).toBeGreaterThan(0);
  });
  it('a row a sample and a row a result read the same', async () => {
    const wide =
      'Sample,Field,Part,BBCH,Date,N %,Mn mg/kg\nA1,Long Field,blade,37,2027-06-24,4.6,60\n';
    const long =
      'Sample,Field,Part,BBCH,Date,Nutrient,Result,Unit\nA1,Long Field,blade,37,2027-06-24,N,4.6,%\nA1,Long Field,blade,37,2027-06-24,Mn,60,mg/kg\n';
    const of = async (text: string) => {
      const report = await readLaboratory(new TextEncoder().encode(text), {
        kind: 'leaf',
        fields: null,
        answers: {},
        sheet: null,
      });
      return bring(leafRowsOf(report.samples as OtherReport[])).good.map((g) => g.sample.values);
    };
    const [one, other] = [await of(wide), await of(long)];
    expect(one).toHaveLength(1);
    expect(other).toEqual(one);
  });
});
