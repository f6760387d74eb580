import { refuse } from '../quantity/refusal';
import { within } from '../quantity/range';

/** What one weighs of a green manure: frames cut from the field, and a sub-sample dried. */
export interface Weighing {
  /** Fresh weight of each frame, g. */
  freshG: readonly number[];
  /** Ground of one frame, m2. */
  frameM2: number;
  /** Dry share of the sub-sample, %. */
  dryPct: number;
}

/**
 * Dry matter of a green manure from cut frames (chapter 7, W4.5: four frames of 0.25 m2), with the
 * spread of the frames.
 *
 * @param i.freshG fresh weight of each frame, g, 1 to 20 frames
 * @param i.frameM2 0.05 to 4 m2
 * @param i.dryPct 5 to 95 %
 * @throws Refusal naming the weight that is missing or cannot be
 * @example weighedDryMatter({ freshG: [700, 780, 760, 760], frameM2: 0.25, dryPct: 16 }).dmTHa // 4.8
 */
export function weighedDryMatter(i: Weighing): { dmTHa: number; sdTHa: number | null } {
  if (i.freshG.length === 0)
    refuse('missing', 'fresh_g', 'Fresh weights are missing: cut and weigh at least one frame.', {
      allowed: '1 to 20 frames',
    });
  i.freshG.forEach((g, k) =>
    within(`fresh_g[${k}]`, g, {
      label: 'Fresh weight of a frame',
      unit: 'g',
      min: 0,
      max: 50_000,
    }),
  );
  const frame = within('frame_m2', i.frameM2, {
    label: 'Ground of a frame',
    unit: 'm2',
    min: 0.05,
    max: 4,
  });
  const dry = within('dry_pct', i.dryPct, { label: 'Dry share', unit: '%', min: 5, max: 95 });
  // g/m2 x 0.01 is t/ha.
  const each = i.freshG.map((g) => (g / frame) * (dry / 100) * 0.01);
  const mean = each.reduce((s, x) => s + x, 0) / each.length;
  const sd =
    each.length < 2
      ? null
      : Math.sqrt(each.reduce((s, x) => s + (x - mean) ** 2, 0) / (each.length - 1));
  return { dmTHa: mean, sdTHa: sd };
}
