import type { z } from 'zod';
import { refuse } from '../quantity/refusal';
import type {
  calibrationLimitRow,
  compostTestRow,
  decompositionRow,
  incropWindowRow,
  lateReleaseRow,
  metalRow,
  ringRow,
  setbackRow,
  dmLimitRow,
  mineralisationRow,
  nh3SimpleRow,
  organicsParameterRow,
  overwinterRow,
  pathogenRow,
} from './rows';
import { byKey, lazily, rowsOf } from './table';
import calibrationFile from './tables/calibration_limits.json';
import compostTestFile from './tables/compost_tests.json';
import decompositionFile from './tables/decomposition.json';
import dmFile from './tables/dm_limits.json';
import windowFile from './tables/incrop_windows.json';
import lateFile from './tables/late_n_crops.json';
import metalFile from './tables/metals.json';
import mineralisationFile from './tables/mineralisation.json';
import simpleFile from './tables/nh3_simple_table.json';
import parameterFile from './tables/organics_parameters.json';
import overwinterFile from './tables/overwinter.json';
import pathogenFile from './tables/pathogen_intervals.json';
import ringFile from './tables/ring_rates.json';
import setbackFile from './tables/setbacks.json';

export type Mineralisation = z.infer<typeof mineralisationRow>;

const mineralisations = lazily(() =>
  byKey(rowsOf<Mineralisation>(mineralisationFile), (m) => m.mineralisationClass),
);
export const mineralisationOf = (klass: string): Mineralisation =>
  mineralisations().get(klass) ??
  refuse(
    'unknown_id',
    'klass',
    `Unknown mineralisation class ${klass}: use one of ${[...mineralisations().keys()].join(', ')}.`,
    { value: klass },
  );

export const ammoniaKeptRows = lazily(() => rowsOf<z.infer<typeof nh3SimpleRow>>(simpleFile));
export const overwinterRows = lazily(() => rowsOf<z.infer<typeof overwinterRow>>(overwinterFile));
const dmLimits = lazily(() =>
  byKey(rowsOf<z.infer<typeof dmLimitRow>>(dmFile), (r) => r.physicalForm),
);
export const dmLimitOf = (form: string) =>
  dmLimits().get(form) ??
  refuse(
    'unknown_id',
    'form',
    `Unknown physical form ${form}: use one of ${[...dmLimits().keys()].join(', ')}.`,
    { value: form },
  );

const parameters = lazily(() =>
  byKey(rowsOf<z.infer<typeof organicsParameterRow>>(parameterFile), (r) => r.name),
);
export const organicsParameter = (name: string) =>
  parameters().get(name) ??
  refuse('unknown_id', 'name', `Unknown parameter ${name}.`, { value: name });

export type PathogenInterval = z.infer<typeof pathogenRow>;
export const pathogenIntervals = lazily(() => rowsOf<PathogenInterval>(pathogenFile));

const decompositions = lazily(() =>
  byKey(rowsOf<z.infer<typeof decompositionRow>>(decompositionFile), (r) => r.materialKind),
);
/** How fast a kind of material rots, mixed in or as a mulch (chapter 2, 9.1). */
export const decompositionOf = (kind: string) =>
  decompositions().get(kind) ??
  refuse(
    'unknown_id',
    'kind',
    `Unknown kind of material ${kind}: use one of ${[...decompositions().keys()].join(', ')}.`,
    { value: kind },
  );

/** What tests of a compost say (chapter 2, 9.4). */
export const compostTests = lazily(() =>
  byKey(rowsOf<z.infer<typeof compostTestRow>>(compostTestFile), (r) => r.testKey),
);

const calibrationLimits = lazily(() =>
  byKey(rowsOf<z.infer<typeof calibrationLimitRow>>(calibrationFile), (r) => r.machineKind),
);
/** What a spreading test must reach, by kind of machine (chapter 2, section 7). */
export const calibrationLimitOf = (kind: string) =>
  calibrationLimits().get(kind) ??
  refuse(
    'unknown_id',
    'machine_kind',
    `Unknown machine ${kind}: use one of ${[...calibrationLimits().keys()].join(', ')}.`,
    { value: kind },
  );

const windows = lazily(() => rowsOf<z.infer<typeof incropWindowRow>>(windowFile));
/**
 * Windows of a technique in a standing crop, several where the crop has more than one (chapter 2,
 * section 8).
 */
export function incropWindowsOf(crop: string, technique: string) {
  const rows = windows().filter(
    (w) => w.cropGroup === crop && (w.technique === technique || w.technique === 'any'),
  );
  if (rows.length > 0) return rows;
  const techniques = [
    ...new Set(
      windows()
        .filter((w) => w.cropGroup === crop)
        .map((w) => w.technique),
    ),
  ];
  return techniques.length > 0
    ? refuse(
        'unknown_id',
        'technique',
        `No window for ${technique} in ${crop}: use one of ${techniques.join(', ')}.`,
        { value: technique },
      )
    : refuse(
        'unknown_id',
        'crop',
        `No in-crop windows for ${crop}: use one of ${[...new Set(windows().map((w) => w.cropGroup))].join(', ')}.`,
        { value: crop },
      );
}

export type Setback = z.infer<typeof setbackRow>;
/**
 * Distances to water, wells, houses and roads: placeholders, the strictest of local law and these
 * holds (chapter 2, 11.1).
 */
export const setbacks = lazily(() => rowsOf<Setback>(setbackFile));

export type RingRow = z.infer<typeof ringRow>;
/** Starting values and limits of a ring by plant and age (chapter 2, section 10). */
export const ringRows = lazily(() => rowsOf<RingRow>(ringFile));
export const ringRowOf = (plantKind: string, ageClass: string): RingRow =>
  ringRows().find((r) => r.plantKind === plantKind && r.ageClass === ageClass) ??
  refuse(
    'unknown_id',
    'plant_kind',
    `No ring for ${plantKind}, ${ageClass}: use one of ${ringRows()
      .map((r) => `${r.plantKind}, ${r.ageClass}`)
      .join('; ')}.`,
    { value: plantKind },
  );

const lateRows = lazily(() => rowsOf<z.infer<typeof lateReleaseRow>>(lateFile));
/**
 * How much N a crop bears after it should run short; undefined where the chapter names no such
 * crop.
 */
export const lateReleaseLimitOf = (crop: { bookKey: string }) =>
  lateRows().find((r) => r.cropKey === crop.bookKey);

const metals = lazily(() => byKey(rowsOf<z.infer<typeof metalRow>>(metalFile), (r) => r.key));
export const metalLimitOf = (key: string) =>
  metals().get(key) ?? refuse('unknown_id', 'limit', `Unknown metal limit ${key}.`, { value: key });
/** Metals of a material, mg/kg DM; undefined where the book has none. */
export const metalsOf = ({ metalsKey }: { metalsKey: string | null }) =>
  metalsKey === null ? undefined : metals().get(metalsKey);
/** Techniques that the in-crop table knows for a crop. */
export const incropTechniques = (crop: string): string[] => [
  ...new Set(
    windows()
      .filter((w) => w.cropGroup === crop && w.technique !== 'any')
      .map((w) => w.technique),
  ),
];
export const incropCropGroups = (): string[] => [...new Set(windows().map((w) => w.cropGroup))];
export const calibrationMachines = (): string[] => [...calibrationLimits().keys()];
