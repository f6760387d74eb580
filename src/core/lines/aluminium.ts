import type { Book } from '../book/book';
import { cropOf, crosswalkOf } from '../book/crops';
import { alToleranceOf } from '../book/limes';
import type { Plan } from '../document/document';
import { MG_PER_CMOL } from '../ground/cations';

/** Aluminium above so many times what the crop bears stops it (assumed). */
const AL_STOPS_AT = 2;

export interface Aluminium {
  /** Share of Al + Ca + Mg, %. */
  satPct: number;
  /** What the crop bears, %. */
  bearsPct: number;
}
/**
 * Aluminium saturation beside what the crop bears; null where Al, Ca or Mg was not measured, or the
 * table does not know the crop.
 */
export function aluminiumOf(book: Book, { ground, season }: Plan): Aluminium | null {
  const cmol = (x: 'ca' | 'mg') => {
    const r = ground.readings.find((q) => q.nutrient === x && q.unit === 'mg_kg');
    return r ? r.value / MG_PER_CMOL[x] : null;
  };
  const [al, ca, mg] = [ground.alCmolKg, cmol('ca'), cmol('mg')];
  if (season.cropKey === null || al === null || ca === null || mg === null) return null;
  const crop = cropOf(book, season.cropKey);
  const row = alToleranceOf(crop.key, crosswalkOf(book, crop.key).targetPhGroup);
  const sum = al + ca + mg;
  return row && sum > 0 ? { satPct: (100 * al) / sum, bearsPct: row.rasAlSatPct } : null;
}
/** Whether aluminium stops the crop: far above what it bears, and no lime is planned. */
export const alStops = (al: Aluminium | null, limePlanned: boolean): al is Aluminium =>
  al !== null && !limePlanned && al.satPct > AL_STOPS_AT * al.bearsPct;
