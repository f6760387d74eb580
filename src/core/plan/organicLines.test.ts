import { describe, expect, it } from 'vitest';
import { releaseFraction } from '../organics/release';
import { assess } from './assess';
import { thermalTime, seasonCalendar } from './calendar';
import { dayOf } from './days';
import { spread } from './demo/build';
import { kestrelTerrace } from './demo/kestrelTerrace';
import { terraceShortWorked } from './demo/terraceShortWorked';
import type { Plan } from './document';
import { BLANK_DAY } from './organicDefaults';

const of = (plan: Plan) => { const a = assess(plan); const own = a.organics[0]; if (!own) throw new Error(a.problems.map((p) => p.message).join(' ')); return own; };
const one = (o: Parameters<typeof spread>[1], plan: Plan = terraceShortWorked()): Plan => ({ ...plan, organics: [spread('d', o)] });
const sheep = { date: '2027-03-05', materialKey: 'sheep_bedded', rate: 10, methodKey: 'solid_broadcast' };

describe('what a dressing brings to this crop', () => {
  it('a crop that has done with N within 100 days sees organic N by thermal time only (chapter 2, 4.3)', () => {
    const celery = kestrelTerrace.fields.find((f) => f.key === 'bay-four')?.seasons[0] as Plan;
    const late = one({ ...sheep, date: '2027-06-20', materialKey: 'compost_green_waste', methodKey: 'compost_broadcast' }, celery);
    const calendar = seasonCalendar(late);
    if (!calendar) throw new Error('no season');
    const tt = thermalTime(calendar, dayOf(calendar, '2027-06-20'), calendar.uptakeEnd);
    expect(calendar.uptakeEnd - dayOf(calendar, '2027-06-20')).toBeLessThan(100);
    expect(of(late).pan.y1Eff).toBeCloseTo(releaseFraction({ klass: 'compost_green', tt }), 9);
    // Beet has the whole season before it: the year's share stands.
    expect(of(one({ ...sheep, materialKey: 'compost_green_waste', methodKey: 'compost_broadcast' })).pan.y1Eff).toBeGreaterThan(of(late).pan.y1Eff);
  });
  it('an inhibitor in cool soil keeps more of an autumn dressing, in warm soil it does not', () => {
    const autumn = (day: Plan['organics'][number]['day']) => of(one({ date: '2026-11-05', materialKey: 'dairy_slurry_medium', rate: 30, rateUnit: 'm3_ha', methodKey: 'injection_closed', day })).mineralKgHa;
    const plain = autumn(null);
    expect(autumn({ ...BLANK_DAY, inhibitor: true, soilTempC: 8 })).toBeGreaterThan(plain);
    expect(autumn({ ...BLANK_DAY, inhibitor: true, soilTempC: 12 })).toBeCloseTo(plain, 9);
    expect(autumn({ ...BLANK_DAY, soilTempC: 8 })).toBeCloseTo(plain, 9);
  });
  it('where a farm reckons by one share, the share counts and the two pools stay in the reason', () => {
    const plan = one(sheep);
    const flat = of({ ...plan, farm: { ...plan.farm, manureNSharePct: 25 } });
    expect(flat.nKgHa).toBeCloseTo(10 * flat.analysis.totalNKgT * 0.25, 9);
    expect(flat.pan.why).toMatchObject({ school: 'one share of total N', note: expect.stringContaining('By two pools it would be') });
  });
  it('a meal left on top for three days loses some of its N; worked in, it does not', () => {
    const meal = (coverings: Plan['organics'][number]['coverings']) => of(one({ date: '2027-03-05', materialKey: 'blood_meal', rate: 1, methodKey: 'pellet_surface', coverings })).pan.y1Eff;
    expect(meal([]) / meal([{ kind: 'disc_or_cultivator_10_15_cm', hours: 4 }])).toBeCloseTo(0.85, 9);
    expect(meal([{ kind: 'disc_or_cultivator_10_15_cm', hours: 73 }])).toBeCloseTo(meal([]), 9);
  });
  it('after the harvest it belongs to the next crop', () => {
    expect(assess(one({ ...sheep, date: '2027-11-10' })).problems[0]).toMatchObject({ field: 'date', value: '2027-11-10', allowed: 'up to 2027-10-20', message: expect.stringContaining('give it to the next crop') });
  });
});
