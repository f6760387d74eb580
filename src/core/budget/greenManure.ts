import { refuse } from '../quantity/refusal';
import { RANGES, within } from '../quantity/range';
import { greenManureOf, residuePlacementOf, type GreenManureSpecies } from '../book/greenManures';
import { modifierOf } from '../book/legumes';
import { fromTable, step, type Step } from '../why/step';
import { creditLegumeTable, type LegumeInput } from './legumeTable';
import { GREEN_MANURE_STAGES } from './schools';
import { effectiveWeeks, releaseFraction } from './residues';

export interface SpeciesShare {
  speciesKey: string;
  /** Share of the dry matter, 0 to 1: not of the seed, nor of the cover. */
  share: number;
  stage?: string | null;
  /** N of this species from the laboratory, % of DM; the table's at the stage stands in. */
  nPct?: number | null;
}
export interface GreenManureInput {
  gmTotalTDmHa?: number | null;
  freshGM2?: number | null;
  dmPct?: number | null;
  gmSpecies: readonly SpeciesShare[];
  removedFracTops?: number | null;
  /** What was carried off, weighed and analysed, instead of a share. */
  removedTDmHa?: number | null;
  removedNPct?: number | null;
  placement?: string | null;
  killTiming?: string | null;
  weeksTo80pctUptake?: number | null;
  soilTempSeasonC?: number | null;
  /** A hay or ley stand of 12 months or more: its roots come from the table. */
  perennialStand?: LegumeInput | null;
  /** `mix` reads the release at the C:N of the whole, `per_species` at each one's own. */
  reading?: 'mix' | 'per_species' | null;
}
export interface GreenManureCredit {
  shootNKgHa: number;
  nLeftKgHa: number;
  cnRatio: number;
  effectiveWeeks: number;
  panShootKgHa: number;
  panRootKgHa: number;
  creditKgHa: number;
  debitKgHa: number;
  secondYearKgHa: number;
  /** Share of legumes in the dry matter. */
  legumeShare: number;
  why: Step;
}
const SHARE_TOLERANCE = 0.02;
const DEFAULT_WEEKS = 10;
/** Stalk and stubble that a mower leaves are poorer than the whole plant (chapter 1, C6 step 5). */
const MOWN_CN = 0.5;

/** N of a species at its stage, % of DM. */
function nPctAt(s: GreenManureSpecies, stage: string | null | undefined): number {
  const key = stage ?? 'early_flower';
  const table: Record<string, number> = {
    vegetative: s.nPctVegetative,
    early_flower: s.nPctEarlyFlower,
    full_flower: s.nPctFullFlower,
    seed_fill: s.nPctSeedFill,
  };
  return (
    table[key] ??
    refuse(
      'unknown_id',
      'gm_species.stage',
      `gm_species.stage = ${key} is not known: use one of ${GREEN_MANURE_STAGES.join(', ')}.`,
      { value: key },
    )
  );
}
function dryMatter(i: GreenManureInput): number {
  if (i.gmTotalTDmHa != null)
    return within('gm_total_t_dm_ha', i.gmTotalTDmHa, {
      label: 'Dry matter',
      unit: 't DM/ha',
      min: 0,
      max: 25,
    });
  if (i.freshGM2 == null)
    return refuse(
      'missing',
      'gm_total_t_dm_ha',
      'gm_total_t_dm_ha: give the dry matter, or a fresh weight with its dry matter.',
      { allowed: '0 to 25 t DM/ha' },
    );
  if (i.dmPct == null)
    return refuse('missing', 'dm_pct', 'dm_pct: needed with a fresh weight', {
      allowed: '5 to 95 %',
    });
  return within(
    'gm_total_t_dm_ha',
    (within('fresh_g_m2', i.freshGM2, {
      label: 'Fresh weight',
      unit: 'g/m2',
      min: 0,
      max: 50_000,
    }) *
      within('dm_pct', i.dmPct, { label: 'Dry matter', unit: '%', min: 5, max: 95 })) /
      10_000,
    { label: 'Dry matter', unit: 't DM/ha', min: 0, max: 25 },
  );
}
interface Part {
  species: GreenManureSpecies;
  dm: number;
  n: number;
  c: number;
  legume: boolean;
}
function partsOf(
  i: GreenManureInput,
  dm: number,
  nOf: (s: SpeciesShare, species: GreenManureSpecies, dmKg: number) => number,
): Part[] {
  const sum = i.gmSpecies.reduce(
    (t, s) => t + within('gm_species.share', s.share, RANGES.share),
    0,
  );
  if (Math.abs(sum - 1) > SHARE_TOLERANCE)
    refuse(
      'inconsistent',
      'gm_species.share',
      `gm_species.share: sums to ${sum.toFixed(3)}, must be 1`,
      { value: sum, allowed: '1 +/- 0.02' },
    );
  return i.gmSpecies.map((s) => {
    const species = greenManureOf(s.speciesKey);
    // Within the tolerance the shares are brought to one.
    const own = (dm * s.share) / sum;
    return {
      species,
      dm: own,
      n: nOf(s, species, own),
      c: own * species.cPct * 10,
      legume: species.group === 'legume',
    };
  });
}
const byAnalysis = (s: SpeciesShare, species: GreenManureSpecies, dm: number): number =>
  dm *
  10 *
  (s.nPct == null
    ? nPctAt(species, s.stage)
    : within('gm_species.n_pct', s.nPct, {
        label: `N of ${species.name}`,
        unit: '%',
        min: 0.3,
        max: 6,
      }));
