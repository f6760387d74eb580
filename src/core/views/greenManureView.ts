import type { Book } from '../book/book';
import { creditGreenManure, type GreenManureCredit } from '../budget/greenManure';
import { greenManureTurn } from '../budget/residues';
import { GREEN_MANURE_STAGES } from '../budget/schools';
import type { Plan } from '../document/document';
import type { GreenManurePlan } from '../document/previousDocument';
import { greenManureInput } from '../lines/greenManureTiming';

type Stage = GreenManurePlan['species'][number]['stage'];
export interface GreenManureView {
  /** Released (above 0) or tied up (below 0) by the time the crop needs it, kg N/ha. */
  nowKgHa: number;
  cnRatio: number;
  /**
   * The same with each species by its own C:N instead of the mix: told where it differs by more
   * than 15 kg.
   */
  perSpeciesKgHa: number;
  schoolsDiffer: boolean;
  /** If every species went on to its next stage; null where all have seed. */
  nextStageKgHa: number | null;
  nextStageCn: number | null;
  greatestTieUpKgHa: number;
  atWeek: number | null;
  turnWeek: number | null;
}
const DIFFER_KG_HA = 15;
const later = (stage: Stage): Stage =>
  GREEN_MANURE_STAGES[
    Math.min(GREEN_MANURE_STAGES.indexOf(stage) + 1, GREEN_MANURE_STAGES.length - 1)
  ] as Stage;
const net = (g: GreenManureCredit): number => g.creditKgHa - g.debitKgHa;

/**
 * How a green manure reads: now, one stage later, by species, and when it turns from taking N to
 * giving it (chapter 1, 6.5).
 *
 * @throws Refusal as `creditGreenManure`
 */
export function greenManureView(book: Book, plan: Plan, gm: GreenManurePlan): GreenManureView {
  const input = greenManureInput(book, plan, gm);
  const now = creditGreenManure(input);
  const perSpeciesKgHa = net(creditGreenManure({ ...input, reading: 'per_species' }));
  const grown = gm.species.map((s) => ({ ...s, stage: later(s.stage), nPct: null }));
  const older = gm.species.some((s) => s.stage !== later(s.stage))
    ? creditGreenManure({ ...input, gmSpecies: grown })
    : null;
  const turn = greenManureTurn({
    cnRatio: Math.min(200, Math.max(4, now.cnRatio)),
    nLeftKgHa: Math.min(1000, now.nLeftKgHa),
  });
  return {
    nowKgHa: net(now),
    cnRatio: now.cnRatio,
    perSpeciesKgHa,
    schoolsDiffer: Math.abs(net(now) - perSpeciesKgHa) > DIFFER_KG_HA,
    nextStageKgHa: older && net(older),
    nextStageCn: older?.cnRatio ?? null,
    ...turn,
  };
}
