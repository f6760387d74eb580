import { describe, expect, it } from 'vitest';
import { guessColumn, readLabRows, type LabMapping } from './labReport';

const mapping: LabMapping = { dateOrder: 'dmy', columns: { Field: { kind: 'field' }, Sample: { kind: 'label' }, Date: { kind: 'date' }, pH: { kind: 'ph_water' }, P: { kind: 'nutrient', nutrient: 'p', extractant: 'olsen', unit: 'mg_kg' }, K: { kind: 'nutrient', nutrient: 'k', extractant: 'ammonium_acetate', unit: 'mg_kg' } } };
const context = { fieldNames: ['Low Fleet', 'Kiln Field'], today: '2027-02-26', known: new Set<string>() };
const row = (cells: Partial<Record<'Field' | 'Sample' | 'Date' | 'pH' | 'P' | 'K', string>>, n = 2) => ({ row: n, cells: { Field: 'low fleet', Sample: 'a', Date: '24/02/2027', pH: '6,5', P: '13', K: '164', ...cells } });
const one = (cells: Parameters<typeof row>[0]) => readLabRows([row(cells)], mapping, context);
const reason = (cells: Parameters<typeof row>[0]) => one(cells).bad[0]?.problems[0];

describe('rows of a laboratory file', () => {
  it('reads decimal commas, day-first dates and the field by name', () => expect(one({}).good[0]).toMatchObject({ fieldName: 'Low Fleet', date: '2027-02-24', phWater: 6.5, readings: [{ nutrient: 'p', value: 13, unit: 'mg_kg' }, { nutrient: 'k', value: 164 }] }));
  it('takes half of a "less than" and marks it', () => expect(one({ P: '<5' }).good[0]?.readings[0]).toMatchObject({ value: 2.5, belowDetection: true }));
  it('a unit in the cell wins over the heading', () => expect(one({ P: '26 lb/ac' }).good[0]?.readings[0]).toMatchObject({ value: 26, unit: 'lb_ac' }));
  it('an empty cell is not known, never zero', () => expect(one({ P: '', K: 'n.d.' }).good[0]?.readings).toEqual([]));
  it.each([
    [{ pH: '65' }, 'pH', /65 is outside 2.5 to 11/], [{ K: '0,30 cmol/kg' }, 'K', /cmol\/kg is not recognised/], [{ Date: '31/02/2027' }, 'Date', /not a calendar date/], [{ Date: '' }, 'Date', /missing/], [{ Date: '01/03/2027' }, 'Date', /in the future/],
    [{ Field: 'Elsewhere' }, 'Field', /not a field of this farm/], [{ Field: '' }, 'Field', /missing/], [{ P: 'high' }, 'P', /not a number/], [{ P: '-4' }, 'P', /outside 0/], [{ P: '>200' }, 'P', /above the laboratory/], [{ K: '9000' }, 'K', /outside 0 to 5000/],
  ] as [Parameters<typeof row>[0], string, RegExp][])('%j is refused with column and reason', (cells, column, message) => {
    const p = reason(cells);
    expect(p?.column).toBe(column);
    expect(p?.reason).toMatch(message);
    expect(one(cells).good).toEqual([]);
  });
  it('lists every fault of a row, and the same sample twice is refused', () => {
    expect(one({ pH: '65', K: 'x' }).bad[0]?.problems).toHaveLength(2);
    const twice = readLabRows([row({}), row({}, 3)], mapping, context);
    expect([twice.good.length, twice.bad[0]?.row]).toEqual([1, 3]);
  });
  it('asks for the columns it cannot do without', () => expect(() => readLabRows([], { ...mapping, columns: { P: mapping.columns.P as never } }, context)).toThrow(/No column is mapped to the field/));
});

describe('headings', () => {
  it.each([['P Olsen (mg/kg)', { kind: 'nutrient', nutrient: 'p', extractant: 'olsen', unit: 'mg_kg' }], ['Potassium amm. acetate [ppm]', { kind: 'nutrient', nutrient: 'k', extractant: 'ammonium_acetate', unit: 'mg_kg' }], ['pH CaCl2', { kind: 'ph_cacl2' }], ['pH (H2O)', { kind: 'ph_water' }], ['Sampled', { kind: 'date' }], ['Sample no', { kind: 'label' }], ['P (mg/kg)', { kind: 'ignore' }], ['Sodium (mg/kg)', { kind: 'ignore' }]])('%s', (h, t) => expect(guessColumn(h)).toEqual(t));
});
