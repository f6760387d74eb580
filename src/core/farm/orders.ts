import type { Fertiliser } from '../book/fertilisers';
import { within } from '../quantity/range';

const LITRES_PER_GALLON = 3.785_411_784;
const BAG: { label: string; unit: string; min: number; max: number } = {
  label: 'Bag',
  unit: 'kg',
  min: 1,
  max: 2000,
};

/** What is to be ordered of a product. */
export interface OrderLine {
  productId: string;
  name: string;
  kg: number;
  tonnes: number;
  /** Whole bags or big bags; null of a fluid. */
  bags: number | null;
  /** Volume of a fluid; null of a solid. */
  litres: number | null;
  gallons: number | null;
}
/**
 * An order by weight, bags or volume: a bag that is begun has to be bought whole.
 *
 * @param bagKg weight of a bag or big bag, 1 to 2000 kg
 * @example orderLine({ productId: 'urea_46', name: 'Urea', densityKgL: null }, 1350, 600).bags // 3
 */
export function orderLine(
  f: Pick<Fertiliser, 'productId' | 'name' | 'densityKgL'>,
  kg: number,
  bagKg: number,
): OrderLine {
  const bag = within('bag_kg', bagKg, BAG);
  const litres = f.densityKgL === null ? null : kg / f.densityKgL;
  return {
    productId: f.productId,
    name: f.name,
    kg,
    tonnes: kg / 1000,
    bags: litres === null ? Math.ceil(kg / bag - 1e-9) : null,
    litres,
    gallons: litres === null ? null : litres / LITRES_PER_GALLON,
  };
}
