'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useCallback, useMemo } from 'react';
import { crops, type Crop } from '@/core/book/crops';
import { limeMaterials } from '@/core/book/limes';
import { dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import type { Plan } from '@/core/document/document';
import type { LimePlan } from '@/core/document/limeDocument';
import type { PhCurve } from '@/core/views/groundParts';
import type { LimeAssessment } from '@/core/lines/lime';
import { Chart } from '../chart/Chart';
import { ChoiceBox, DateBox, optionsOf, Part, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { Problems } from '../stations/Problems';
import { Warnings } from '../Warnings';
import {
  editField,
  editGround,
  replaceAt,
  useBook,
  without,
  useAssessed,
  useEdit,
  usePlan,
  useWorkspace,
} from '../workspace/context';
import { LimeProducts } from './LimeProducts';
import { RemoveButton } from '../figure/RemoveButton';

const SCHOOL_WORDS: Record<LimePlan['school'], string> = {
  auto: 'best the report allows',
  lab: 'the laboratory’s own',
  buffer: 'buffer pH',
  aluminium: 'aluminium tolerance',
  carbon_clay: 'carbon and clay',
  texture: 'texture table',
};
const WORD: Record<string, string> = {
  need: 'needed now',
  optional: 'optional, at the next convenient time',
  none: 'none: pH is at the target',
  not_worth_a_trip: 'under 0.5 t/ha: not worth a trip, combine or retest in 2 years',
  unknown: 'not known yet',
};
const STROKES = ['solid', 'dashed', 'dotted'] as const;
const COLOURS = ['--demand', '--manure', '--water', '--p', '--k', '--organic-matter'] as const;

/** Changes the lime part; the first edit puts it into the plan. */
function useLimeEdit(): (part: Partial<LimePlan>) => void {
  const { edit } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  return useCallback(
    (part) =>
      edit((p) => {
        const lime = p.lime ?? parts?.limePlan;
        return lime ? { ...p, lime: { ...lime, ...part } } : p;
      }),
    [edit, parts],
  );
}

function Requirement({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('field', 'ground');
  const { edit, readOnly } = useEdit();
  const { show, unit } = useUnits();
  const { ground, field } = plan;
  return (
    <Part
      title="How much lime"
      aside={assessed ? `to pH ${assessed.target.ph.toFixed(1)} in ${lime.depthCm} cm` : undefined}
    >
      {assessed && (
        <p className="mb-2 text-[1.05rem]">
          <strong>
            <WhyFigure step={assessed.requirement.why ?? undefined} label="Lime requirement">
              {assessed.requirement.valueTHa === null
                ? 'not known'
                : `${show(assessed.requirement.valueTHa, 'mass_rate', 1)} ${unit('mass_rate')} of effective carbonate`}
            </WhyFigure>
          </strong>{' '}
          <span className={assessed.requirement.word === 'need' ? 'text-hot' : 'text-faint'}>
            {WORD[assessed.requirement.word]}
          </span>
        </p>
      )}
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <ChoiceBox
          label="Method"
          disabled={readOnly}
          value={lime.school}
          options={Object.entries(SCHOOL_WORDS).map(([value, label]) => ({ value, label }))}
          onValue={(v) => v && set({ school: v as LimePlan['school'] })}
        />
        <FigureBox
          label="Mixed to"
          disabled={readOnly}
          value={lime.depthCm}
          range={{ ...RANGES.incorporationCm, min: 2 }}
          onValue={(v) => v !== null && set({ depthCm: v })}
        />
        <ChoiceBox
          label="Buffer"
          disabled={readOnly}
          value={ground.bufferKind}
          empty="no buffer pH"
          options={[
            { value: 'smp', label: 'SMP' },
            { value: 'sikora', label: 'Sikora' },
            { value: 'adams_evans', label: 'Adams-Evans' },
            { value: 'mehlich', label: 'Mehlich' },
          ]}
          onValue={(v) => edit(editGround({ bufferKind: v as Plan['ground']['bufferKind'] }))}
        />
        <FigureBox
          label="Buffer pH"
          optional
          disabled={readOnly}
          value={ground.bufferPh}
          range={{ label: 'Buffer pH', unit: '', min: 4, max: 8.1 }}
          onValue={(v) => edit(editGround({ bufferPh: v }))}
        />
        <FigureBox
          label="Clay"
          optional
          disabled={readOnly}
          value={field.clayPct}
          range={RANGES.clayPct}
          onValue={(v) => edit(editField({ clayPct: v }))}
        />
        <FigureBox
          label="Organic matter"
          optional
          disabled={readOnly}
          value={field.omPct}
          range={RANGES.omPct}
          onValue={(v) => edit(editField({ omPct: v }))}
        />
        <FigureBox
          label="Lime on the report"
          optional
          dimension="mass_rate"
          disabled={readOnly}
          value={lime.labRateTHa}
          range={{ label: 'Lime on the report', unit: 't/ha', min: 0, max: 40 }}
          onValue={(v) => set({ labRateTHa: v })}
        />
        {lime.labRateTHa !== null && (
          <FigureBox
            label="for a lime of"
            optional
            disabled={readOnly}
            value={lime.labReferenceEccPct}
            range={{ label: 'Effective carbonate', unit: '% effective', min: 10, max: 180 }}
            onValue={(v) => set({ labReferenceEccPct: v })}
          />
        )}
        {lime.labRateTHa !== null && (
          <FigureBox
            label="in a depth of"
            optional
            disabled={readOnly}
            value={lime.labDepthCm}
            range={RANGES.sampleDepthCm}
            onValue={(v) => set({ labDepthCm: v })}
          />
        )}
        <FigureBox
          label="Exchangeable Al"
          optional
          disabled={readOnly}
          value={ground.alCmolKg}
          range={RANGES.alCmolKg}
          onValue={(v) => edit(editGround({ alCmolKg: v }))}
        />
        <TickBox
          label="highly weathered soil"
          disabled={readOnly}
          value={lime.weathered}
          onValue={(v) => set({ weathered: v })}
        />
        <ChoiceBox
          label="Tillage"
          disabled={readOnly}
          value={field.tillage}
          empty="not known"
          options={optionsOf(['ploughed', 'mixed', 'no_till', 'grass'])}
          onValue={(v) => edit(editField({ tillage: v as Plan['field']['tillage'] }))}
        />
      </div>
      {assessed && (
        <table className="ruled max-w-[46rem]" data-testid="lime-methods">
          <thead>
            <tr>
              <th>Method</th>
              <th className="num">{unit('mass_rate')} of effective carbonate</th>
              <th className="pl-4">What stands beside it</th>
            </tr>
          </thead>
          <tbody>
            {assessed.requirement.methods.map((m) => (
              <tr key={m.key} className={m.key === assessed.requirement.chosen ? 'font-bold' : ''}>
                <th
                  scope="row"
                  className={m.key === assessed.requirement.chosen ? 'font-bold' : ''}
                >
                  {m.label}
                  {m.key === assessed.requirement.chosen ? ', used' : ''}
                </th>
                <td className="num">
                  <WhyFigure step={m.why ?? undefined} label={m.label}>
                    {m.valueTHa === null ? '·' : show(m.valueTHa, 'mass_rate', 1)}
                  </WhyFigure>
                </td>
                <td className="pl-4 font-normal text-faint">
                  {m.refused ??
                    (m.notes.join('; ') ||
                      `confidence ${m.why?.inputs[0]?.confidence ?? 'medium'}`)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Part>
  );
}

function Rotation({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('season');
  const a = useAssessed('ground');
  const { readOnly } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  const book = useBook();
  const options = useMemo(
    () => crops(book).map((c: Crop) => ({ value: c.key, label: c.name })),
    [book],
  );
  const own = plan.season.cropKey;
  const keys = [...(own ? [own] : []), ...lime.rotation];
  const ph = a.ground.planning?.ph ?? null;
  const band = parts?.band ?? null;
  return (
    <Part title="For which crops" aside="the most sensitive of the next years sets the target">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {lime.rotation.map((k, i) => (
          <span key={i} className="inline-flex items-baseline gap-1">
            <ChoiceBox
              label={`Crop ${i + 2}`}
              disabled={readOnly}
              value={k}
              options={options}
              onValue={(v) =>
                v && set({ rotation: lime.rotation.map((x, j) => (j === i ? v : x)) })
              }
            />
            {!readOnly && (
              <RemoveButton
                label={`Remove crop ${i + 2}`}
                onClick={() => set({ rotation: without(lime.rotation, i) })}
              />
            )}
          </span>
        ))}
        {!readOnly && lime.rotation.length < 4 && (
          <button
            type="button"
            className="button"
            onClick={() => set({ rotation: [...lime.rotation, own ?? 'winter_wheat'] })}
          >
            <Plus size={13} aria-hidden /> Next crop
          </button>
        )}
        {keys.length > 1 && (
          <ChoiceBox
            label="Lime is for"
            disabled={readOnly}
            value={lime.targetFor}
            empty="the most sensitive"
            options={keys.map((k) => ({
              value: k,
              label: crops(book).find((c) => c.key === k)?.name ?? k,
            }))}
            onValue={(v) => set({ targetFor: v })}
          />
        )}
      </div>
      {assessed && (
        <p className="note mt-1">
          Target {assessed.target.ph.toFixed(1)}, lime advised below{' '}
          {assessed.target.actBelowPh.toFixed(1)}, none above{' '}
          {assessed.target.maxPreferredPh.toFixed(1)}:{' '}
          {crops(book).find((c) => c.key === assessed.target.cropKey)?.name}.
        </p>
      )}
      {band && ph !== null && (
        <details className="mt-1">
          <summary className="cursor-pointer">What pH {ph.toFixed(1)} does besides</summary>
          <ul className="note max-w-[40rem] list-disc pl-5">
            <li>Aluminium and manganese: {band.alAndMn}.</li>
            <li>Phosphorus: {band.p}.</li>
            <li>Nodules and molybdenum: {band.nodulationMo}.</li>
            <li>Herbicides: {band.herbicides}; each label has its pH limits.</li>
            <li>Trace elements: {band.traceElements}.</li>
          </ul>
        </details>
      )}
    </Part>
  );
}

function Reaction({
  lime,
  assessed,
  curves: series,
}: {
  lime: LimePlan;
  assessed: LimeAssessment;
  curves: PhCurve[];
}) {
  const plan = usePlan('asOf', 'field', 'season');
  const { comparison } = assessed;
  const option = useCallback(
    (colour: (name: string) => string) => {
      const axis = {
        axisLine: { lineStyle: { color: colour('--faint') } },
        axisLabel: { color: colour('--ink') },
        splitLine: { lineStyle: { color: colour('--rule') } },
        nameTextStyle: { color: colour('--ink') },
      };
      const line = (name: string, y: number) => ({
        yAxis: y,
        label: { formatter: name, position: 'insideEndTop' as const, color: colour('--ink') },
        lineStyle: { color: colour('--faint'), type: 'dashed' as const },
      });
      return {
        animation: false,
        textStyle: { fontFamily: getComputedStyle(document.body).fontFamily },
        grid: { left: 56, right: 24, top: 44, bottom: 52 },
        tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => `pH ${Number(v).toFixed(1)}` },
        legend: { type: 'scroll', top: 0, textStyle: { color: colour('--ink') } },
        xAxis: {
          type: 'time',
          name: 'Date',
          nameLocation: 'middle',
          nameGap: 32,
          ...axis,
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          name: 'pH in water',
          nameLocation: 'middle',
          nameGap: 38,
          scale: true,
          ...axis,
        },
        series: series.map((s, i) => ({
          type: 'line',
          name: s.name,
          showSymbol: false,
          data: s.points.map((p) => [p.date, Number(p.ph.toFixed(3))]),
          lineStyle: {
            width: 2,
            color: colour(COLOURS[i % COLOURS.length] as string),
            type: STROKES[i % STROKES.length],
          },
          itemStyle: { color: colour(COLOURS[i % COLOURS.length] as string) },
          ...(i === 0
            ? {
                markLine: {
                  symbol: 'none',
                  data: [
                    line('target', assessed.target.ph),
                    line(
                      'lime advised below',
                      comparison?.actBelowPh ?? assessed.target.actBelowPh,
                    ),
                    ...(plan.season.plantingDate
                      ? [
                          {
                            xAxis: plan.season.plantingDate,
                            label: { formatter: 'planting', color: colour('--ink') },
                            lineStyle: {
                              color: colour('--ink'),
                              type: 'solid' as const,
                              width: 1.5,
                            },
                          },
                        ]
                      : []),
                  ],
                },
              }
            : {}),
        })),
      };
    },
    [series, assessed, comparison, plan.season.plantingDate],
  );
  if (series.length === 0) return null;
  const months = [0, 3, 6, 9, 12, 18, 24, 36];
  return (
    <Part
      title="pH over the months"
      aside={`spread on ${dateInWords(lime.spreadDate ?? plan.asOf)}, on the wet clock`}
    >
      <Chart
        label="pH over the months for each lime, with the planting date"
        option={option}
        fileName={`${plan.field.name}-lime`}
        table={{
          columns: ['Months since spreading', ...series.map((s) => s.name)],
          rows: months.map((m) => [
            m,
            ...series.map((s) => s.points.find((p) => p.month === m)?.ph.toFixed(1) ?? ''),
          ]),
        }}
      />
    </Part>
  );
}

function WetClock({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('asOf');
  const { readOnly } = useEdit();
  const book = useBook();
  const { spread } = lime;
  const clock = assessed?.clock ?? null;
  const change = (part: Partial<NonNullable<typeof spread>>) => {
    if (spread) set({ spread: { ...spread, ...part } });
  };
  if (!spread)
    return (
      <Part title="Lime that was spread" aside="the reaction starts when the soil is wet">
        {readOnly ? (
          <p className="note">None recorded.</p>
        ) : (
          <button
            type="button"
            className="button"
            onClick={() =>
              set({
                spread: {
                  date: plan.asOf,
                  materialKey:
                    lime.candidates.find((c) => c.id === lime.chosenId)?.materialKey ??
                    'calcitic_ag',
                  rateTHa: assessed?.chosen?.productTHa ?? 0,
                  soilMoist: false,
                  records: [],
                },
              })
            }
          >
            <Plus size={13} aria-hidden /> Record a spreading
          </button>
        )}
      </Part>
    );
  return (
    <Part
      title="Lime that was spread"
      aside={
        assessed?.retestDate
          ? `retest from ${dateInWords(assessed.retestDate)}: same spots, depth and month`
          : undefined
      }
    >
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <DateBox
          label="Spread on"
          max={plan.asOf}
          disabled={readOnly}
          value={spread.date}
          onValue={(v) => v && change({ date: v })}
        />
        <ChoiceBox
          label="Material"
          disabled={readOnly}
          value={spread.materialKey}
          options={limeMaterials(book).map((m) => ({ value: m.key, label: m.name }))}
          onValue={(v) => v && change({ materialKey: v })}
        />
        <FigureBox
          label="Rate"
          dimension="mass_rate"
          disabled={readOnly}
          value={spread.rateTHa}
          range={{ label: 'Lime spread', unit: 't/ha', min: 0, max: 40 }}
          onValue={(v) => v !== null && change({ rateTHa: v })}
        />
        <TickBox
          label="soil was moist"
          disabled={readOnly}
          value={spread.soilMoist}
          onValue={(v) => change({ soilMoist: v })}
        />
        {!readOnly && (
          <button type="button" className="button" onClick={() => set({ spread: null })}>
            <Trash2 size={14} aria-hidden /> Remove
          </button>
        )}
      </div>
      {clock && (
        <p className="mb-1">
          {clock.started ? (
            <>
              <strong>{clock.tEffMonths.toFixed(1)} effective months</strong> so far, from{' '}
              {clock.cumMm.toFixed(0)} mm.
            </>
          ) : (
            <strong className="text-hot">
              {clock.cumMm.toFixed(0)} mm of the {clock.startMm} mm so far: the clock has not
              started.
            </strong>
          )}
          <svg viewBox="0 0 200 8" width="200" height="8" aria-hidden className="ml-3 inline-block">
            <rect width="200" height="8" fill="var(--rule)" />
            <rect
              width={Math.min(200, (200 * clock.cumMm) / Math.max(1, clock.startMm))}
              height="8"
              fill="var(--water)"
            />
          </svg>
        </p>
      )}
      {spread.records.length > 0 && (
        <table className="ruled max-w-[34rem]">
          <thead>
            <tr>
              <th>Days</th>
              <th>Rain, mm</th>
              <th>Irrigation, mm</th>
              <th>Soil, °C</th>
              <th>
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {spread.records.map((r, i) => (
              <tr key={i}>
                {(
                  [
                    ['days', 'days', { label: 'Days', unit: '', min: 1, max: 366 }],
                    ['rainMm', 'rain', { label: 'Rain', unit: '', min: 0, max: 2000 }],
                    ['irrigationMm', 'irrigation', { ...RANGES.irrigationMm, unit: '' }],
                  ] as const
                ).map(([key, word, range]) => (
                  <td key={key}>
                    <FigureBox
                      label={`Record ${i + 1} ${word}`}
                      hideLabel
                      disabled={readOnly}
                      value={r[key]}
                      range={range}
                      onValue={(v) =>
                        v !== null &&
                        change({ records: replaceAt(spread.records, i, { [key]: v }) })
                      }
                    />
                  </td>
                ))}
                <td>
                  <FigureBox
                    label={`Record ${i + 1} soil temperature`}
                    hideLabel
                    optional
                    disabled={readOnly}
                    value={r.soilTempC}
                    range={{ label: 'Soil temperature', unit: '', min: -30, max: 60 }}
                    onValue={(v) =>
                      change({ records: replaceAt(spread.records, i, { soilTempC: v }) })
                    }
                  />
                </td>
                <td>
                  {!readOnly && (
                    <RemoveButton
                      label={`Remove record ${i + 1}`}
                      onClick={() => change({ records: without(spread.records, i) })}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!readOnly && spread.records.length < 120 && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            change({
              records: [
                ...spread.records,
                { days: 7, rainMm: 0, irrigationMm: 0, soilTempC: null },
              ],
            })
          }
        >
          <Plus size={13} aria-hidden /> Week of weather
        </button>
      )}
    </Part>
  );
}

function AcidYears({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment;
  set: (part: Partial<LimePlan>) => void;
}) {
  const { readOnly } = useEdit();
  const { acid, calcium, cecDoubt } = assessed;
  return (
    <>
      {acid && (
        <Part title="How long it lasts" aside="acid from a year of cropping like this one">
          <ChoiceBox
            label="Book-keeping"
            disabled={readOnly}
            value={lime.acidBooks}
            options={[
              { value: 'convention', label: 'convention (default)' },
              { value: 'cycle', label: 'N and carbon cycle' },
            ]}
            onValue={(v) => v && set({ acidBooks: v as LimePlan['acidBooks'] })}
          />
          <table className="ruled mt-1 max-w-[34rem]">
            <tbody>
              {(
                [
                  ['Fertiliser planned', acid.nitrogen],
                  ['Product carried off', acid.product],
                  ['Leaching of bases', acid.leaching],
                ] as const
              ).map(([w, v]) => (
                <tr key={w}>
                  <th scope="row">{w}</th>
                  <td className="num">{v.toFixed(0)}</td>
                </tr>
              ))}
              <tr className="sum">
                <th scope="row">Acid, kg CaCO3/ha a year</th>
                <td className="num">
                  <WhyFigure step={acid.why} label="Acid of a year">
                    {acid.total.toFixed(0)}
                  </WhyFigure>
                </td>
              </tr>
              <tr>
                <th scope="row">Lime is due, from today’s pH</th>
                <td className="num">{acid.intervalYears === 0 ? 'now' : acid.verdict}</td>
              </tr>
              {acid.yearsFromTarget !== null && (
                <tr>
                  <th scope="row">Lime is due, once the target is reached</th>
                  <td className="num">after {acid.yearsFromTarget.toFixed(1)} years</td>
                </tr>
              )}
              <tr>
                <th scope="row">Maintenance every 4 years, t/ha of effective carbonate</th>
                <td className="num">{acid.maintenanceTHa.toFixed(1)}</td>
              </tr>
            </tbody>
          </table>
        </Part>
      )}
      <Part
        title="Calcium by two schools"
        aside="field tests find crops alike over wide ratios while no cation is short and pH is right"
      >
        <ChoiceBox
          label="School"
          disabled={readOnly}
          value={lime.calciumSchool}
          options={[
            { value: 'sufficiency', label: 'sufficiency (default)' },
            { value: 'base_saturation', label: 'base saturation' },
          ]}
          onValue={(v) => v && set({ calciumSchool: v as LimePlan['calciumSchool'] })}
        />
        {calcium ? (
          <table className="ruled mt-1 max-w-[44rem]">
            <thead>
              <tr>
                <th>School</th>
                <th className="num">Ca found, % of CEC</th>
                <th className="num">Ca short, kg/ha</th>
                <th className="num">as lime, t/ha</th>
                <th className="num">as gypsum, t/ha</th>
              </tr>
            </thead>
            <tbody>
              <tr className={lime.calciumSchool === 'sufficiency' ? 'font-bold' : ''}>
                <th scope="row">Sufficiency</th>
                <td className="num">{calcium.caSat.toFixed(0)}</td>
                <td className="num">
                  <WhyFigure step={calcium.why} label="Calcium short">
                    {calcium.suffShortKgHa.toFixed(0)}
                  </WhyFigure>
                </td>
                <td className="num">·</td>
                <td className="num">·</td>
              </tr>
              <tr className={lime.calciumSchool === 'base_saturation' ? 'font-bold' : ''}>
                <th scope="row">Base saturation, 68 %</th>
                <td className="num">{calcium.caSat.toFixed(0)}</td>
                <td className="num">{calcium.bcsrShortKgHa.toFixed(0)}</td>
                <td className="num">{calcium.limeTHa.toFixed(1)}</td>
                <td className="num">{calcium.gypsumTHa.toFixed(1)}</td>
              </tr>
            </tbody>
          </table>
        ) : (
          <p className="note mt-1">
            Needs Ca, Mg and K in mg/kg and a measured CEC, on soil up to pH 7.3: a CEC summed on
            limy soil is inflated.
          </p>
        )}
        {cecDoubt && <p className="problem mt-1">{cecDoubt}</p>}
        <p className="note mt-1 max-w-[44rem]">
          What speaks for ratios: on ground of low CEC K and Mg need balance, much sodium or
          magnesium harms structure, and farmers who mind ratios often have good pH too. What speaks
          against: trials, the price, and that the same soil is short by one CEC method and fine by
          another.
        </p>
      </Part>
    </>
  );
}

/**
 * pH and lime: how much by every method the report allows, which lime for this planting, how it
 * works with time, and how long it lasts.
 */
export function LimePart() {
  const a = useAssessed('ground', 'warnings');
  const parts = useWorkspace((w) => w.parts);
  const set = useLimeEdit();
  if (!parts) return null;
  const { limePlan: lime, lime: assessed, limeProblems: problems, curves } = parts;
  const { planning, gate } = a.ground;
  return (
    <>
      <Problems station="ground" />
      {problems.length > 0 && (
        <ul role="alert" className="mb-3">
          {problems.map((p) => (
            <li key={p.message} className="problem">
              {p.message}
            </li>
          ))}
        </ul>
      )}
      {!planning ? (
        <p>Give a pH first, under Readings: without it there is no lime to work out.</p>
      ) : !gate ? (
        <p>Choose a crop first: the target is the crop’s.</p>
      ) : (
        <p className="mb-3">
          pH to plan with{' '}
          <strong>
            <WhyFigure step={gate.why} label="pH to plan with">
              {planning.ph.toFixed(1)}
            </WhyFigure>
          </strong>
          {planning.low !== planning.high
            ? ` (${planning.low.toFixed(1)} to ${planning.high.toFixed(1)})`
            : ''}
          : {gate.verdict}.
          {assessed?.latestSampleDate
            ? ` Last day to sample for this planting: ${dateInWords(assessed.latestSampleDate)}.`
            : ''}
        </p>
      )}
      <div className="grid gap-x-8 xl:grid-cols-2">
        <Requirement lime={lime} assessed={assessed} set={set} />
        <div>
          <Rotation lime={lime} assessed={assessed} set={set} />
          <Part title="What it means">
            <Warnings
              list={[
                ...a.warnings.filter(
                  (w) =>
                    w.module === 'ground' &&
                    ['R01', 'R02', 'R03', 'R05', 'R08', 'R21'].includes(w.id),
                ),
                ...(assessed?.warnings ?? []),
              ]}
              empty="Nothing stands in the way."
            />
          </Part>
        </div>
      </div>
      <LimeProducts lime={lime} assessed={assessed} set={set} />
      {assessed && assessed.rows.length > 0 && (
        <Reaction lime={lime} assessed={assessed} curves={curves} />
      )}
      <div className="grid gap-x-8 xl:grid-cols-2">
        <WetClock lime={lime} assessed={assessed} set={set} />
        <div>{assessed && <AcidYears lime={lime} assessed={assessed} set={set} />}</div>
      </div>
    </>
  );
}
