import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { doseLimitRow, fertiliserRow, foliarLimitRow, placementRow, splitTemplateRow, stopRuleRow, tankMixRow } from './rows';
import { byKey, groupedBy, lazily, rowsOf } from './table';
import doseFile from './tables/dose_limits.json';
import fertiliserFile from './tables/fertilisers.json';
import foliarFile from './tables/foliar_limits.json';
import placementFile from './tables/placement.json';
import templateFile from './tables/split_templates.json';
import stopFile from './tables/stop_rules.json';
import tankFile from './tables/tank_mix.json';

export type Fertiliser = z.infer<typeof fertiliserRow>;
export type SplitPass = z.infer<typeof splitTemplateRow>;
export type SplitClass = 'light' | 'medium' | 'heavy';

export const fertilisers = lazily(() => rowsOf<Fertiliser>(fertiliserFile));
const index = lazily(() => byKey(fertilisers(), (f) => f.productId));
export function fertiliserOf(id: string, field = 'product_id'): Fertiliser {
  const f = index().get(id);
  if (f) return f;
  return refuse('unknown_id', field, `${field} "${id}" is not in the library. Nearest: ${closest(id, [...index().keys()]).join(', ')}.`, { value: id });
}

export const placements = lazily(() => rowsOf<z.infer<typeof placementRow>>(placementFile));
export const placementOf = (id: string) => placements().find((p) => p.placementId === id) ?? refuse('unknown_id', 'placement_id', `Unknown placement ${id}: use one of ${placements().map((p) => p.placementId).join(', ')}.`, { value: id });

const doses = lazily(() => rowsOf<z.infer<typeof doseLimitRow>>(doseFile));
export const doseLimit = (doseClass: string, splitClass: SplitClass) => doses().find((d) => d.doseClass === doseClass && d.splitClass === splitClass);

const templates = lazily(() => groupedBy(rowsOf<SplitPass>(templateFile), (p) => p.templateId));
export const templateOf = (id: string): readonly SplitPass[] => templates().get(id) ?? refuse('unknown_id', 'template_id', `Unknown split template ${id}.`, { value: id });
export const templatesFor = (cropId: string): { templateId: string; nPasses: number }[] =>
  [...templates()].filter(([, rows]) => rows[0]?.cropId === cropId).map(([templateId, rows]) => ({ templateId, nPasses: rows.length }));

const stops = lazily(() => rowsOf<z.infer<typeof stopRuleRow>>(stopFile));
export const stopRulesFor = (cropId: string) => stops().filter((r) => r.cropId === cropId);

const tanks = lazily(() => rowsOf<z.infer<typeof tankMixRow>>(tankFile));
export const tankMixStatus = (a: string, b: string) => tanks().find((t) => (t.mixClassA === a && t.mixClassB === b) || (t.mixClassA === b && t.mixClassB === a));

const foliar = lazily(() => rowsOf<z.infer<typeof foliarLimitRow>>(foliarFile));
export const foliarLimit = (productId: string, cropGroup: string) => foliar().find((r) => r.productId === productId && r.cropGroup === cropGroup);
