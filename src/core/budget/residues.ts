import { warmthAt } from '../quantity/thermalTime';
import { clip, interpolate } from '../quantity/curve';
import { within } from '../quantity/range';
import { modifierOf, residueRelease } from '../book/legumes';
import { residuePlacementOf } from '../book/greenManures';
import { entered, fromTable, step, type Step } from '../why/step';

const CARBON_KG_T_DM = 420;
/** Most N that residues of one crop tie up, kg/ha (chapter 1, C9). */
const TIE_UP_CAP_KG_HA = 40;

/**
 * Net share of N released (below 0: tied up) at each column of the table, for a C:N held within
 * its ends.
 */
function releaseColumns(cn: number): [number, number][] {
  const at = (get: (r: ReturnType<typeof residueRelease>[number]) => number) =>
    interpolate(
      residueRelease().map((r) => [r.cnRatio, get(r)]),
      clip(cn, 8, 100),
    );
  return [
    [0, 0],
    [4, at((r) => r.nFracWeek4)],
    [10, at((r) => r.nFracWeek10)],
    [20, at((r) => r.nFracWeek20)],
  ];
}
/** Cumulative net release by C:N and effective week (17 °C), chapter 1, C6 step 7. */
export const releaseFraction = (cn: number, weeks: number): number =>
  interpolate(releaseColumns(cn), weeks);

/** Effective weeks at 17 °C: cold soil works slower. */
export const effectiveWeeks = (weeks: number, soilTempC: number | null): number =>
  clip(soilTempC === null ? weeks : weeks * warmthAt(soilTempC, 17), 0, 20);

export interface ResidueInput {
  residueLeftTDmHa: number;
  residueNKgTDm: number;
  placement?: string | null;
  /** From working in to planting. */
  incorporationLeadWeeks?: number | null;
  soilTempSeasonC?: number | null;
  killTiming?: string | null;
}
/**
 * N that straw and other residues tie up, or that beet tops and leaves give (chapter 1, C9): one of
 * the two, never both.
 *
 * @example residueTieUp({ residueLeftTDmHa: 8, residueNKgTDm: 8.5 }).debitKgHa // 28.2
 */
export function residueTieUp(i: ResidueInput): {
  cnRatio: number;
  debitKgHa: number;
  creditKgHa: number;
  why: Step;
} {
  const left = within('residue_left_t_dm_ha', i.residueLeftTDmHa, {
    label: 'Residue left',
    unit: 't DM/ha',
    min: 0,
    max: 25,
  });
  const nKgT = within('residue_n_kg_t_dm', i.residueNKgTDm, {
    label: 'N of the residue',
    unit: 'kg/t DM',
    min: 0,
    max: 60,
    above: true,
  });
  const cnRatio = CARBON_KG_T_DM / nKgT;
  const phi = releaseFraction(cnRatio, 10);
  const place = residuePlacementOf(i.placement ?? 'ploughed_in');
  const lead = within('incorporation_lead_weeks', i.incorporationLeadWeeks ?? 0, {
    label: 'Weeks before planting',
    unit: 'weeks',
    min: 0,
    max: 52,
  });
  // The release table ends at 20 effective weeks; what lies longer has given back more.
  const weeks = i.soilTempSeasonC == null ? lead : lead * warmthAt(i.soilTempSeasonC, 17);
  const time = weeks < 8 ? 1 : weeks <= 20 ? 0.7 : 0.4;
  const given = left * nKgT * phi * (phi < 0 ? place.factorTieUp : place.factorRelease);
  const winter = given > 0 && i.killTiming ? modifierOf('kill_timing', i.killTiming) : null;
  const debitKgHa = given < 0 ? Math.min(TIE_UP_CAP_KG_HA, -given * time) : 0;
  const creditKgHa = given > 0 ? given * time * (winter?.factorYear1 ?? 1) : 0;
  return {
    cnRatio,
    debitKgHa,
    creditKgHa,
    why: step(
      'residue',
      given < 0 ? 'Residues tie up N' : 'Residues give N',
      given < 0 ? debitKgHa : creditKgHa,
      'kg/ha',
      {
        formula: `residue x N x share at C:N ${cnRatio.toFixed(0)} after 10 weeks x placement x time${winter ? ' x winter' : ''}${given < 0 ? `, at most ${TIE_UP_CAP_KG_HA}` : ''}`,
        source: 'consensus (chapter 1, C9)',
        confidence: 'low',
        inputs: [
          entered('residue.left', 'Residue left', left, 't DM/ha'),
          entered('residue.n', 'N of the residue', nKgT, 'kg/t DM'),
          step('residue.phi', 'Share released (below 0: tied up)', phi, '', {
            source: 'residue release table',
            confidence: 'medium',
          }),
          fromTable(
            'residue.placement',
            place.placement.replaceAll('_', ' '),
            phi < 0 ? place.factorTieUp : place.factorRelease,
            '',
            place,
          ),
          step('residue.time', 'Time before planting', time, '', {
            formula: `${weeks.toFixed(1)} effective weeks`,
          }),
          ...(winter
            ? [fromTable('residue.winter', 'Left after winter', winter.factorYear1, '', winter)]
            : []),
        ],
      },
    ),
  };
}

/**
 * When a mixture that ties N up gives it back (chapter 1, C6d), in effective weeks at 17 °C;
 * null: not this season.
 *
 * @example greenManureTurn({ cnRatio: 28, nLeftKgHa: 100 }) // { greatestTieUpKgHa: 14.8, atWeek:
 * 4, turnWeek: 13.8 }
 */
export function greenManureTurn(i: { cnRatio: number; nLeftKgHa: number }): {
  greatestTieUpKgHa: number;
  atWeek: number | null;
  turnWeek: number | null;
} {
  within('cn_ratio', i.cnRatio, { label: 'C:N', unit: '', min: 4, max: 200 });
  within('n_left_kg_ha', i.nLeftKgHa, { label: 'N left', unit: 'kg/ha', min: 0, max: 1000 });
  const columns = releaseColumns(i.cnRatio);
  const lowest = columns.reduce(
    (l, c) => (c[1] < l[1] - 1e-12 ? c : l),
    columns[0] as [number, number],
  );
  const back = columns.findIndex((c, k) => k > 0 && c[1] >= 0 && (columns[k - 1]?.[1] ?? 0) < 0);
  const [from, to] = [columns[back - 1], columns[back]];
  return {
    greatestTieUpKgHa: Math.max(0, -lowest[1] * i.nLeftKgHa),
    atWeek: lowest[1] < 0 ? lowest[0] : null,
    turnWeek: from && to ? from[0] + ((0 - from[1]) * (to[0] - from[0])) / (to[1] - from[1]) : null,
  };
}
