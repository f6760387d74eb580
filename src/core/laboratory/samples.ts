import type { SoilUnit } from './soil';

// What a report says, sample by sample, in the core's units.

export type LabKind = 'soil' | 'leaf' | 'manure' | 'water';
export const LAB_KINDS = ['soil', 'leaf', 'manure', 'water'] as const;

interface Identified {
  /** Line or row of the file. */
  row: number;
  field: string | null;
  label: string | null;
  date: string | null;
}
export interface LabReading {
  nutrient: string;
  extractant: string;
  value: number;
  unit: SoilUnit;
  belowDetection: boolean;
}
interface Layer {
  depthTopCm: number | null;
  depthBottomCm: number | null;
  belowDetection: boolean;
}
export interface SoilReport extends Identified {
  depthTopCm: number | null;
  depthBottomCm: number | null;
  phWater: number | null;
  phCacl2: number | null;
  bufferPh: number | null;
  bufferKind: string | null;
  omPct: number | null;
  ocPct: number | null;
  cecCmolKg: number | null;
  alCmolKg: number | null;
  clayPct: number | null;
  stonesPct: number | null;
  nCores: number | null;
  readings: LabReading[];
  /** Of the sample's own layer. */
  nitrate: (Layer & { no3nMgKg: number })[];
  sulphate: (Layer & { so4sMgKg: number })[];
  /** Longitude and latitude, where the file has them. */
  position: [number, number] | null;
}
export interface ReportValue {
  quantity: string;
  /** Null where it was looked for and not found, without a limit. */
  value: number | null;
  unit: string;
  belowDetection: boolean;
  /** The limit of detection that the report gives. */
  limit?: number;
  notFound?: true;
  aboveRange?: true;
  derivedFrom?: string[];
}
export interface OtherReport extends Identified {
  store: string | null;
  material: string | null;
  crop: string | null;
  part: string | null;
  stage: string | null;
  /** Which of two areas set side by side. */
  pair: 'good' | 'bad' | null;
  values: ReportValue[];
}
export type LabSample = SoilReport | OtherReport;

/** A cell of the file, and what it becomes. */
export interface CellRead {
  row: number;
  /** Field or store and label of the sample it belongs to. */
  of: string;
  column: string;
  text: string;
  says: string;
  /** The class of a soil test, where it has one. */
  means: string | null;
}
