import { SOIL_UNITS } from '../facts/soilSample';
import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import type { SoilClass } from '../book/crops';
import {
  extractantName,
  nutrientSymbol,
  soilTestLevels,
  type SoilTestLevel,
} from '../book/soilTests';
import { entered, fromTable, step, type Step } from '../why/step';

export type SoilUnit = (typeof SOIL_UNITS)[number];

export interface ClassifyInput {
  nutrient: string;
  extractant: string;
  value: number;
  unit: string;
  ph?: number | null;
  cecCmolKg?: number | null;
  cropGroup?: string | null;
  omPct?: number | null;
  scheme?: string | null;
  /** Of a layer told in mg/kg whose class is of kg/ha (chloride). */
  depthCm?: number | null;
  bulkDensityGCm3?: number | null;
}
export type KnownClass = Exclude<SoilClass, 'unknown'>;
export interface Classified {
  cls: KnownClass;
  /** Four-step index: 1 definite response, 2 likely, 3 unlikely but worth holding, 4 none. */
  index: 1 | 2 | 3 | 4;
  /** Lower limits of low, medium, high, very high. */
  limits: [number, number, number, number];
  value: number;
  unit: string;
  scheme: string;
  /** Assumptions that were made; shown beside the class. */
  assumed: string[];
  why: Step;
}

const CLASSES: readonly KnownClass[] = ['very_low', 'low', 'medium', 'high', 'very_high'];
const MAX_TEST: Record<string, number> = { p: 2000, k: 5000, mg: 5000, ca: 60000 };
const SCOOP_DENSITY_KG_L = 1.15;

const fitsSoil = (row: SoilTestLevel, cec: number | null | undefined): boolean => {
  if (row.soilQualifier === 'cec<7') return cec != null && cec < 7;
  if (row.soilQualifier === 'cec>25') return cec != null && cec > 25;
  // CEC missing: the middle row, marked "assumed" (4.1 step 5).
  if (row.soilQualifier === '7<=cec<=25') return cec == null || (cec >= 7 && cec <= 25);
  return true;
};

function chooseRow(i: ClassifyInput, unit: SoilUnit): SoilTestLevel {
  const rows = soilTestLevels().filter(
    (r) => r.nutrient === i.nutrient && r.extractant === i.extractant,
  );
  if (rows.length === 0) {
    const known = [
      ...new Set(
        soilTestLevels()
          .filter((r) => r.nutrient === i.nutrient)
          .map((r) => r.extractant),
      ),
    ];
    refuse(
      'unknown_id',
      'extractant',
      `extractant is ${i.extractant}: no class. No calibration for ${i.nutrient} by ${i.extractant}; enter your laboratory's own limits or ask for ${known.join(', ') || 'another test'}.`,
      {
        value: i.extractant,
        allowed: known.join(', '),
        rule: 'R04',
      },
    );
  }
  if (i.scheme)
    return (
      rows.find((r) => r.scheme === i.scheme && fitsSoil(r, i.cecCmolKg)) ??
      refuse(
        'unknown_id',
        'scheme',
        `No scheme ${i.scheme} for ${i.nutrient} by ${i.extractant}.`,
        { value: i.scheme },
      )
    );
  const fitting = rows.filter((r) => fitsSoil(r, i.cecCmolKg));
  const basis = unit === 'mg_l' ? 'mg_l' : 'mg_kg';
  const sameBasis = fitting.filter((r) => r.unit === basis);
  const pool = sameBasis.length > 0 ? sameBasis : fitting;
  const word = i.cropGroup?.split('_')[0] ?? '';
  const grass = i.cropGroup?.includes('grass') ?? false;
  return (
    pool.find(
      (r) =>
        r.scheme === 'high_demand_crops' &&
        word !== '' &&
        r.cropQualifier.split('_').includes(word),
    ) ??
    pool.find((r) => r.scheme === 'default') ??
    pool.find((r) => r.scheme.endsWith(grass ? '_grass' : '_tillage')) ??
    pool[0] ??
    refuse(
      'unknown_id',
      'extractant',
      `No calibration for ${i.nutrient} by ${i.extractant} on this soil.`,
      { value: i.extractant, rule: 'R04' },
    )
  );
}

const PROFILE_CM = 60;
const KG_HA_PER_LB_AC = 1.12085;
/** Chloride is classed by what 0-60 cm hold: a content needs its depth and density. */
function chlorideKgHa(i: ClassifyInput, unit: SoilUnit, assumed: string[]): number {
  if (unit === 'kg_ha') return i.value;
  if (unit === 'lb_ac') return i.value * KG_HA_PER_LB_AC;
  if (unit === 'mg_l')
    refuse(
      'inconsistent',
      'unit',
      'unit mg_l: chloride is classed in kg/ha of 0-60 cm; enter kg/ha, lb/ac, or mg/kg with depth and density.',
      { value: unit, allowed: 'kg_ha, lb_ac, mg_kg', rule: 'R04' },
    );
  const depth = i.depthCm ?? null;
  const density = i.bulkDensityGCm3 ?? null;
  if (depth === null || density === null)
    refuse(
      'missing',
      depth === null ? 'depth_cm' : 'bulk_density_g_cm3',
      'Chloride in mg/kg needs the depth of its layer and the density of the soil: it is classed in kg/ha of 0-60 cm.',
      { allowed: '60 cm; 0.8 to 1.8 g/cm3' },
    );
  within('depth_cm', depth, { label: 'Depth', unit: 'cm', min: PROFILE_CM, max: PROFILE_CM });
  within('bulk_density_g_cm3', density, RANGES.bulkDensityGCm3);
  assumed.push(`${i.value} mg/kg in 0-60 cm at ${density} g/cm3`);
  return i.value * density * PROFILE_CM * 0.1;
}

