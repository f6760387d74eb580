'use client';

import { ringPlan } from '@/core/views/dressing';
import type { AssessedApplication } from '@/core/lines/organicLines';
import { ringRowOf, ringRows } from '@/core/book/organicTables';
import { ChoiceBox, optionsOf, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useWholeAssessment } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';
import { type Of, type Set, told, m } from './laid';

export function Ring({
  use,
  own,
  readOnly,
  put,
  set,
}: {
  use: Of<'ring'>;
  own: AssessedApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'ring'>>) => void;
  set: Set;
}) {
  const a = useWholeAssessment();
  const { show, unit } = useUnits();
  const plan = told(() => ringPlan(a, own));
  const row = told(() => ringRowOf(use.plantKind, use.ageClass)).value;
  const kinds = [...new Set(ringRows().map((r) => r.plantKind))];
  const ages = ringRows()
    .filter((r) => r.plantKind === use.plantKind)
    .map((r) => r.ageClass);
  const choose = (plantKind: string, ageClass: string) => {
    const r =
      ringRows().find((x) => x.plantKind === plantKind && x.ageClass === ageClass) ??
      ringRows().find((x) => x.plantKind === plantKind);
    if (r)
      put({
        plantKind: r.plantKind,
        ageClass: r.ageClass,
        canopyRadiusM: r.canopyRadiusMDefault,
        trunkClearM: r.trunkClearM,
        beyondM: r.ringOuterBeyondCanopyM,
      });
  };
  const p = plan.value;
  return (
    <>
      <div className="fields">
        <ChoiceBox
          label="Plant"
          disabled={readOnly}
          value={use.plantKind}
          options={optionsOf(kinds)}
          onValue={(v) => v && choose(v, use.ageClass)}
        />
        <ChoiceBox
          label="Age"
          disabled={readOnly}
          value={use.ageClass}
          options={optionsOf(ages)}
          onValue={(v) => v && choose(use.plantKind, v)}
        />
        <FigureBox
          label="Canopy radius"
          disabled={readOnly}
          value={use.canopyRadiusM}
          range={m('Canopy radius', 15)}
          onValue={(v) => v !== null && put({ canopyRadiusM: v })}
        />
        <FigureBox
          label="Clear of the trunk"
          disabled={readOnly}
          value={use.trunkClearM}
          range={m('Clear of the trunk', 5)}
          onValue={(v) => v !== null && put({ trunkClearM: v })}
        />
        <FigureBox
          label="Beyond the canopy"
          disabled={readOnly}
          value={use.beyondM}
          range={m('Beyond the canopy', 5)}
          onValue={(v) => v !== null && put({ beyondM: v })}
        />
        <FigureBox
          label="Rows"
          disabled={readOnly}
          value={use.rowM}
          range={m('Row spacing', 20, 0.3)}
          onValue={(v) => v !== null && put({ rowM: v })}
        />
        <FigureBox
          label="In the row"
          disabled={readOnly}
          value={use.inRowM}
          range={m('Spacing in the row', 20, 0.1)}
          onValue={(v) => v !== null && put({ inRowM: v })}
        />
        <TickBox
          label="dormant"
          disabled={readOnly}
          value={use.dormant}
          onValue={(v) => put({ dormant: v })}
        />
      </div>
      {plan.problem && (
        <p role="alert" className="problem">
          {plan.problem}
        </p>
      )}
      {p && (
        <>
          <Scrolled label="What a plant gets">
            <table className="ruled mt-2 max-w-[46rem]" data-testid="ring">
              <thead>
                <tr>
                  <th>For the N still asked for</th>
                  <th className="num">a plant</th>
                  <th className="pl-4">Note</th>
                </tr>
              </thead>
              <tbody>
                <tr>
                  <th scope="row">N</th>
                  <td className="num">{p.nTargetG.toFixed(0)} g</td>
                  <td
                    className={`pl-4 ${p.nTargetG < p.bookG.from || p.nTargetG > p.bookG.to ? 'text-hot' : 'note'}`}
                  >
                    book for this plant and age: {p.bookG.from} to {p.bookG.to} g;{' '}
                    {Math.round(p.plantsHa)} plants a hectare
                  </td>
                </tr>
                <tr className="font-bold">
                  <th scope="row" className="font-bold">
                    {own.material.name}
                  </th>
                  <td className="num">{p.materialKg.toFixed(1)} kg</td>
                  <td className="pl-4 note">
                    {p.perMetreKg.toFixed(1)} kg a metre of row; {show(p.tHa, 'mass_rate')}{' '}
                    {unit('mass_rate')}
                  </td>
                </tr>
                <tr>
                  <th scope="row">Ring</th>
                  <td className="num">{p.areaM2.toFixed(1)} m2</td>
                  <td className="pl-4 note">
                    from {use.trunkClearM} m to {(use.canopyRadiusM + use.beyondM).toFixed(1)} m
                    from the trunk
                  </td>
                </tr>
                <tr>
                  <th scope="row">Layer</th>
                  <td className={`num ${p.layerCm > p.maxLayerCm ? 'text-hot' : ''}`}>
                    {p.layerCm.toFixed(1)} cm
                  </td>
                  <td className="pl-4 note">
                    {p.layerCm > p.maxLayerCm
                      ? `over ${p.maxLayerCm} cm: split over two seasons, or use a richer material`
                      : `at most ${p.maxLayerCm} cm`}
                  </td>
                </tr>
              </tbody>
            </table>
          </Scrolled>
          {!readOnly && p.tHa > 0 && p.tHa <= 400 && (
            <button
              type="button"
              className="button mt-2"
              onClick={() => set({ rate: Number(p.tHa.toFixed(2)), rateUnit: 't_ha' })}
            >
              Take this rate
            </button>
          )}
        </>
      )}
      <p className="note mt-1">
        {row?.materialAdvice ? `${row.materialAdvice}. ` : ''}Spread evenly to just beyond the drip
        line, rake in 2 to 5 cm at most, keep trunk and graft bare, water in. 4 to 6 weeks before
        the spring flush; not after late summer, not before heavy rain.
      </p>
    </>
  );
}
