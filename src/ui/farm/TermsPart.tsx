'use client';

import type { Answer } from '@/core/quantity/refusal';
import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { PkSchool, PlannedNSchool } from '@/core/budget/schools';
import type { FarmTerms } from '@/core/document/farmTerms';
import type { PricedProduct, PriceList } from '@/core/farm/priceFile';
import type { Range } from '@/core/quantity/range';
import { N_SCHOOL_WORDS, PK_SCHOOL_WORDS } from '../budget/SchoolsPart';
import { ChoiceBox, Part, words } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FigureBox } from '../figure/FigureBox';
import { TextBox } from '../figure/TextBox';
import { useHydrated } from '../frame/hydrated';
import { PricesPart } from './PricesPart';
import { replaceAt, without } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';
import { RemoveButton } from '../figure/RemoveButton';

type Terms = Omit<FarmTerms, 'library'>;
export interface SetbackDefault {
  feature: string;
  situation: string;
  metres: number;
  min: number;
  max: number;
  level: string;
}
export interface TermsPartProps {
  terms: Terms;
  version: number;
  setbacks: SetbackDefault[];
  products: PricedProduct[];
  today: string;
  readPrices: (form: FormData) => Promise<Answer<PriceList>>;
  readOnly: boolean;
  save: (version: number, terms: Terms) => Promise<Answer<number>>;
}
const range = (label: string, unit: string, min: number, max: number): Range => ({
  label,
  unit,
  min,
  max,
});
const choices = (of: Record<string, string>) =>
  Object.entries(of).map(([value, label]) => ({ value, label }));

interface FormProps {
  terms: Terms;
  set: (part: Partial<Terms>) => void;
  /** Out of use for now: not the reader's to change, or the page is not awake yet. */
  off: boolean;
  readOnly: boolean;
}
/** Boxes of the form; an optional one may be left empty. */
function boxOf(off: boolean) {
  return function box(
    label: string,
    value: number | null,
    r: Range,
    onValue: (v: number | null) => void,
    optional = false,
  ) {
    return (
      <FigureBox
        label={label}
        value={value}
        range={r}
        disabled={off}
        optional={optional}
        onValue={(v) => (v !== null || optional) && onValue(v)}
      />
    );
  };
}

/** Prices, and what hauling costs. */
function Money({ terms, set, off }: FormProps) {
  const haul = (part: Partial<Terms['haul']>) => set({ haul: { ...terms.haul, ...part } });
  const box = boxOf(off);
  return (
    <Part
      title="Money"
      aside={`${terms.currency === null ? '' : `in ${terms.currency}; `}placeholders until they are your own`}
    >
      <div className="fields">
        {box(
          'N price',
          terms.nPricePerKg,
          { ...range('N price', 'per kg', 0, 100), above: true },
          (v) => set({ nPricePerKg: v ?? 0 }),
        )}
        {box('P price', terms.pPricePerKg, range('P price', 'per kg', 0, 100), (v) =>
          set({ pPricePerKg: v ?? 0 }),
        )}
        {box('K price', terms.kPricePerKg, range('K price', 'per kg', 0, 100), (v) =>
          set({ kPricePerKg: v ?? 0 }),
        )}
        {box('S price', terms.sPricePerKg, range('S price', 'per kg', 0, 100), (v) =>
          set({ sPricePerKg: v ?? 0 }),
        )}
        {box(
          'Spreading fertiliser',
          terms.spreadingCostHa,
          range('Spreading fertiliser', 'per ha', 0, 500),
          (v) => set({ spreadingCostHa: v ?? 0 }),
        )}
      </div>
      <p className="note mt-1">
        Prices are per kilogram of the element: one of P2O5 times 2.29 is one of P, one of K2O times
        1.20 is one of K.
      </p>
      <h3 className="mt-3">Hauling manure</h3>
      <div className="fields">
        {box(
          'An hour of tractor and driver',
          terms.haul.hourCost,
          range('Cost of an hour', 'per h', 0, 1000),
          (v) => haul({ hourCost: v ?? 0 }),
        )}
        {box('Road speed', terms.haul.roadSpeedKmH, range('Road speed', 'km/h', 5, 80), (v) =>
          haul({ roadSpeedKmH: v ?? 25 }),
        )}
        {box('Loading', terms.haul.loadMin, range('Loading', 'min', 0, 240), (v) =>
          haul({ loadMin: v ?? 0 }),
        )}
        {box(
          'Spreading a load',
          terms.haul.unloadMin,
          range('Spreading a load', 'min', 0, 240),
          (v) => haul({ unloadMin: v ?? 0 }),
        )}
        {box(
          'Other time of a trip',
          terms.haul.waitMin,
          range('Other time of a trip', 'min', 0, 240),
          (v) => haul({ waitMin: v ?? 0 }),
        )}
        {box(
          'Field hours in a day',
          terms.haul.hoursPerDay,
          range('Field hours in a day', 'h', 1, 24),
          (v) => haul({ hoursPerDay: v ?? 9 }),
        )}
      </div>
    </Part>
  );
}

