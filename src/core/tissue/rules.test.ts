import { inWords } from '../why/said';
import { describe, expect, it } from 'vitest';
import { judge } from '../rules/rule';
import {
  leafReadingRules,
  leafSampleRules,
  type LeafReadingFacts,
  type LeafSampleFacts,
} from './rules';

const sample: LeafSampleFacts = {
  how: 'inside',
  window: 'BBCH 35-39',
  nOrgans: 40,
  minCount: 30,
  areaHa: 3,
  perennial: false,
  flags: [],
  daysSinceSpray: null,
  short: [],
  missing: [],
  Al: null,
  Fe: null,
};
const ids = (facts: Partial<LeafSampleFacts>) =>
  judge(leafSampleRules, { ...sample, ...facts }).map((w) => w.id);

describe('rules of a leaf sample', () => {
  it('say nothing about a good sample', () => expect(ids({})).toEqual([]));
  it.each<[string, Partial<LeafSampleFacts>, Partial<LeafSampleFacts>]>([
    ['R02', { how: 'near_edge' }, { how: 'interpolated' }],
    ['R03', { nOrgans: 29 }, { nOrgans: 30 }],
    ['R03', { nOrgans: 1 }, { nOrgans: null }],
    ['R04', { areaHa: 8.1 }, { areaHa: 8 }],
    ['R04', { areaHa: 4.1, perennial: true }, { areaHa: 4, perennial: true }],
    ['R05', { flags: [['soil_dust', 'stop', 'Fe']] }, { flags: [['soil_dust', 'caution', 'Fe']] }],
    ['R06', { flags: [['soil_dust', 'caution', 'Fe']] }, {}],
    ['R07', { flags: [['spray_residue_declared', 'caution', 'Mn']], daysSinceSpray: 6 }, {}],
    ['R08', { flags: [['spray_residue_suspected', 'caution', 'Cu']] }, {}],
    ['R09', { flags: [['tap_water', 'caution', 'Ca']] }, {}],
    ['R14', { missing: ['P'] }, {}],
    ['R21', { short: ['Mg', 'B'] }, { short: ['Mg'] }],
    ['R22', { short: ['N', 'P', 'K', 'S', 'Ca', 'Mg', 'B', 'Zn'] }, { short: ['N', 'P'] }],
  ])('%s fires at its bound and not before it', (id, at, before) => {
    expect(ids(at)).toContain(id);
    expect(ids(before)).not.toContain(id);
  });
  it('names every sprayed element once', () =>
    expect(
      inWords(
        judge(leafSampleRules, {
          ...sample,
          daysSinceSpray: 6,
          flags: [
            ['spray_residue_declared', 'caution', 'Mn'],
            ['spray_residue_declared', 'caution', 'Zn'],
          ],
        })[0]?.message ?? '',
      ),
    ).toBe('Mn, Zn was sprayed 6 days ago: residue hides the plant.'));
  it('does not claim a figure that was not measured', () =>
    expect(
      inWords(
        judge(leafSampleRules, { ...sample, flags: [['soil_dust', 'stop', 'Fe']], Fe: 900 })[0]
          ?.message ?? '',
      ),
    ).toContain('Al not measured, Fe 900'));
});

const unit = (result: 'ok' | 'caution' | 'stop', suggest: string | null = null) => ({
  result,
  suggest,
  valueCore: 4.2,
  suggestValue: null,
});
const reading: LeafReadingFacts = {
  nutrient: 'N',
  cls: 'sufficient',
  p: 0.1,
  unit: unit('ok'),
  typed: '4.2 %',
  decimal: null,
  weakStandard: false,
  legume: false,
};
const read = (facts: Partial<LeafReadingFacts>) =>
  judge(leafReadingRules, { ...reading, ...facts }).map((w) => w.id);

describe('rules of a leaf value', () => {
  it('say nothing about a sufficient value', () => expect(read({})).toEqual([]));
  it.each<[string, Partial<LeafReadingFacts>, Partial<LeafReadingFacts>]>([
    ['R10', { unit: unit('stop', 'g/kg') }, { unit: unit('caution', 'g/kg') }],
    ['R11', { unit: unit('caution', 'g/kg') }, {}],
    ['R12', { decimal: 4.2 }, { decimal: 4.2, unit: unit('stop') }],
    ['R15', { legume: true, cls: 'low' }, { legume: true, cls: 'low', nutrient: 'K' }],
    ['R17', { cls: 'deficient', p: 0.75 }, { cls: 'deficient', p: 0.74 }],
    ['R18', { cls: 'low' }, { cls: 'marginal' }],
    ['R19', { cls: 'toxic_risk' }, { cls: 'high' }],
    ['R45', { weakStandard: true, cls: 'low' }, { weakStandard: true, cls: 'ample' }],
  ])('%s fires at its bound and not before it', (id, at, before) => {
    expect(read(at)).toContain(id);
    expect(read(before)).not.toContain(id);
  });
});
