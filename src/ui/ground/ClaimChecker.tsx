'use client';

import { useUnits } from '../frame/units';
import { useMemo, useState, useTransition } from 'react';
import { claimCheck, type ClaimInput, type ClaimResult } from '@/core/ground/claim';
import { dateInWords } from '@/core/quantity/calendar';
import { Refusal, type RefusalDetail } from '@/core/quantity/refusal';
import { claimCompounds } from '@/core/book/limes';
import { ChoiceBox, Part, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { WhyFigure } from '../frame/why';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

type Answer = { ok: true } | { ok: false; refusal: RefusalDetail };
export interface KeptClaim {
  id: string;
  product: string;
  checkedOn: string;
  verdict: string;
  message: string;
}
export interface ClaimCheckerProps {
  /** The field's own need, t ECC/ha, and pH gap; null where the user gives them. */
  need: { lr: number; gap: number } | null;
  kept: KeptClaim[];
  keep: ((product: string, input: ClaimInput) => Promise<Answer>) | null;
  drop: ((id: string) => Promise<Answer>) | null;
}
const START: ClaimInput = {
  compound: 'calcium_chloride',
  pct: 35,
  rate: 20,
  unit: 'l',
  density: 1.35,
  caPct: null,
  mgPct: null,
  lr: 5,
  gap: 0.8,
  claimedKgPerKg: null,
  allowOxidation: false,
};
const VERDICT: Record<ClaimResult['verdict'], string> = {
  impossible: 'Impossible',
  nothing_needed: 'Nothing needed',
  ruled_out: 'Ruled out by chemistry',
  unseen: 'Could not be seen',
  ask_compound: 'Ask for the compound',
  too_little: 'True lime, far too little',
  part: 'True lime, a part of the need',
  consistent: 'Consistent with chemistry',
};

const sentence = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Needed and delivered as two bars on one linear scale: that is the whole argument. */
function Bars({ r }: { r: ClaimResult }) {
  const { show, unit } = useUnits();
  const most = Math.max(r.needKg, r.baseKg, 1);
  const bar = (kg: number, y: number, fill: string) => (
    <rect
      x="0"
      y={y}
      width={Math.max(kg > 0 ? 1 : 0, (440 * Math.max(0, kg)) / most)}
      height="18"
      fill={fill}
    />
  );
  const delivered = r.baseKg === 0 && r.verdict !== 'ruled_out' ? r.upperKg : r.baseKg;
  return (
    <svg
      viewBox="0 0 460 92"
      className="w-full max-w-[32rem]"
      role="img"
      aria-label={`Needed ${show(r.needKg, 'nutrient_rate')}, delivered ${show(delivered, 'nutrient_rate')} ${unit('nutrient_rate')} of carbonate`}
    >
      <text x="0" y="12" fontSize="13" fill="var(--ink)">
        Needed: {show(r.needKg, 'nutrient_rate')} {unit('nutrient_rate')} of carbonate
      </text>
      {bar(r.needKg, 18, 'var(--organic-matter)')}
      <text x="0" y="58" fontSize="13" fill="var(--ink)">
        Delivered: {show(delivered, 'nutrient_rate', delivered < 10 ? 1 : 0)}{' '}
        {unit('nutrient_rate')}
        {r.share !== undefined ? ` (${(100 * r.share).toFixed(1)} %)` : ''}
      </text>
      {bar(delivered, 64, 'var(--fertiliser)')}
      <line x1="0" x2="0" y1="14" y2="88" stroke="var(--ink)" />
    </svg>
  );
}

type Set = (part: Partial<ClaimInput>) => void;
/** What the label says. */
function ProductBoxes({
  product,
  setProduct,
  input,
  set,
}: {
  product: string;
  setProduct: (name: string) => void;
  input: ClaimInput;
  set: Set;
}) {
  const unknown = input.compound === 'unknown_anion';
  return (
    <div className="fields">
      <label className="inline-flex items-baseline gap-1.5">
        Name
        <input
          className="box"
          value={product}
          maxLength={80}
          onChange={(e) => setProduct(e.target.value)}
        />
      </label>
      <ChoiceBox
        label="Compound"
        value={input.compound}
        options={claimCompounds().map((c) => ({
          value: c.key,
          label: `${c.name}${c.formula ? `, ${c.formula}` : ''}`,
        }))}
        onValue={(v) => v && set({ compound: v })}
      />
      <FigureBox
        label="Compound in it"
        value={input.pct}
        range={{ label: 'Compound in the product', unit: '%', min: 0, max: 100 }}
        onValue={(v) => v !== null && set({ pct: v })}
      />
      {unknown && (
        <FigureBox
          label="Calcium"
          optional
          value={input.caPct ?? null}
          range={{ label: 'Calcium in the product', unit: '%', min: 0, max: 100 }}
          onValue={(v) => set({ caPct: v })}
        />
      )}
      {unknown && (
        <FigureBox
          label="Magnesium"
          optional
          value={input.mgPct ?? null}
          range={{ label: 'Magnesium in the product', unit: '%', min: 0, max: 100 }}
          onValue={(v) => set({ mgPct: v })}
        />
      )}
      <FigureBox
        label="Rate"
        value={input.rate}
        range={{
          label: 'Rate',
          unit: input.unit === 'l' ? 'L/ha' : 'kg/ha',
          min: 0,
          max: 20000,
        }}
        onValue={(v) => v !== null && set({ rate: v })}
      />
      <ChoiceBox
        label="in"
        value={input.unit}
        options={[
          { value: 'l', label: 'litres per ha' },
          { value: 'kg', label: 'kilograms per ha' },
        ]}
        onValue={(v) => v && set({ unit: v as ClaimInput['unit'] })}
      />
      {input.unit === 'l' && (
        <FigureBox
          label="Density"
          optional
          value={input.density ?? null}
          range={{ label: 'Density', unit: 'kg/L', min: 0.3, max: 3 }}
          onValue={(v) => set({ density: v })}
        />
      )}
      <FigureBox
        label="One kg is said to replace"
        optional
        value={input.claimedKgPerKg ?? null}
        range={{ label: 'Claimed equivalence', unit: 'kg of lime', min: 0, max: 1000000 }}
        onValue={(v) => set({ claimedKgPerKg: v })}
      />
      <TickBox
        label="count what microbes may free"
        value={input.allowOxidation ?? false}
        onValue={(v) => set({ allowOxidation: v })}
      />
    </div>
  );
}

/** What the field needs. */
function NeedBoxes({ input, set }: { input: ClaimInput; set: Set }) {
  return (
    <div className="fields">
      <FigureBox
        label="Lime needed"
        value={input.lr}
        range={{
          label: 'Lime requirement',
          unit: 't/ha of effective carbonate',
          min: 0,
          max: 60,
        }}
        onValue={(v) => v !== null && set({ lr: v })}
      />
      <FigureBox
        label="to lift the pH by"
        value={input.gap}
        range={{ label: 'pH gap', unit: '', min: -4, max: 5 }}
        onValue={(v) => v !== null && set({ gap: v })}
      />
    </div>
  );
}

/** What the product does to the need, in words and as two bars. */
function Verdict({ result, input }: { result: ClaimResult; input: ClaimInput }) {
  const { show, unit } = useUnits();
  return (
    <div data-testid="claim-result">
      <p className={`text-[1.1rem] font-bold ${result.level === 'info' ? '' : 'text-hot'}`}>
        <WhyFigure step={result.why} label="Acid neutralised">
          {VERDICT[result.verdict]}
        </WhyFigure>
      </p>
      <p className="mb-2 max-w-[40rem]">{sentence(result.message)}</p>
      <Bars r={result} />
      <p className="note">
        Delivered, {unit('nutrient_rate')}: {show(result.caKg, 'nutrient_rate', 1)} Ca,{' '}
        {show(result.mgKg, 'nutrient_rate', 1)} Mg, {show(result.kKg, 'nutrient_rate', 1)} K.
        {result.dph !== undefined ? ` Expected change of pH: ${result.dph.toFixed(3)}.` : ''}
      </p>
      {input.unit === 'l' &&
        input.density != null &&
        (input.density < 0.9 || input.density > 1.8) && (
          <p className="problem">A density of {input.density} kg/L is unusual: check the label.</p>
        )}
      <p className="note mt-1 max-w-[40rem]">
        Not convinced? Three strips side by side: treated, untreated, limed; 12 cores each from 0-10
        cm after 6 months. A strip settles what words do not.
      </p>
    </div>
  );
}

function KeptClaims({
  kept,
  pending,
  onDrop,
}: {
  kept: readonly KeptClaim[];
  pending: boolean;
  onDrop: ((id: string) => void) | null;
}) {
  return (
    <Part title="Checked before">
      <table className="ruled">
        <thead>
          <tr>
            <th>Product</th>
            <th>On</th>
            <th>Verdict</th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {kept.map((c) => (
            <tr key={c.id}>
              <th scope="row">{c.product}</th>
              <td className="whitespace-nowrap">{dateInWords(c.checkedOn)}</td>
              <td>
                <strong>{VERDICT[c.verdict as ClaimResult['verdict']] ?? c.verdict}.</strong>{' '}
                {sentence(c.message)}
              </td>
              <td>
                {onDrop && (
                  <RemoveButton
                    label={`Remove ${c.product}`}
                    disabled={pending}
                    onClick={() => onDrop(c.id)}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Part>
  );
}

/**
 * Any product sold for pH: its label and rate in, chemistry and share of the need out, in plain
 * words.
 */
export function ClaimChecker({ need, kept, keep, drop }: ClaimCheckerProps) {
  const [product, setProduct] = useState('');
  const [input, setInput] = useState<ClaimInput>(() => ({
    ...START,
    ...(need ? { lr: need.lr, gap: need.gap } : {}),
  }));
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const set = (part: Partial<ClaimInput>) => {
    setInput((i) => ({ ...i, ...part }));
    setSaid(null);
  };
  const result = useMemo<ClaimResult | string>(() => {
    try {
      return claimCheck(input);
    } catch (e) {
      if (e instanceof Refusal) return e.message;
      throw e;
    }
  }, [input]);
  const send = (work: Promise<Answer>, then: () => void) =>
    start(async () => {
      const reply = await work;
      if (reply.ok) then();
      else setSaid(reply.refusal.message);
    });
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <div>
        <Part title="The product" aside="as its label says">
          <ProductBoxes product={product} setProduct={setProduct} input={input} set={set} />
        </Part>
        <Part
          title="The field"
          aside={need ? 'from this field’s lime requirement' : 'from your lime requirement'}
        >
          <NeedBoxes input={input} set={set} />
        </Part>
      </div>
      <div>
        <Part title="What it does">
          {typeof result === 'string' ? (
            <p role="alert" className="problem">
              {result}
            </p>
          ) : (
            <Verdict result={result} input={input} />
          )}
          {keep && (
            <button
              type="button"
              className="button mt-2"
              disabled={pending || typeof result === 'string'}
              onClick={() => send(keep(product, input), () => setProduct(''))}
            >
              Keep with the field
            </button>
          )}
          {said && (
            <p role="alert" className="problem mt-1">
              {said}
            </p>
          )}
        </Part>
        {kept.length > 0 && (
          <KeptClaims
            kept={kept}
            pending={pending}
            onDrop={drop && ((id) => send(drop(id), () => undefined))}
          />
        )}
      </div>
    </div>
  );
}
