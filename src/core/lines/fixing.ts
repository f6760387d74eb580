import type { Crop } from '../book/crops';

/** A nodulated legume asks for no fertiliser N. */
export const fixes = (crop: Pick<Crop, 'nFixing'>): boolean =>
  crop.nFixing === 'grain_legume' || crop.nFixing === 'forage_legume';
/** More N than this of passes on sound nodules is wasted, kg/ha (rule N-30). */
export const MOST_ON_NODULES = 25;
