'use client';

import { useState } from 'react';
import type { Outline } from '@/core/ground/outline';
import { dateInWords } from '@/core/quantity/calendar';
import { ChoiceBox } from '../figure/fields';
import type { StoredPlan } from './SamplingPart';
import { History } from './SurveyHistory';
import { SurveyMap } from './SurveyMap';
import { type SurveySample } from './surveyScale';

/**
 * What the samples of a field say: each reading over its blocks, the mean with its spread, and the
 * years with their error.
 */
export function SurveyPart({
  outline,
  plans,
  samples,
}: {
  outline: Outline | null;
  plans: StoredPlan[];
  samples: SurveySample[];
}) {
  const withResults = plans.filter((p) => samples.some((s) => s.sample.samplingPlanId === p.id));
  const [planId, setPlanId] = useState(withResults[0]?.id ?? plans[0]?.id ?? null);
  const plan = plans.find((p) => p.id === planId) ?? null;
  return (
    <>
      {plans.length > 1 && (
        <p className="mb-2">
          <ChoiceBox
            label="Sampling plan"
            value={planId}
            options={plans.map((p) => ({
              value: p.id,
              label: `${p.name}, ${dateInWords(p.createdOn)}`,
            }))}
            onValue={(v) => v && setPlanId(v)}
          />
        </p>
      )}
      {outline && plan ? (
        <SurveyMap key={plan.id} outline={outline} plan={plan} samples={samples} />
      ) : (
        <p className="note mb-4">
          No sampling plan yet: make one under Sampling plan, and its results come back to its
          points.
        </p>
      )}
      <History samples={samples} plans={plans} />
    </>
  );
}
