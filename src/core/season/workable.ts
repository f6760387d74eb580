import { soilOf } from '../book/soils';
import { isWorkable } from '../nitrogen/timing';
import type { LaidOut } from './run';
import type { Weather } from './weather';

// Days that bear a machine, over weather years (chapter 4, F5.6).

const WITHIN_D = 7;
/** Share of years in which a pass that is meant for a day has to find days that bear. */
export const ENOUGH_YEARS = 0.8;

/** Days of a weather year on which the ground bears a machine: 1, else 0. */
export function bearingDays(
  textureId: string,
  weather: Weather,
  { physical }: LaidOut,
): Uint8Array {
  const soil = soilOf(textureId);
  return Uint8Array.from({ length: physical.days }, (_, d) =>
    isWorkable(
      {
        rainMm: weather.rainMm[d] ?? 0,
        // A layer of 10 cm holds as many mm as per cent by volume.
        wTopFracFc: (physical.wTop[d] ?? 0) / soil.fieldCapacityVolPct,
        tSoilC: physical.tSoil[d] ?? 0,
      },
      soil.trafficFcFrac,
    )
      ? 1
      : 0,
  );
}
/**
 * Share of years in which the week that begins on a day holds enough days that bear.
 *
 * @param needDays days that the pass needs, 1 to 7
 */
export function bearingShare(years: readonly Uint8Array[], day: number, needDays = 1): number {
  const enough = years.filter((bears) => {
    let found = 0;
    for (let d = Math.max(0, day); d < day + WITHIN_D; d++) found += bears[d] ?? 0;
    return found >= needDays;
  });
  return years.length === 0 ? 0 : enough.length / years.length;
}
