import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  discriminatingTests,
  features,
  hypotheses,
  priorModifiers,
  signaturesOf,
} from '../book/symptoms';
import { diagnose, nextTests, type Observed } from './diagnosis';

const featureIds = [...features().keys()];
const answers = fc
  .uniqueArray(fc.constantFrom(...featureIds), { maxLength: 12 })
  .chain((ids) =>
    fc
      .array(fc.boolean(), { minLength: ids.length, maxLength: ids.length })
      .map((yes) => Object.fromEntries(ids.map((id, k) => [id, yes[k] as boolean]))),
  );
const conditionIds = [...new Set(priorModifiers().map((m) => m.conditionId))];
const picture: Observed = {
  crop: 'maize',
  answers: { f_old_first: true, f_uniform_yellow: true, f_tip_v: true },
};
const chance = (o: Observed, id: string): number =>
  diagnose(o).ranked.find((r) => r.hypothesis.hypothesisId === id)?.p ?? NaN;

describe('causes of a picture', () => {
  it('chances add up to one, all causes are there, and the order is that of the chances', () =>
    fc.assert(
      fc.property(
        answers,
        fc.uniqueArray(fc.constantFrom(...conditionIds), { maxLength: 6 }),
        (given, conditions) => {
          const d = diagnose({ crop: 'wheat', answers: given, conditions });
          expect(d.ranked).toHaveLength(hypotheses().length);
          expect(d.ranked.reduce((s, r) => s + r.p, 0)).toBeCloseTo(1, 9);
          d.ranked.slice(1).forEach((r, k) => {
            expect(r.p).toBeLessThanOrEqual(d.ranked[k]?.p ?? 0);
          });
          for (const r of d.ranked)
            for (const e of r.evidence) expect(Number.isFinite(e.shift)).toBe(true);
        },
      ),
      { numRuns: 80 },
    ));
  it('what was not looked at is no no', () => {
    const with_ = chance(
      { ...picture, answers: { ...picture.answers, f_thin_spindly: false } },
      'N_def',
    );
    expect(with_).not.toBe(chance(picture, 'N_def'));
    expect(chance({ ...picture, answers: { ...picture.answers } }, 'N_def')).toBe(
      chance(picture, 'N_def'),
    );
  });
  it('the order in which questions are answered changes nothing', () => {
    const turned = Object.fromEntries(Object.entries(picture.answers).toReversed());
    expect(chance({ ...picture, answers: turned }, 'N_def')).toBeCloseTo(
      chance(picture, 'N_def'),
      12,
    );
  });
  it('many answers that overlap never count beyond the cap', () => {
    const all = Object.fromEntries(featureIds.map((f) => [f, true]));
    for (const r of diagnose({ crop: 'maize', answers: all }).ranked) {
      const by = r.evidence.find((e) => e.label.startsWith('features'));
      expect(Math.abs(by?.shift ?? 0)).toBeLessThanOrEqual(6);
    }
  });
  it('a leaf that is short raises its nutrient, one that has enough lowers it', () => {
    const leaf = (cls: 'deficient' | 'low' | 'sufficient') =>
      chance({ ...picture, tissue: { N: cls } }, 'N_def');
    expect(leaf('deficient')).toBeGreaterThan(leaf('low'));
    expect(leaf('low')).toBeGreaterThan(chance(picture, 'N_def'));
    expect(leaf('sufficient')).toBeLessThan(chance(picture, 'N_def'));
  });
  it('total iron that is enough hardly speaks against iron', () => {
    const yellow: Observed = {
      crop: 'soybean',
      answers: { f_young_first: true, f_iv_sharp: true },
    };
    const drop = (x: 'Fe' | 'Mn') =>
      Math.log(
        chance(yellow, `${x}_def`) /
          chance({ ...yellow, tissue: { [x]: 'sufficient' } }, `${x}_def`),
      );
    expect(drop('Fe')).toBeLessThan(drop('Mn'));
  });
  it('of several pictures of one cause the strongest counts alone', () => {
    const pictures = signaturesOf('apple').filter((s) => s.hypothesisId === 'B_def');
    const strongest = Math.max(...pictures.map((s) => s.logLrIfSeen ?? 0));
    const d = diagnose({
      crop: 'apple',
      answers: {},
      signatures: pictures.map((s) => s.featureId),
    });
    expect(
      d.ranked
        .find((r) => r.hypothesis.hypothesisId === 'B_def')
        ?.evidence.find((e) => e.label === 'signature')?.shift,
    ).toBe(strongest);
  });
  it('the pit-prone group reads the pictures of the apple', () => {
    const [one] = signaturesOf('apple');
    expect(() =>
      diagnose({ crop: 'apple_low_k_group', answers: {}, signatures: [one?.featureId ?? ''] }),
    ).not.toThrow();
  });
  it.each<[Partial<Observed>, string]>([
    [{ answers: { f_pink: true } }, 'answers'],
    [{ signatures: ['sig_beet_heart'] }, 'signatures'],
    [{ conditions: ['full_moon'] }, 'conditions'],
    [{ tests: { crystal_ball: 'yes' } }, 'tests'],
    [{ tests: { dig: 'gold' } }, 'tests.dig'],
  ])('%j is refused by its name', (part, field) =>
    expect(() => diagnose({ ...picture, ...part })).toThrow(
      expect.objectContaining({ detail: expect.objectContaining({ field }) as unknown }) as Error,
    ),
  );
});

describe('the next test', () => {
  it('tells something, never less than nothing, and never a test that is done', () =>
    fc.assert(
      fc.property(answers, (given) => {
        const d = diagnose({ crop: 'wheat', answers: given });
        const tests = nextTests(d, { legume: false, done: ['dig'] });
        expect(tests.map((t) => t.testId)).not.toContain('dig');
        expect(tests.map((t) => t.testId)).not.toContain('nodules');
        for (const t of tests) expect(t.information).toBeGreaterThanOrEqual(-1e-12);
      }),
      { numRuns: 50 },
    ));
  it('nodules are cut on legumes only', () =>
    expect(
      nextTests(diagnose({ crop: 'soybean', answers: {} }), { legume: true }).map((t) => t.testId),
    ).toContain('nodules'));
  it('its outcome moves the causes the way the table says', () => {
    const wheat: Observed = {
      crop: 'wheat',
      answers: { f_uniform_yellow: true, f_young_first: true, f_whole_pale: true },
    };
    const after = (outcome: string) =>
      chance({ ...wheat, tests: { sap_nitrate: outcome } }, 'S_def');
    expect(after('same')).toBeGreaterThan(chance(wheat, 'S_def'));
    expect(after('lower')).toBeLessThan(chance(wheat, 'S_def'));
  });
  it('chances of the outcomes of each test add up to one under every cause', () => {
    for (const [id, rows] of discriminatingTests())
      for (const h of new Set(rows.map((r) => r.hypothesisId)))
        expect(
          rows.filter((r) => r.hypothesisId === h).reduce((s, r) => s + r.pOutcomeGivenH, 0),
          `${id} ${h}`,
        ).toBeCloseTo(1, 3);
  });
});
