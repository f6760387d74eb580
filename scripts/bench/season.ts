// The season simulator: 30 weather years, 3 plans, 300 days, 12 layers, warm. The aim is 100 ms on
// a machine of the class this was written on; the whole outlook of a plan, with its bands, stands
// beside it.
import { assessSeason } from '../../src/core/assessment/assess';
import { bookOf, PRINTED } from '../../src/core/book/book';
import { climateOf } from '../../src/core/book/stages';
import { DEMO_FARMS } from '../../src/demo/scenario';
import { waterOf } from '../../src/core/season/events';
import { newState } from '../../src/core/season/nitrogen';
import { outlookOf } from '../../src/core/season/outlook';
import type { SeasonEvent } from '../../src/core/season/record';
import { fieldOf, layOut, newLaidOut, planOf, runPlan } from '../../src/core/season/run';
import { generateWeather } from '../../src/core/season/weather';
import { at, clock } from './clock';

/** The middle of fifteen runs after five that warm it up, ms. */
const best = (call: () => unknown): number => {
  clock(5, call);
  return at(clock(15, call), 0.5);
};

const START = '2025-04-01';
const [YEARS, DAYS] = [30, 300];

export function season(): void {
  const field = fieldOf({
    startDate: START,
    latitudeDeg: 42,
    soil: {
      textureId: 'silt_loam',
      omPct: 3,
      cecCmolcKg: 18,
      drainageClass: 'moderate',
      residueCoverFrac: 0.3,
      no3InitKgHa: [{ fromCm: 0, toCm: 60, kgHa: 40 }],
    },
    crop: { cropId: 'maize', sowDate: '2025-04-28', uTotalKgHa: 220 },
  });
  const spread = (
    date: string,
    productId: string,
    placementId: string,
    nKgHa: number,
  ): SeasonEvent => ({ type: 'fertilise', date, productId, placementId, nKgHa });
  const plans = [
    [spread('2025-04-20', 'urea_46', 'broadcast_incorporated', 150)],
    [
      spread('2025-04-28', 'uan_28', 'starter_5x5', 30),
      spread('2025-06-08', 'uan_28', 'coulter_injection_shallow', 120),
    ],
    [
      spread('2025-04-28', 'urea_46', 'broadcast_surface', 30),
      spread('2025-06-08', 'urea_46', 'broadcast_surface', 120),
    ],
  ].map((events) => planOf(PRINTED, field, events));
  const climate = climateOf('continental_humid_42n');
  const weather = (year: number) =>
    generateWeather({ climate, start: START, days: DAYS, latitudeDeg: 42, seed: 2025, year });
  const years = Array.from({ length: YEARS }, (_, y) => weather(y));
  const laid = newLaidOut(field, DAYS);
  const state = newState(field.site.layers);
  const dry = waterOf([], DAYS);
  const all = best(() => {
    for (const w of years) {
      layOut(field, w, dry, laid);
      for (const events of plans) runPlan(field, events, laid, state);
    }
  });
  const water = best(() => {
    for (const w of years) layOut(field, w, dry, laid);
  });
  const making = best(() => {
    for (let y = 0; y < YEARS; y++) weather(y);
  });
  const plan = DEMO_FARMS.flatMap((f) => f.fields).find((x) => x.key === 'low-fleet')?.seasons[0];
  if (!plan) throw new Error('The demo has no low field.');
  const book = bookOf(plan.farm.library);
  const s = assessSeason(book, plan);
  const outlook = best(() => outlookOf(book, s.plan, s.assessment, s.calendar));
  console.log(
    `season: ${YEARS} years x ${plans.length} plans x ${DAYS} days x ${field.site.layers} layers in ${all.toFixed(0)} ms ` +
      `(water ${((100 * water) / all).toFixed(0)} % of it), ${((YEARS * plans.length * 1000) / all).toFixed(0)} years a second; ` +
      `making the weather ${making.toFixed(0)} ms; the outlook of a plan with its bands ${outlook.toFixed(0)} ms`,
  );
}
