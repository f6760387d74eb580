import { describe, expect, it } from 'vitest';
import { guessColumn, readLabRows, type LabMapping } from './labReport';

const mapping: LabMapping = {
  dateOrder: 'dmy',
  columns: {
    Field: { kind: 'field' },
    Sample: { kind: 'label' },
    Date: { kind: 'date' },
    pH: { kind: 'ph_water' },
    P: { kind: 'nutrient', nutrient: 'p', extractant: 'olsen', unit: 'mg_kg' },
    K: { kind: 'nutrient', nutrient: 'k', extractant: 'ammonium_acetate', unit: 'mg_kg' },
  },
};
const context = {
  fieldNames: ['Low Fleet', 'Kiln Field'],
  today: '2027-02-26',
  known: new Set<string>(),
  points: new Map([['lf-03', { samplingPlanId: 'plan', label: 'LF-03', fieldName: 'Low Fleet' }]]),
};
const row = (
  cells: Partial<Record<'Field' | 'Sample' | 'Date' | 'pH' | 'P' | 'K', string>>,
  n = 2,
) => ({
  row: n,
  cells: {
    Field: 'low fleet',
    Sample: 'a',
    Date: '24/02/2027',
    pH: '6,5',
    P: '13',
    K: '164',
    ...cells,
  },
});
const one = (cells: Parameters<typeof row>[0]) => readLabRows([row(cells)], mapping, context);
const reason = (cells: Parameters<typeof row>[0]) => one(cells).bad[0]?.problems[0];

