'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { fruitCaStandards } from '@/core/book/fruitCalcium';
import type { Plan } from '@/core/document/document';
import { MOST_PASSES } from '@/core/document/most';
import { dateInWords } from '@/core/quantity/calendar';
import {
  calciumSalts,
  EVERY_RISK,
  fruitCalcium,
  sprayProgramme,
  type FruitCalcium,
} from '@/core/views/fruitSprays';
import type { LeafBeside } from '@/core/views/leafBeside';
import { ChoiceBox, DateBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { useUnits } from '../frame/units';
import { Warnings } from '../Warnings';
import { editSeason, lineId, useBook, useEdit, useWholeAssessment } from '../workspace/context';
import { useKnownPlan } from './useCalendar';

type Block = NonNullable<Plan['season']['fruitBlock']>;
const BLANK: Block = {
  canopyHeightM: null,
  canopyWidthM: null,
  rowM: null,
  sprayVolumeLHa: null,
  loadRatio: null,
  shootCm: null,
  bigFruit: null,
  youngTrees: null,
  peelNCa: null,
  previousPitPct: null,
};
const RISK = { low_risk: 'low', moderate: 'moderate', bitter_pit_prone: 'pit-prone' } as const;
const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];

/** Calcium on the fruit: sprays done and planned against the target of the block. */
export function FruitSprays({ beside }: { beside: LeafBeside }) {
  const plan = useKnownPlan();
  const a = useWholeAssessment();
  const book = useBook();
  const { words } = useUnits();
  const now = fruitCalcium(book, plan, a, beside);
  if (!now) return null;
  return (
    <Part
      title="Calcium on the fruit"
      aside="only what lands on the skin counts; it replaces no even crop, calm growth or even water"
    >
      <div data-testid="fruit-calcium">
        <p className="font-bold">{words(now.words[0] ?? '')}</p>
        {now.words.slice(1).map((w) => (
          <p key={words(w)}>{words(w)}</p>
        ))}
        <TargetBar now={now} />
        <BlockBoxes now={now} />
        {now.sprays.length > 0 && <Sprays now={now} />}
        <Programme now={now} />
        <FruitItself crop={now.crop} />
        <Warnings list={now.warnings} />
        <p className="note max-w-[52rem]">
          Spray in the evening, weaker from 27 °C on and not at all from 30 °C. Calcium chloride
          corrodes: rinse the pump. Not with magnesium sulphate, phosphates or sulphur; calcium
          nitrate only early. {now.target.source}, confidence {now.target.confidence}.
        </p>
      </div>
    </Part>
  );
}

