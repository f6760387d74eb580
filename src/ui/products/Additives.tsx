'use client';

import { useState } from 'react';
import { additiveClaims } from '@/core/book/additives';
import { additiveCheck } from '@/core/nitrogen/tank';
import { ChoiceBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { usePlan } from '../workspace/context';

const CLASS = {
  strong: 'strong: shown again and again by independent field trials, with a mechanism',
  mixed: 'mixed: works under the conditions that are named',
  unproven: 'unproven: no independent evidence, or it fails the mass balance',
} as const;
const STRIPS = 3;

/** What is known of an additive, what it has to save to pay, and how to find out on this field. */
export function Additives() {
  const { farm, field } = usePlan('farm', 'field');
  const { show, unit } = useUnits();
  const [id, setId] = useState<string | null>(null);
  const [cost, setCost] = useState<number | null>(null);
  const claim = additiveClaims().find((c) => c.claimId === id);
  const check =
    cost !== null && farm.nPricePerKg > 0
      ? additiveCheck({ costPerHa: cost, nPricePerKg: farm.nPricePerKg })
      : null;
  return (
    <details className="mt-3" data-testid="additives">
      <summary className="cursor-pointer font-bold">An additive is offered</summary>
      <div className="mt-1 flex flex-wrap items-baseline gap-2">
        <ChoiceBox
          label="What it is said to do"
          value={id}
          empty="choose"
          options={additiveClaims().map((c) => ({ value: c.claimId, label: c.claim }))}
          onValue={setId}
        />
        <FigureBox
          label="It costs"
          optional
          value={cost}
          range={{ label: 'Cost', unit: 'money/ha', min: 0, max: 10_000 }}
          onValue={setCost}
        />
      </div>
      {claim && (
        <div className="mt-1 max-w-[52rem]">
          <p>
            Evidence {CLASS[claim.evidenceClass]}. {claim.whatIsKnown}.
            {claim.whereItWorks === null ? '' : ` Where: ${claim.whereItWorks}.`}{' '}
            <span className="note">
              {claim.source}, confidence {claim.confidence}
            </span>
          </p>
          {check && (
            <p>
              It pays where it saves more than {show(check.breakEvenNKgHa, 'nutrient_rate', 1)}{' '}
              {unit('nutrient_rate')} N at the farm’s price of N;{' '}
              {Math.round((cost ?? 0) * field.areaHa)} for the field.
            </p>
          )}
          {claim.evidenceClass !== 'strong' && (
            <p>
              A check strip answers it: at least {STRIPS} pairs of strips across the field, the same
              N with and without it, drilled, sprayed and harvested alike. “Less N with it” is
              compared with the same less N without it. The plan changes by no claim.
            </p>
          )}
        </div>
      )}
    </details>
  );
}
