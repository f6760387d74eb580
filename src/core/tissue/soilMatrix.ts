import { soilTissueCells, type SoilTissueRow } from '../book/soilTissue';
import { oneOf } from '../quantity/range';
import type { LeafClass } from './classify';

// Soil beside leaf: whether a shortage is one of supply or one of uptake (chapter 5, section 10).

const SOIL = ['low', 'adequate', 'high'] as const;
const BUCKET: Readonly<Record<LeafClass, SoilTissueRow['tissueClass']>> = {
  deficient: 'low',
  low: 'low',
  marginal: 'low',
  sufficient: 'sufficient',
  ample: 'sufficient',
  high: 'high',
  toxic_risk: 'high',
};
const GENERAL = 'any';

export interface SoilTissueReading {
  /** The general cell. */
  cell: SoilTissueRow;
  /** What holds for this nutrient by answers that were given: these words go first. */
  specific: SoilTissueRow[];
  /** What would hold for this nutrient: its condition is asked. */
  asked: SoilTissueRow[];
}
/**
 * The cell of soil and leaf class, with what is special of the nutrient.
 *
 * @param i.answers cell -> whether its condition holds here; what nobody answered is asked
 * @throws Refusal for an unknown class
 * @example soilTissue({ nutrient: 'K', soilClass: 'high', tissueClass: 'low' }).cell.cellId // 'M07'
 */
export function soilTissue(i: {
  nutrient: string;
  soilClass: string;
  tissueClass: string;
  answers?: Readonly<Record<string, boolean>> | null;
}): SoilTissueReading {
  const soil = oneOf('soil_class', i.soilClass, SOIL);
  const leaf = BUCKET[oneOf('tissue_class', i.tissueClass, Object.keys(BUCKET) as LeafClass[])];
  const fits = (r: SoilTissueRow) =>
    r.tissueClass === leaf && (r.soilClass === soil || r.soilClass === 'any');
  const cells = soilTissueCells().filter(fits);
  const own = cells.filter((r) => r.nutrient === i.nutrient);
  const said = (r: SoilTissueRow) => i.answers?.[r.cellId];
  return {
    cell: cells.find((r) => r.nutrient === GENERAL) as SoilTissueRow,
    specific: own.filter((r) => said(r) === true),
    asked: own.filter((r) => said(r) === undefined),
  };
}
