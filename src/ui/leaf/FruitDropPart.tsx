'use client';

import type { Plan } from '@/core/document/document';
import { fruitDropOf } from '@/core/views/fruitDrop';
import type { LeafBeside } from '@/core/views/leafBeside';
import { ChoiceBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { editSeason, useBook, useEdit } from '../workspace/context';
import { useKnownPlan } from './useCalendar';

type Drop = NonNullable<Plan['season']['fruitDrop']>;
const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];
const said = (v: boolean | null): string | null => (v === null ? null : v ? 'yes' : 'no');
const UNSAID: Drop = { years: null, drought: null, waterlogged: null };

/** Fruit that drops early, year after year: water is asked first, then calcium and potassium. */
export function FruitDropPart({ beside }: { beside: LeafBeside }) {
  const plan = useKnownPlan();
  const book = useBook();
  const { edit, readOnly } = useEdit();
  const { words } = useUnits();
  const read = fruitDropOf(book, plan, beside);
  if (!read) return null;
  const drop = plan.season.fruitDrop ?? UNSAID;
  const set = (part: Partial<Drop>) =>
    edit((p) => editSeason({ fruitDrop: { ...(p.season.fruitDrop ?? UNSAID), ...part } })(p));
  return (
    <Part title="Fruit that drops early" aside="water first, then food">
      <div data-testid="fruit-drop">
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <FigureBox
            label="Years in which it dropped"
            optional
            value={drop.years}
            range={{ label: 'Years in which it dropped', unit: 'years', min: 1, max: 30 }}
            onValue={(years) => set({ years: years === null ? null : Math.round(years) })}
          />
          <ChoiceBox
            label="Dry when it fell"
            disabled={readOnly}
            value={said(drop.drought)}
            empty="not said"
            options={YES_NO}
            onValue={(v) => set({ drought: v === null ? null : v === 'yes' })}
          />
          <ChoiceBox
            label="The ground stood wet"
            disabled={readOnly}
            value={said(drop.waterlogged)}
            empty="not said"
            options={YES_NO}
            onValue={(v) => set({ waterlogged: v === null ? null : v === 'yes' })}
          />
        </div>
        {read.words.map((w) => (
          <p key={words(w)} className="max-w-[52rem] font-bold">
            {words(w)}
          </p>
        ))}
        {plan.season.fruitDrop !== null && read.open.length > 0 && read.words.length === 0 && (
          <p className="note">
            Calcium and potassium are asked once the years, drought and standing water are answered.
          </p>
        )}
        {read.words.length > 0 && <p className="note">consensus, low confidence</p>}
      </div>
    </Part>
  );
}
