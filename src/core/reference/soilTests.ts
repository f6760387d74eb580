import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { conversionRow, criticalLevelRow, phBandRow, pScreenRow, soilTestLevelRow, targetPhRow } from './rows';
import { byKey, lazily, rowsOf } from './table';
import criticalFile from './tables/critical_levels.json';
import conversionFile from './tables/extractant_conversions.json';
import screenFile from './tables/p_env_screen.json';
import bandFile from './tables/ph_bands.json';
import levelFile from './tables/soil_test_levels.json';
import targetFile from './tables/target_ph.json';

export type SoilTestLevel = z.infer<typeof soilTestLevelRow>;
export type TargetPh = z.infer<typeof targetPhRow>;

export const soilTestLevels = lazily(() => rowsOf<SoilTestLevel>(levelFile));
const targets = lazily(() => byKey(rowsOf<TargetPh>(targetFile), (r) => r.cropGroup));
export const targetPhOf = (cropGroup: string): TargetPh =>
  targets().get(cropGroup) ?? refuse('unknown_id', 'crop', `Unknown crop group ${cropGroup} for pH. Nearest: ${closest(cropGroup, [...targets().keys()]).join(', ')}.`, { value: cropGroup });
export const phBands = lazily(() => rowsOf<z.infer<typeof phBandRow>>(bandFile));
const conversions = lazily(() => byKey(rowsOf<z.infer<typeof conversionRow>>(conversionFile), (r) => r.key));
export const conversionOf = (key: string) => conversions().get(key) ?? refuse('unknown_id', 'key', `no conversion between these extractants: ${key} is not in the table.`, { value: key });
const screens = lazily(() => byKey(rowsOf<z.infer<typeof pScreenRow>>(screenFile), (r) => r.extractant));
export const pScreenOf = (extractant: string) => screens().get(extractant);
const critical = lazily(() => rowsOf<z.infer<typeof criticalLevelRow>>(criticalFile));
export const criticalLevel = (cropGroup: string, nutrient: string, extractant: string) => {
  // Chapter 3, 4.3: Mehlich-3 K reads the ammonium-acetate row, colorimetric Mehlich-3 P the Bray-1 row; nothing else is borrowed.
  const row = nutrient === 'k' && extractant === 'mehlich_3' ? 'ammonium_acetate' : nutrient === 'p' && extractant === 'mehlich_3_col' ? 'bray_1' : extractant;
  return critical().find((r) => r.cropGroup === cropGroup && r.nutrient === nutrient && r.extractant === row);
};
