'use client';

import { useMemo } from 'react';
import { layerPlan, ringPlan, timesCompared, yearAfterYear } from '@/core/views/dressing';
import type { OrganicApplication } from '@/core/document/document';
import type { AssessedApplication } from '@/core/lines/organicLines';
import { standLoss } from '@/core/organics/inCrop';
import { RANGES } from '@/core/quantity/range';
import { Refusal } from '@/core/quantity/refusal';
import { incropCropGroups, incropTechniques, ringRowOf, ringRows } from '@/core/book/organicTables';
import { ChoiceBox, optionsOf, TickBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useBook, useEdit, usePlan, useWholeAssessment, useWholePlan } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';

type Use = OrganicApplication['use'];
type Of<K extends Use['kind']> = Extract<Use, { kind: K }>;
type Set = (part: Partial<OrganicApplication>) => void;
const told = <T,>(work: () => T): { value: T | null; problem: string | null } => {
  try {
    return { value: work(), problem: null };
  } catch (e) {
    if (e instanceof Refusal) return { value: null, problem: e.message };
    throw e;
  }
};
const KINDS: Record<Use['kind'], string> = {
  field: 'over the field',
  ring: 'in rings round trees or bushes',
  layer: 'as a layer on beds or rows',
  in_crop: 'into the standing crop',
};
const firstRing = ringRows()[0];
const blank = (kind: Use['kind']): Use => {
  if (kind === 'ring')
    return {
      kind,
      plantKind: firstRing?.plantKind ?? 'tree_fruit',
      ageClass: 'bearing_standard',
      canopyRadiusM: 2.5,
      trunkClearM: 0.6,
      beyondM: 0.5,
      rowM: 5,
      inRowM: 4,
      dormant: false,
    };
  if (kind === 'layer')
    return {
      kind,
      layerMm: 25,
      coveredFrac: 1,
      mixed: true,
      mixingDepthCm: 15,
      ecCompost: null,
      ecSoil: null,
    };
  if (kind === 'in_crop')
    return {
      kind,
      cropGroup: incropCropGroups()[0] ?? 'maize',
      technique: incropTechniques(incropCropGroups()[0] ?? 'maize')[0] ?? 'any',
      bbch: null,
      vStage: null,
      standLossPct: 2,
      wheelPan: false,
    };
  return { kind: 'field' };
};
const m = (label: string, max: number, min = 0) => ({ label, unit: 'm', min, max });

