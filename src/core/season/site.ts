import { bottomLimitOf, soilOf } from '../book/soils';
import { clip } from '../quantity/curve';
import { within, type Range } from '../quantity/range';
import type { SimParams } from './params';
import type { MineralN, SoilRecord } from './record';

// The ground of a run, layer by layer of 10 cm (chapter 4, section 7, Start).

export const LAYER_CM = 10;
/** Below this the subsoil begins, cm. */
const TOPSOIL_CM = 30;

export interface Site {
  layers: number;
  /** Middle of each layer, cm. */
  depth: Float64Array;
  /** mm a layer. */
  wilting: Float64Array;
  capacity: Float64Array;
  saturation: Float64Array;
  drainCoef: Float64Array;
  /** The most that leaves a layer downward in a day, mm. */
  mostOut: Float64Array;
  nh4Mobile: Float64Array;
  /** N of the soil's organic matter, kg/ha. */
  somN: Float64Array;
  kSom: Float64Array;
  /** How much carbon feeds denitrification. */
  carbon: Float64Array;
  curveNumber: number;
  residue: number;
  ph: number;
  fCec: number;
  initWaterFrac: number;
}

const range = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const given = (field: string, value: number | null | undefined, usual: number, r: Range): number =>
  value == null ? usual : within(field, value, r);

/** The layers of a soil, with every figure in its range. */
export function siteOf(p: SimParams, soil: SoilRecord): Site {
  const top = soilOf(soil.textureId);
  const sub = soil.subsoilTextureId ? soilOf(soil.subsoilTextureId) : top;
  const n = Math.round(p.nLayers);
  const layer = (of: (i: number, z: number, s: typeof top) => number): Float64Array =>
    Float64Array.from({ length: n }, (_, i) => {
      const z = LAYER_CM * (i + 0.5);
      return of(i, z, z > TOPSOIL_CM ? sub : top);
    });
  const om = within('soil.om_pct', soil.omPct, range('Organic matter, 0-30 cm', '%', 0, 60));
  const omAt = (z: number) => om * (z < TOPSOIL_CM ? 1 : Math.exp(-(z - TOPSOIL_CM) / p.somFoldCm));
  const cec = given(
    'soil.cec_cmolc_kg',
    soil.cecCmolcKg,
    top.cecDefaultCmolcKg,
    range('CEC', 'cmolc/kg', 1, 80),
  );
  const bottom = bottomLimitOf(soil.drainageClass ?? 'well');
  const share = range('Share', '', 0, 1);
  return {
    layers: n,
    depth: layer((_, z) => z),
    wilting: layer((_i, _z, s) => s.wiltingPointVolPct),
    capacity: layer((_i, _z, s) => s.fieldCapacityVolPct),
    saturation: layer((_i, _z, s) => s.saturationVolPct),
    drainCoef: layer((_i, _z, s) => s.drainCoefD),
    mostOut: layer((i, _z, s) => (i === n - 1 ? Math.min(24 * s.ksatMmH, bottom) : 24 * s.ksatMmH)),
    nh4Mobile: layer((_i, _z, s) => s.nh4MobileFrac),
    somN: layer((_i, z, s) => ((omAt(z) / 100) * s.bulkDensityTM3 * 1e6 * p.somCFrac) / p.somCToN),
    kSom: layer((_i, z, s) => p.kSomD * s.somRateFactor * (z < TOPSOIL_CM ? 1 : p.somSubFactor)),
    carbon: layer((_i, z) => clip(omAt(z) / 2.5, 0.2, 1.5)),
    curveNumber:
      soil.runoff === false
        ? 0
        : given(
            'soil.curve_number',
            soil.curveNumber,
            top.curveNumber,
            range('Curve number', '', 0, 100),
          ),
    residue: given('soil.residue_cover_frac', soil.residueCoverFrac, 0, {
      ...share,
      label: 'Residue cover',
    }),
    ph: given('soil.ph', soil.ph, 6.5, range('pH', '', 3.5, 9.5)),
    fCec: clip(Math.exp(-p.volCecSlope * (cec - 15)), 0.6, 1.4),
    initWaterFrac: given(
      'soil.init_water_frac',
      soil.initWaterFrac,
      1,
      range('Water at the start', '', 0, 1.2),
    ),
  };
}

/** Share of a span of depth that lies in each layer; all in the first where it has no thickness. */
export function overLayers(layers: number, fromCm: number, toCm: number): Float64Array {
  const shares = new Float64Array(layers);
  if (toCm <= fromCm) {
    shares[0] = 1;
    return shares;
  }
  for (let i = 0; i < layers; i++) {
    const [top, bottom] = [LAYER_CM * i, LAYER_CM * (i + 1)];
    shares[i] = Math.max(0, Math.min(toCm, bottom) - Math.max(fromCm, top)) / (toCm - fromCm);
  }
  return shares;
}
/** Mineral N of the layers at the start; what is listed below the last layer is left out. */
export function startingN(
  layers: number,
  field: string,
  list: readonly MineralN[] | null | undefined,
): { kgHa: Float64Array; droppedKgHa: number } {
  const kgHa = new Float64Array(layers);
  let listed = 0;
  (list ?? []).forEach((m, k) => {
    const kg = within(`${field}[${k}].kg_ha`, m.kgHa, range('Mineral N', 'kg/ha', 0, 1000));
    const shares = overLayers(layers, m.fromCm, m.toCm);
    for (let i = 0; i < layers; i++) kgHa[i] = (kgHa[i] as number) + kg * (shares[i] as number);
    listed += kg;
  });
  return { kgHa, droppedKgHa: listed - kgHa.reduce((a, b) => a + b, 0) };
}
