import type { TrueGround } from './simulatedLaboratory';
import { DEMO_FARMS } from './scenario';

/** How far the ground swings across the fields where the scenario wants a pattern to be seen. */
const SWING: Record<string, Partial<TrueGround>> = {
  'Low Fleet': { phSwing: 0.75, pSwing: 0.45 },
  'Yard Piece': { pSwing: 0.6, phSwing: 0.3 },
  Sheepwalk: { phSwing: 0.5, pSwing: 0.4, kSwing: 0.35 },
};

/**
 * The ground that the simulated laboratory finds under a demo field; null for a field it does not
 * know.
 */
export function trueGround(fieldName: string): TrueGround | null {
  for (const farm of DEMO_FARMS) {
    const found = farm.fields.find((f) => f.field.name === fieldName);
    const plan = found?.seasons.find((s) => s.ground.phWater !== null);
    if (!found || !plan) continue;
    const of = (x: string, otherwise: number) =>
      plan.ground.readings.find((r) => r.nutrient === x)?.value ?? otherwise;
    const cec = found.field.cecCmolKg ?? 14;
    return {
      ph: plan.ground.phWater as number,
      p: of('p', 14),
      k: of('k', 140),
      mg: of('mg', 70),
      ca: of('ca', cec * 120),
      omPct: found.field.omPct ?? 2.8,
      cec,
      phSwing: 0.3,
      pSwing: 0.3,
      kSwing: 0.2,
      ...SWING[fieldName],
    };
  }
  return null;
}
