import type { z } from 'zod';
import { closest } from '../quantity/range';
import { refuse } from '../quantity/refusal';
import type { greenManureRow, residuePlacementRow } from './rows';
import { byKey, lazily, rowsOf } from './table';
import speciesFile from './tables/green_manure_species.json';
import placementFile from './tables/residue_placement.json';

export type GreenManureSpecies = z.infer<typeof greenManureRow>;

const species = lazily(() => byKey(rowsOf<GreenManureSpecies>(speciesFile), (r) => r.speciesKey));
export const greenManures = (): GreenManureSpecies[] => [...species().values()];
/** @throws Refusal naming the nearest keys */
export const greenManureOf = (key: string): GreenManureSpecies =>
  species().get(key) ??
  refuse(
    'unknown_id',
    'species_key',
    `species_key: unknown species ${key}. Nearest keys: ${closest(key, [...species().keys()]).join(', ')}.`,
    { value: key },
  );

const placements = lazily(() =>
  byKey(rowsOf<z.infer<typeof residuePlacementRow>>(placementFile), (r) => r.placement),
);
/** How residues lie: factors on release and on tie-up (chapter 1, C6 step 8). */
export const residuePlacementOf = (key: string) =>
  placements().get(key) ??
  refuse(
    'unknown_id',
    'placement',
    `placement = ${key} is not known: use one of ${[...placements().keys()].join(', ')}.`,
    { value: key },
  );
export const residuePlacements = (): string[] => [...placements().keys()];