function Ring({
  use,
  own,
  readOnly,
  put,
  set,
}: {
  use: Of<'ring'>;
  own: AssessedApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'ring'>>) => void;
  set: Set;
}) {
  const a = useWholeAssessment();
  const { show, unit } = useUnits();
  const plan = told(() => ringPlan(a, own));
  const row = told(() => ringRowOf(use.plantKind, use.ageClass)).value;
  const kinds = [...new Set(ringRows().map((r) => r.plantKind))];
  const ages = ringRows()
    .filter((r) => r.plantKind === use.plantKind)
    .map((r) => r.ageClass);
  const choose = (plantKind: string, ageClass: string) => {
    const r =
      ringRows().find((x) => x.plantKind === plantKind && x.ageClass === ageClass) ??
      ringRows().find((x) => x.plantKind === plantKind);
    if (r)
      put({
        plantKind: r.plantKind,
        ageClass: r.ageClass,
        canopyRadiusM: r.canopyRadiusMDefault,
        trunkClearM: r.trunkClearM,
        beyondM: r.ringOuterBeyondCanopyM,
      });
  };
  const p = plan.value;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <ChoiceBox
          label="Plant"
          disabled={readOnly}
          value={use.plantKind}
          options={optionsOf(kinds)}
          onValue={(v) => v && choose(v, use.ageClass)}
        />
        <ChoiceBox
          label="Age"
          disabled={readOnly}
          value={use.ageClass}
          options={optionsOf(ages)}
          onValue={(v) => v && choose(use.plantKind, v)}
        />
        <FigureBox
          label="Canopy radius"
          disabled={readOnly}
          value={use.canopyRadiusM}
          range={m('Canopy radius', 15)}
          onValue={(v) => v !== null && put({ canopyRadiusM: v })}
        />
        <FigureBox
          label="Clear of the trunk"
          disabled={readOnly}
          value={use.trunkClearM}
          range={m('Clear of the trunk', 5)}
          onValue={(v) => v !== null && put({ trunkClearM: v })}
        />
        <FigureBox
          label="Beyond the canopy"
          disabled={readOnly}
          value={use.beyondM}
          range={m('Beyond the canopy', 5)}
          onValue={(v) => v !== null && put({ beyondM: v })}
        />
        <FigureBox
          label="Rows"
          disabled={readOnly}
          value={use.rowM}
          range={m('Row spacing', 20, 0.3)}
          onValue={(v) => v !== null && put({ rowM: v })}
        />
        <FigureBox
          label="In the row"
          disabled={readOnly}
          value={use.inRowM}
          range={m('Spacing in the row', 20, 0.1)}
          onValue={(v) => v !== null && put({ inRowM: v })}
        />
        <TickBox
          label="dormant"
          disabled={readOnly}
          value={use.dormant}
          onValue={(v) => put({ dormant: v })}
        />
      </div>
      {plan.problem && (
        <p role="alert" className="problem">
          {plan.problem}
        </p>
      )}
      {p && (
        <>
          <Scrolled label="What a plant gets">
            <table className="ruled mt-2 max-w-[46rem]" data-testid="ring">
              <thead>
                <tr>
                  <th>For the N still asked for</th>
                  <th className="num">a plant</th>
                  <th className="pl-4">Note</th>
                </tr>
              </thead>
              <tbody>
                <tr>
                  <th scope="row">N</th>
                  <td className="num">{p.nTargetG.toFixed(0)} g</td>
                  <td
                    className={`pl-4 ${p.nTargetG < p.bookG.from || p.nTargetG > p.bookG.to ? 'text-hot' : 'note'}`}
                  >
                    book for this plant and age: {p.bookG.from} to {p.bookG.to} g;{' '}
                    {Math.round(p.plantsHa)} plants a hectare
                  </td>
                </tr>
                <tr className="font-bold">
                  <th scope="row" className="font-bold">
                    {own.material.name}
                  </th>
                  <td className="num">{p.materialKg.toFixed(1)} kg</td>
                  <td className="pl-4 note">
                    {p.perMetreKg.toFixed(1)} kg a metre of row; {show(p.tHa, 'mass_rate')}{' '}
                    {unit('mass_rate')}
                  </td>
                </tr>
                <tr>
                  <th scope="row">Ring</th>
                  <td className="num">{p.areaM2.toFixed(1)} m2</td>
                  <td className="pl-4 note">
                    from {use.trunkClearM} m to {(use.canopyRadiusM + use.beyondM).toFixed(1)} m
                    from the trunk
                  </td>
                </tr>
                <tr>
                  <th scope="row">Layer</th>
                  <td className={`num ${p.layerCm > p.maxLayerCm ? 'text-hot' : ''}`}>
                    {p.layerCm.toFixed(1)} cm
                  </td>
                  <td className="pl-4 note">
                    {p.layerCm > p.maxLayerCm
                      ? `over ${p.maxLayerCm} cm: split over two seasons, or use a richer material`
                      : `at most ${p.maxLayerCm} cm`}
                  </td>
                </tr>
              </tbody>
            </table>
          </Scrolled>
          {!readOnly && p.tHa > 0 && p.tHa <= 400 && (
            <button
              type="button"
              className="button mt-2"
              onClick={() => set({ rate: Number(p.tHa.toFixed(2)), rateUnit: 't_ha' })}
            >
              Take this rate
            </button>
          )}
        </>
      )}
      <p className="note mt-1">
        {row?.materialAdvice ? `${row.materialAdvice}. ` : ''}Spread evenly to just beyond the drip
        line, rake in 2 to 5 cm at most, keep trunk and graft bare, water in. 4 to 6 weeks before
        the spring flush; not after late summer, not before heavy rain.
      </p>
    </>
  );
}

