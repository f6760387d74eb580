'use client';

import { Plus } from 'lucide-react';
import type { SamplingPlan } from '@/core/ground/samplingPlan';
import {
  coresForP,
  expectedPrecision,
  precisionCurve,
  samplingCost,
  whatMoreBuys,
} from '@/core/ground/samplingValue';
import { samplingDepthOf, samplingPurposes, samplingSchemeOf } from '@/core/book/sampling';
import { ChoiceBox, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { replaceAt, without } from '../workspace/context';
import { RemoveButton } from '../figure/RemoveButton';

const SCHEMES = [
  ['whole_field', 'one composite of the field'],
  ['grid', 'grid of cells'],
  ['zone', 'zones'],
  ['benchmark', 'fixed spot'],
] as const;
const PURPOSE_WORDS: Record<string, string> = {
  ph_p_k_tilled: 'pH, P and K, tilled ground',
  ph_p_k_grassland: 'pH, P and K, grassland',
  no_till_top: 'no-till, top layer',
  no_till_below: 'no-till, layer below',
  nitrate_profile: 'nitrate in the profile',
  pre_sidedress_nitrate: 'nitrate before sidedressing',
  new_ground: 'new ground',
  orchard_vine_preplant: 'orchard or vines, before planting',
  orchard_established: 'orchard or bushes, established',
  sulphate_profile: 'sulphate in the profile',
  subsoil_acidity: 'acid subsoil',
  salinity_sodicity: 'salt and sodium',
};
const HUNDRED = 100;

const layersFor = (purpose: string): SamplingPlan['layers'] => {
  if (purpose === 'no_till_top' || purpose === 'no_till_below')
    return [
      { fromCm: 0, toCm: 5 },
      { fromCm: 5, toCm: 15 },
    ];
  if (purpose === 'nitrate_profile' || purpose === 'sulphate_profile')
    return [
      { fromCm: 0, toCm: 30 },
      { fromCm: 30, toCm: 60 },
    ];
  if (purpose === 'subsoil_acidity')
    return [
      { fromCm: 20, toCm: 40 },
      { fromCm: 40, toCm: 60 },
    ];
  const row = samplingDepthOf(purpose);
  return [{ fromCm: row.depthFromCm, toCm: row.depthToCm }];
};

/** What the plan will know, what it costs, and what more would buy. */
export function Worth({ plan, nSamples }: { plan: SamplingPlan; nSamples: number }) {
  const effort = {
    nSamples,
    coresPerSample: plan.coresPerSample,
    labPricePerSample: plan.labPricePerSample,
    labourPerSample: plan.labourPerSample,
    labourPerCore: plan.labourPerCore,
  };
  const now = expectedPrecision(effort);
  const curve = precisionCurve(effort, [8, 10, 12, 15, 20, 30, 40]);
  const more = whatMoreBuys(effort, HUNDRED);
  const evenMore = more ? whatMoreBuys({ ...effort, coresPerSample: more.cores }, HUNDRED) : null;
  return (
    <Part
      title="What it will know"
      aside="half of the 90 % interval, from the book’s variation; bias of depth, season or odd spots is not in it"
    >
      <table className="ruled max-w-[34rem]" data-testid="precision">
        <thead>
          <tr>
            <th>Reading</th>
            <th className="num">in one sample</th>
            <th className="num">mean of the field</th>
          </tr>
        </thead>
        <tbody>
          {now.map((r) => (
            <tr key={r.property}>
              <th scope="row">{r.label}</th>
              <td className="num">
                +/- {r.perSample.toFixed(r.unit === '%' ? 0 : 2)} {r.unit}
              </td>
              <td className="num">
                +/- {r.fieldMean.toFixed(r.unit === '%' ? 0 : 2)} {r.unit}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1">
        {nSamples} samples of {plan.coresPerSample} cores cost{' '}
        <strong>{samplingCost(effort).toFixed(0)}</strong>.
        {more
          ? ` Another ${HUNDRED} buys ${more.cores} cores a sample: P from +/- ${more.from.toFixed(0)} to ${more.to.toFixed(0)} %.`
          : ''}
        {evenMore ? ` The ${HUNDRED} after that: to ${evenMore.to.toFixed(0)} %.` : ''} P within 20
        % in one sample takes {coresForP()} cores.
      </p>
      <details>
        <summary className="cursor-pointer">Cores against cost</summary>
        <table className="ruled max-w-[34rem]">
          <thead>
            <tr>
              <th>Cores a sample</th>
              <th className="num">Cost</th>
              {curve[0]?.rows.map((r) => (
                <th key={r.property} className="num">
                  {r.label}, {r.unit}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {curve.map((c) => (
              <tr key={c.cores} className={c.cores === plan.coresPerSample ? 'font-bold' : ''}>
                <th scope="row">{c.cores}</th>
                <td className="num">{c.cost.toFixed(0)}</td>
                {c.rows.map((r) => (
                  <td key={r.property} className="num">
                    {r.perSample.toFixed(r.unit === '%' ? 0 : 2)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Part>
  );
}

/** Purpose, scheme, cores, labels, prices and layers of a plan. */
export function Design({
  plan,
  set,
  areaHa,
  readOnly,
}: {
  plan: SamplingPlan;
  set: (part: Partial<SamplingPlan>) => void;
  areaHa: number;
  readOnly: boolean;
}) {
  const row = samplingDepthOf(plan.purpose);
  const scheme = samplingSchemeOf(
    plan.scheme === 'grid' ? ((plan.cellAreaHa ?? 1) > 1.5 ? 'grid_5ac' : 'grid_1ha') : plan.scheme,
  );
  const perSample =
    plan.scheme === 'grid'
      ? (plan.cellAreaHa ?? areaHa)
      : plan.scheme === 'zone'
        ? areaHa / Math.max(1, plan.zones.length)
        : areaHa;
  return (
    <Part title="How to sample">
      <div className="fields">
        <ChoiceBox
          label="Purpose"
          disabled={readOnly}
          value={plan.purpose}
          options={samplingPurposes().map((p) => ({
            value: p.purpose,
            label: PURPOSE_WORDS[p.purpose] ?? words(p.purpose),
          }))}
          onValue={(v) =>
            v &&
            set({
              purpose: v,
              layers: layersFor(v),
              coresPerSample:
                plan.scheme === 'grid' ? plan.coresPerSample : samplingDepthOf(v).goodCores,
              points: plan.points.filter((p) => p.kind === 'problem' || p.kind === 'good'),
            })
          }
        />
        <ChoiceBox
          label="Scheme"
          disabled={readOnly}
          value={plan.scheme}
          options={SCHEMES.map(([value, label]) => ({ value, label }))}
          onValue={(v) =>
            v &&
            set({
              scheme: v as SamplingPlan['scheme'],
              coresPerSample: samplingSchemeOf(v === 'grid' ? 'grid_1ha' : v).coresPerSample,
            })
          }
        />
        {plan.scheme === 'grid' && (
          <FigureBox
            label="Cell"
            dimension="area"
            disabled={readOnly}
            value={plan.cellAreaHa}
            range={{ label: 'Cell area', unit: 'ha', min: 0.05, max: 100 }}
            onValue={(v) => v !== null && set({ cellAreaHa: v })}
          />
        )}
        <FigureBox
          label="Cores a sample"
          disabled={readOnly}
          value={plan.coresPerSample}
          range={{ label: 'Cores', unit: '', min: 1, max: 100 }}
          onValue={(v) => v !== null && set({ coresPerSample: v })}
        />
        <FigureBox
          label="Headland left out"
          disabled={readOnly}
          value={plan.headlandM}
          range={{ label: 'Headland', unit: 'm', min: 0, max: 60 }}
          onValue={(v) => v !== null && set({ headlandM: v })}
        />
        <label className="inline-flex items-baseline gap-1.5">
          Labels begin with
          <input
            className="box w-28"
            value={plan.prefix}
            maxLength={12}
            disabled={readOnly}
            onChange={(e) => set({ prefix: e.target.value })}
          />
        </label>
        <FigureBox
          label="Laboratory"
          disabled={readOnly}
          value={plan.labPricePerSample}
          range={{ label: 'Laboratory price', unit: 'per sample', min: 0, max: 1000 }}
          onValue={(v) => v !== null && set({ labPricePerSample: v })}
        />
        <FigureBox
          label="Labour"
          disabled={readOnly}
          value={plan.labourPerSample}
          range={{ label: 'Labour', unit: 'per sample', min: 0, max: 1000 }}
          onValue={(v) => v !== null && set({ labourPerSample: v })}
        />
        <FigureBox
          label="and"
          disabled={readOnly}
          value={plan.labourPerCore}
          range={{ label: 'Labour', unit: 'per core', min: 0, max: 100 }}
          onValue={(v) => v !== null && set({ labourPerCore: v })}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        Layers
        {plan.layers.map((l, i) => (
          <span key={i} className="inline-flex items-baseline gap-1">
            <FigureBox
              label={`Layer ${i + 1} from`}
              hideLabel
              disabled={readOnly}
              value={l.fromCm}
              range={{ label: 'From', unit: '', min: 0, max: 180 }}
              onValue={(v) =>
                v !== null && set({ layers: replaceAt(plan.layers, i, { fromCm: v }) })
              }
            />{' '}
            to{' '}
            <FigureBox
              label={`Layer ${i + 1} to`}
              hideLabel
              disabled={readOnly}
              value={l.toCm}
              range={{ label: 'To', unit: 'cm', min: 1, max: 180 }}
              onValue={(v) => v !== null && set({ layers: replaceAt(plan.layers, i, { toCm: v }) })}
            />
            {!readOnly && plan.layers.length > 1 && (
              <RemoveButton
                label={`Remove layer ${i + 1}`}
                onClick={() => set({ layers: without(plan.layers, i) })}
              />
            )}
          </span>
        ))}
        {!readOnly && plan.layers.length < 4 && (
          <button
            type="button"
            className="button"
            onClick={() =>
              set({
                layers: [
                  ...plan.layers,
                  {
                    fromCm: plan.layers[plan.layers.length - 1]?.toCm ?? 0,
                    toCm: (plan.layers[plan.layers.length - 1]?.toCm ?? 0) + 20,
                  },
                ],
              })
            }
          >
            <Plus size={13} aria-hidden /> Layer
          </button>
        )}
      </div>
      <p className="note mt-1 max-w-[44rem]">
        When: {row.when}.{row.note ? ` ${row.note}.` : ''}{' '}
        {scheme.name.charAt(0).toUpperCase() + scheme.name.slice(1)}: {scheme.useWhen};{' '}
        {scheme.warn}.
      </p>
      {plan.coresPerSample < row.minCores && plan.scheme !== 'grid' && (
        <p className="problem">
          {plan.coresPerSample} cores: at least {row.minCores} for this purpose, {row.goodCores} are
          good.
        </p>
      )}
      {perSample > row.maxAreaHaPerSample && plan.scheme !== 'benchmark' && (
        <p className="problem">
          {perSample.toFixed(1)} ha in one sample hides variation: at most {row.maxAreaHaPerSample}{' '}
          ha.
        </p>
      )}
      {Math.max(...plan.layers.map((l) => l.toCm)) > 40 && (
        <p className="problem">
          Deeper than 40 cm: check for buried cables, pipes and drains before you push the probe.
        </p>
      )}
    </Part>
  );
}