/** N of a legume from what it fixes, where no analysis is known (chapter 1, C6b). */
const byFixation = (s: SpeciesShare, species: GreenManureSpecies, dm: number): number =>
  species.group === 'legume'
    ? (dm * species.fixedNKgTDm) / (species.ndfaPct / 100)
    : dm * 10 * nPctAt(species, s.stage);

function removedShare(i: GreenManureInput, shootN: number): number {
  if (i.removedTDmHa != null && i.removedNPct != null && shootN > 0)
    return Math.min(
      1,
      (within('removed_t_dm_ha', i.removedTDmHa, {
        label: 'Carried off',
        unit: 't DM/ha',
        min: 0,
        max: 25,
      }) *
        within('removed_n_pct', i.removedNPct, {
          label: 'N carried off',
          unit: '%',
          min: 0.3,
          max: 6,
        }) *
        10) /
        shootN,
    );
  return within('removed_frac_tops', i.removedFracTops ?? 0, {
    ...RANGES.share,
    label: 'Share of tops carried off',
  });
}

function weigh(
  i: GreenManureInput,
  parts: readonly Part[],
): Omit<GreenManureCredit, 'legumeShare'> {
  const shootNKgHa = parts.reduce((s, p) => s + p.n, 0);
  const carbon = parts.reduce((s, p) => s + p.c, 0);
  const r = removedShare(i, shootNKgHa);
  const nLeftKgHa = (1 - r) * shootNKgHa;
  const poorer = 1 + Math.min(r, MOWN_CN);
  const cnRatio = shootNKgHa > 0 ? (carbon / shootNKgHa) * poorer : 0;
  const weeks = effectiveWeeks(
    within('weeks_to_80pct_uptake', i.weeksTo80pctUptake ?? DEFAULT_WEEKS, {
      label: 'Weeks to 80 % of uptake',
      unit: 'weeks',
      min: 0,
      max: 40,
    }),
    i.soilTempSeasonC == null
      ? null
      : within('soil_temp_season_c', i.soilTempSeasonC, RANGES.soilTempC),
  );
  const place = residuePlacementOf(i.placement ?? 'ploughed_in');
  const released = (n: number, cn: number) => {
    const phi = releaseFraction(cn, weeks);
    return n * phi * (phi < 0 ? place.factorTieUp : place.factorRelease);
  };
  const panShootKgHa =
    shootNKgHa === 0
      ? 0
      : i.reading === 'per_species'
        ? parts.reduce(
            (s, p) => s + (p.n > 0 ? released((1 - r) * p.n, (p.c / p.n) * poorer) : 0),
            0,
          )
        : released(nLeftKgHa, cnRatio);
  const winter = i.killTiming ? modifierOf('kill_timing', i.killTiming) : null;
  const beforeWinter = i.killTiming?.startsWith('autumn') === true && winter !== null;
  // Roots of years are in the table, with its modifiers; roots that grew with the tops come from
  // the tops.
  const perennial = i.perennialStand
    ? creditLegumeTable({ ...i.perennialStand, removedFracTops: null, regrowth: 'none' })
    : null;
  const grown =
    parts.reduce((s, p) => s + p.n * p.species.bgNRatio * p.species.rootAvailFrac, 0) *
    Math.min(1, weeks / 10);
  const panRootKgHa = perennial ? perennial.year1KgHa : grown;
  const wintered = (x: number) => (beforeWinter && x > 0 ? x * winter.factorYear1 : x);
  const sum = perennial
    ? wintered(panShootKgHa) + panRootKgHa
    : wintered(panShootKgHa + panRootKgHa);
  const secondYearKgHa = parts.reduce(
    (s, p) => s + (p.n * (1 - r) + p.n * p.species.bgNRatio) * (p.legume ? 0.1 : 0.03),
    0,
  );
  return {
    shootNKgHa,
    nLeftKgHa,
    cnRatio,
    effectiveWeeks: weeks,
    panShootKgHa,
    panRootKgHa,
    creditKgHa: Math.max(0, sum),
    debitKgHa: Math.max(0, -sum),
    secondYearKgHa,
    why: step(
      'credit.green_manure',
      sum < 0 ? 'Green manure ties up N' : 'Green manure, measured',
      Math.abs(sum),
      'kg/ha',
      {
        school: 'measured biomass',
        formula: `(N left x share released at C:N ${cnRatio.toFixed(0)} in ${weeks.toFixed(1)} weeks x placement + roots)${beforeWinter ? ' x left after winter' : ''}`,
        source: 'consensus (chapter 1, C6)',
        confidence: 'medium',
        inputs: [
          ...parts.map((p) =>
            step(`credit.green_manure.${p.species.speciesKey}`, p.species.name, p.n, 'kg N/ha', {
              formula: `${p.dm.toFixed(2)} t DM/ha x ${p.dm > 0 ? (p.n / p.dm / 10).toFixed(1) : '0'} % N`,
              source: p.species.source,
              confidence: p.species.confidence,
            }),
          ),
          step('credit.green_manure.left', 'N left on the field', nLeftKgHa, 'kg/ha', {
            formula: `shoot N x (1 - ${r.toFixed(2)} carried off)`,
          }),
          fromTable(
            'credit.green_manure.placement',
            place.placement.replaceAll('_', ' '),
            panShootKgHa < 0 ? place.factorTieUp : place.factorRelease,
            '',
            place,
          ),
          step('credit.green_manure.roots', 'From roots', panRootKgHa, 'kg/ha', {
            formula: perennial
              ? 'crowns and roots of the old stand, by table'
              : 'shoot N x root share x availability',
            inputs: perennial ? [perennial.why] : [],
          }),
          ...(beforeWinter
            ? [
                fromTable(
                  'credit.green_manure.winter',
                  'Left after winter',
                  winter.factorYear1,
                  '',
                  winter,
                ),
              ]
            : []),
        ],
      },
    ),
  };
}