function Layer({
  use,
  o,
  readOnly,
  put,
  set,
}: {
  use: Of<'layer'>;
  o: OrganicApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'layer'>>) => void;
  set: Set;
}) {
  const plan = useWholePlan();
  const book = useBook();
  const { show, unit } = useUnits();
  const l = told(() => layerPlan(book, plan, o));
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <FigureBox
          label="Layer"
          disabled={readOnly}
          value={use.layerMm}
          range={{ label: 'Layer', unit: 'mm', min: 0, max: 500, above: true }}
          onValue={(v) => v !== null && put({ layerMm: v })}
        />
        <FigureBox
          label="Share of the field covered"
          disabled={readOnly}
          value={use.coveredFrac}
          range={{ label: 'Share covered', unit: '', min: 0, max: 1, above: true }}
          onValue={(v) => v !== null && put({ coveredFrac: v })}
        />
        <TickBox
          label="mixed into the soil"
          disabled={readOnly}
          value={use.mixed}
          onValue={(v) => put({ mixed: v })}
        />
        {use.mixed && (
          <FigureBox
            label="Mixing depth"
            disabled={readOnly}
            value={use.mixingDepthCm}
            range={{ label: 'Mixing depth', unit: 'cm', min: 1, max: 60 }}
            onValue={(v) => v !== null && put({ mixingDepthCm: v })}
          />
        )}
        <FigureBox
          label="Salt of the material, saturated paste"
          optional
          disabled={readOnly}
          value={use.ecCompost}
          range={{ label: 'Salt', unit: 'dS/m', min: 0, max: 60 }}
          onValue={(v) => put({ ecCompost: v })}
        />
        <FigureBox
          label="Salt of the soil"
          optional
          disabled={readOnly}
          value={use.ecSoil}
          range={{ label: 'Salt of the soil', unit: 'dS/m', min: 0, max: 60 }}
          onValue={(v) => put({ ecSoil: v })}
        />
      </div>
      {l.problem && (
        <p role="alert" className="problem">
          {l.problem}
        </p>
      )}
      {l.value && (
        <p className="mt-2" data-testid="layer">
          <strong>
            {show(l.value.rateTHa, 'mass_rate')} {unit('mass_rate')}
          </strong>
          : {show(l.value.nKgHa, 'nutrient_rate', 0)} N in all,{' '}
          {show(l.value.pKgHa, 'nutrient_rate', 0)} P, {show(l.value.kKgHa, 'nutrient_rate', 0)} K{' '}
          {unit('nutrient_rate')}
          {l.value.yearsOfPOfftake !== null && (
            <>
              ; its P is{' '}
              <span className={l.value.yearsOfPOfftake > 4 ? 'text-hot font-bold' : 'font-bold'}>
                {l.value.yearsOfPOfftake.toFixed(1)} years
              </span>{' '}
              of off-take
            </>
          )}
          .
        </p>
      )}
      {!readOnly && l.value && l.value.rateTHa <= 400 && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            set({ rate: Number((l.value?.rateTHa ?? 0).toFixed(2)), rateUnit: 't_ha' })
          }
        >
          Take this rate
        </button>
      )}
      <p className="note mt-1">
        The salt of a 1:5 extract times about 2.5 (clay 6 to sand 14 for mineral soils) is that of
        the paste.
      </p>
    </>
  );
}

