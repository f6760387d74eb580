import { AS_KG_T, BLANK_LAB } from '../document/organicDefaults';
import type { ManureLab } from '../document/organicDocument';
import type { ToldReport } from '../laboratory/readLaboratory';
import type { OtherReport } from '../laboratory/samples';
import { LAB_FIGURES, type LabFigureKey } from './labReading';

/** A sample of a manure report, ready for the form. */
export interface ManureOfFile {
  /** By what a person knows it. */
  name: string;
  lab: ManureLab;
  /** What of it the analysis has no place for. */
  beside: string[];
}
const QUANTITY: Readonly<Record<LabFigureKey, string>> = {
  totalNKgT: 'n',
  nh4NKgT: 'nh4_n',
  no3NKgT: 'no3_n',
  pKgT: 'p',
  kKgT: 'k',
  sKgT: 's',
};

function manureOf(s: OtherReport): ManureOfFile {
  const of = (quantity: string) =>
    s.values.find((v) => v.quantity === quantity && v.value !== null);
  const figures = LAB_FIGURES.flatMap(([key, , , max]) => {
    const v = of(QUANTITY[key]);
    return v?.value != null && v.value <= max ? [{ key, v }] : [];
  });
  const held = [
    ...figures.map(({ v }) => v.quantity),
    'dry_matter',
    'density',
    'c_to_n',
    'kjeldahl_n',
  ];
  return {
    name: [s.label, s.store ?? s.field, s.material, s.date].filter(Boolean).join(', '),
    lab: {
      ...BLANK_LAB,
      ...Object.fromEntries(figures.map(({ key, v }) => [key, v.value])),
      date: s.date,
      dmPct: of('dry_matter')?.value ?? null,
      cToN: of('c_to_n')?.value ?? null,
      report: {
        ...AS_KG_T,
        densityKgM3: of('density')?.value ?? null,
        below: figures.filter(({ v }) => v.belowDetection).map(({ key }) => key),
      },
    },
    beside: s.values
      .filter((v) => v.value !== null && !held.includes(v.quantity))
      .map((v) => `${v.quantity.replaceAll('_', ' ')} ${v.value} ${v.unit}`.trim()),
  };
}
/** The samples of a manure report, each in kg of element per tonne as received. */
export const manuresOf = (report: ToldReport): ManureOfFile[] =>
  (report.samples as OtherReport[]).map(manureOf);