/** Which school a field follows until it has chosen its own. */
function Schools({ terms, set, off }: FormProps) {
  const box = boxOf(off);
  return (
    <Part title="Recommendation systems" aside="a field follows these until it has chosen its own">
      <div className="fields">
        <ChoiceBox
          label="N by"
          disabled={off}
          value={terms.nSchool}
          options={choices(N_SCHOOL_WORDS)}
          onValue={(v) => v && set({ nSchool: v as PlannedNSchool })}
        />
        <ChoiceBox
          label="P and K by"
          disabled={off}
          value={terms.pkSchool}
          options={choices(PK_SCHOOL_WORDS)}
          onValue={(v) => v && set({ pkSchool: v as PkSchool })}
        />
      </div>
      <h3 className="mt-3">Manure and compost</h3>
      <div className="fields">
        <ChoiceBox
          label="N of manure by"
          disabled={off || terms.manureNSharePct !== null}
          value={terms.manureNSchool}
          options={[
            { value: 'two_pools', label: 'two pools, ammonium and organic' },
            { value: 'dry_matter_n', label: 'N of the dry matter (solids)' },
          ]}
          onValue={(v) => v && set({ manureNSchool: v as Terms['manureNSchool'] })}
        />
        {box(
          'Manure N by one share of total N',
          terms.manureNSharePct,
          range('Share of total N', '%', 1, 100),
          (v) => set({ manureNSharePct: v }),
          true,
        )}
        <ChoiceBox
          label="Ammonia by"
          disabled={off}
          value={terms.ammoniaSchool}
          options={[
            { value: 'curve', label: 'curve with weather and placement' },
            { value: 'simple_table', label: 'simple table of plan forms' },
          ]}
          onValue={(v) => v && set({ ammoniaSchool: v as Terms['ammoniaSchool'] })}
        />
        <ChoiceBox
          label="P and K of manure"
          disabled={off}
          value={terms.manurePkSchool}
          options={[
            { value: 'by_soil_test', label: 'only the quick part where the test is low' },
            { value: 'full_credit', label: 'all in the first year' },
          ]}
          onValue={(v) => v && set({ manurePkSchool: v as Terms['manurePkSchool'] })}
        />
        <ChoiceBox
          label="Soil in the season"
          disabled={off}
          value={terms.soilWarmth}
          options={[
            { value: 'cool', label: 'cool, under about 12 °C (x 0.80)' },
            { value: 'temperate', label: 'temperate (x 1.00)' },
            { value: 'warm', label: 'warm (x 1.10)' },
            { value: 'hot_moist', label: 'hot and moist (x 1.15)' },
          ]}
          onValue={(v) => v && set({ soilWarmth: v as Terms['soilWarmth'] })}
        />
        {box(
          'Years 5 to 10 give, a year',
          terms.residualTailFrac,
          range('Yearly share after year 4', '', 0, 0.03),
          (v) => set({ residualTailFrac: v ?? 0 }),
        )}
      </div>
      <p className="note mt-1">
        The defaults alone show what placement and a soil test are worth; another method is for a
        regulator’s form, and the default stands beside it. A share is for where a regulation fixes
        one. Years 5 to 10: 0, or 0.02 of the organic N where decades of manure lie in the ground
        and no organic matter is credited: taking both counts twice.
      </p>
    </Part>
  );
}

