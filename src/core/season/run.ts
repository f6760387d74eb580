import type { Book } from '../book/book';
import { dateAfter, type IsoDate } from '../quantity/calendar';
import { within } from '../quantity/range';
import { newCropDays, runClock, seasonCropOf, type CropDays, type SeasonCrop } from './cropDays';
import { eventsOf, waterOf, type RunEvent } from './events';
import {
  newState,
  newTrace,
  nitrogenPass,
  type NitrogenState,
  type SeasonSummary,
  type Trace,
} from './nitrogen';
import { simParams, type SimParams } from './params';
import type { SeasonEvent, SeasonRecord } from './record';
import { siteOf, startingN, type Site } from './site';
import { newPhysical, physicalPass, type Physical } from './water';
import type { Weather } from './weather';

/** A field, a crop and its first day, ready to run over any weather and any plan of N. */
export interface Field {
  params: SimParams;
  site: Site;
  crop: SeasonCrop | null;
  start: IsoDate;
  latitudeDeg: number;
  tSoilInitC: number | null;
  no3Init: Float64Array;
  nh4Init: Float64Array;
  /** Mineral N that was listed below the last layer and is left out, kg/ha. */
  droppedKgHa: number;
}
/**
 * Everything of a record but its events and its weather.
 *
 * @throws Refusal that names field, value and range
 */
export function fieldOf(record: Omit<SeasonRecord, 'events'>): Field {
  const params = simParams(record.params ?? {});
  const site = siteOf(params, record.soil);
  const latitudeDeg = within('latitude_deg', record.latitudeDeg, {
    label: 'Latitude',
    unit: '°',
    min: -66,
    max: 66,
  });
  const no3 = startingN(site.layers, 'soil.no3_init_kg_ha', record.soil.no3InitKgHa);
  const nh4 = startingN(site.layers, 'soil.nh4_init_kg_ha', record.soil.nh4InitKgHa);
  return {
    params,
    site,
    crop: record.crop ? seasonCropOf(params, record.crop, record.startDate, latitudeDeg) : null,
    start: record.startDate,
    latitudeDeg,
    tSoilInitC:
      record.tSoilInitC == null
        ? null
        : within('t_soil_init_c', record.tSoilInitC, {
            label: 'Soil temperature at the start',
            unit: '°C',
            min: -20,
            max: 45,
          }),
    no3Init: no3.kgHa,
    nh4Init: nh4.kgHa,
    droppedKgHa: no3.droppedKgHa + nh4.droppedKgHa,
  };
}
/** The events of a plan of N on a field. */
export const planOf = (book: Book, field: Field, events: readonly SeasonEvent[]): RunEvent[] =>
  eventsOf(book, events, {
    start: field.start,
    layers: field.site.layers,
    leafFrac: field.params.foliarLeafFrac,
  });

/** Water, warmth and the crop's clock of a weather year: any number of plans run over it. */
export interface LaidOut {
  days: CropDays;
  physical: Physical;
}
export const newLaidOut = (field: Field, days: number): LaidOut => ({
  days: newCropDays(days),
  physical: newPhysical(days, field.site.layers),
});
/** Lays out a weather year, into what stood there before. */
export function layOut(
  field: Field,
  weather: Weather,
  irrigation: Float64Array,
  out: LaidOut,
): void {
  if (field.crop) runClock(field.params, field.crop, weather, out.days);
  physicalPass(
    field.params,
    field.site,
    field.crop,
    out.days,
    weather,
    irrigation,
    field.tSoilInitC,
    out.physical,
  );
}
/**
 * The N of one plan over a weather year that is laid out.
 *
 * @param state room to run in, used again from run to run
 */
export const runPlan = (
  field: Field,
  events: readonly RunEvent[],
  { days, physical }: LaidOut,
  state: NitrogenState,
  trace: Trace | null = null,
  everyDay = false,
): SeasonSummary =>
  nitrogenPass(
    {
      params: field.params,
      site: field.site,
      crop: field.crop,
      days,
      physical,
      events,
      no3Init: field.no3Init,
      nh4Init: field.nh4Init,
    },
    state,
    trace,
    everyDay,
  );

export interface DayByDay {
  summary: SeasonSummary;
  trace: Trace;
  laid: LaidOut;
  state: NitrogenState;
  /** Date of a day of the run; null for none. */
  dateOf: (day: number | null) => IsoDate | null;
}
/** One plan over one weather, day by day, with the balance looked at every day. */
export function simulate(book: Book, record: SeasonRecord, weather: Weather): DayByDay {
  const field = fieldOf(record);
  const events = planOf(book, field, record.events);
  const laid = newLaidOut(field, weather.days);
  layOut(field, weather, waterOf(events, weather.days), laid);
  const trace = newTrace(weather.days);
  const state = newState(field.site.layers);
  const summary = runPlan(field, events, laid, state, trace, true);
  return {
    summary,
    trace,
    laid,
    state,
    dateOf: (day) => (day === null ? null : dateAfter(field.start, day)),
  };
}
