import { exactly, joined, said } from '../why/said';
import type { Book } from '../book/book';
import { LINE_ERROR } from '../budget/ledger';
import { creditGreenManure, type GreenManureCredit } from '../budget/greenManure';
import { creditLegumeTable, overlapCredit, type LegumeCredit } from '../budget/legumeTable';
import { creditOrganicMatter } from '../budget/organicMatter';
import { residueTieUp } from '../budget/residues';
import { BULK_DENSITY, creditSoilNitrate, type SoilNitrate } from '../budget/soilNitrate';
import { creditSoilSulphate } from '../budget/soilSulphate';
import type { Crop } from '../book/crops';
import { legumeOf } from '../book/legumes';
import { textureGroup } from '../book/soils';
import { step } from '../why/step';
import { meanTemperature, type SeasonCalendar } from './calendar';
import { dayOf } from './days';
import type { Plan } from '../document/document';
import type { GreenManurePlan, PreviousLegume } from '../document/previousDocument';
import { afterDrainage, drainedSince, type SampledNitrate } from './drainage';
import { creditLine, type LedgerLine } from './line';
import { greenManureInput, killedInSpring, sampledShare } from './greenManureTiming';
import { killTimingOf } from './killTiming';
import { attempt, type Problem } from './problem';
import { bySchool } from './schoolCredit';
import { cropNLine, depositionLine, irrigationLine } from './waterLines';

export interface SoilCredits {
  lines: LedgerLine[];
  nitrate: SoilNitrate | null;
  legume: LegumeCredit | null;
  greenManure: GreenManureCredit | null;
  omUsed: boolean;
  omTestDepthCm: number;
}
const OM_N_TO_S = 8;
function nitrateLine({ nitrate, drained }: SampledNitrate, date: string | null): LedgerLine {
  return creditLine({
    id: 'soil_nitrate',
    label: said`Soil nitrate, 0-${nitrate.sampledToCm} cm`,
    detail: drained
      ? said`${Math.round(drained.sampledKgHa)} kg sampled; ${Math.round(drained.mm)} mm drained since${drained.byGauge ? '' : ', in a normal year'}`
      : nitrate.extrapolated
        ? 'deeper layer estimated'
        : 'sampled',
    kind: 'credit',
    evidence: nitrate.extrapolated ? 'table' : 'measured',
    date,
    n: nitrate.soilNKgHa,
    error: nitrate.extrapolated ? LINE_ERROR.nitrate_extrapolated : LINE_ERROR.nitrate,
    why: { n: nitrate.why },
  });
}

/** Sulphate of the same profile: S, never N; null where nobody measured it. */
function sulphateLine(plan: Plan, crop: Crop): LedgerLine | null {
  const { sulphateLayers: layers, nitrateSampleDate: date } = plan.ground;
  if (layers.length === 0) return null;
  const sulphate = creditSoilSulphate({
    layers,
    texture: textureGroup(plan.field.soilTextureId),
    leachedFrac: drainedSince(plan, crop, layers[layers.length - 1]?.bottomCm ?? 0)?.frac ?? null,
  });
  return creditLine({
    id: 'soil_sulphate',
    label: said`Soil sulphate, 0-${sulphate.sampledToCm} cm`,
    detail: said`half of ${Math.round(sulphate.soilSKgHa)} kg sulphate-S/ha`,
    evidence: 'measured',
    date,
    n: null,
    s: sulphate.creditKgHa,
    error: LINE_ERROR.nitrate,
    why: { s: sulphate.why },
  });
}

/** Days and temperature over which organic matter releases N to this crop. */
function releaseWindow(
  plan: Plan,
  calendar: SeasonCalendar,
): { days: number; tempC: number; from: number } {
  const sampled =
    plan.ground.nitrateLayers.length > 0 && plan.ground.nitrateSampleDate
      ? dayOf(calendar, plan.ground.nitrateSampleDate)
      : 0;
  const from = Math.max(calendar.planting, sampled, 0);
  const days = plan.season.releaseDays ?? Math.min(365, Math.max(30, calendar.uptakeEnd - from));
  return {
    days,
    tempC: plan.season.soilTempSeasonC ?? Math.max(2, meanTemperature(calendar, from, from + days)),
    from,
  };
}

function organicMatterLine(plan: Plan, calendar: SeasonCalendar, omPct: number): LedgerLine {
  const { days, tempC } = releaseWindow(plan, calendar);
  const om = creditOrganicMatter({
    omPct,
    texture: textureGroup(plan.field.soilTextureId),
    bulkDensityGCm3: BULK_DENSITY[textureGroup(plan.field.soilTextureId)],
    depthCm: plan.field.omDepthCm,
    seasonDays: days,
    soilTempSeasonC: tempC,
    moistureClass: plan.season.moistureClass,
  });
  const sourced = (id: string, known: number | null, source: string) => {
    const s = om.why.inputs.find((x) => x.id === `credit.organic_matter.${id}`);
    if (s && known === null) Object.assign(s, { source, confidence: 'low' });
  };
  sourced('temp', plan.season.soilTempSeasonC, 'monthly normals of the farm’s climate');
  sourced(
    'days',
    plan.season.releaseDays,
    'from planting or the nitrate sample to the end of N uptake, by the stage clock',
  );
  const s = om.creditKgHa / OM_N_TO_S;
  return creditLine({
    id: 'om_mineralisation',
    label: said`Soil organic matter, ${omPct} %`,
    detail: said`${days} days at ${exactly(tempC, 1)} °C`,
    kind: 'credit',
    evidence: 'table',
    n: om.creditKgHa,
    s,
    error: LINE_ERROR.om,
    why: {
      n: om.why,
      s: step('credit.organic_matter.s', 'S from organic matter', s, 'kg/ha', {
        formula: 'N released / 8',
        source: 'chapter 1, S1',
        confidence: 'medium',
        inputs: [om.why],
      }),
    },
  });
}

