import type { NutrientSum } from '../lines/line';
import type { AssessedApplication } from '../lines/organicLines';
import { mineralisationOf } from '../book/organicTables';

/** Where a dressing's N goes. */
export interface FatePart {
  id: 'air' | 'crop' | 'behind' | 'later' | 'humus';
  label: string;
  kgHa: number;
}

/**
 * Where all the N of a dressing goes, per hectare that is spread: to the air before it counts, into
 * this crop, what else counts this season and stays in the soil or is lost, what comes free in the
 * next three years, and what stays in humus (chapter 7, W1.17). The parts add up to its N. Null
 * where it ties N up or brings none.
 *
 * @param uptakeKgHa N that the crop holds at harvest
 */
export function dressingFate(
  o: AssessedApplication,
  n: Pick<NutrientSum, 'requirement'>,
  uptakeKgHa: number,
): FatePart[] | null {
  const total = o.rateTHa * o.analysis.totalNKgT;
  if (total <= 0 || o.nKgHa < 0) return null;
  const air = Math.min(total, o.loss.lossFrac * o.tanKgHa);
  const counted = Math.min(total - air, o.nKgHa);
  const share = n.requirement > 0 ? Math.min(1, uptakeKgHa / n.requirement) : 0;
  const m = mineralisationOf(o.material.mineralisationClass);
  const later = Math.min(
    total - air - counted,
    o.organicKgHa * Math.max(0, m.y2Frac + m.y3Frac + m.y4Frac),
  );
  const parts: FatePart[] = [
    { id: 'air', label: 'to the air', kgHa: air },
    { id: 'crop', label: 'into this crop', kgHa: counted * share },
    {
      id: 'behind',
      label: 'stays in the soil or is lost this season',
      kgHa: counted * (1 - share),
    },
    { id: 'later', label: 'comes free in years 2 to 4', kgHa: later },
    { id: 'humus', label: 'stays in humus', kgHa: total - air - counted - later },
  ];
  return parts.filter((p) => p.kgHa > 0.05);
}
