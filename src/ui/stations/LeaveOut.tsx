'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { isPlaced, reasonWords } from '@/core/assessment/placed';
import { NUTRIENT_KEYS, type NutrientKey } from '@/core/lines/line';
import { ChoiceBox } from '../figure/fields';
import { RemoveButton } from '../figure/RemoveButton';
import { TextBox } from '../figure/TextBox';
import { useUnits } from '../frame/units';
import { lineId, useAssessed, useEdit, usePlan } from '../workspace/context';

const SYMBOL: Record<NutrientKey, string> = { n: 'N', p: 'P', k: 'K', s: 'S' };
const REASONS = [
  { value: 'rotation', label: 'comes with another year’s dressing' },
  { value: 'decision', label: 'not given this season' },
];

/** What is left out on purpose: a nutrient, the reason, and who said so; it stays on the sheet. */
export function LeaveOut() {
  'use memo';
  const a = useAssessed('sums');
  const { left } = usePlan('left');
  const { edit, readOnly } = useEdit();
  const { show, unit, words } = useUnits();
  const open = NUTRIENT_KEYS.filter((x) => !isPlaced(x, a.sums[x]));
  const [chosen, setChosen] = useState<NutrientKey | null>(null);
  const [reason, setReason] = useState<'rotation' | 'decision'>('rotation');
  const [why, setWhy] = useState('');
  const nutrient = chosen !== null && open.includes(chosen) ? chosen : (open[0] ?? null);
  const byItself = NUTRIENT_KEYS.flatMap((x) =>
    a.sums[x].left
      .filter((l) => l.reason !== 'rotation' && l.reason !== 'decision')
      .map((l) => ({ x, l })),
  );
  if (left.length === 0 && byItself.length === 0 && (readOnly || nutrient === null)) return null;
  const kg = (v: number) => `${show(v, 'nutrient_rate')} ${unit('nutrient_rate')}`;
  return (
    <section aria-label="Left out on purpose" className="mt-3">
      <h3>Left out</h3>
      <ul>
        {byItself.map(({ x, l }) => (
          <li key={`${x}.${l.reason}`}>
            {SYMBOL[x]} {kg(l.kgHa)}: {reasonWords(l.reason)}
            <span className="note">; {words(l.words)}</span>
          </li>
        ))}
        {left.map((l) => (
          <li key={l.id} className="flex flex-wrap items-baseline gap-x-2">
            <span>
              {SYMBOL[l.nutrient]}
              {l.kgHa === null ? ', all that is still to apply' : ` ${kg(l.kgHa)}`}:{' '}
              {reasonWords(l.reason)}
              <span className="note">; {l.words}</span>
            </span>
            {!readOnly && (
              <RemoveButton
                label={`Apply ${SYMBOL[l.nutrient]} after all`}
                onClick={() => edit((p) => ({ ...p, left: p.left.filter((e) => e.id !== l.id) }))}
              />
            )}
          </li>
        ))}
      </ul>
      {!readOnly && nutrient !== null && (
        <form
          className="mt-1 flex flex-wrap items-baseline gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (why.trim().length < 3) return;
            edit((p) => ({
              ...p,
              left: [
                ...p.left,
                {
                  id: lineId(),
                  nutrient,
                  kgHa: null,
                  reason,
                  words: why.trim(),
                  by: null,
                  until: null,
                },
              ],
            }));
            setWhy('');
          }}
        >
          <ChoiceBox
            label="Leave out"
            value={nutrient}
            options={open.map((x) => ({
              value: x,
              label: `${SYMBOL[x]}, ${kg(a.sums[x].stillToApply)}`,
            }))}
            onValue={(v) => setChosen(v as NutrientKey | null)}
          />
          <ChoiceBox
            label="because it"
            value={reason}
            options={REASONS}
            onValue={(v) => v && setReason(v as typeof reason)}
          />
          <TextBox label="Reason" value={why} max={200} onValue={setWhy} problem={null} />
          <button type="submit" className="button" disabled={why.trim().length < 3}>
            <Plus size={13} aria-hidden /> Leave out
          </button>
        </form>
      )}
    </section>
  );
}