function legumeLine(previous: PreviousLegume, legume: LegumeCredit): LedgerLine {
  const overlap = overlapCredit({ creditKgHa: legume.creditKgHa, overlap: previous.overlap });
  const name = legumeOf(previous.legumeKey)[0]?.name ?? previous.legumeKey;
  const stand =
    legume.standClass === 'any'
      ? 'grain taken'
      : legume.standClass === 'failed'
        ? 'failed stand'
        : `${legume.standClass === 'poor' ? 'thin' : legume.standClass} stand`;
  const carried = (previous.removedFracTops ?? 0) >= 0.5 ? ', cut and carried' : '';
  return creditLine({
    id: previous.yearsSinceKill < 2 ? 'legume_table_year1' : 'legume_table_year2_3',
    label: `${name}, ${stand}${carried}`,
    detail:
      legume.derivedClass && previous.standClass && legume.standClass !== previous.standClass
        ? `claimed ${previous.standClass}, counts say ${legume.standClass}`
        : 'by table',
    kind: 'credit',
    evidence: 'table',
    date: previous.killDate,
    n: overlap.creditKgHa,
    error: LINE_ERROR.legume_table,
    why: {
      n:
        overlap.s === 0
          ? legume.why
          : step('credit.legume.net', 'Legume credit', overlap.creditKgHa, 'kg/ha', {
              formula: `credit x (1 - ${overlap.s}): that share is in the nitrate sample already`,
              source: 'chapter 1, C12',
              confidence: 'low',
              inputs: [legume.why],
            }),
    },
  });
}

/**
 * A green manure that was weighed: a credit, less what a nitrate sample since its kill holds, or a
 * debit where it ties N up.
 */
function greenManureLine(
  book: Book,
  plan: Plan,
  gm: GreenManurePlan,
  g: GreenManureCredit,
): LedgerLine {
  const debit = g.debitKgHa > 0;
  const s = debit ? 0 : sampledShare(book, plan, gm, g.cnRatio);
  const n = debit ? g.debitKgHa : g.creditKgHa * (1 - s);
  return creditLine({
    id: debit ? 'green_manure_tie_up' : 'green_manure_measured',
    label: debit ? 'Green manure ties up N' : said`Green manure, ${gm.dmTHa} t DM/ha`,
    detail: joined(
      [
        said`C:N ${exactly(g.cnRatio, 0)}`,
        ...(gm.removedFracTops > 0
          ? [said`${exactly(100 * gm.removedFracTops, 0)} % carried off`]
          : []),
        ...(s > 0 ? [said`the nitrate sample holds ${Math.round(100 * s)} %`] : []),
      ],
      ', ',
    ),
    kind: debit ? 'debit' : 'credit',
    evidence:
      gm.weighed === null
        ? 'assumed'
        : gm.species.every((x) => x.nPct !== null)
          ? 'laboratory'
          : 'measured',
    date: gm.killDate,
    n,
    error: LINE_ERROR.legume_measured,
    why: {
      n:
        s === 0
          ? g.why
          : step('credit.green_manure.net', 'Green manure, after the sample', n, 'kg/ha', {
              formula: `credit x (1 - ${s.toFixed(2)}): that share had been released by the nitrate sample`,
              source: 'chapter 1, C12',
              confidence: 'low',
              inputs: [g.why],
            }),
    },
  });
}
/** What a weighed green manure gives; killed before winter, at most as much as killed in spring. */
function weighedGreenManure(book: Book, plan: Plan, gm: GreenManurePlan): GreenManureCredit {
  const own = creditGreenManure(greenManureInput(book, plan, gm));
  const spring = killedInSpring(plan, gm);
  if (!spring || own.creditKgHa === 0) return own;
  const most = creditGreenManure(greenManureInput(book, plan, spring));
  if (own.creditKgHa <= most.creditKgHa) return own;
  return {
    ...own,
    creditKgHa: most.creditKgHa,
    why: step('credit.green_manure.before_winter', 'Green manure', most.creditKgHa, 'kg/ha', {
      formula: 'killed before winter: at most what the same stand gives, killed in spring',
      source: 'consensus (agronomy corrections, e)',
      confidence: 'low',
      inputs: [own.why, most.why],
    }),
  };
}
function residueLine(plan: Plan, r: NonNullable<Plan['residue']>): LedgerLine {
  const t = residueTieUp({
    residueLeftTDmHa: r.leftTDmHa,
    residueNKgTDm: r.nKgTDm,
    placement: r.placement,
    incorporationLeadWeeks: r.leadWeeks,
    soilTempSeasonC: plan.season.soilTempSeasonC,
  });
  const debit = t.debitKgHa > 0;
  return creditLine({
    id: debit ? 'residue_tie_up' : 'vegetable_residue_release',
    label: debit ? 'Residues tie up N' : 'Residues give N',
    detail: said`${r.leftTDmHa} t DM/ha, C:N ${exactly(t.cnRatio, 0)}`,
    kind: debit ? 'debit' : 'credit',
    evidence: 'table',
    n: debit ? t.debitKgHa : t.creditKgHa,
    error: LINE_ERROR.residue,
    why: { n: t.why },
  });
}

