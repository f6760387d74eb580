'use client';

import { nutrientSymbol } from '@/core/book/soilTests';
import type { SecondaryRisk } from '@/core/lines/secondary';
import { Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { CautionsAbout } from '../Cautions';
import { editGround, useEdit, usePlan, useWorkspace } from '../workspace/context';

const VERDICT: Record<SecondaryRisk['verdict'], string> = {
  apply: 'apply',
  strip_trial: 'strip trial first',
  watch: 'watch the leaf',
  none: 'nothing',
};

function Rates({ risk }: { risk: SecondaryRisk }) {
  if (risk.rates.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer">Soil rates</summary>
      <table className="ruled">
        <thead>
          <tr>
            <th>Material and route</th>
            <th className="num">low</th>
            <th className="num">usual</th>
            <th className="num">high</th>
            <th className="num">stop above</th>
          </tr>
        </thead>
        <tbody>
          {risk.rates.map((r) => (
            <tr key={`${r.material}|${r.route}`}>
              <th scope="row">
                {r.material}, {r.route}
                <span className="note block">
                  {[r.timing, r.caution].filter(Boolean).join('; ')}
                </span>
              </th>
              {[r.rateLowKgHa, r.rateDefaultKgHa, r.rateHighKgHa, r.stopAboveKgHa].map((v, i) => (
                <td key={i} className="num">
                  {v ?? '·'}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note">
        kg of the element per ha and year of use; source {risk.rates[0]?.source}, confidence{' '}
        {risk.rates[0]?.confidence}.
      </p>
    </details>
  );
}

const SECONDARY = ['R23', 'R24', 'R25', 'R26', 'R35'];
/**
 * Sulphur, magnesium, micronutrients and chloride from the soil's side: what to test, and a rate
 * only where two of three signs agree.
 */
export function NutrientsPart() {
  const plan = usePlan('ground', 'season');
  const { edit, readOnly } = useEdit();
  const parts = useWorkspace((w) => w.parts);
  const risks = parts?.secondary ?? [];
  if (!plan.season.cropKey)
    return <p>Choose a crop first, at Crop: what is short depends on what grows.</p>;
  return (
    <>
      <Part
        title="What the soil’s side says"
        aside="apply only where two of three agree: conditions, a low test, the leaf or a strip"
      >
        <div className="overflow-x-auto">
          <table className="ruled max-w-[70rem]" data-testid="secondary">
            <thead>
              <tr>
                <th>Nutrient</th>
                <th>Verdict</th>
                <th>Because</th>
                <th>Test</th>
                <th>What to test</th>
                <th>First fix</th>
              </tr>
            </thead>
            <tbody>
              {risks.map((r) => (
                <tr key={r.nutrient}>
                  <th scope="row" className="font-bold">
                    {nutrientSymbol(r.nutrient)}
                  </th>
                  <td className={r.verdict === 'apply' ? 'text-hot' : ''}>{VERDICT[r.verdict]}</td>
                  <td>{r.because}</td>
                  <td>{words(r.testClass)}</td>
                  <td>{r.whatToTest}</td>
                  <td>
                    {r.firstFix}
                    <Rates risk={r} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Part>
      <div className="grid gap-x-8 xl:grid-cols-2">
        <Part title="Boron of the last 12 months" aside="from all routes, on this field">
          <FigureBox
            label="Boron put on"
            optional
            disabled={readOnly}
            value={plan.ground.boronLastYearKgHa}
            range={{ label: 'Boron of the last year', unit: 'kg/ha', min: 0, max: 20 }}
            onValue={(v) => edit(editGround({ boronLastYearKgHa: v }))}
          />
          <p className="problem mt-1">
            Boron: the gap between enough and too much is narrow. Spread it evenly, never in the
            seed row; beans, peas, small grains and strawberry suffer from carry-over for a season
            on clay.
          </p>
          <p className="note">
            Copper adds up for good and harms sheep on sprayed grass; zinc counts against the limit
            of local code; too much molybdenum in forage takes the copper from stock: ask a vet. A
            mix of everything for insurance is money without a reason.
          </p>
        </Part>
        <Part title="What it means">
          <CautionsAbout
            about={({ warning: w }) => w.module === 'ground' && SECONDARY.includes(w.id)}
            empty="No rule speaks against the plan."
          />
        </Part>
      </div>
    </>
  );
}
