import type { Machine } from '../farm/MachinesPart';
import type { Store } from '../farm/StoresPart';

/** Stores and machines of the farm, for who plans with them. */
export interface FarmGear {
  stores: Store[];
  machines: Machine[];
}
