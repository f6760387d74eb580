'use client';

import { Plus } from 'lucide-react';
import { daysBetween, dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import { limeMaterialOf, limeMaterials } from '@/core/book/limes';
import type { LimeRow } from '@/core/ground/limeComparison';
import { cceDoubt } from '@/core/ground/limeProduct';
import type { LimePlan } from '@/core/document/limeDocument';
import type { LimeAssessment } from '@/core/lines/lime';
import { ChoiceBox, DateBox, Part, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { WhyFigure } from '../frame/why';
import { lineId, replaceAt, useBook, without, useEdit, usePlan } from '../workspace/context';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

type Candidate = LimePlan['candidates'][number];
export interface LimeProductsProps {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}

/** Whether a lime works for this planting, and by how much it misses it. */
function Verdict({
  row,
  refused,
  spreadDate,
}: {
  row: LimeRow | undefined;
  refused: string | undefined;
  spreadDate: string;
}) {
  if (refused) return <span className="text-hot">{refused}</span>;
  if (!row) return null;
  const last = row.latestSpreadDate;
  return (
    <>
      {row.stopAtPlanting ? (
        <strong className="text-hot">not this season: too acid to sow</strong>
      ) : row.inTime === null ? (
        'no planting date'
      ) : row.inTime ? (
        'in time'
      ) : (
        <span className="text-hot">
          {last ? `${daysBetween(last, spreadDate)} days too late` : 'too late'}
        </span>
      )}
      <span className="note block">
        {last
          ? `last day to spread: ${dateInWords(last)}`
          : row.leadDays === null
            ? 'never reaches the limit'
            : ''}
      </span>
    </>
  );
}

/** What a load costs and holds: by its certificate, or by the book until there is one. */
function LoadInputs({
  candidate: c,
  name,
  change,
}: {
  candidate: Candidate;
  name: string;
  change: (part: Partial<Candidate>) => void;
}) {
  const { readOnly } = useEdit();
  const book = useBook();
  const material = limeMaterialOf(book, c.materialKey);
  const { analysis } = c;
  const doubt = analysis ? cceDoubt(analysis.ccePct, material.cceAbove180) : null;
  const own = (part: Partial<NonNullable<typeof analysis>>) => {
    if (analysis) change({ analysis: { ...analysis, ...part } });
  };
  return (
    <div
      role="group"
      aria-label={name}
      className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-1"
    >
      {(
        [
          ['pricePerT', 'Price'],
          ['haulPerT', 'Haulage'],
          ['spreadPerT', 'Spreading'],
        ] as const
      ).map(([key, word]) => (
        <FigureBox
          key={key}
          label={word}
          disabled={readOnly}
          value={c[key]}
          range={{ label: word, unit: 'per t', min: 0, max: 1000 }}
          onValue={(v) => v !== null && change({ [key]: v })}
        />
      ))}
      <TickBox
        label="own analysis"
        disabled={readOnly}
        value={analysis !== null}
        onValue={(v) =>
          change({
            analysis: v
              ? {
                  ccePct: material.ccePct,
                  dryMatterPct: material.dryMatterPct,
                  p8: material.pass236mmPct,
                  p20: material.pass085mmPct,
                  p60: material.pass025mmPct,
                }
              : null,
          })
        }
      />
      {analysis === null ? (
        <span className="note">
          book value {material.ccePct} % CCE ({material.cceMin}-{material.cceMax}),{' '}
          {material.dryMatterPct} % dry
        </span>
      ) : (
        <>
          <FigureBox
            label="CCE"
            disabled={readOnly}
            value={analysis.ccePct}
            range={{ ...RANGES.ccePct, above: true, unit: '%' }}
            onValue={(v) => v !== null && own({ ccePct: v })}
          />
          <FigureBox
            label="Dry matter"
            disabled={readOnly}
            value={analysis.dryMatterPct}
            range={RANGES.limeDryMatterPct}
            onValue={(v) => v !== null && own({ dryMatterPct: v })}
          />
          {(
            [
              ['p8', 'through 2.36 mm'],
              ['p20', '0.85 mm'],
              ['p60', '0.25 mm'],
            ] as const
          ).map(([key, word]) => (
            <FigureBox
              key={key}
              label={word}
              disabled={readOnly}
              value={analysis[key]}
              range={{ ...RANGES.pctOf, unit: '%' }}
              onValue={(v) => v !== null && own({ [key]: v })}
            />
          ))}
        </>
      )}
      {doubt && (
        <p role="alert" className="problem basis-full">
          {doubt}
        </p>
      )}
    </div>
  );
}

function CandidateRows({
  lime,
  index,
  row,
  refused,
  spreadDate,
  set,
}: {
  lime: LimePlan;
  index: number;
  row: LimeRow | undefined;
  refused: string | undefined;
  spreadDate: string;
  set: LimeProductsProps['set'];
}) {
  const { readOnly } = useEdit();
  const book = useBook();
  const { show, unit } = useUnits();
  const c = lime.candidates[index] as Candidate;
  const material = limeMaterialOf(book, c.materialKey);
  const { name } = material;
  const change = (part: Partial<Candidate>) =>
    set({ candidates: replaceAt(lime.candidates, index, part) });
  return (
    <>
      <tr className="[&>*]:border-b-0!" data-testid={`lime-${c.materialKey}`}>
        <td>
          <input
            type="radio"
            name="chosen-lime"
            aria-label={`Choose ${name}`}
            className="size-4 accent-[var(--ink)]"
            disabled={readOnly}
            checked={lime.chosenId === c.id}
            onChange={() => set({ chosenId: c.id })}
          />
        </td>
        <th scope="row">
          <span className="inline-block w-60 max-w-full">
            <ChoiceBox
              label={`Lime ${index + 1}`}
              hideLabel
              disabled={readOnly}
              value={c.materialKey}
              options={limeMaterials(book).map((m) => ({ value: m.key, label: m.name }))}
              onValue={(v) => v && change({ materialKey: v, analysis: null })}
            />
          </span>
        </th>
        <td className="num">
          {row ? (
            <>
              <WhyFigure step={row.why} label={`${name}, rate`}>
                {show(row.productTHa, 'mass_rate', 1)}
              </WhyFigure>
              {row.passes > 1 && <span className="note block">in {row.passes} passes</span>}
            </>
          ) : (
            '·'
          )}
        </td>
        <td className="num">{row ? row.perTEcc.toFixed(0) : '·'}</td>
        <td className="num">{row ? row.costPerHa.toFixed(0) : '·'}</td>
        <td className="num font-bold">{row?.phAtPlanting?.toFixed(2) ?? '·'}</td>
        <td className="num">{row ? row.ph12.toFixed(1) : '·'}</td>
        <td className="num">{row ? row.ph36.toFixed(1) : '·'}</td>
        <td className="num">{row?.firstCropTotal?.toFixed(0) ?? '·'}</td>
        <td className="pl-4">
          <Verdict row={row} refused={refused} spreadDate={spreadDate} />
        </td>
        <td>
          {!readOnly && (
            <RemoveButton
              label={`Remove ${name}`}
              onClick={() =>
                set({
                  candidates: without(lime.candidates, index),
                  ...(lime.chosenId === c.id ? { chosenId: null } : {}),
                })
              }
            />
          )}
        </td>
      </tr>
      <tr>
        <td />
        <td colSpan={10}>
          <LoadInputs candidate={c} name={name} change={change} />
          <p className="note">
            {row
              ? `${row.ecceAsReceivedPct.toFixed(0)} % effective as received; brings ${show(row.caKgHa, 'nutrient_rate')} Ca and ${show(row.mgKgHa, 'nutrient_rate')} Mg, ${unit('nutrient_rate')}. `
              : ''}
            {material.caution ? `${material.caution}.` : ''}
          </p>
        </td>
      </tr>
    </>
  );
}

/** Oxides and hydroxides burn; what they are mixed with does not change that. */
const isCaustic = (anion: string): boolean => /^(hydr)?oxide\b/.test(anion);

/**
 * Limes side by side: rate, cost of a tonne of effective carbonate, and the pH each of them
 * reaches by planting.
 */
export function LimeProducts({ lime, assessed, set }: LimeProductsProps) {
  const plan = usePlan('asOf', 'season');
  const { readOnly } = useEdit();
  const book = useBook();
  const { show, unit } = useUnits();
  const ranked = assessed?.rows.map((r) => r.candidate.id) ?? [];
  const order = [
    ...ranked,
    ...lime.candidates.map((c) => c.id).filter((id) => !ranked.includes(id)),
  ];
  return (
    <Part
      title="Which lime"
      aside="those that work in time first, then by the cost of a tonne of effect; pH at planting is good to +/- 0.3, the difference between limes to less"
    >
      <div className="mb-2 fields">
        <DateBox
          label="Spread on"
          disabled={readOnly}
          value={lime.spreadDate}
          onValue={(v) => set({ spreadDate: v })}
        />
        <span>
          Planting{' '}
          <strong>
            {plan.season.plantingDate ? dateInWords(plan.season.plantingDate) : 'no date yet'}
          </strong>
        </span>
        <ChoiceBox
          label="Climate"
          disabled={readOnly}
          value={lime.climate}
          options={[
            { value: 'moist', label: 'moist, 0.7 months of effect in one' },
            { value: 'dry', label: 'dry, 0.4 months of effect in one' },
          ]}
          onValue={(v) => v && set({ climate: v as LimePlan['climate'] })}
        />
        <ChoiceBox
          label="Large rates"
          disabled={readOnly}
          value={lime.split ? 'split' : 'at_once'}
          options={[
            { value: 'split', label: 'split, half a year apart' },
            { value: 'at_once', label: 'all at once' },
          ]}
          onValue={(v) => set({ split: v === 'split' })}
        />
        <FigureBox
          label="One pass at most"
          optional
          dimension="mass_rate"
          disabled={readOnly}
          value={lime.onePassMaxTHa}
          range={{ label: 'Largest pass', unit: 't ECC/ha', min: 0.5, max: 12 }}
          onValue={(v) => set({ onePassMaxTHa: v })}
        />
      </div>
      <div
        className="relative overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label="Limes compared"
      >
        <table className="ruled min-w-[60rem]" data-testid="lime-products">
          <thead>
            <tr>
              <th>
                <span className="sr-only">Chosen</span>
              </th>
              <th>Lime</th>
              <th className="num">{unit('mass_rate')}</th>
              <th className="num">
                Per t of
                <br />
                effect
              </th>
              <th className="num">Per ha</th>
              <th className="num">
                pH at
                <br />
                planting
              </th>
              <th className="num">
                in 12
                <br />
                months
              </th>
              <th className="num">
                in 36
                <br />
                months
              </th>
              <th className="num">
                Lime and lost
                <br />
                yield, {unit('price_per_area')}
              </th>
              <th className="pl-4">For this planting</th>
              <RemoveHead />
            </tr>
          </thead>
          <tbody>
            {order.map((id) => (
              <CandidateRows
                key={id}
                lime={lime}
                index={lime.candidates.findIndex((c) => c.id === id)}
                row={assessed?.rows.find((r) => r.candidate.id === id)}
                refused={assessed?.refused.find((r) => r.id === id)?.reason}
                spreadDate={lime.spreadDate ?? plan.asOf}
                set={set}
              />
            ))}
          </tbody>
        </table>
      </div>
      {assessed?.lossNow && (
        <p className="note mt-1">
          Without lime this crop loses about {show(assessed.lossNow.low, 'price_per_area')} to{' '}
          {show(assessed.lossNow.high, 'price_per_area')} {unit('price_per_area')} a year (straight
          slope, and the steeper table as the upper bound).
        </p>
      )}
      {!readOnly && lime.candidates.length < 12 && (
        <button
          type="button"
          className="button mt-2"
          onClick={() =>
            set({
              candidates: [
                ...lime.candidates,
                {
                  id: lineId(),
                  materialKey: 'calcitic_ag',
                  pricePerT: 20,
                  haulPerT: 9,
                  spreadPerT: 8,
                  analysis: null,
                },
              ],
            })
          }
        >
          <Plus size={13} aria-hidden /> Another lime
        </button>
      )}
      {lime.candidates.some((c) => isCaustic(limeMaterialOf(book, c.materialKey).anion)) && (
        <p className="problem mt-2 max-w-[46rem]">
          Burnt and hydrated lime, kiln dust and fresh ash burn eyes, skin and lungs: goggles,
          gloves, long sleeves, dust mask. Rinse eyes for 15 minutes and see a doctor. Keep
          quicklime dry and away from anything that burns. Never with ammonium, urea or manure in
          the hopper or on the ground: ammonia gas.
        </p>
      )}
      <p className="note mt-1">
        Do not spread dusty lime in wind, nor on saturated, frozen or snow-covered ground; keep the
        distance to water that local code asks for. Residues such as ash, slag and water-treatment
        lime need a metal analysis and often a permit. Follow the label and the data sheet.
      </p>
    </Part>
  );
}
