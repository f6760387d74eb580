import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { splitTemplateRow } from './rows';
import { groupedBy, lazily, rowsOf } from './table';
import templateFile from './tables/split_templates.json';

export type SplitPass = z.infer<typeof splitTemplateRow>;

const templates = lazily(() => groupedBy(rowsOf<SplitPass>(templateFile), (p) => p.templateId));
export const templateOf = (id: string): readonly SplitPass[] =>
  templates().get(id) ??
  refuse('unknown_id', 'template_id', `Unknown split template ${id}.`, { value: id });
export const templatesFor = (cropId: string): { templateId: string; nPasses: number }[] =>
  [...templates()]
    .filter(([, rows]) => rows[0]?.cropId === cropId)
    .map(([templateId, rows]) => ({ templateId, nPasses: rows.length }));
