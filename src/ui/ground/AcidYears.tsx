'use client';

import { useUnits } from '../frame/units';
import type { LimePlan } from '@/core/document/limeDocument';
import type { LimeAssessment } from '@/core/lines/lime';
import { ChoiceBox, Part } from '../figure/fields';
import { WhyFigure } from '../frame/why';
import { useEdit } from '../workspace/context';

export function AcidYears({
  lime,
  assessed,
  set,
}: {
  lime: LimePlan;
  assessed: LimeAssessment;
  set: (part: Partial<LimePlan>) => void;
}) {
  const { show, unit } = useUnits();
  const { readOnly } = useEdit();
  const { acid, calcium, cecDoubt } = assessed;
  return (
    <>
      {acid && (
        <Part title="How long it lasts" aside="acid from a year of cropping like this one">
          <ChoiceBox
            label="Book-keeping"
            disabled={readOnly}
            value={lime.acidBooks}
            options={[
              { value: 'convention', label: 'convention (default)' },
              { value: 'cycle', label: 'N and carbon cycle' },
            ]}
            onValue={(v) => v && set({ acidBooks: v as LimePlan['acidBooks'] })}
          />
          <table className="ruled mt-1 max-w-[34rem]">
            <tbody>
              {(
                [
                  ['Fertiliser planned', acid.nitrogen],
                  ['Product carried off', acid.product],
                  ['Leaching of bases', acid.leaching],
                ] as const
              ).map(([w, v]) => (
                <tr key={w}>
                  <th scope="row">{w}</th>
                  <td className="num">{show(v, 'nutrient_rate')}</td>
                </tr>
              ))}
              <tr className="sum">
                <th scope="row">Acid as CaCO3, {unit('nutrient_rate')} a year</th>
                <td className="num">
                  <WhyFigure step={acid.why} label="Acid of a year">
                    {show(acid.total, 'nutrient_rate')}
                  </WhyFigure>
                </td>
              </tr>
              <tr>
                <th scope="row">Lime is due, from today’s pH</th>
                <td className="num">{acid.intervalYears === 0 ? 'now' : acid.verdict}</td>
              </tr>
              {acid.yearsFromTarget !== null && (
                <tr>
                  <th scope="row">Lime is due, once the target is reached</th>
                  <td className="num">after {acid.yearsFromTarget.toFixed(1)} years</td>
                </tr>
              )}
              <tr>
                <th scope="row">
                  Maintenance every 4 years, {unit('mass_rate')} of effective carbonate
                </th>
                <td className="num">{show(acid.maintenanceTHa, 'mass_rate', 1)}</td>
              </tr>
            </tbody>
          </table>
        </Part>
      )}
      <Part
        title="Calcium by two systems"
        aside="field tests find crops alike over wide ratios while no cation is short and pH is right"
      >
        <ChoiceBox
          label="System"
          disabled={readOnly}
          value={lime.calciumSchool}
          options={[
            { value: 'sufficiency', label: 'sufficiency (default)' },
            { value: 'base_saturation', label: 'base saturation' },
          ]}
          onValue={(v) => v && set({ calciumSchool: v as LimePlan['calciumSchool'] })}
        />
        {calcium ? (
          <table className="ruled mt-1 max-w-[44rem]">
            <thead>
              <tr>
                <th>System</th>
                <th className="num">Ca found, % of CEC</th>
                <th className="num">Ca short, {unit('nutrient_rate')}</th>
                <th className="num">as lime, {unit('mass_rate')}</th>
                <th className="num">as gypsum, {unit('mass_rate')}</th>
              </tr>
            </thead>
            <tbody>
              <tr className={lime.calciumSchool === 'sufficiency' ? 'font-bold' : ''}>
                <th scope="row">Sufficiency</th>
                <td className="num">{calcium.caSat.toFixed(0)}</td>
                <td className="num">
                  <WhyFigure step={calcium.why} label="Calcium short">
                    {show(calcium.suffShortKgHa, 'nutrient_rate')}
                  </WhyFigure>
                </td>
                <td className="num">·</td>
                <td className="num">·</td>
              </tr>
              <tr className={lime.calciumSchool === 'base_saturation' ? 'font-bold' : ''}>
                <th scope="row">Base saturation, 68 %</th>
                <td className="num">{calcium.caSat.toFixed(0)}</td>
                <td className="num">{show(calcium.bcsrShortKgHa, 'nutrient_rate')}</td>
                <td className="num">{show(calcium.limeTHa, 'mass_rate', 1)}</td>
                <td className="num">{show(calcium.gypsumTHa, 'mass_rate', 1)}</td>
              </tr>
            </tbody>
          </table>
        ) : (
          <p className="note mt-1">
            Needs Ca, Mg and K in mg/kg and a measured CEC, on soil up to pH 7.3: a CEC summed on
            limy soil is inflated.
          </p>
        )}
        {cecDoubt && <p className="problem mt-1">{cecDoubt}</p>}
        <p className="note mt-1 max-w-[44rem]">
          What speaks for ratios: on ground of low CEC K and Mg need balance, much sodium or
          magnesium harms structure, and farmers who mind ratios often have good pH too. What speaks
          against: trials, the price, and that the same soil is short by one CEC method and fine by
          another.
        </p>
      </Part>
    </>
  );
}