/**
 * N of a green manure, catch crop or mixture from what stood there (chapter 1, C6): released or
 * tied up by the time the next crop needs it.
 * Hay that was carried off takes its N along; the roots stay.
 *
 * @throws Refusal for shares that do not sum to 1, a fresh weight without dry matter, an unknown
 * species
 * @example creditGreenManure({ gmTotalTDmHa: 4, gmSpecies: [{ speciesKey: 'hairy_vetch', share:
 * 1, stage: 'early_flower' }] }).creditKgHa // 90.96
 */
export function creditGreenManure(i: GreenManureInput): GreenManureCredit {
  const dm = dryMatter(i);
  const parts = partsOf(i, dm, byAnalysis);
  return {
    ...weigh(i, parts),
    legumeShare: dm > 0 ? parts.reduce((s, p) => s + (p.legume ? p.dm : 0), 0) / dm : 0,
  };
}

/**
 * The same from the N that legumes fix, where no analysis is known (chapter 1, C6b). What was fixed
 * is new N on the field: an input of the account, not the credit.
 *
 * @example creditGreenManureFixed({ gmTotalTDmHa: 5, gmSpecies: [{ speciesKey: 'cereal_rye',
 * share: 0.6 }, { speciesKey: 'hairy_vetch', share: 0.4 }] }).fixedTotalKgHa // 61.6
 */
export function creditGreenManureFixed(i: GreenManureInput): {
  fixedShootKgHa: number;
  fixedTotalKgHa: number;
  creditKgHa: number;
  debitKgHa: number;
} {
  const parts = partsOf(i, dryMatter(i), byFixation);
  const legumes = parts.filter((p) => p.legume);
  const fixed = (p: Part) => p.dm * p.species.fixedNKgTDm;
  const { creditKgHa, debitKgHa } = weigh(i, parts);
  return {
    fixedShootKgHa: legumes.reduce((s, p) => s + fixed(p), 0),
    fixedTotalKgHa: legumes.reduce((s, p) => s + fixed(p) * (1 + p.species.bgNRatio), 0),
    creditKgHa,
    debitKgHa,
  };
}
