'use client';

import { layerPlan } from '@/core/views/dressing';
import type { OrganicApplication } from '@/core/document/document';
import { TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useBook, useWholePlan } from '../workspace/context';
import { type Of, type Set, told } from './laid';

export function Layer({
  use,
  o,
  readOnly,
  put,
  set,
}: {
  use: Of<'layer'>;
  o: OrganicApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'layer'>>) => void;
  set: Set;
}) {
  const plan = useWholePlan();
  const book = useBook();
  const { show, unit } = useUnits();
  const l = told(() => layerPlan(book, plan, o));
  return (
    <>
      <div className="fields">
        <FigureBox
          label="Layer"
          disabled={readOnly}
          value={use.layerMm}
          range={{ label: 'Layer', unit: 'mm', min: 0, max: 500, above: true }}
          onValue={(v) => v !== null && put({ layerMm: v })}
        />
        <FigureBox
          label="Share of the field covered"
          disabled={readOnly}
          value={use.coveredFrac}
          range={{ label: 'Share covered', unit: '', min: 0, max: 1, above: true }}
          onValue={(v) => v !== null && put({ coveredFrac: v })}
        />
        <TickBox
          label="mixed into the soil"
          disabled={readOnly}
          value={use.mixed}
          onValue={(v) => put({ mixed: v })}
        />
        {use.mixed && (
          <FigureBox
            label="Mixing depth"
            disabled={readOnly}
            value={use.mixingDepthCm}
            range={{ label: 'Mixing depth', unit: 'cm', min: 1, max: 60 }}
            onValue={(v) => v !== null && put({ mixingDepthCm: v })}
          />
        )}
        <FigureBox
          label="Salt of the material, saturated paste"
          optional
          disabled={readOnly}
          value={use.ecCompost}
          range={{ label: 'Salt', unit: 'dS/m', min: 0, max: 60 }}
          onValue={(v) => put({ ecCompost: v })}
        />
        <FigureBox
          label="Salt of the soil"
          optional
          disabled={readOnly}
          value={use.ecSoil}
          range={{ label: 'Salt of the soil', unit: 'dS/m', min: 0, max: 60 }}
          onValue={(v) => put({ ecSoil: v })}
        />
      </div>
      {l.problem && (
        <p role="alert" className="problem">
          {l.problem}
        </p>
      )}
      {l.value && (
        <p className="mt-2" data-testid="layer">
          <strong>
            {show(l.value.rateTHa, 'mass_rate')} {unit('mass_rate')}
          </strong>
          : {show(l.value.nKgHa, 'nutrient_rate', 0)} N in all,{' '}
          {show(l.value.pKgHa, 'nutrient_rate', 0)} P, {show(l.value.kKgHa, 'nutrient_rate', 0)} K{' '}
          {unit('nutrient_rate')}
          {l.value.yearsOfPOfftake !== null && (
            <>
              ; its P is{' '}
              <span className={l.value.yearsOfPOfftake > 4 ? 'text-hot font-bold' : 'font-bold'}>
                {l.value.yearsOfPOfftake.toFixed(1)} years
              </span>{' '}
              of off-take
            </>
          )}
          .
        </p>
      )}
      {!readOnly && l.value && l.value.rateTHa <= 400 && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            set({ rate: Number((l.value?.rateTHa ?? 0).toFixed(2)), rateUnit: 't_ha' })
          }
        >
          Take this rate
        </button>
      )}
      <p className="note mt-1">
        The salt of a 1:5 extract times about 2.5 (clay 6 to sand 14 for mineral soils) is that of
        the paste.
      </p>
    </>
  );
}
