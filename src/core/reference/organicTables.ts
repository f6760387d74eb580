import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type { dmLimitRow, mineralisationRow, nh3SimpleRow, organicsParameterRow, overwinterRow, pathogenRow } from './rows';
import { byKey, lazily, rowsOf } from './table';
import dmFile from './tables/dm_limits.json';
import mineralisationFile from './tables/mineralisation.json';
import simpleFile from './tables/nh3_simple_table.json';
import parameterFile from './tables/organics_parameters.json';
import overwinterFile from './tables/overwinter.json';
import pathogenFile from './tables/pathogen_intervals.json';

export type Mineralisation = z.infer<typeof mineralisationRow>;

const mineralisations = lazily(() => byKey(rowsOf<Mineralisation>(mineralisationFile), (m) => m.mineralisationClass));
export const mineralisationOf = (klass: string): Mineralisation =>
  mineralisations().get(klass) ?? refuse('unknown_id', 'klass', `Unknown mineralisation class ${klass}: use one of ${[...mineralisations().keys()].join(', ')}.`, { value: klass });

export const ammoniaKeptRows = lazily(() => rowsOf<z.infer<typeof nh3SimpleRow>>(simpleFile));
export const overwinterRows = lazily(() => rowsOf<z.infer<typeof overwinterRow>>(overwinterFile));
const dmLimits = lazily(() => byKey(rowsOf<z.infer<typeof dmLimitRow>>(dmFile), (r) => r.physicalForm));
export const dmLimitOf = (form: string) => dmLimits().get(form) ?? refuse('unknown_id', 'form', `Unknown physical form ${form}: use one of ${[...dmLimits().keys()].join(', ')}.`, { value: form });

const parameters = lazily(() => byKey(rowsOf<z.infer<typeof organicsParameterRow>>(parameterFile), (r) => r.name));
export const organicsParameter = (name: string) => parameters().get(name) ?? refuse('unknown_id', 'name', `Unknown parameter ${name}.`, { value: name });

export const pathogenIntervals = lazily(() => rowsOf<z.infer<typeof pathogenRow>>(pathogenFile));