function InCrop({
  use,
  own,
  readOnly,
  put,
}: {
  use: Of<'in_crop'>;
  own: AssessedApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'in_crop'>>) => void;
}) {
  const plan = useWholePlan();
  const book = useBook();
  const { show, unit } = useUnits();
  const times = useMemo(() => timesCompared(book, plan, own), [book, plan, own]);
  const techniques = incropTechniques(use.cropGroup);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <ChoiceBox
          label="Crop"
          disabled={readOnly}
          value={use.cropGroup}
          options={optionsOf(incropCropGroups())}
          onValue={(v) => v && put({ cropGroup: v, technique: incropTechniques(v)[0] ?? 'any' })}
        />
        <ChoiceBox
          label="Technique"
          disabled={readOnly}
          value={use.technique}
          options={optionsOf(techniques.length > 0 ? techniques : ['any'])}
          onValue={(v) => v && put({ technique: v })}
        />
        <FigureBox
          label="Stage (BBCH)"
          optional
          disabled={readOnly}
          value={use.bbch}
          range={{ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }}
          onValue={(v) => put({ bbch: v })}
        />
        <FigureBox
          label="Leaf collars"
          optional
          disabled={readOnly}
          value={use.vStage}
          range={{ label: 'Leaf collars', unit: '', min: 0, max: 25 }}
          onValue={(v) => put({ vStage: v })}
        />
        <FigureBox
          label="Stand lost"
          disabled={readOnly}
          value={use.standLossPct}
          range={{ label: 'Stand lost', unit: '%', min: 0, max: 100 }}
          onValue={(v) => v !== null && put({ standLossPct: v })}
        />
        <TickBox
          label="wheels would rut"
          disabled={readOnly}
          value={use.wheelPan}
          onValue={(v) => put({ wheelPan: v })}
        />
      </div>
      <p className="mt-1">
        {use.standLossPct} % of the stand lost costs about{' '}
        {standLoss({ stand: use.standLossPct, crop: use.cropGroup }).toFixed(1)} % of the yield.{' '}
        <span className="note">
          In maize collars decide: the growing point comes up between five and six. Dull, cool, dry
          leaves, soil that carries; light rain afterwards washes them.
        </span>
      </p>
      {times.length > 0 && (
        <Scrolled label="The same load at other times">
          <table className="ruled mt-2 max-w-[46rem]" data-testid="times">
            <thead>
              <tr>
                <th>The same load</th>
                <th>on</th>
                <th className="num">
                  N this crop,
                  <br />
                  {unit('nutrient_rate')}
                </th>
                <th className="num">to the air</th>
                <th className="num">
                  worth less stand lost,
                  <br />
                  per ha
                </th>
              </tr>
            </thead>
            <tbody>
              {times.map((t) => (
                <tr key={t.key} className={t.key === 'planned' ? 'font-bold' : ''}>
                  <th scope="row">{t.label}</th>
                  <td className="whitespace-nowrap">{t.date}</td>
                  <td className="num">{show(t.panKgHa, 'nutrient_rate')}</td>
                  <td className="num">{show(t.airKgHa, 'nutrient_rate')}</td>
                  <td className="num">{t.money.toFixed(0)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
    </>
  );
}

/** The same dressing every year: what it gives in time, and the P that stays. */
function YearAfterYear({ own }: { own: AssessedApplication }) {
  const plan = useWholePlan();
  const { show, unit } = useUnits();
  const book = useBook();
  const rows = told(() => yearAfterYear(book, plan, own));
  if (!rows.value) return null;
  return (
    <details className="mt-3">
      <summary className="cursor-pointer">The same every year</summary>
      <table className="ruled max-w-[34rem]" data-testid="year-after-year">
        <thead>
          <tr>
            <th>Year</th>
            <th className="num">
              organic N released,
              <br />
              {unit('nutrient_rate')}
            </th>
            <th className="num">
              P above off-take,
              <br />
              {unit('nutrient_rate')} in all
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.value.map((r) => (
            <tr key={r.year}>
              <th scope="row">{r.year}</th>
              <td className="num">{show(r.nReleaseKgHa, 'nutrient_rate')}</td>
              <td className="num">{show(r.pStockKgHa, 'nutrient_rate')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

/** How a dressing is laid, and what follows for its rate. */
export function LaidTab({
  o,
  own,
  set,
}: {
  o: OrganicApplication;
  own: AssessedApplication;
  set: Set;
}) {
  const plan = usePlan('field');
  const { readOnly } = useEdit();
  const { use } = o;
  const put = (part: object) => set({ use: { ...use, ...part } as Use });
  return (
    <>
      <p className="mb-2">
        <ChoiceBox
          label="It is laid"
          disabled={readOnly}
          value={use.kind}
          options={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
          onValue={(v) => v && set({ use: blank(v as Use['kind']) })}
        />
      </p>
      <p className="mb-2">
        <FigureBox
          label="Share of the field spread"
          disabled={readOnly}
          value={o.areaFrac}
          range={{ ...RANGES.share, label: 'Share of the field spread', above: true }}
          onValue={(v) => v !== null && set({ areaFrac: v })}
        />{' '}
        <span className="note">
          {o.areaFrac < 1
            ? `${(plan.field.areaHa * o.areaFrac).toFixed(2)} of ${plan.field.areaHa} ha: loads and the sheet’s mean count that; the rate is what lies on it`
            : 'strips kept clear of water and houses, or a part that gets none, are left out of loads and sums'}
        </span>
      </p>
      {use.kind === 'ring' ? (
        <Ring use={use} own={own} readOnly={readOnly} put={put} set={set} />
      ) : use.kind === 'layer' ? (
        <Layer use={use} o={o} readOnly={readOnly} put={put} set={set} />
      ) : use.kind === 'in_crop' ? (
        <InCrop use={use} own={own} readOnly={readOnly} put={put} />
      ) : (
        <p className="note">
          {words(o.methodKey)}: the rate is the mean over the ground it covers.
        </p>
      )}
      <YearAfterYear own={own} />
    </>
  );
}
