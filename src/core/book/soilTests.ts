import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { conversionRow, pScreenRow, soilTestLevelRow, targetPhRow } from './rows';
import { byKey, lazily, rowsOf } from './table';
import conversionFile from './tables/extractant_conversions.json';
import screenFile from './tables/p_env_screen.json';
import levelFile from './tables/soil_test_levels.json';
import targetFile from './tables/target_ph.json';

export type SoilTestLevel = z.infer<typeof soilTestLevelRow>;
export type TargetPh = z.infer<typeof targetPhRow>;

export const soilTestLevels = lazily(() => rowsOf<SoilTestLevel>(levelFile));
const targets = lazily(() => byKey(rowsOf<TargetPh>(targetFile), (r) => r.cropGroup));
export const targetPhOf = (cropGroup: string): TargetPh =>
  targets().get(cropGroup) ??
  refuse(
    'unknown_id',
    'crop',
    `Unknown crop group ${cropGroup} for pH. Nearest: ${closest(cropGroup, [...targets().keys()]).join(', ')}.`,
    { value: cropGroup },
  );
const EXTRACTANT_NAMES: Record<string, string> = {
  bray_1: 'Bray-1',
  mehlich_3: 'Mehlich-3',
  mehlich_3_col: 'Mehlich-3, colour',
  mehlich_3_icp: 'Mehlich-3, ICP',
  olsen: 'Olsen',
  morgan: 'Morgan',
  modified_morgan: 'modified Morgan',
  cal: 'CAL',
  dtpa: 'DTPA',
  calcium_phosphate_so4: 'calcium phosphate, sulphate-S',
};
/** The extractant in the words of the trade. */
export const extractantName = (key: string): string =>
  EXTRACTANT_NAMES[key] ?? key.replaceAll('_', ' ');
/** p -> P, mg -> Mg. */
export const nutrientSymbol = (key: string): string => (key[0]?.toUpperCase() ?? '') + key.slice(1);
const conversions = lazily(() =>
  byKey(rowsOf<z.infer<typeof conversionRow>>(conversionFile), (r) => r.key),
);
/** Conversions from one extractant for a nutrient; those without a factor are left out. */
export const conversionsFrom = (nutrient: string, extractant: string) =>
  [...conversions().values()].filter(
    (r) => r.nutrient === nutrient && r.fromExtractant === extractant && r.factor !== null,
  );
export const conversionOf = (key: string) =>
  conversions().get(key) ??
  refuse(
    'unknown_id',
    'key',
    `no conversion between these extractants: ${key} is not in the table.`,
    { value: key },
  );
const screens = lazily(() =>
  byKey(rowsOf<z.infer<typeof pScreenRow>>(screenFile), (r) => r.extractant),
);
export const pScreenOf = (extractant: string) => screens().get(extractant);

/**
 * Calcium has no class of its own: it serves saturation, by the extract that the laboratory names.
 */
const CALCIUM = ['ammonium_acetate', 'mehlich_3'];
/** Extractants by which a nutrient of the soil has classes. */
export const extractantsFor = (nutrient: string): string[] =>
  nutrient === 'ca'
    ? CALCIUM
    : [
        ...new Set(
          soilTestLevels()
            .filter((r) => r.nutrient === nutrient)
            .map((r) => r.extractant),
        ),
      ];
const classed = lazily(() => new Set<string>(soilTestLevels().map((r) => r.nutrient)));
/** Whether readings of a nutrient have classes. */
export const hasClasses = (nutrient: string): boolean => classed().has(nutrient);
/** Nutrients that a soil sample may hold. */
export const labNutrients = (): string[] => [
  ...new Set([...soilTestLevels().map((r) => r.nutrient), 'ca']),
];
