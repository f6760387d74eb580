'use client';

import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { machinePlan, placementTable } from '@/core/views/dressing';
import { doseValue } from '@/core/lines/organicValue';
import type { AssessedApplication } from '@/core/lines/organicLines';
import type { OrganicApplication } from '@/core/document/document';
import { RANGES } from '@/core/quantity/range';
import { Refusal } from '@/core/quantity/refusal';
import { ammoniaLevels } from '@/core/book/organicMaterials';
import { ChoiceBox, optionsOf, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import {
  replaceAt,
  without,
  useEdit,
  useWholeAssessment,
  useWholePlan,
} from '../workspace/context';
import type { FarmGear } from './gear';
import { Scrolled } from '../figure/Scrolled';
import { RemoveButton } from '../figure/RemoveButton';

type Set = (part: Partial<OrganicApplication>) => void;

/**
 * The same load by other techniques and hours: what is kept, what goes to the air, and its money.
 */
export function PlacementTab({
  o,
  own,
  set,
}: {
  o: OrganicApplication;
  own: AssessedApplication;
  set: Set;
}) {
  const plan = useWholePlan();
  const { readOnly } = useEdit();
  const { show, unit } = useUnits();
  const t = useMemo(() => placementTable(plan, own), [plan, own]);
  const later = o.coverings.slice(1);
  return (
    <>
      <div className="mb-2 fields">
        <ChoiceBox
          label="The ground is"
          disabled={readOnly}
          value={o.soil}
          options={optionsOf(ammoniaLevels('m_soil'))}
          onValue={(v) => v && set({ soil: v })}
        />
        <ChoiceBox
          label="under"
          disabled={readOnly}
          value={o.cover}
          options={optionsOf(ammoniaLevels('m_cover'))}
          onValue={(v) => v && set({ cover: v })}
        />
        <TickBox
          label="acidified"
          disabled={readOnly}
          value={o.acidified}
          onValue={(acidified) => set({ acidified })}
        />
        <FigureBox
          label="pH of the material"
          optional
          disabled={readOnly}
          value={o.materialPh}
          range={{ label: 'pH of the material', unit: '', min: 2, max: 13 }}
          onValue={(materialPh) => set({ materialPh })}
        />
        {later.map((c, k) => (
          <span key={k} className="inline-flex flex-wrap items-baseline gap-x-3">
            <ChoiceBox
              label={`then ${k + 2}`}
              disabled={readOnly}
              value={c.kind}
              options={optionsOf(ammoniaLevels('r_event'))}
              onValue={(v) => v && set({ coverings: replaceAt(o.coverings, k + 1, { kind: v }) })}
            />
            <FigureBox
              label={`after ${k + 2}`}
              disabled={readOnly}
              value={c.hours}
              range={{ ...RANGES.hours, label: 'Hours' }}
              onValue={(v) =>
                v !== null && set({ coverings: replaceAt(o.coverings, k + 1, { hours: v }) })
              }
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove covering ${k + 2}`}
                onClick={() => set({ coverings: without(o.coverings, k + 1) })}
              />
            )}
          </span>
        ))}
        {!readOnly && o.coverings.length > 0 && o.coverings.length < 6 && (
          <button
            type="button"
            className="button"
            onClick={() =>
              set({
                coverings: [
                  ...o.coverings,
                  { kind: 'rain_10_mm_or_more', hours: (o.coverings.at(-1)?.hours ?? 0) + 12 },
                ],
              })
            }
          >
            <Plus size={13} aria-hidden /> Rain, water or tillage later
          </button>
        )}
      </div>
      <Scrolled label="The same load otherwise placed">
        <table className="ruled max-w-[46rem]" data-testid="placement">
          <thead>
            <tr>
              <th>Placement</th>
              <th className="num">
                Ammonium-N kept,
                <br />
                {unit('nutrient_rate')}
              </th>
              <th className="num">to the air</th>
              <th className="num">
                lost money,
                <br />
                {unit('price_per_area')}
              </th>
            </tr>
          </thead>
          <tbody>
            {t.rows.map((r) => (
              <tr key={r.key} className={r.asPlanned ? 'font-bold' : ''}>
                <th scope="row" className={r.asPlanned ? 'font-bold' : ''}>
                  {r.label}
                </th>
                <td className="num">{show(r.keptKgHa, 'nutrient_rate')}</td>
                <td className="num">{show(r.lostKgHa, 'nutrient_rate')}</td>
                <td className="num">{show(r.money, 'price_per_area')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <p className="mt-1">
        {t.anHourCosts > 0.05 ? (
          <>
            Each further hour on the surface costs about{' '}
            <strong>
              {show(t.anHourCosts, 'nutrient_rate')} {unit('nutrient_rate')}
            </strong>{' '}
            now.
          </>
        ) : (
          'Another hour changes little now.'
        )}{' '}
        <span className="note">
          {plan.farm.ammoniaSchool === 'curve'
            ? 'One day on one field is good to about 40 % of the loss; a farm’s mean is far better.'
            : 'By the simple table: placement and hours alone, no weather.'}
        </span>
      </p>
    </>
  );
}

/** What the dressing replaces of bought nutrients, and what the trip takes of it. */
export function WorthTab({
  o,
  own,
  set,
  gear,
}: {
  o: OrganicApplication;
  own: AssessedApplication;
  set: Set;
  gear: FarmGear;
}) {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { readOnly } = useEdit();
  const v = useMemo(() => doseValue(plan, a, own), [plan, a, own]);
  const passes = useMemo(() => {
    try {
      return machinePlan(o);
    } catch (e) {
      if (e instanceof Refusal) return e.message;
      throw e;
    }
  }, [o]);
  const { show, unit } = useUnits();
  const rate = o.rateUnit === 'm3_ha' ? 'volume_rate' : 'mass_rate';
  const told = (v: number) => `${show(v, rate, 1)} ${unit(rate)}`;
  const perArea = (v: number) => `${show(v, 'price_per_area')} ${unit('price_per_area')}`;
  return (
    <>
      <div className="mb-2 fields">
        <ChoiceBox
          label="Machine"
          disabled={readOnly}
          value={o.machine?.id ?? null}
          empty="none named"
          options={gear.machines.map((m) => ({ value: m.id, label: m.name }))}
          onValue={(id) => {
            const m = gear.machines.find((x) => x.id === id);
            set({
              machine: m
                ? {
                    id: m.id,
                    name: m.name,
                    kind: m.kind,
                    minRate: m.minRate,
                    maxRate: m.maxRate,
                    capacity: m.capacity,
                    calibration: m.calibrations[0] ?? null,
                  }
                : null,
            });
          }}
        />
        <FigureBox
          label="Distance, one way"
          optional
          disabled={readOnly}
          value={o.distanceKm}
          range={{ label: 'Distance', unit: 'km', min: 0, max: 150 }}
          onValue={(distanceKm) => set({ distanceKm })}
        />
        <FigureBox
          label="Price of the material"
          disabled={readOnly}
          value={o.pricePerT}
          range={{ label: 'Price', unit: 'per t', min: -1000, max: 1000 }}
          onValue={(x) => x !== null && set({ pricePerT: x })}
        />
        <FigureBox
          label="Yield bonus believed in"
          disabled={readOnly}
          value={o.yieldBonusPct}
          range={{ label: 'Yield bonus', unit: '%', min: 0, max: 15 }}
          onValue={(x) => x !== null && set({ yieldBonusPct: x })}
        />
      </div>
      {typeof passes === 'string' ? (
        <p role="alert" className="problem">
          {passes}
        </p>
      ) : (
        passes && (
          <p>
            {passes.rule === 'R05' ? (
              <>
                Below what {o.machine?.name} spreads evenly ({told(o.machine?.minRate ?? 0)}).
                {passes.multiYearPossible
                  ? ` One dressing for ${passes.pYearsNeeded} years of P would do.`
                  : ' Another machine, material or field.'}
              </>
            ) : passes.passes > 1 ? (
              `${passes.passes} passes, the machine set to ${told(passes.rateSet)}.`
            ) : (
              `One pass, the machine set to ${told(passes.rateSet)}.`
            )}
          </p>
        )
      )}
      {v ? (
        <Scrolled label="Worth of a tonne">
          <table className="ruled max-w-[46rem]" data-testid="worth">
            <thead>
              <tr>
                <th className="first-letter:uppercase">{unit('price_per_mass')}</th>
                <th className="num">Money</th>
                <th className="pl-4">How</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">Replaces bought nutrients</th>
                <td className="num">{show(v.valuePerT, 'price_per_mass', 2)}</td>
                <td className="pl-4 note">
                  {Object.entries(v.used)
                    .map(([x, kg]) => `${show(kg, 'nutrient_rate')} ${unit('nutrient_rate')} ${x}`)
                    .join(', ')}{' '}
                  a hectare are used
                </td>
              </tr>
              <tr>
                <th scope="row">All its nutrients at full price</th>
                <td className="num">
                  {show(v.boughtOutrightHa / own.rateTHa, 'price_per_mass', 2)}
                </td>
                <td className="pl-4 note">what is not needed here pays nobody</td>
              </tr>
              {v.trip && (
                <tr>
                  <th scope="row">Bringing it out</th>
                  <td className="num">{show(v.trip.costPerT, 'price_per_mass', 2)}</td>
                  <td className="pl-4 note">
                    {v.trip.loads} loads, {v.trip.hours.toFixed(1)} h, {v.trip.days.toFixed(1)}{' '}
                    field days{v.trip.loaderBound ? '; the loader sets the pace' : ''}
                  </td>
                </tr>
              )}
              {v.netPerT !== null && (
                <tr className="sum">
                  <th scope="row">Net</th>
                  <td className={`num ${v.netPerT < 0 ? 'text-hot' : ''}`}>
                    {show(v.netPerT, 'price_per_mass', 2)}
                  </td>
                  <td className="pl-4 note">
                    {v.advantageHa === null
                      ? ''
                      : `${perArea(v.advantageHa)} against buying and spreading the same`}
                  </td>
                </tr>
              )}
              {(v.laterNHa > 0.5 || v.bankHa > 0.5) && (
                <tr>
                  <th scope="row">Not in the sum</th>
                  <td className="num">
                    {show((v.laterNHa + v.bankHa) / own.rateTHa, 'price_per_mass', 2)}
                  </td>
                  <td className="pl-4 note">
                    {perArea(v.laterNHa)} of N in years 2 to 4, at 6 % a year, if crops then use it
                    {v.bankHa > 0.5
                      ? `; ${perArea(v.bankHa)} of P and K that the soil still has room for`
                      : ''}
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        </Scrolled>
      ) : (
        <p className="note">At a rate of 0 there is nothing to weigh.</p>
      )}
      {v && (
        <p className="mt-1">
          {v.breakevenKm > 0 ? (
            <>
              It pays its way up to{' '}
              <strong>
                {show(v.breakevenKm, 'distance', 1)} {unit('distance')}
              </strong>
              .
            </>
          ) : (
            'Not worth moving even next door, by its nutrients.'
          )}
          {v.costPerKgN !== null && (
            <>
              {' '}
              A kilogram of available N costs {v.costPerKgN.toFixed(2)} brought,{' '}
              {plan.farm.nPricePerKg.toFixed(2)} bought.
            </>
          )}{' '}
          <span className="note">
            If it must leave the store anyway, compare with the next-best field instead.
          </span>
        </p>
      )}
      {o.yieldBonusPct > 0 && plan.season.cropPricePerT !== null && (
        <p>
          A bonus of {o.yieldBonusPct} % would be{' '}
          {perArea(
            (o.yieldBonusPct / 100) * (plan.season.yieldGoalTHa ?? 0) * plan.season.cropPricePerT,
          )}
          .{' '}
          <span className="note">
            Entered by you; not a nutrient effect; test with strips. It is in none of the figures
            above.
          </span>
        </p>
      )}
    </>
  );
}
