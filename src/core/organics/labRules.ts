import type { Material } from '../book/organicMaterials';
import type { Rule } from '../rules/rule';
import type { Analysis } from './release';

/** An analysis against the book and against itself. */
export interface LabFacts {
  material: Material;
  analysis: Analysis;
  /** Ids of the arithmetic rules that it breaks. */
  labBroken: string[];
  date: string | null;
  ageDays: number | null;
  rationChanged: boolean;
  /** What single slip of unit or basis explains it, and how many times the book it is. */
  slip: { candidate: string; ratio: number } | null;
  dryPossible: boolean;
  oxide: string | null;
  driedSample: boolean;
  /** How far it lies from the sample before it, %. */
  disagreesPct: number | null;
  nh4Share: number | null;
  bookNh4Share: number;
}
const rule = (r: Omit<Rule<LabFacts>, 'module'>): Rule<LabFacts> => ({ module: 'organics', ...r });
const breaks = (
  id: string,
  level: 'stop' | 'caution',
  when: string,
  message: string,
  action: string,
): Rule<LabFacts> =>
  rule({
    id,
    level,
    when,
    message,
    action,
    test: (f) =>
      f.labBroken.includes(id)
        ? {
            nh4: f.analysis.nh4NKgT,
            total: f.analysis.totalNKgT,
            dm: f.analysis.dmPct,
            form: f.material.physicalForm.replace('_', ' '),
          }
        : null,
  });
const liquids = ['liquid', 'slurry', 'liquid_concentrate'];

export const labRules: readonly Rule<LabFacts>[] = [
  rule({
    id: 'M01',
    level: 'info',
    when: 'N, P or K is the book value',
    message: 'Book value used for {material} ({which}): real loads differ by 30 to 50 %.',
    action:
      'Sample 8 to 10 spots or agitate and sample the tank; send to a laboratory; replace the value.',
    test: (f) => {
      const which = f.analysis.fromBook.filter((x) => ['N', 'P', 'K'].includes(x));
      return which.length > 0 ? { material: f.material.name, which: which.join(', ') } : null;
    },
  }),
  breaks(
    'M03',
    'stop',
    'ammonium-N above total N',
    'Ammonium-N ({nh4}) exceeds total N ({total}): one of them has the wrong unit or basis.',
    'Check units, NH4 against NH4-N (x 0.7765), dry against as-received, and TKN against total.',
  ),
  breaks(
    'M04',
    'stop',
    'ammonium-N plus nitrate-N above total N',
    'Ammonium-N plus nitrate-N exceed total N.',
    'If the laboratory gives Kjeldahl N, total N = TKN + nitrate-N.',
  ),
  breaks(
    'M05',
    'stop',
    'dry matter impossible for the form',
    'Dry matter {dm} % is impossible for a {form}.',
    'Check whether moisture was typed instead of dry matter (moisture = 100 - DM).',
  ),
  breaks(
    'M06',
    'caution',
    'dry matter unusual for the form',
    'Dry matter {dm} % is unusual for a {form}.',
    'Check sample, agitation and form.',
  ),
  breaks(
    'M09',
    'stop',
    'nutrients above 90 % of the dry matter',
    'The nutrients add up to more than the dry matter can hold.',
    'Check units and basis.',
  ),
  rule({
    id: 'M02',
    level: 'caution',
    when: 'analysis older than 12 months, or ration, bedding or storage changed since',
    message: 'The analysis of {date} may no longer describe this material.',
    action: 'Take a new sample; keep the old one for the trend.',
    test: (f) =>
      f.date !== null && ((f.ageDays ?? 0) > 365 || f.rationChanged) ? { date: f.date } : null,
  }),
  rule({
    id: 'M07',
    level: 'caution',
    when: 'a slip of unit or basis explains the analysis',
    message: 'The values look like {candidate}: they are {ratio} times the book value.',
    action:
      'Read the heading of the report again, then choose how it was written; nothing is changed without you.',
    test: (f) => (f.slip ? { candidate: f.slip.candidate, ratio: f.slip.ratio } : null),
  }),
  rule({
    id: 'M07b',
    level: 'info',
    when: 'all ratios to the book fit a report on dry basis',
    message:
      'N, P and K all lie above the book by what the dry matter would explain: was the report on dry basis?',
    action: 'Read the heading of the report again.',
    test: (f) => (f.dryPossible ? {} : null),
  }),
  rule({
    id: 'M08',
    level: 'caution',
    when: 'P or K looks like its oxide',
    message: '{which} may have been given as the oxide: P2O5 = 2.2914 x P, K2O = 1.2046 x K.',
    action: 'Ask which form the laboratory prints.',
    test: (f) =>
      f.oxide
        ? {
            which:
              f.oxide === 'P2O5_and_K2O'
                ? 'P and K'
                : f.oxide === 'P2O5_perhaps'
                  ? 'P, perhaps,'
                  : 'P was perhaps elemental already; otherwise it',
          }
        : null,
  }),
  rule({
    id: 'M11',
    level: 'caution',
    when: 'liquid analysed by combustion of a dried sample',
    message: 'Drying drives off ammonia: total N and ammonium-N read low.',
    action: 'Ask for Kjeldahl N and ammonium on the wet sample.',
    test: (f) => (f.driedSample && liquids.includes(f.material.physicalForm) ? {} : null),
  }),
  rule({
    id: 'M12',
    level: 'caution',
    when: 'two samples of a store differ by more than 30 % in N or P',
    message: 'The two samples disagree by {pct} %: the store was not mixed.',
    action: 'Agitate and sample in the tanker during spreading.',
    test: (f) => ((f.disagreesPct ?? 0) > 30 ? { pct: f.disagreesPct ?? 0 } : null),
  }),
  rule({
    id: 'M13',
    level: 'caution',
    when: 'ammonium share more than twice or less than half of the book, by over 0.20',
    message: 'Ammonium share {share} is unusual for {material}.',
    action: 'Check storage: long-open storage loses ammonia.',
    test: (f) => {
      const s = f.nh4Share;
      if (s === null) return null;
      const far = f.bookNh4Share > 0 && (s / f.bookNh4Share > 2 || s / f.bookNh4Share < 0.5);
      return far && Math.abs(s - f.bookNh4Share) > 0.2
        ? { share: s.toFixed(2), material: f.material.name }
        : null;
    },
  }),
];