/** What the credit matrix asks of a plan. */
const matrixFlags = ({ ground, schools }: Plan) => ({
  nitrate_sampled: ground.nitrateLayers.length > 0,
  regular: schools.regularManure,
  user_set: true,
  in_sample: false,
  same_previous_crop: true,
  same_water_in_trials: false,
  ...(schools.trialsAfterLegume === null
    ? {}
    : {
        calibrated_after_legume: schools.trialsAfterLegume,
        calibrated_after_it: schools.trialsAfterLegume,
      }),
});

/** Nitrate of the sampled layers, less what the winter takes; null where nobody sampled. */
const sampledNitrate = (plan: Plan, crop: Crop, problems: Problem[]): SampledNitrate | null =>
  plan.ground.nitrateLayers.length === 0
    ? null
    : attempt(problems, 'ground', () =>
        afterDrainage(
          plan,
          crop,
          creditSoilNitrate({
            rootDepthCm: crop.rootDepthCm,
            layers: plan.ground.nitrateLayers,
            texture: textureGroup(plan.field.soilTextureId),
            usableFrac: crop.nitrateUsableFrac,
          }),
        ),
      );

/** The line of the credit matrix that a previous legume falls under. */
const legumeMatrixLine = (previous: PreviousLegume): string =>
  legumeOf(previous.legumeKey)[0]?.useType === 'grain_legume'
    ? 'grain_legume_previous'
    : previous.yearsSinceKill < 2
      ? 'legume_table_year1'
      : 'legume_table_year2_3';

/**
 * Credits from soil, previous crop and water: each a line with its evidence. The credit matrix of
 * the plan's school decides what may
 * be subtracted; a line that the school already holds stays visible with 0.
 */
export function soilCreditLines(
  book: Book,
  plan: Plan,
  crop: Crop,
  calendar: SeasonCalendar | null,
  setBy: 'school' | 'leaf',
  problems: Problem[],
): SoilCredits {
  const { field, ground, previous } = plan;
  const texture = textureGroup(field.soilTextureId);
  const lines: LedgerLine[] = [];
  const flags = matrixFlags(plan);
  const add = (line: LedgerLine | null, matrixLine: string) => {
    if (line) lines.push(bySchool(plan, crop, line, matrixLine, flags, setBy));
  };

  const nitrate = sampledNitrate(plan, crop, problems);
  if (nitrate) add(nitrateLine(nitrate, ground.nitrateSampleDate), 'soil_nitrate_preplant');

  const sulphate = attempt(problems, 'ground', () => sulphateLine(plan, crop));
  if (sulphate) lines.push(sulphate);

  const omPct = field.omPct;
  const omUsed = calendar !== null && omPct !== null && omPct <= 15 && texture !== 'organic';
  if (omUsed)
    add(
      attempt(problems, 'budget', () => organicMatterLine(plan, calendar, omPct)),
      'om_mineralisation',
    );

  const legume =
    previous?.kind === 'legume'
      ? attempt(problems, 'crop', () =>
          creditLegumeTable({ ...previous, killTiming: killTimingOf(plan, previous), texture }),
        )
      : null;
  if (previous?.kind === 'legume' && legume)
    add(
      attempt(problems, 'crop', () => legumeLine(previous, legume)),
      legumeMatrixLine(previous),
    );
  const greenManure =
    previous?.kind === 'green_manure' && previous.dmTHa > 0
      ? attempt(problems, 'crop', () => weighedGreenManure(book, plan, previous))
      : null;
  if (previous?.kind === 'green_manure' && greenManure)
    add(greenManureLine(book, plan, previous, greenManure), 'green_manure_measured');
  const { residue } = plan;
  if (residue) {
    const line = attempt(problems, 'crop', () => residueLine(plan, residue));
    if (line) add(line, line.kind === 'debit' ? 'residue_tie_up' : 'vegetable_residue_release');
  }
  add(
    attempt(problems, 'crop', () => cropNLine(book, plan, crop)),
    'crop_n_in_spring',
  );
  add(irrigationLine(plan, problems), 'irrigation_nitrate');
  add(depositionLine(plan), 'deposition');
  return {
    lines,
    nitrate: nitrate?.nitrate ?? null,
    legume,
    greenManure,
    omUsed,
    omTestDepthCm: field.omDepthCm,
  };
}
