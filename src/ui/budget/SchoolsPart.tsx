'use client';

import { Plus } from 'lucide-react';
import { nIndexLevels } from '@/core/book/nIndex';
import type { PkSchool, PlannedNSchool } from '@/core/budget/schools';
import { chosenSchools } from '@/core/lines/chosenSchools';
import type { Schools } from '@/core/document/schoolsDocument';
import { ChoiceBox, optionsOf, TickBox } from '../figure/fields';
import { useUnits } from '../frame/units';
import { FigureBox } from '../figure/FigureBox';
import { replaceAt, without, useEdit, usePlan } from '../workspace/context';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

export const N_SCHOOL_WORDS: Record<PlannedNSchool, string> = {
  yield_goal: 'yield goal',
  economic_optimum: 'economic optimum, own trials',
  index_ceiling: 'index and ceiling',
};
export const PK_SCHOOL_WORDS: Record<PkSchool, string> = {
  replacement: 'replace off-take',
  sufficiency: 'sufficiency',
  build_maintain: 'build and maintain',
  replacement_index: 'replacement at an index',
};
const choices = <K extends string>(words: Record<K, string>) =>
  Object.entries<string>(words).map(([value, label]) => ({ value, label }));
const RATE = { label: 'N rate', unit: 'kg/ha', min: 0, max: 600 };

/** How the need is worked out, and what the school wants to know for it. */
export function SchoolsPart() {
  const plan = usePlan('farm', 'schools');
  const { edit, readOnly } = useEdit();
  const { unit } = useUnits();
  const { schools, farm } = plan;
  const chosen = chosenSchools(plan);
  const set = (part: Partial<Schools>) =>
    edit((p) => ({ ...p, schools: { ...p.schools, ...part } }));
  return (
    <>
      <div className="mb-2 fields">
        <ChoiceBox
          label="N by"
          disabled={readOnly}
          value={schools.n}
          empty={`as the farm: ${N_SCHOOL_WORDS[farm.nSchool]}`}
          options={choices(N_SCHOOL_WORDS)}
          onValue={(v) => set({ n: v as Schools['n'] })}
        />
        <ChoiceBox
          label="P and K by"
          disabled={readOnly}
          value={schools.pk}
          empty={`as the farm: ${PK_SCHOOL_WORDS[farm.pkSchool]}`}
          options={choices(PK_SCHOOL_WORDS)}
          onValue={(v) => set({ pk: v as Schools['pk'] })}
        />
        {chosen.pk === 'build_maintain' && (
          <FigureBox
            label="Years to build up"
            disabled={readOnly}
            value={schools.buildYears}
            range={{ label: 'Years to build up', unit: 'years', min: 1, max: 30 }}
            onValue={(v) => v !== null && set({ buildYears: v })}
          />
        )}
      </div>
      {chosen.n === 'index_ceiling' && (
        <div className="mb-2 fields">
          <FigureBox
            label="Soil mineral N, 0-90 cm"
            optional
            disabled={readOnly}
            value={schools.smnKgHa}
            dimension="nutrient_rate"
            range={{ label: 'Soil mineral N', unit: 'kg/ha', min: 0, max: 1000 }}
            onValue={(v) => set({ smnKgHa: v })}
          />
          <ChoiceBox
            label="Previous crop group"
            disabled={readOnly}
            value={schools.previousCropGroup}
            empty="not given"
            options={optionsOf(nIndexLevels('previousCropGroup'))}
            onValue={(v) => set({ previousCropGroup: v })}
          />
          <ChoiceBox
            label="Soil group"
            disabled={readOnly}
            value={schools.soilGroup}
            empty="not given"
            options={optionsOf(nIndexLevels('soilGroup'))}
            onValue={(v) => set({ soilGroup: v })}
          />
          <ChoiceBox
            label="Winter drainage, mm"
            disabled={readOnly}
            value={schools.winterDrainageMmClass}
            empty="not given"
            options={optionsOf(nIndexLevels('winterDrainageMmClass'))}
            onValue={(v) => set({ winterDrainageMmClass: v })}
          />
          <TickBox
            label="manured in three of five years"
            disabled={readOnly}
            value={schools.regularManure}
            onValue={(v) => set({ regularManure: v })}
          />
          <p className="note basis-full">
            A sample counts; without one the previous crop places the field. The tables are examples
            of their kind: local ones come first.
          </p>
        </div>
      )}
      {chosen.n === 'economic_optimum' && (
        <div className="mb-2">
          <table className="ruled max-w-[26rem]">
            <thead>
              <tr>
                <th>N rate, {unit('nutrient_rate')}</th>
                <th>Yield, {unit('mass_rate')}</th>
                <RemoveHead />
              </tr>
            </thead>
            <tbody>
              {schools.trials.map((t, i) => (
                <tr key={i}>
                  <td>
                    <FigureBox
                      label={`Trial ${i + 1} N rate`}
                      hideLabel
                      disabled={readOnly}
                      value={t.nKgHa}
                      range={RATE}
                      hideUnit
                      onValue={(v) =>
                        v !== null && set({ trials: replaceAt(schools.trials, i, { nKgHa: v }) })
                      }
                    />
                  </td>
                  <td>
                    <FigureBox
                      label={`Trial ${i + 1} yield`}
                      hideLabel
                      disabled={readOnly}
                      value={t.yieldTHa}
                      range={{ label: 'Yield', unit: 't/ha', min: 0, max: 200 }}
                      hideUnit
                      onValue={(v) =>
                        v !== null && set({ trials: replaceAt(schools.trials, i, { yieldTHa: v }) })
                      }
                    />
                  </td>
                  <td>
                    {!readOnly && (
                      <RemoveButton
                        label={`Remove trial ${i + 1}`}
                        onClick={() => set({ trials: without(schools.trials, i) })}
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-1 fields">
            {!readOnly && schools.trials.length < 60 && (
              <button
                type="button"
                className="button"
                onClick={() =>
                  set({
                    trials: [
                      ...schools.trials,
                      {
                        nKgHa: (schools.trials[schools.trials.length - 1]?.nKgHa ?? -60) + 60,
                        yieldTHa: 0,
                      },
                    ],
                  })
                }
              >
                <Plus size={13} aria-hidden /> Trial plot
              </button>
            )}
            <FigureBox
              label="Mean nitrate of the trials, 0-60 cm"
              disabled={readOnly}
              value={schools.calNo3KgHa}
              dimension="nutrient_rate"
              range={{ label: 'Mean nitrate of the trials', unit: 'kg/ha', min: 0, max: 300 }}
              onValue={(v) => v !== null && set({ calNo3KgHa: v })}
            />
            <ChoiceBox
              label="Trials stood"
              disabled={readOnly}
              value={
                schools.trialsAfterLegume === null
                  ? null
                  : schools.trialsAfterLegume
                    ? 'after'
                    : 'not'
              }
              empty="not known"
              options={[
                { value: 'after', label: 'after legumes' },
                { value: 'not', label: 'not after legumes' },
              ]}
              onValue={(v) => set({ trialsAfterLegume: v === null ? null : v === 'after' })}
            />
          </div>
          <p className="note mt-1">
            Five plots at four rates or more, one without N. Single years lie a hundred kilograms
            apart: leave a check strip.
          </p>
        </div>
      )}
    </>
  );
}
