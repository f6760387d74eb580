import type { SoilReading } from '../core/facts/soilSample';
import { pkMg, tested } from './build';

export interface EarlierSoil {
  fieldKey: string;
  date: string;
  laboratory: string;
  depthCm: number;
  nCores: number;
  moisture: 'dry' | 'moist' | 'wet';
  phWater: number | null;
  phCacl2: number | null;
  readings: SoilReading[];
}
const LAB = 'Senn laboratory';
const at = (
  fieldKey: string,
  date: string,
  phWater: number,
  readings: SoilReading[],
  more: Partial<EarlierSoil> = {},
): EarlierSoil => ({
  fieldKey,
  date,
  laboratory: LAB,
  depthCm: 20,
  nCores: 18,
  moisture: 'moist',
  phWater,
  phCacl2: null,
  readings,
  ...more,
});

/**
 * Soil tests of earlier years: some comparable, some of another season, depth or laboratory, as
 * they come in practice.
 */
export const EARLIER_SOIL: readonly EarlierSoil[] = [
  // The low field has been sinking for years, and nobody saw it because each sample came from
  // another season.
  at('low-fleet', '2014-11-03', 6.0, pkMg(21, 176, 66)),
  at('low-fleet', '2018-11-08', 5.7, pkMg(19, 170, 63)),
  at('low-fleet', '2021-04-12', 5.2, pkMg(17, 150, 60), { moisture: 'dry' }),
  at('low-fleet', '2022-11-15', 5.4, pkMg(19, 168, 60)),
  // Decades of muck near the yard.
  at('yard-piece', '2013-11-12', 6.5, pkMg(71, 240, 118)),
  at('yard-piece', '2017-11-18', 6.6, pkMg(86, 262, 126)),
  at('yard-piece', '2021-11-22', 6.6, pkMg(101, 281, 133)),
  at('terrace-long', '2018-09-10', 6.2, pkMg(15, 141, 66)),
  at('terrace-long', '2022-09-08', 6.1, pkMg(14, 138, 65)),
  at(
    'kiln-field',
    '2021-10-28',
    6.9,
    [tested('p', 'mehlich_3_icp', 34), ...pkMg(0, 182, 72).slice(1)],
    { laboratory: 'Vale testing house' },
  ),
];