/**
 * Class of one soil test by its own extractant, basis and crop (chapter 3, 4.1). A value equal to a
 * limit belongs to the upper class.
 * Never guesses an extractant and never reads one on another's scale.
 *
 * @param i.value soil test in `unit` (mg_kg, mg_l or lb_ac; chloride in kg_ha or lb_ac of 0-60 cm), 0
 *   or more
 * @throws Refusal for an unknown extractant or unit, Bray-1 above pH 7.3, iron below pH 7, organic
 *   soil by weight, or an impossible value
 * @example classify({ nutrient: 'p', extractant: 'bray_1', value: 16, unit: 'mg_kg', ph: 6.5
 * }).cls // 'medium'
 */
export function classify(i: ClassifyInput): Classified {
  const unit =
    SOIL_UNITS.find((u) => u === i.unit) ??
    refuse(
      'unknown_id',
      'unit',
      `unit ${i.unit} is not known for a soil test: use ${SOIL_UNITS.join(', ')}.`,
      { value: i.unit, allowed: SOIL_UNITS.join(', '), rule: 'R04' },
    );
  within('value', i.value, {
    ...RANGES.testMgKg,
    label: `${i.nutrient.toUpperCase()} test`,
    max: MAX_TEST[i.nutrient] ?? 60000,
  });
  const row = chooseRow(i, unit);
  if (row.soilQualifier === 'ph_water<=7.3' && i.ph != null && i.ph > 7.3)
    refuse(
      'inconsistent',
      'extractant',
      `${i.extractant} is not valid above pH 7.3: use olsen or, less surely, mehlich_3_icp. Carbonate neutralises the acid extract at pH ${i.ph}.`,
      { value: i.extractant },
    );
  if (row.soilQualifier === 'ph_water>=7.0' && (i.ph == null || i.ph < 7))
    refuse(
      'inconsistent',
      'ph',
      `${i.nutrient} by ${i.extractant} is not classed below pH 7: shortage in field crops is rare there.`,
      { value: i.ph ?? null },
    );
  if (row.unit === 'mg_kg' && i.omPct != null && i.omPct > 25)
    refuse(
      'inconsistent',
      'om_pct',
      `om_pct = ${i.omPct} %: class limits by weight do not hold on organic soil above 25 %. Ask for a test by volume.`,
      { value: i.omPct, allowed: '0 to 25 %' },
    );

  const assumed: string[] = [];
  let value = i.value;
  if (row.unit === 'kg_ha_0_60cm') value = chlorideKgHa(i, unit, assumed);
  else if (unit === 'kg_ha')
    refuse(
      'inconsistent',
      'unit',
      `unit kg_ha: classes of ${nutrientSymbol(i.nutrient)} are of mg/kg or mg/L. Kilograms a hectare are of a layer; divide by 0.1 x depth in cm x density.`,
      { value: unit, allowed: 'mg_kg, mg_l, lb_ac', rule: 'R04' },
    );
  else if (unit === 'lb_ac') {
    value /= 2;
    assumed.push('pounds per acre halved to mg/kg (6.67 inch layer)');
  } else if (unit !== row.unit) {
    value = unit === 'mg_l' ? value / SCOOP_DENSITY_KG_L : value * SCOOP_DENSITY_KG_L;
    assumed.push(
      `volume and weight basis converted with a scoop density of ${SCOOP_DENSITY_KG_L} kg/L`,
    );
  }
  if (row.soilQualifier === '7<=cec<=25' && i.cecCmolKg == null)
    assumed.push('CEC not known: limits of 7 to 25 cmol/kg');
  const limits: Classified['limits'] = [
    row.lowFrom,
    row.mediumFrom,
    row.highFrom,
    row.veryHighFrom,
  ];
  const cls = CLASSES[limits.filter((l) => value >= l).length] as KnownClass;
  const id = `ground.class.${i.nutrient}`;
  return {
    cls,
    limits,
    value,
    unit: row.unit,
    scheme: row.scheme,
    assumed,
    index: Math.min(4, CLASSES.indexOf(cls) + 1) as Classified['index'],
    why: step(id, `${nutrientSymbol(i.nutrient)} class`, cls.replace('_', ' '), '', {
      formula:
        'highest class whose lower limit the test reaches; a value on the limit belongs to the upper class',
      source: row.source,
      confidence: row.confidence,
      note: [...assumed, row.notes].filter(Boolean).join('; ') || undefined,
      inputs: [
        entered(
          `${id}.test`,
          `Test by ${extractantName(i.extractant)}`,
          i.value,
          unit.replace('_', '/'),
        ),
        ...(['low', 'medium', 'high', 'very high'] as const).map((name, k) =>
          fromTable(
            `${id}.limit.${k}`,
            `${name} from`,
            limits[k] ?? null,
            row.unit.replace('_', '/'),
            row,
          ),
        ),
      ],
    }),
  };
}
