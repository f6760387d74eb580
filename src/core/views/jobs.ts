import type { Assessment } from '../assessment/assess';
import { placementOf } from '../book/fertilisers';
import { spreadingMethodOf } from '../book/organicMaterials';
import type { Plan } from '../document/document';
import type { AssessedApplication } from '../lines/organicLines';
import type { AssessedPass } from '../lines/supply';
import type { UnitSystem } from '../quantity/units';
import { NUTRIENT_KEYS, type NutrientKey } from '../lines/line';
import { fromCore, shownUnit } from '../quantity/units';
import { shownRate, shownTotal, type Shown } from './shown';

/** One job of the plan sheet: what goes on, when, how much, and who does it (chapter 7, W8.1). */
export interface SheetJob extends Record<NutrientKey, number | null> {
  /** The line of the plan that it is of. */
  id: string;
  kind: 'lime' | 'manure' | 'kill' | 'pass' | 'spray';
  /** Null: no day yet. */
  date: string | null;
  stage: string;
  what: string;
  /** What is in it, as the plan counts it. */
  analysis: string;
  rate: Shown | null;
  /** For the part of the field that it goes on. */
  total: Shown | null;
  /** Loads of the machine, where one is chosen. */
  loads: number | null;
  how: string;
  notIf: string;
  cost: number | null;
  who: string | null;
  status: 'planned' | 'done' | 'may not go out';
}

const WET = 'not on frozen, snow-covered or saturated ground';
/** Percentages of N, P, K and S that a product counts with. */
const analysisOf = (p: AssessedPass): string =>
  NUTRIENT_KEYS.map((x) => ({
    x: x.toUpperCase(),
    pct: p.pass.productKgHa > 0 ? (100 * p.delivered[x]) / p.pass.productKgHa : 0,
  }))
    .filter((f) => f.pct >= 0.05)
    .map((f) => `${f.x} ${Number(f.pct.toFixed(1))} %`)
    .join(', ');

function passNotIf(p: AssessedPass): string {
  const place = placementOf(p.pass.placementId);
  if (place.onLeaf) return 'not in strong wind, hot sun or on wet leaves';
  return place.leftOnSurface && p.product.nUreaPct > 0 && !p.product.ureaseInhibitor
    ? 'not on warm, dry ground without rain in sight'
    : WET;
}

/** Jobs of the plan in the order of their days. */
export function jobsOf(plan: Plan, a: Assessment, system: UnitSystem): SheetJob[] {
  const { areaHa } = plan.field;
  const who = (id: string) => plan.jobs.find((j) => j.line === id)?.who ?? null;
  // Kilograms of a job in whole figures of the reader's unit.
  const whole = (v: number): number => Math.round(fromCore(v, shownUnit('nutrient_rate', system)));
  const blank = { n: null, p: null, k: null, s: null, loads: null, stage: '', analysis: '' };
  return [
    ...limeJobs(plan, a, system, who, blank),
    ...(plan.previous?.kind === 'green_manure' &&
    plan.previous.killDate &&
    plan.previous.killDate >= plan.season.startDate
      ? [
          {
            ...blank,
            id: 'previous',
            kind: 'kill' as const,
            date: plan.previous.killDate,
            what: 'Kill the green manure',
            rate: null,
            total: null,
            how: plan.previous.placement.replaceAll('_', ' '),
            notIf: '',
            cost: null,
            who: who('previous'),
            status: plan.previous.killDate < plan.asOf ? ('done' as const) : ('planned' as const),
          },
        ]
      : []),
    ...a.organics
      .filter((o) => o.app.cropYear === 1)
      .map((o) => manureJob(o, a, areaHa, system, who, whole)),
    ...a.supply.passes.map((p): SheetJob => ({
      ...blank,
      id: `pass.${p.pass.id}`,
      kind: placementOf(p.pass.placementId).onLeaf ? 'spray' : 'pass',
      date: p.pass.date,
      stage: p.stageBbch ? `BBCH ${p.stageBbch}` : '',
      what: p.product.name,
      analysis: analysisOf(p),
      rate: shownRate(p.pass.productKgHa, 'kg_ha', system),
      total: shownTotal(p.pass.productKgHa, areaHa, 'kg_ha', system),
      n: whole(p.delivered.n),
      p: whole(p.delivered.p),
      k: whole(p.delivered.k),
      s: whole(p.delivered.s),
      how: placementOf(p.pass.placementId).name,
      notIf: passNotIf(p),
      cost: moneyPer(p.cost, system),
      who: who(`pass.${p.pass.id}`),
      status: p.counts ? p.pass.status : 'may not go out',
    })),
  ].toSorted((x, y) => (x.date ?? '9999').localeCompare(y.date ?? '9999'));
}

