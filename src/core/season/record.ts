import type { IsoDate } from '../quantity/calendar';

// What a run of the simulator takes (chapter 4, section 7).

export interface MineralN {
  fromCm: number;
  toCm: number;
  kgHa: number;
}
export interface SoilRecord {
  textureId: string;
  subsoilTextureId?: string | null;
  omPct: number;
  ph?: number | null;
  cecCmolcKg?: number | null;
  drainageClass?: string | null;
  residueCoverFrac?: number | null;
  /** Water at the start: 0 at the wilting point, 1 at field capacity. */
  initWaterFrac?: number | null;
  runoff?: boolean | null;
  curveNumber?: number | null;
  no3InitKgHa?: readonly MineralN[] | null;
  nh4InitKgHa?: readonly MineralN[] | null;
}
export interface CropRecord {
  cropId: string;
  /** Sowing, transplanting, the last cut, or the fixed date of a perennial's clock. */
  sowDate: IsoDate;
  harvestDate?: IsoDate | null;
  /** N in the whole plant at full uptake. */
  uTotalKgHa?: number | null;
  /** Degree-days counted before the run begins. */
  gInit?: number | null;
  springClock?: boolean | null;
  rootZmaxCm?: number | null;
  observedStages?: readonly { date: IsoDate; bbch: string }[] | null;
}
export type SeasonEvent =
  | {
      type: 'fertilise';
      date: IsoDate;
      productId: string;
      placementId: string;
      /** N on the label, kg/ha. */
      nKgHa: number;
      /** Of injected ammonia, by how well the slot closed. */
      closureLossFrac?: number | null;
    }
  | {
      type: 'organic';
      date: IsoDate;
      poolId: string;
      placementId: string;
      nOrgKgHa: number;
      cToN: number;
      nh4NKgHa?: number | null;
      no3NKgHa?: number | null;
      /** The ammonium is what chapter 2 says stays: nothing of it is lost to the air once more. */
      nh4Retained?: boolean | null;
    }
  | { type: 'till'; date: IsoDate; depthCm: number }
  | { type: 'irrigate'; date: IsoDate; mm: number; nMgL?: number | null };

export interface SeasonRecord {
  startDate: IsoDate;
  latitudeDeg: number;
  tSoilInitC?: number | null;
  soil: SoilRecord;
  crop?: CropRecord | null;
  events: readonly SeasonEvent[];
  params?: Readonly<Record<string, number>> | null;
}