describe('rows of a laboratory file', () => {
  it('reads decimal commas, day-first dates and the field by name', () =>
    expect(one({}).good[0]).toMatchObject({
      fieldName: 'Low Fleet',
      date: '2027-02-24',
      phWater: 6.5,
      readings: [
        { nutrient: 'p', value: 13, unit: 'mg_kg' },
        { nutrient: 'k', value: 164 },
      ],
    }));
  it('takes half of a "less than" and marks it', () =>
    expect(one({ P: '<5' }).good[0]?.readings[0]).toMatchObject({
      value: 2.5,
      belowDetection: true,
    }));
  it('a unit in the cell wins over the heading', () =>
    expect(one({ P: '26 lb/ac' }).good[0]?.readings[0]).toMatchObject({
      value: 26,
      unit: 'lb_ac',
    }));
  it('an empty cell is not known, never zero', () =>
    expect(one({ P: '', K: 'n.d.' }).good[0]?.readings).toEqual([]));
  it.each([
    [{ pH: '65' }, 'pH', /65 is outside 2.5 to 11/],
    [{ K: '0,30 cmol/kg' }, 'K', /cmol\/kg is not recognised/],
    [{ Date: '31/02/2027' }, 'Date', /not a calendar date/],
    [{ Date: '' }, 'Date', /missing/],
    [{ Date: '01/03/2027' }, 'Date', /in the future/],
    [{ Field: 'Elsewhere' }, 'Field', /not a field of this farm/],
    [{ Field: '' }, 'Field', /missing/],
    [{ P: 'high' }, 'P', /not a number/],
    [{ P: '-4' }, 'P', /outside 0/],
    [{ P: '>200' }, 'P', /above the laboratory/],
    [{ K: '9000' }, 'K', /outside 0 to 5000/],
  ] as [Parameters<typeof row>[0], string, RegExp][])(
    '%j is refused with column and reason',
    (cells, column, message) => {
      const p = reason(cells);
      expect(p?.column).toBe(column);
      expect(p?.reason).toMatch(message);
      expect(one(cells).good).toEqual([]);
    },
  );
  it('lists every fault of a row, and the same sample twice is refused', () => {
    expect(one({ pH: '65', K: 'x' }).bad[0]?.problems).toHaveLength(2);
    const twice = readLabRows([row({}), row({}, 3)], mapping, context);
    expect([twice.good.length, twice.bad[0]?.row]).toEqual([1, 3]);
  });
  it('asks for the columns it cannot do without', () =>
    expect(() =>
      readLabRows([], { ...mapping, columns: { P: mapping.columns.P as never } }, context),
    ).toThrow(/No column is mapped to the field/));
  const more: LabMapping = {
    ...mapping,
    columns: {
      ...mapping.columns,
      Depth: { kind: 'depth_cm' },
      Cores: { kind: 'cores' },
      Buffer: { kind: 'buffer_smp' },
      OM: { kind: 'om_pct' },
      CEC: { kind: 'cec_cmol_kg' },
      Al: { kind: 'al_cmol_kg' },
    },
  };
  const layer = (cells: Record<string, string>) =>
    readLabRows([{ row: 2, cells: { ...row({}).cells, ...cells } }], more, context);
  it('reads layers, the kind of buffer and what belongs to the soil', () => {
    expect(
      layer({ Depth: '20-40 cm', Cores: '12', Buffer: '6.5', OM: '2,6', CEC: '19', Al: '0.4' })
        .good[0],
    ).toMatchObject({
      depthFromCm: 20,
      depthCm: 40,
      nCores: 12,
      bufferKind: 'smp',
      bufferPh: 6.5,
      omPct: 2.6,
      cecCmolKg: 19,
      alCmolKg: 0.4,
    });
    expect(layer({ Depth: '15' }).good[0]).toMatchObject({
      depthFromCm: 0,
      depthCm: 15,
      bufferKind: null,
    });
  });
  it.each([
    [{ Depth: '40-20' }, 'Depth', /ends above/],
    [{ Depth: 'deep' }, 'Depth', /not a depth/],
    [{ Depth: '0-300' }, 'Depth', /outside 2 to 120/],
    [{ Buffer: '4.2' }, 'Buffer', /more than 2 below/],
    [{ Cores: '0' }, 'Cores', /outside 1/],
    [{ OM: '150' }, 'OM', /outside/],
  ])('%j is refused with column and reason', (cells, column, message) =>
    expect(layer(cells).bad[0]?.problems[0]).toMatchObject({
      column,
      reason: expect.stringMatching(message),
    }),
  );
  it('knows the field of a bag by its label, also with the layer behind it', () => {
    expect(one({ Field: '', Sample: 'lf-03' }).good[0]).toMatchObject({
      fieldName: 'Low Fleet',
      point: { samplingPlanId: 'plan', label: 'LF-03' },
    });
    expect(one({ Sample: 'LF-03/20-40' }).good[0]?.point?.label).toBe('LF-03');
    expect(
      one({ Field: 'Kiln Field', Sample: 'LF-03' }).good[0]?.point,
      'a bag of another field is not its point',
    ).toBeNull();
    const withoutField = Object.fromEntries(
      Object.entries(mapping.columns).filter(([column]) => column !== 'Field'),
    );
    expect(
      readLabRows([row({ Sample: 'LF-03' })], { ...mapping, columns: withoutField }, context)
        .good[0]?.fieldName,
    ).toBe('Low Fleet');
    expect(
      readLabRows([row({ Sample: 'X-1' })], { ...mapping, columns: withoutField }, context).bad[0]
        ?.problems[0]?.column,
    ).toBe('Sample');
  });
  it('the same bag in two depths is two samples', () =>
    expect(
      readLabRows(
        [
          { row: 2, cells: { ...row({}).cells, Depth: '0-20' } },
          { row: 3, cells: { ...row({}).cells, Depth: '20-40' } },
        ],
        more,
        context,
      ).good,
    ).toHaveLength(2));
});

describe('headings', () => {
  it.each([
    ['P Olsen (mg/kg)', { kind: 'nutrient', nutrient: 'p', extractant: 'olsen', unit: 'mg_kg' }],
    [
      'Potassium amm. acetate [ppm]',
      { kind: 'nutrient', nutrient: 'k', extractant: 'ammonium_acetate', unit: 'mg_kg' },
    ],
    ['pH CaCl2', { kind: 'ph_cacl2' }],
    ['pH (H2O)', { kind: 'ph_water' }],
    ['Sampled', { kind: 'date' }],
    ['Sample no', { kind: 'label' }],
    ['P (mg/kg)', { kind: 'ignore' }],
    ['Buffer pH SMP', { kind: 'buffer_smp' }],
    ['Buffer pH', { kind: 'ignore' }],
    ['Organic matter (%)', { kind: 'om_pct' }],
    ['CEC (cmol/kg)', { kind: 'cec_cmol_kg' }],
    [
      'Ca ammonium acetate (mg/kg)',
      { kind: 'nutrient', nutrient: 'ca', extractant: 'ammonium_acetate', unit: 'mg_kg' },
    ],
    ['Sodium (mg/kg)', { kind: 'ignore' }],
  ])('%s', (h, t) => expect(guessColumn(h)).toEqual(t));
});
