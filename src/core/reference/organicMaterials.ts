import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { dmLimitRow, materialRow, mineralisationRow, nh3MethodRow, nh3ModifierRow, nh3SimpleRow, organicsParameterRow, overwinterRow, pathogenRow } from './rows';
import { byKey, lazily, rowsOf } from './table';
import dmFile from './tables/dm_limits.json';
import materialFile from './tables/materials.json';
import mineralisationFile from './tables/mineralisation.json';
import methodFile from './tables/nh3_methods.json';
import modifierFile from './tables/nh3_modifiers.json';
import simpleFile from './tables/nh3_simple_table.json';
import parameterFile from './tables/organics_parameters.json';
import overwinterFile from './tables/overwinter.json';
import pathogenFile from './tables/pathogen_intervals.json';

export type Material = z.infer<typeof materialRow>;
export type Mineralisation = z.infer<typeof mineralisationRow>;
export type SpreadingMethod = z.infer<typeof nh3MethodRow>;

export const materials = lazily(() => rowsOf<Material>(materialFile));
const materialIndex = lazily(() => byKey(materials(), (m) => m.key));
export function materialOf(key: string): Material {
  const m = materialIndex().get(key);
  if (m) return m;
  return refuse('unknown_id', 'material', `Unknown material ${key}. Nearest keys: ${closest(key, [...materialIndex().keys()]).join(', ')}.`, { value: key });
}
const LIQUID_FORMS: readonly string[] = ['liquid', 'slurry', 'liquid_concentrate'];
export const isLiquid = (m: Pick<Material, 'physicalForm'>): boolean => LIQUID_FORMS.includes(m.physicalForm);

const mineralisations = lazily(() => byKey(rowsOf<Mineralisation>(mineralisationFile), (m) => m.mineralisationClass));
export const mineralisationOf = (klass: string): Mineralisation =>
  mineralisations().get(klass) ?? refuse('unknown_id', 'klass', `Unknown mineralisation class ${klass}: use one of ${[...mineralisations().keys()].join(', ')}.`, { value: klass });

export const spreadingMethods = lazily(() => rowsOf<SpreadingMethod>(methodFile));
export const spreadingMethodOf = (key: string): SpreadingMethod =>
  spreadingMethods().find((m) => m.methodKey === key) ?? refuse('unknown_id', 'method', `Unknown spreading method ${key}: use one of ${spreadingMethods().map((m) => m.methodKey).join(', ')}.`, { value: key });

const modifiers = lazily(() => rowsOf<z.infer<typeof nh3ModifierRow>>(modifierFile));
export const ammoniaModifier = (key: string, level: string | null = null) => modifiers().find((m) => m.modifierKey === key && m.level === level);
export const ammoniaLevels = (key: string): string[] => modifiers().flatMap((m) => (m.modifierKey === key && m.level ? [m.level] : []));

export const ammoniaKeptRows = lazily(() => rowsOf<z.infer<typeof nh3SimpleRow>>(simpleFile));
export const overwinterRows = lazily(() => rowsOf<z.infer<typeof overwinterRow>>(overwinterFile));
const dmLimits = lazily(() => byKey(rowsOf<z.infer<typeof dmLimitRow>>(dmFile), (r) => r.physicalForm));
export const dmLimitOf = (form: string) => dmLimits().get(form) ?? refuse('unknown_id', 'form', `Unknown physical form ${form}: use one of ${[...dmLimits().keys()].join(', ')}.`, { value: form });

const parameters = lazily(() => byKey(rowsOf<z.infer<typeof organicsParameterRow>>(parameterFile), (r) => r.name));
export const organicsParameter = (name: string) => parameters().get(name) ?? refuse('unknown_id', 'name', `Unknown parameter ${name}.`, { value: name });

export const pathogenIntervals = lazily(() => rowsOf<z.infer<typeof pathogenRow>>(pathogenFile));