/** What the fruit itself should hold: the only figure that counts in the end. */
function FruitItself({ crop }: { crop: string }) {
  const rows = fruitCaStandards().filter(
    (r) => crop.startsWith(r.cropGroup) || r.cropGroup === crop,
  );
  if (rows.length === 0) return null;
  return (
    <details className="my-1">
      <summary className="cursor-pointer">What the fruit itself should hold</summary>
      <ul>
        {rows.map((r) => (
          <li key={`${r.sample} ${r.measure}`}>
            {r.measure} of {r.sample}: {r.good} is good, {r.risk} a risk ({r.unit}).{' '}
            <span className="note">
              {[r.note, `${r.source}, ${r.confidence}`].filter(Boolean).join('; ')}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

const W = 420;
function TargetBar({ now }: { now: FruitCalcium }) {
  const { show, unit } = useUnits();
  const { seasonCaMinKgHa: min, seasonCaTargetKgHa: target, seasonCaMaxKgHa: max } = now.target;
  const x = (kg: number) => (Math.min(kg, max * 1.1) / (max * 1.1)) * W;
  const share = now.coverageIndex ?? 1;
  const [done, planned] = [x(now.doneKgHa * share), x((now.doneKgHa + now.plannedKgHa) * share)];
  return (
    <svg
      viewBox={`0 0 ${W} 50`}
      width={W}
      height={50}
      className="my-2 max-w-full"
      role="img"
      aria-label={`Calcium that reaches the canopy: done ${show(now.doneKgHa * share, 'nutrient_rate', 1)}, planned ${show(now.plannedKgHa * share, 'nutrient_rate', 1)} ${unit('nutrient_rate')}; least ${show(min, 'nutrient_rate', 1)}, target ${show(target, 'nutrient_rate', 1)}, most ${show(max, 'nutrient_rate', 1)}`}
    >
      <rect
        x={x(min)}
        y={14}
        width={x(max) - x(min)}
        height={16}
        fill="var(--rule)"
        opacity={0.6}
      />
      <rect x={0} y={17} width={done} height={10} fill="var(--demand)" />
      <rect
        x={done}
        y={17}
        width={Math.max(0, planned - done)}
        height={10}
        fill="none"
        stroke="var(--demand)"
        strokeWidth={1.6}
      />
      {(
        [
          [min, 'least'],
          [target, 'target'],
          [max, 'most'],
        ] as const
      ).map(([kg, label]) => (
        <g key={label}>
          <path
            d={`M${x(kg)} 10V34`}
            stroke="var(--ink)"
            strokeWidth={label === 'target' ? 2.4 : 1}
          />
          <text x={x(kg)} y={46} textAnchor="middle" className="fill-[var(--ink)] text-[12px]">
            {label} {show(kg, 'nutrient_rate', 1)}
          </text>
        </g>
      ))}
    </svg>
  );
}

function BlockBoxes({ now }: { now: FruitCalcium }) {
  const plan = useKnownPlan();
  const { edit, readOnly } = useEdit();
  const block = plan.season.fruitBlock ?? BLANK;
  const set = (part: Partial<Block>) =>
    edit((p) => editSeason({ fruitBlock: { ...(p.season.fruitBlock ?? BLANK), ...part } })(p));
  const box = (
    key:
      | 'canopyHeightM'
      | 'canopyWidthM'
      | 'rowM'
      | 'sprayVolumeLHa'
      | 'loadRatio'
      | 'shootCm'
      | 'peelNCa'
      | 'previousPitPct',
    label: string,
    unit: string,
    min: number,
    max: number,
    above = false,
  ) => (
    <FigureBox
      label={label}
      optional
      disabled={readOnly}
      value={block[key]}
      range={{ label, unit, min, max, above }}
      onValue={(v) => set({ [key]: v })}
    />
  );
  const yesNo = (key: 'bigFruit' | 'youngTrees', label: string) => (
    <ChoiceBox
      label={label}
      disabled={readOnly}
      value={block[key] === null ? null : block[key] ? 'yes' : 'no'}
      empty="not known"
      options={YES_NO}
      onValue={(v) => set({ [key]: v === null ? null : v === 'yes' })}
    />
  );
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {box('sprayVolumeLHa', 'Water of a spray', 'L/ha', 10, 5000)}
        {box('canopyHeightM', 'Canopy is high', 'm', 0, 20, true)}
        {box('canopyWidthM', 'and wide', 'm', 0, 12, true)}
        {box('rowM', 'Between the rows', 'm', 0, 15, true)}
      </div>
      {now.target.riskGroup !== EVERY_RISK && (
        <details className="my-1">
          <summary className="cursor-pointer">
            Risk of pitting: <strong>{RISK[now.risk.group]}</strong>, {now.risk.points}{' '}
            {now.risk.points === 1 ? 'point' : 'points'}
          </summary>
          <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
            {box('loadRatio', 'Crop load to a normal one', '', 0, 3)}
            {box('shootCm', 'Shoots, mean of ten', 'cm', 0, 300)}
            {yesNo('bigFruit', 'Big fruit')}
            {yesNo('youngTrees', 'Young trees')}
            {box('peelNCa', 'N to Ca of the peel', '', 0, 100)}
            {box('previousPitPct', 'Pitted before', '%', 0, 100)}
          </div>
          <p className="note">N and K of the leaf are read from the leaf itself.</p>
        </details>
      )}
    </>
  );
}

function Sprays({ now }: { now: FruitCalcium }) {
  const { show, unit } = useUnits();
  return (
    <Scrolled label="Sprays of calcium">
      <table className="ruled my-2 max-w-[40rem]">
        <thead>
          <tr>
            <th>Spray</th>
            <th className="num">Ca, {unit('nutrient_rate')}</th>
            <th className="num">as calcium chloride</th>
            <th className="pl-2">is</th>
          </tr>
        </thead>
        <tbody>
          {now.sprays.map((s) => (
            <tr key={s.id}>
              <th scope="row" className="font-normal">
                {dateInWords(s.date)}, {s.name}
              </th>
              <td className="num">{show(s.caKgHa, 'nutrient_rate', 2)}</td>
              <td className="num">{show(s.cacl2KgHa, 'nutrient_rate', 1)}</td>
              <td className="pl-2">
                {s.done ? 'done' : 'planned'}
                {s.overCap && <span className="problem"> may burn</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scrolled>
  );
}

function Programme({ now }: { now: FruitCalcium }) {
  const plan = useKnownPlan();
  const book = useBook();
  const { edit, readOnly } = useEdit();
  const salts = calciumSalts(book, plan);
  const [product, setProduct] = useState(salts[0]?.productId ?? '');
  const [strength, setStrength] = useState<number | null>(null);
  const [first, setFirst] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  if (readOnly) return null;
  if (salts.length === 0)
    return (
      <p className="note">
        No salt of calcium of the library may go onto certified land: ask the certifier which one
        does, and give it in the library.
      </p>
    );
  const lay = () => {
    if (first === null) return setSaid('The day of the first spray is missing.');
    if (strength === null) return setSaid('The strength of the spray is missing.');
    const found = sprayProgramme(book, plan, now, {
      productId: product,
      strengthPct: strength,
      first,
      newId: lineId,
    });
    if (typeof found === 'string') return setSaid(found);
    if (plan.passes.length + found.length > MOST_PASSES)
      return setSaid(`A plan holds ${MOST_PASSES} passes: these would be too many.`);
    setSaid(null);
    edit((p) => ({ ...p, passes: [...p.passes, ...found] }));
  };
  return (
    <div className="my-2">
      <h3>Sprays up to the target</h3>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <ChoiceBox
          label="Salt"
          value={product}
          options={salts.map((s) => ({ value: s.productId, label: `${s.name}, ${s.caPct} % Ca` }))}
          onValue={(v) => v && setProduct(v)}
        />
        <FigureBox
          label="Strength"
          value={strength}
          range={{ label: 'Strength of the spray', unit: '%', min: 0, max: 20, above: true }}
          optional
          onValue={setStrength}
        />
        <DateBox label="First spray on" value={first} onValue={setFirst} />
        <button type="button" className="button button-strong" onClick={lay}>
          <Plus size={13} aria-hidden /> Plan the sprays
        </button>
      </div>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
    </div>
  );
}
