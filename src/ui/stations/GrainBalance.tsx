'use client';

import { useUnits } from '../frame/units';
import { useState } from 'react';
import { grainLegumeBalance } from '@/core/budget/accounts';
import { Refusal } from '@/core/quantity/refusal';
import { FigureBox } from '../figure/FigureBox';
import { useBook, usePlan } from '../workspace/context';

/** A grain legume before this crop: what it fixed against what the seed took, for information. */
export function GrainBalance() {
  const { show, unit } = useUnits();
  const kg = (v: number) => show(v, 'nutrient_rate');
  const plan = usePlan('previous');
  const book = useBook();
  const [yieldTHa, setYield] = useState<number | null>(null);
  const { previous } = plan;
  const key = previous?.kind === 'legume' ? GRAIN_CROPS[previous.legumeKey] : undefined;
  if (!key) return null;
  let net: ReturnType<typeof grainLegumeBalance> | null = null;
  let problem: string | null = null;
  try {
    net = yieldTHa === null ? null : grainLegumeBalance(book, { cropKey: key, yieldTHa });
  } catch (e) {
    if (e instanceof Refusal) problem = e.message;
    else throw e;
  }
  return (
    <p className="mt-2">
      <FigureBox
        label="It yielded"
        optional
        value={yieldTHa}
        range={{ label: 'Yield', unit: 't/ha', min: 0, max: 20 }}
        onValue={setYield}
      />
      {problem && (
        <span role="alert" className="problem">
          {' '}
          {problem}
        </span>
      )}
      {net && (
        <>
          {' '}
          It fixed about {kg(net.fixedTotalKgHa)} {unit('nutrient_rate')} N, the seed took{' '}
          {kg(net.grainNKgHa)}:{' '}
          {net.netKgHa >= 0
            ? `${kg(net.netKgHa)} stayed`
            : `${kg(-net.netKgHa)} more went than came`}
          .{' '}
          <span className="note">
            For information; the credit stays what the table says, at most {kg(30)}.
          </span>
        </>
      )}
    </p>
  );
}
/** Grain legumes of the credit table in the crop table's words. */
const GRAIN_CROPS: Record<string, string> = {
  soybean_grain: 'soybean',
  pea_grain: 'field_pea',
  faba_grain: 'faba_bean',
  lentil_grain: 'lentil',
  chickpea_grain: 'chickpea',
  dry_bean_grain: 'dry_bean',
  lupin_grain: 'white_lupin',
  groundnut_grain: 'groundnut',
};
