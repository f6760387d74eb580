import { climateOf, climatesNear } from '@/core/book/stages';
import { readClimateAction } from '@/server/farmActions';
import { worldPath } from '@/server/worldMap';
import type { PlaceDoors } from '@/ui/farm/PlaceBoxes';

/** The map and the climates that a place is chosen by. */
export const placeDoors = (): PlaceDoors => ({
  land: worldPath(),
  climates: climatesNear(90).map((c) => ({
    ...c,
    months: climateOf(c.climateId).map(({ tMeanC, rainMm }) => ({ tMeanC, rainMm })),
  })),
  readClimate: readClimateAction,
});
