'use client';

import { dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import type { Plan } from '@/core/document/document';
import type { LimePlan } from '@/core/document/limeDocument';
import type { LimeAssessment } from '@/core/lines/lime';
import { ChoiceBox, optionsOf, Part, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import { editField, editGround, useEdit, usePlan } from '../workspace/context';

const WORD: Record<string, string> = {
  need: 'needed now',
  optional: 'optional, at the next convenient time',
  none: 'none: pH is at the target',
  not_worth_a_trip: 'under 0.5 t/ha: not worth a trip, combine or retest in 2 years',
  unknown: 'not known yet',
};
const SCHOOL_WORDS: Record<LimePlan['school'], string> = {
  auto: 'best the report allows',
  lab: 'the laboratory’s own',
  buffer: 'buffer pH',
  aluminium: 'aluminium tolerance',
  carbon_clay: 'carbon and clay',
  texture: 'texture table',
};

export function Requirement({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment | null;
  set: (part: Partial<LimePlan>) => void;
}) {
  const plan = usePlan('field', 'ground');
  const { edit, readOnly } = useEdit();
  const { show, unit } = useUnits();
  const { ground, field } = plan;
  return (
    <Part
      title="How much lime"
      aside={assessed ? `to pH ${assessed.target.ph.toFixed(1)} in ${lime.depthCm} cm` : undefined}
    >
      {assessed && (
        <p className="mb-2 text-[1.05rem]">
          <strong>
            <WhyFigure step={assessed.requirement.why ?? undefined} label="Lime requirement">
              {assessed.requirement.valueTHa === null
                ? 'not known'
                : `${show(assessed.requirement.valueTHa, 'mass_rate', 1)} ${unit('mass_rate')} of effective carbonate`}
            </WhyFigure>
          </strong>{' '}
          <span className={assessed.requirement.word === 'need' ? 'text-hot' : 'text-faint'}>
            {WORD[assessed.requirement.word]}
          </span>
        </p>
      )}
      {assessed?.given && (
        <p className="mb-2">
          {show(assessed.given.rateTHa, 'mass_rate', 1)} {unit('mass_rate')} of{' '}
          {assessed.given.name} went on {dateInWords(assessed.given.date)}, after the sample: worth{' '}
          {show(assessed.given.eccTHa, 'mass_rate', 1)} {unit('mass_rate')} of effective carbonate.{' '}
          <strong>
            {assessed.given.stillTHa === null
              ? 'How much is still to give is not known.'
              : `Still to give: ${show(assessed.given.stillTHa, 'mass_rate', 1)} ${unit('mass_rate')}.`}
          </strong>
        </p>
      )}
      <div className="mb-2 fields">
        <ChoiceBox
          label="Method"
          disabled={readOnly}
          value={lime.school}
          options={Object.entries(SCHOOL_WORDS).map(([value, label]) => ({ value, label }))}
          onValue={(v) => v && set({ school: v as LimePlan['school'] })}
        />
        <FigureBox
          label="Mixed to"
          disabled={readOnly}
          value={lime.depthCm}
          range={{ ...RANGES.incorporationCm, min: 2 }}
          onValue={(v) => v !== null && set({ depthCm: v })}
        />
        <ChoiceBox
          label="Buffer"
          disabled={readOnly}
          value={ground.bufferKind}
          empty="no buffer pH"
          options={[
            { value: 'smp', label: 'SMP' },
            { value: 'sikora', label: 'Sikora' },
            { value: 'adams_evans', label: 'Adams-Evans' },
            { value: 'mehlich', label: 'Mehlich' },
          ]}
          onValue={(v) => edit(editGround({ bufferKind: v as Plan['ground']['bufferKind'] }))}
        />
        <FigureBox
          label="Buffer pH"
          optional
          disabled={readOnly}
          value={ground.bufferPh}
          range={{ label: 'Buffer pH', unit: '', min: 4, max: 8.1 }}
          onValue={(v) => edit(editGround({ bufferPh: v }))}
        />
        <FigureBox
          label="Clay"
          optional
          disabled={readOnly}
          value={field.clayPct}
          range={RANGES.clayPct}
          onValue={(v) => edit(editField({ clayPct: v }))}
        />
        <FigureBox
          label="Organic matter"
          optional
          disabled={readOnly}
          value={field.omPct}
          range={RANGES.omPct}
          onValue={(v) => edit(editField({ omPct: v }))}
        />
        <FigureBox
          label="Lime on the report"
          optional
          dimension="mass_rate"
          disabled={readOnly}
          value={lime.labRateTHa}
          range={{ label: 'Lime on the report', unit: 't/ha', min: 0, max: 40 }}
          onValue={(v) => set({ labRateTHa: v })}
        />
        {lime.labRateTHa !== null && (
          <FigureBox
            label="for a lime of"
            optional
            disabled={readOnly}
            value={lime.labReferenceEccPct}
            range={{ label: 'Effective carbonate', unit: '% effective', min: 10, max: 180 }}
            onValue={(v) => set({ labReferenceEccPct: v })}
          />
        )}
        {lime.labRateTHa !== null && (
          <FigureBox
            label="in a depth of"
            optional
            disabled={readOnly}
            value={lime.labDepthCm}
            range={RANGES.sampleDepthCm}
            onValue={(v) => set({ labDepthCm: v })}
          />
        )}
        <FigureBox
          label="Exchangeable Al"
          optional
          disabled={readOnly}
          value={ground.alCmolKg}
          range={RANGES.alCmolKg}
          onValue={(v) => edit(editGround({ alCmolKg: v }))}
        />
        <TickBox
          label="highly weathered soil"
          disabled={readOnly}
          value={lime.weathered}
          onValue={(v) => set({ weathered: v })}
        />
        <ChoiceBox
          label="Tillage"
          disabled={readOnly}
          value={field.tillage}
          empty="not known"
          options={optionsOf(['ploughed', 'mixed', 'no_till', 'grass'])}
          onValue={(v) => edit(editField({ tillage: v as Plan['field']['tillage'] }))}
        />
      </div>
      {assessed && (
        <table className="ruled max-w-[46rem]" data-testid="lime-methods">
          <thead>
            <tr>
              <th>Method</th>
              <th className="num">{unit('mass_rate')} of effective carbonate</th>
              <th className="pl-4">What stands beside it</th>
            </tr>
          </thead>
          <tbody>
            {assessed.requirement.methods.map((m) => (
              <tr key={m.key} className={m.key === assessed.requirement.chosen ? 'font-bold' : ''}>
                <th
                  scope="row"
                  className={m.key === assessed.requirement.chosen ? 'font-bold' : ''}
                >
                  {m.label}
                  {m.key === assessed.requirement.chosen ? ', used' : ''}
                </th>
                <td className="num">
                  <WhyFigure step={m.why ?? undefined} label={m.label}>
                    {m.valueTHa === null ? '·' : show(m.valueTHa, 'mass_rate', 1)}
                  </WhyFigure>
                </td>
                <td className="pl-4 font-normal text-faint">
                  {m.refused ??
                    (m.notes.join('; ') ||
                      `confidence ${m.why?.inputs[0]?.confidence ?? 'medium'}`)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Part>
  );
}
