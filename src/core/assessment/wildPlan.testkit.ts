import fc from 'fast-check';
import { legume, pass, spread } from '../../demo/build';
import { DEMO_FARMS } from '../../demo/scenario';
import { PRINTED } from '../book/book';
import { crops } from '../book/crops';
import { fertilisers, placements } from '../book/fertilisers';
import { legumes } from '../book/legumes';
import { limeMaterials } from '../book/limes';
import { materials, spreadingMethods } from '../book/organicMaterials';
import type { Plan } from '../document/document';
import { blankLime } from '../lines/lime';
import { dateAfter } from '../quantity/calendar';
import { num } from './anyPlan.testkit';

// Plans far from the demo's: any crop on any ground, with dates, leaves, prices and dressings that
// nobody checked. What holds here holds for what people really enter.

/** Every season of the demo, by field and season. */
export const DEMO_PLANS: [string, Plan][] = DEMO_FARMS.flatMap((f) =>
  f.fields.flatMap((x) => x.seasons.map((p): [string, Plan] => [`${x.key} ${p.season.label}`, p])),
);
const maybe = <T>(of: fc.Arbitrary<T>) => fc.option(of, { freq: 3 });
const oneOf = <T>(list: readonly T[]) => fc.constantFrom(...list);
const products = fertilisers(PRINTED).map((p) => p.productId);
const goods = materials(PRINTED).map((m) => m.key);
const methods = spreadingMethods().map((m) => m.methodKey);
const places = placements().map((p) => p.placementId);
const stands = [...new Set(legumes().map((l) => l.legumeKey))];

const GROUND = fc.record({
  ph: maybe(num(3.6, 8.8)),
  al: maybe(num(0, 6)),
  p: maybe(num(0, 180)),
  k: maybe(num(0, 700)),
  age: fc.integer({ min: 0, max: 5000 }),
  nitrate: maybe(num(0, 60)),
  nitrateAge: fc.integer({ min: 0, max: 240 }),
  om: maybe(num(0, 20)),
  texture: oneOf(['sand', 'loam', 'silt_loam', 'clay', 'organic_peat']),
  fixes: oneOf(['none', 'none', 'p', 'k'] as const),
});
const FIELD = fc.record({
  areaHa: num(0.1, 300),
  tillage: maybe(oneOf(['ploughed', 'mixed', 'no_till', 'grass'] as const)),
  tenure: oneOf(['owned', 'yearly_lease', 'lease_3_to_7_years'] as const),
  certification: oneOf(['none', 'none', 'in_conversion', 'organic'] as const),
  slopePct: maybe(num(0, 40)),
});
const SEASON = fc.record({
  crop: maybe(oneOf(crops(PRINTED).map((c) => c.key))),
  goal: num(0.1, 1.6),
  shift: fc.integer({ min: -40, max: 40 }),
  noHarvest: fc.boolean(),
  legumeShare: maybe(num(0, 1)),
  winterDrainageMm: num(0, 400),
  price: maybe(num(1, 900)),
  today: fc.integer({ min: -200, max: 260 }),
  n: oneOf([null, 'yield_goal', 'economic_optimum', 'index_ceiling'] as const),
  pk: oneOf([null, 'replacement', 'sufficiency', 'build_maintain', 'replacement_index'] as const),
  legalNCapKgHa: maybe(num(0, 250)),
});
const PASSES = fc.array(
  fc.record({
    productId: oneOf(products),
    kg: num(0, 600),
    placementId: oneOf(places),
    day: fc.integer({ min: -60, max: 330 }),
    done: fc.boolean(),
  }),
  { maxLength: 4 },
);
const DRESSINGS = fc.array(
  fc.record({
    materialKey: oneOf(goods),
    rate: num(0, 45),
    methodKey: oneOf(methods),
    day: fc.integer({ min: -200, max: 300 }),
    done: fc.boolean(),
    areaFrac: oneOf([1, 1, 0.6]),
  }),
  { maxLength: 3 },
);
const PREVIOUS = maybe(
  fc.record({
    legumeKey: oneOf(stands),
    standClass: oneOf(['good', 'fair', 'poor'] as const),
    kill: maybe(fc.integer({ min: -220, max: 40 })),
    removedFracTops: maybe(num(0, 1)),
  }),
);

