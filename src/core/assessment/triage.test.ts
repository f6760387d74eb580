import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEMO_FARMS } from '../../demo/scenario';
import { PRINTED } from '../book/book';
import type { CautionAnswer } from '../document/answerDocument';
import type { Plan } from '../document/document';
import { inWords } from '../why/said';
import { PLAN } from './anyPlan.testkit';
import { assess } from './assess';
import { openCautions, triage } from './triage';

const demo = DEMO_FARMS.flatMap((f) => f.fields.flatMap((x) => x.seasons));
const named = (field: string): Plan => {
  const found = demo.find((p) => p.field.name === field && p.season.label === '2026/27');
  if (!found) throw new Error(field);
  return found;
};
const cautionsOf = (p: Plan) => assess(PRINTED, p).cautions;
const answer = (caution: string, part: Partial<CautionAnswer> = {}): CautionAnswer => ({
  caution,
  state: 'accepted',
  words: 'agreed with the farmer',
  by: 'Ines Calloway',
  on: '2027-02-26',
  until: null,
  kgHa: null,
  ...part,
});

describe('one triage for all cautions (chapter 7, W7)', () => {
  it('tells a cause once, by the rule that says it best, and keeps what else was looked at', () => {
    const found = cautionsOf(named('Currant Rows'));
    const p = found.find((c) => c.key === 'p_surplus');
    expect(p?.warning.id).toBe('R04');
    expect(p?.also.map((w) => w.id)).toEqual(['R10', 'R15', 'R16']);
    expect(found.filter((c) => c.also.length > 0 || c.key === 'p_surplus')).toHaveLength(2);
  });
  it('puts stops first, then what costs most, and leaves three cautions open', () => {
    const found = cautionsOf(named('Bay Four'));
    expect(found[0]).toMatchObject({ level: 'stop', key: 'interval (stop)', shown: true });
    const shown = found.filter((c) => c.shown && c.level === 'caution');
    expect(shown).toHaveLength(3);
    const money = found.filter((c) => c.level === 'caution').map((c) => c.money ?? 0);
    expect(money).toEqual(money.toSorted((a, b) => b - a));
  });
  it('says each where it can be put right', () => {
    const at = Object.fromEntries(
      [named('Low Fleet'), named('Kiln Field'), named('Rookery')].flatMap((p) =>
        cautionsOf(p).map((c) => [c.key, c.station]),
      ),
    );
    expect(at).toMatchObject({
      'ph (stop)': 'ground',
      s_short: 'supply',
      legume: 'crop',
      p_surplus: 'budget',
      'budget N-30 (stop)': 'supply',
      'budget Y-01': 'crop',
    });
  });
  it('makes a note of what is too little to matter, and of what is too late', () => {
    const [w] = assess(PRINTED, named('Upper Strip')).warnings.filter((x) => x.id === 'S-01');
    if (!w || typeof w.message === 'string') throw new Error('no shortage');
    const { text, fill } = w.message;
    const at = (kg: number, on?: string) =>
      triage(named('Upper Strip'), [
        {
          ...w,
          message: { text, fill: Object.fromEntries(Object.keys(fill).map((k) => [k, kg])) },
          ...(on ? { on } : {}),
        },
      ])[0];
    expect(at(30)?.level).toBe('caution');
    expect(at(4)?.level).toBe('note');
    expect(at(30, '2027-01-01')?.level).toBe('note');
  });
  it('an accepted caution stays accepted, and comes back when its kilograms move', () => {
    const plan = named('Low Fleet');
    const { stake } = cautionsOf(plan).find((c) => c.key === 'n_surplus') ?? {};
    const state = (kgHa: number) =>
      cautionsOf({ ...plan, answers: [answer('n_surplus', { kgHa })] }).find(
        (c) => c.key === 'n_surplus',
      )?.state;
    expect(state(stake?.kgHa ?? NaN)).toBe('accepted');
    expect(state((stake?.kgHa ?? NaN) + 9)).toBe('accepted');
    expect(state((stake?.kgHa ?? NaN) + 25)).toBe('open');
  });
  it('a caution that is put off comes back on its day', () => {
    const plan = named('Low Fleet');
    const put = answer('s_short', { state: 'postponed', words: null, until: '2027-03-10' });
    const state = (asOf: string) =>
      cautionsOf({ ...plan, asOf, answers: [put] }).find((c) => c.key === 's_short')?.state;
    expect([state('2027-02-26'), state('2027-03-09'), state('2027-03-10')]).toEqual([
      'postponed',
      'postponed',
      'open',
    ]);
  });
  it('what food and law ask for can only be put right', () => {
    const plan = named('Bay Four');
    const found = cautionsOf({ ...plan, answers: [answer('interval (stop)')] }).find(
      (c) => c.key === 'interval (stop)',
    );
    expect(found).toMatchObject({ mayAccept: false, state: 'open', shown: true });
  });
  it('quotes no reading of a sample that is too old', () => {
    const found = cautionsOf(named('Brook Meadow')).filter((c) => c.station === 'ground');
    expect(found.map((c) => c.warning.id)).toEqual(['R08']);
  });
  it('W9-38: every caution has its place, no two one cause, three open at most', () => {
    const holds = (p: Plan) => {
      const found = cautionsOf(p);
      expect(new Set(found.map((c) => c.key)).size).toBe(found.length);
      expect(found.filter((c) => c.shown && c.level === 'caution').length).toBeLessThanOrEqual(3);
      for (const c of found) {
        expect(['ground', 'crop', 'budget', 'supply', 'season']).toContain(c.station);
        expect(inWords(c.warning.message)).not.toMatch(/\{|NaN|undefined/);
      }
    };
    for (const p of demo) holds(p);
    fc.assert(fc.property(PLAN, holds), { numRuns: 200 });
  });
  it('counts few on the good fields of the demo', () => {
    for (const field of ['Terrace Short', 'Terrace Long', 'Sheepwalk', 'Pear Wall', 'Hazel Dell'])
      expect(openCautions(cautionsOf(named(field))).length, field).toBeLessThanOrEqual(3);
  });
  it('a stop for water, law or food is never accepted, whatever was answered before', () => {
    const plan = named('Yard Piece');
    const found = cautionsOf({
      ...plan,
      answers: [answer('p_surplus'), answer('p_surplus (stop)')],
    }).find((c) => c.warning.id === 'R01');
    expect(found).toMatchObject({ level: 'stop', mayAccept: false, state: 'open', shown: true });
  });
  it('an answer to a caution does not silence the stop that it becomes', () => {
    const plan = named('Low Fleet');
    const ph = (answered: string) =>
      cautionsOf({ ...plan, answers: [answer(answered)] }).find((c) => c.station === 'ground');
    expect(ph('ph')).toMatchObject({ level: 'stop', state: 'open' });
    expect(ph('ph (stop)')).toMatchObject({ level: 'stop', state: 'accepted' });
  });
  it('copper is no nitrogen, and one dressing behind does not close what is ahead', () => {
    const w = (on: string, text: string) => ({
      module: 'organics',
      id: 'S13',
      level: 'caution' as const,
      message: { text, fill: { kg: 6 } },
      action: '',
      on,
    });
    const plan = named('Low Fleet');
    expect(triage(plan, [w('2027-03-10', 'Copper {kg} kg/ha a year.')])[0]).toMatchObject({
      level: 'caution',
      stake: null,
    });
    const both = triage(plan, [
      w('2026-11-01', 'Copper {kg} kg/ha a year.'),
      w('2027-03-10', 'Copper {kg} kg/ha a year.'),
    ])[0];
    expect(both).toMatchObject({ level: 'caution', by: '2027-03-10' });
  });
});
