import { inWords } from '../why/said';
import { PRINTED } from '../book/book';
import { describe, expect, it } from 'vitest';
import { fertiliserOf } from '../book/fertilisers';
import { judge } from '../rules/rule';
import { passRules, type PassFacts } from './rules';

const stop = (level: 'ok' | 'info' | 'caution' | 'stop') => ({
  lastBbch: '31',
  level,
  harm: 'malting protein',
});
/** 60 kg N as calcium ammonium nitrate to wheat at BBCH 30. */
const quiet: PassFacts = {
  product: fertiliserOf(PRINTED, 'can_27'),
  nKgHa: 60,
  leftOnSurface: true,
  autumn: false,
  afterHarvest: null,
  leafAbove: null,
  pastRunDown: null,
  winterDrainageMm: 140,
  splitClass: 'medium',
  maxDoseKgHa: 120,
  warnAboveKgHa: 90,
  stop: stop('ok'),
  stageBbch: '30',
  cropName: 'Winter wheat',
  cereal: true,
  maize: false,
  mainDressing: true,
  shareOfPlan: 0.6,
  beforeSowing: false,
  seedRow: null,
  closedPeriod: null,
  chlorideSensitive: false,
  chlorideKgHa: 0,
  certified: false,
};
/** Beside the seed: so much of what is borne. */
const beside = (
  ratio: number,
  ureaOnLight = false,
  forbidden: string[] = [],
): PassFacts['seedRow'] => ({
  limit: {
    sbuFrac: 0.1,
    allowedKgHa: 20,
    allowedLbAc: 17.8,
    loadKgHa: 20 * ratio,
    ratio,
    forbidden,
    level: 'ok',
  },
  ureaOnLight,
});
const ids = (facts: Partial<PassFacts>) =>
  judge(passRules, { ...quiet, ...facts }).map((w) => w.id);

describe('rules of a fertiliser pass', () => {
  it('say nothing about a good pass', () => expect(ids({}).filter((x) => x !== 'H03')).toEqual([]));
  it.each<[string, Partial<PassFacts>, Partial<PassFacts>]>([
    ['N01', { autumn: true, winterDrainageMm: 51 }, { autumn: true, winterDrainageMm: 50 }],
    [
      'N02',
      { autumn: true, product: fertiliserOf(PRINTED, 'urea_46') },
      { product: fertiliserOf(PRINTED, 'urea_46') },
    ],
    ['S01', { seedRow: beside(1.01) }, { seedRow: beside(1) }],
    ['S02', { seedRow: beside(0.81) }, { seedRow: beside(0.8) }],
    [
      'S03',
      { seedRow: beside(0.1, true), product: fertiliserOf(PRINTED, 'urea_46') },
      { seedRow: beside(0.1, true) },
    ],
    ['S04', { seedRow: beside(0.1, false, ['can_27']) }, { seedRow: beside(0.1) }],
    ['N05', { nKgHa: 121 }, { nKgHa: 120 }],
    ['N04', { nKgHa: 91 }, { nKgHa: 90 }],
    ['N04', { nKgHa: 120 }, { nKgHa: 121 }],
    ['N06', { stop: stop('stop') }, { stop: stop('stop'), nKgHa: 0 }],
    ['N07', { stop: stop('caution') }, { stop: stop('info') }],
    ['N08', { stageBbch: '33' }, { stageBbch: '32' }],
    ['N08', { stageBbch: '37' }, { stageBbch: '37', mainDressing: false }],
    [
      'N10',
      { maize: true, cereal: false, splitClass: 'light', stageBbch: '12' },
      { maize: true, cereal: false, splitClass: 'light', stageBbch: '15' },
    ],
    [
      'A01',
      { product: fertiliserOf(PRINTED, 'urea_46') },
      { product: fertiliserOf(PRINTED, 'urea_46'), leftOnSurface: false },
    ],
    [
      'A01',
      { product: fertiliserOf(PRINTED, 'urea_46'), nKgHa: 15 },
      { product: fertiliserOf(PRINTED, 'urea_46_ui') },
    ],
    ['W01', { closedPeriod: { from: '10-15', to: '01-31' } }, { closedPeriod: null }],
    [
      'C05',
      { chlorideSensitive: true, chlorideKgHa: 61, product: fertiliserOf(PRINTED, 'kcl_60') },
      { chlorideSensitive: true, chlorideKgHa: 60, product: fertiliserOf(PRINTED, 'kcl_60') },
    ],
    ['O01', { certified: true }, { certified: true, product: fertiliserOf(PRINTED, 'kieserite') }],
  ])('%s fires at its bound and not before it', (id, at, before) => {
    expect(ids(at)).toContain(id);
    expect(ids(before)).not.toContain(id);
  });
  it('are never quiet about anhydrous ammonia', () => {
    const [first] = judge(passRules, {
      ...quiet,
      product: fertiliserOf(PRINTED, 'anhydrous_ammonia_82'),
    });
    expect(first).toMatchObject({ id: 'H01', level: 'stop' });
    expect(first?.action).toMatch(/water at hand/);
  });
  it('count only the nitrate part in autumn', () => {
    expect(
      inWords(
        judge(passRules, { ...quiet, autumn: true }).find((w) => w.id === 'N01')?.message ?? '',
      ),
    ).toMatch(/^30 kg nitrate-N/);
  });
  it('leave no gap in a message', () => {
    for (const w of judge(passRules, {
      ...quiet,
      nKgHa: 200,
      stop: stop('stop'),
      closedPeriod: { from: '10-15', to: '01-31' },
      certified: true,
      autumn: true,
    }))
      expect(inWords(w.message)).not.toMatch(/[{}]|undefined|NaN/);
  });
});