/** Money per hectare, or per acre. */
const moneyPer = (perHa: number, system: UnitSystem): number =>
  perHa / fromCore(1, shownUnit('area', system));
type Who = (id: string) => string | null;
type Blank = Pick<SheetJob, NutrientKey | 'loads' | 'stage' | 'analysis'>;
/** Lime that is chosen, and lime that was spread since the soil was sampled. */
function limeJobs(
  plan: Plan,
  a: Assessment,
  system: UnitSystem,
  who: Who,
  blank: Blank,
): SheetJob[] {
  const { chosen, given } = a.lime ?? { chosen: null, given: null };
  const { areaHa } = plan.field;
  const job = (
    id: string,
    name: string,
    rateTHa: number,
    more: Pick<SheetJob, 'date' | 'how' | 'cost' | 'status' | 'analysis'>,
  ): SheetJob => ({
    ...blank,
    id,
    kind: 'lime',
    what: name,
    rate: shownRate(rateTHa, 't_ha', system),
    total: shownTotal(rateTHa, areaHa, 't_ha', system),
    notIf: 'not with ammonium or manure within three weeks',
    who: who(id),
    ...more,
  });
  return [
    ...(given
      ? [
          job('lime.spread', given.name, given.rateTHa, {
            date: given.date,
            how: '',
            analysis: '',
            cost: null,
            status: 'done',
          }),
        ]
      : []),
    ...(chosen && chosen.productTHa > 0
      ? Array.from({ length: chosen.passes }, (_, i) =>
          job(
            chosen.passes > 1 ? `lime.${i + 1}` : 'lime',
            chosen.passes > 1
              ? `${chosen.material.name}, pass ${i + 1} of ${chosen.passes}`
              : chosen.material.name,
            Math.round((100 * chosen.productTHa) / chosen.passes) / 100,
            {
              date: i === 0 ? (plan.lime?.spreadDate ?? null) : null,
              how: i === 0 ? `worked in to ${plan.lime?.depthCm ?? 20} cm` : 'half a year later',
              analysis: `effective carbonate ${Math.round(chosen.ecceAsReceivedPct)} %`,
              cost: moneyPer(chosen.costPerHa / chosen.passes, system),
              status: 'planned',
            },
          ),
        )
      : []),
  ];
}

function manureJob(
  o: AssessedApplication,
  a: Assessment,
  areaHa: number,
  system: UnitSystem,
  who: Who,
  whole: (v: number) => number,
): SheetJob {
  const { app, material, onField } = o;
  const id = `organic.${app.id}`;
  const counts = a.lines.find((l) => l.id === id)?.struck == null;
  const [covering] = app.coverings;
  const method = spreadingMethodOf(app.methodKey).name;
  const within = covering ? (app.plannedHours ?? covering.hours) : null;
  return {
    id,
    kind: 'manure',
    date: app.date,
    stage: '',
    what: material.name,
    analysis: `${Number(o.analysis.totalNKgT.toFixed(1))} kg N/t${app.lab ? '' : ', book'}`,
    rate: app.rate > 0 ? shownRate(app.rate, app.rateUnit, system) : null,
    total: app.rate > 0 ? shownTotal(app.rate, areaHa * app.areaFrac, app.rateUnit, system) : null,
    loads:
      app.machine && app.rate > 0
        ? Math.ceil((app.rate * areaHa * app.areaFrac) / app.machine.capacity)
        : null,
    n: whole(onField.nKgHa),
    p: whole(onField.pKgHa),
    k: whole(onField.kKgHa),
    s: whole(onField.sKgHa),
    how: [
      method,
      ...(within !== null ? [`worked in within ${within} h`] : []),
      ...(app.areaFrac < 1 ? [`on ${Math.round(100 * app.areaFrac)} % of the field`] : []),
    ].join('; '),
    notIf: WET,
    cost: null,
    who: who(id),
    status: counts ? app.status : 'may not go out',
  };
}