/** A season of the demo with nearly everything of it changed. */
export const WILD: fc.Arbitrary<Plan> = fc
  .record({
    from: oneOf(DEMO_PLANS),
    ground: GROUND,
    field: FIELD,
    season: SEASON,
    passes: PASSES,
    dressings: DRESSINGS,
    previous: PREVIOUS,
    leaf: num(0.3, 2.2),
    lime: maybe(oneOf(limeMaterials(PRINTED).map((l) => l.key))),
  })
  .map(({ from: [, plan], ground: g, field: f, season: s, ...x }): Plan => {
    const planting = plan.season.plantingDate ?? plan.season.startDate;
    const moved = (day: string | null, by: number) => day && dateAfter(day, by);
    const key = s.crop ?? plan.season.cropKey;
    const crop = crops(PRINTED).find((c) => c.key === key);
    const changed: Plan = {
      ...plan,
      asOf: dateAfter(planting, s.today),
      farm: { ...plan.farm, legalNCapKgHa: s.legalNCapKgHa },
      field: { ...plan.field, ...f, omPct: g.om, soilTextureId: g.texture, fixes: g.fixes },
      season: {
        ...plan.season,
        cropKey: key,
        yieldGoalTHa: crop ? crop.yieldTypicalTHa * s.goal : null,
        plantingYear: crop && crop.nBaseKgHa > 0 ? 6 : null,
        plantingDate: moved(plan.season.plantingDate, s.shift),
        harvestDate: s.noHarvest ? null : moved(plan.season.harvestDate, s.shift),
        cuts: [],
        legumeShare: s.legumeShare,
        winterDrainageMm: s.winterDrainageMm,
        cropPricePerT: s.price,
      },
      schools: { ...plan.schools, n: s.n, pk: s.pk },
      ground: {
        ...plan.ground,
        sampleDate: dateAfter(planting, -g.age),
        phWater: g.ph,
        phCacl2: null,
        alCmolKg: g.al,
        readings: [
          ...(g.p === null ? [] : [{ nutrient: 'p' as const, extractant: 'olsen', value: g.p }]),
          ...(g.k === null
            ? []
            : [{ nutrient: 'k' as const, extractant: 'ammonium_acetate', value: g.k }]),
        ].map((r) => ({ ...r, unit: 'mg_kg' as const, belowDetection: false })),
        nitrateSampleDate: g.nitrate === null ? null : dateAfter(planting, -g.nitrateAge),
        nitrateLayers:
          g.nitrate === null
            ? []
            : [
                {
                  topCm: 0,
                  bottomCm: 60,
                  no3nMgKg: g.nitrate,
                  bulkDensityGCm3: null,
                  stonesVolFrac: null,
                },
              ],
      },
      previous:
        x.previous === null
          ? plan.previous
          : legume({
              legumeKey: x.previous.legumeKey,
              standClass: x.previous.standClass,
              removedFracTops: x.previous.removedFracTops,
              killDate: x.previous.kill === null ? null : dateAfter(planting, x.previous.kill),
            }),
      leaves: plan.leaves.map((l) => ({
        ...l,
        values: l.values.map((v) => ({
          ...v,
          reported: Number.isNaN(Number(v.reported))
            ? v.reported
            : String(Number((Number(v.reported) * x.leaf).toPrecision(3))),
        })),
      })),
      passes: x.passes.map((p, i) =>
        pass(`p${i}`, dateAfter(planting, p.day), p.productId, p.kg, p.placementId, {
          status: p.done ? 'done' : 'planned',
        }),
      ),
      organics: x.dressings.map((d, i) =>
        spread(`d${i}`, {
          date: dateAfter(planting, d.day),
          materialKey: d.materialKey,
          rate: d.rate,
          methodKey: d.methodKey,
          areaFrac: d.areaFrac,
          status: d.done ? 'done' : 'planned',
        }),
      ),
      jobs: [],
      answers: [],
      struck: [],
      left: [],
      assumed: [],
    };
    if (x.lime === null) return { ...changed, lime: null };
    const lime = blankLime(changed);
    return {
      ...changed,
      lime: {
        ...lime,
        chosenId: 'lime-1',
        candidates: lime.candidates.map((c) =>
          c.id === 'lime-1' ? { ...c, materialKey: x.lime as string } : c,
        ),
      },
    };
  });