/** What law, buyer and certifier allow. */
function Limits({ terms, set, off, readOnly }: FormProps) {
  const { words: said } = useUnits();
  const box = boxOf(off);
  return (
    <Part title="Limits and intervals" aside="local law, buyer and certifier come first">
      <div className="fields">
        {box(
          'Ceiling of N on a crop',
          terms.legalNCapKgHa,
          range('Legal N cap', 'kg/ha', 0, 500),
          (v) => set({ legalNCapKgHa: v }),
          true,
        )}
        {box(
          'Yearly limit of N from manure',
          terms.manureNLimitKgHa,
          range('Yearly limit of manure N', 'kg/ha', 50, 500),
          (v) => set({ manureNLimitKgHa: v }),
          true,
        )}
        {box(
          'Raw manure to harvest, crop on the soil',
          terms.rawContactDays,
          range('Days to harvest, touching soil', 'd', 30, 400),
          (v) => set({ rawContactDays: v ?? 120 }),
        )}
        {box(
          'Raw manure to harvest, crop off the soil',
          terms.rawNoContactDays,
          range('Days to harvest, off the soil', 'd', 30, 400),
          (v) => set({ rawNoContactDays: v ?? 90 }),
        )}
      </div>
      <p className="note mt-1">
        Where a limit of manure N exists it is usually {said('170 kg/ha')} of total N from
        livestock. Defaults of the intervals: 120 and 90 days.
      </p>
      <h3 className="mt-3">Closed periods</h3>
      <p className="note">
        Is there a closed period for manure or fertiliser where you farm? Month and day; it may run
        over the new year.
      </p>
      <ul>
        {terms.closedPeriods.map((p, i) => (
          <li key={i} className="flex flex-wrap items-baseline gap-x-4 py-1">
            <TextBox
              label={`Closed period ${i + 1} from`}
              value={p.from}
              max={5}
              disabled={off}
              problem={
                /^\d\d-\d\d$/.test(p.from)
                  ? null
                  : `Closed from = ${p.from} is not MM-DD, such as 10-15.`
              }
              onValue={(v) =>
                set({ closedPeriods: replaceAt(terms.closedPeriods, i, { from: v }) })
              }
            />
            <TextBox
              label={`Closed period ${i + 1} to`}
              value={p.to}
              max={5}
              disabled={off}
              problem={
                /^\d\d-\d\d$/.test(p.to) ? null : `Closed to = ${p.to} is not MM-DD, such as 01-31.`
              }
              onValue={(v) => set({ closedPeriods: replaceAt(terms.closedPeriods, i, { to: v }) })}
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove closed period ${i + 1}`}
                onClick={() => set({ closedPeriods: without(terms.closedPeriods, i) })}
              />
            )}
          </li>
        ))}
      </ul>
      {!readOnly && terms.closedPeriods.length < 6 && (
        <button
          type="button"
          className="button"
          onClick={() =>
            set({ closedPeriods: [...terms.closedPeriods, { from: '10-15', to: '01-31' }] })
          }
        >
          <Plus size={13} aria-hidden /> Closed period
        </button>
      )}
    </Part>
  );
}

/** How far to keep off water, wells and houses. */
function Setbacks({ terms, set, off, defaults }: FormProps & { defaults: SetbackDefault[] }) {
  const { show, unit } = useUnits();
  const setbackOf = (s: SetbackDefault) =>
    terms.setbacks.find((x) => x.feature === s.feature && x.situation === s.situation);
  return (
    <Part
      title="Setbacks"
      aside="distance kept from what lies beside a field; which field has what stands in its manure plan"
    >
      <Scrolled label="Distances kept">
        <table className="ruled max-w-[46rem]">
          <thead>
            <tr>
              <th>From</th>
              <th>When</th>
              <th className="num">Default, {unit('length')}</th>
              <th className="pl-4">Here</th>
              <th>Broken, it is a</th>
            </tr>
          </thead>
          <tbody>
            {defaults.map((s) => (
              <tr key={`${s.feature}-${s.situation}`}>
                <th scope="row">{words(s.feature)}</th>
                <td>{words(s.situation)}</td>
                <td className="num">{show(s.metres, 'length')}</td>
                <td className="pl-4">
                  <FigureBox
                    label={`Setback, ${words(s.feature)}, ${words(s.situation)}`}
                    hideLabel
                    optional
                    disabled={off}
                    value={setbackOf(s)?.metres ?? null}
                    range={range(`Setback to ${words(s.feature)}`, 'm', s.min, s.max)}
                    onValue={(v) =>
                      set({
                        setbacks: [
                          ...terms.setbacks.filter((x) => x !== setbackOf(s)),
                          ...(v === null
                            ? []
                            : [{ feature: s.feature, situation: s.situation, metres: v }]),
                        ],
                      })
                    }
                  />
                </td>
                <td>{s.level}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
    </Part>
  );
}

/** A farm's money, schools, limits and distances, each with its shown default; saved together. */
export function TermsPart({
  terms: first,
  version: at,
  setbacks,
  readOnly,
  save,
  ...priced
}: TermsPartProps) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [terms, setTerms] = useState(first);
  const [version, setVersion] = useState(at);
  const [said, setSaid] = useState<{ text: string; bad: boolean } | null>(null);
  const [pending, start] = useTransition();
  const off = readOnly || !hydrated;
  const set = (part: Partial<Terms>) => {
    setTerms((t) => ({ ...t, ...part }));
    setSaid(null);
  };
  const keep = () =>
    start(async () => {
      const r = await save(version, terms);
      setSaid(
        r.ok
          ? { text: 'Saved; the plans of this farm reckon with it from now on.', bad: false }
          : { text: r.refusal.message, bad: true },
      );
      if (r.ok) {
        setVersion(r.value);
        router.refresh();
      }
    });
  const form = { terms, set, off, readOnly };
  return (
    <>
      <Money {...form} />
      <PricesPart
        {...priced}
        prices={terms.prices}
        currency={terms.currency}
        off={off}
        readOnly={readOnly}
        onPrices={(prices) => set({ prices })}
      />
      <Schools {...form} />
      <Limits {...form} />
      <Setbacks {...form} defaults={setbacks} />
      {!readOnly && (
        <div className="sticky bottom-0 flex flex-wrap items-center gap-3 border-t border-rule bg-paper py-2">
          <button
            type="button"
            className="button button-strong"
            disabled={pending || !hydrated}
            onClick={keep}
          >
            Save money, systems and limits
          </button>
          {said && (
            <span role={said.bad ? 'alert' : 'status'} className={said.bad ? 'problem' : 'note'}>
              {said.text}
            </span>
          )}
        </div>
      )}
    </>
  );
}
