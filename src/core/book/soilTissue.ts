import type { z } from 'zod';
import { lazily, rowsOf } from './table';
import cellFile from './tables/soil_tissue_matrix.json';
import type { soilTissueRow } from './tissueRows';

export type SoilTissueRow = z.infer<typeof soilTissueRow>;
/** What soil and leaf together say (chapter 5, section 10). */
export const soilTissueCells = lazily(() => rowsOf<SoilTissueRow>(cellFile));
