'use client';

import { yearAfterYear } from '@/core/views/dressing';
import type { OrganicApplication } from '@/core/document/document';
import type { AssessedApplication } from '@/core/lines/organicLines';
import { RANGES } from '@/core/quantity/range';
import { incropCropGroups, incropTechniques, ringRows } from '@/core/book/organicTables';
import { ChoiceBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useBook, useEdit, usePlan, useWholePlan } from '../workspace/context';
import { type Use, type Set, told } from './laid';
import { Ring } from './RingForm';
import { Layer } from './LayerForm';
import { InCrop } from './InCropForm';
const KINDS: Record<Use['kind'], string> = {
  field: 'over the field',
  ring: 'in rings round trees or bushes',
  layer: 'as a layer on beds or rows',
  in_crop: 'into the standing crop',
};
const firstRing = ringRows()[0];
const blank = (kind: Use['kind']): Use => {
  if (kind === 'ring')
    return {
      kind,
      plantKind: firstRing?.plantKind ?? 'tree_fruit',
      ageClass: 'bearing_standard',
      canopyRadiusM: 2.5,
      trunkClearM: 0.6,
      beyondM: 0.5,
      rowM: 5,
      inRowM: 4,
      dormant: false,
    };
  if (kind === 'layer')
    return {
      kind,
      layerMm: 25,
      coveredFrac: 1,
      mixed: true,
      mixingDepthCm: 15,
      ecCompost: null,
      ecSoil: null,
    };
  if (kind === 'in_crop')
    return {
      kind,
      cropGroup: incropCropGroups()[0] ?? 'maize',
      technique: incropTechniques(incropCropGroups()[0] ?? 'maize')[0] ?? 'any',
      bbch: null,
      vStage: null,
      standLossPct: 2,
      wheelPan: false,
    };
  return { kind: 'field' };
};

/** The same dressing every year: what it gives in time, and the P that stays. */
function YearAfterYear({ own }: { own: AssessedApplication }) {
  const plan = useWholePlan();
  const { show, unit } = useUnits();
  const book = useBook();
  const rows = told(() => yearAfterYear(book, plan, own));
  if (!rows.value) return null;
  return (
    <details className="mt-3">
      <summary className="cursor-pointer">The same every year</summary>
      <table className="ruled max-w-[34rem]" data-testid="year-after-year">
        <thead>
          <tr>
            <th>Year</th>
            <th className="num">
              organic N released,
              <br />
              {unit('nutrient_rate')}
            </th>
            <th className="num">
              P above off-take,
              <br />
              {unit('nutrient_rate')} in all
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.value.map((r) => (
            <tr key={r.year}>
              <th scope="row">{r.year}</th>
              <td className="num">{show(r.nReleaseKgHa, 'nutrient_rate')}</td>
              <td className="num">{show(r.pStockKgHa, 'nutrient_rate')}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

/** How a dressing is laid, and what follows for its rate. */
export function LaidTab({
  o,
  own,
  set,
}: {
  o: OrganicApplication;
  own: AssessedApplication;
  set: Set;
}) {
  const plan = usePlan('field');
  const { readOnly } = useEdit();
  const { use } = o;
  const put = (part: object) => set({ use: { ...use, ...part } as Use });
  return (
    <>
      <p className="mb-2">
        <ChoiceBox
          label="It is laid"
          disabled={readOnly}
          value={use.kind}
          options={Object.entries(KINDS).map(([value, label]) => ({ value, label }))}
          onValue={(v) => v && set({ use: blank(v as Use['kind']) })}
        />
      </p>
      <p className="mb-2">
        <FigureBox
          label="Share of the field spread"
          disabled={readOnly}
          value={o.areaFrac}
          range={{ ...RANGES.share, label: 'Share of the field spread', above: true }}
          onValue={(v) => v !== null && set({ areaFrac: v })}
        />{' '}
        <span className="note">
          {o.areaFrac < 1
            ? `${(plan.field.areaHa * o.areaFrac).toFixed(2)} of ${plan.field.areaHa} ha: loads and the sheet’s mean count that; the rate is what lies on it`
            : 'strips kept clear of water and houses, or a part that gets none, are left out of loads and sums'}
        </span>
      </p>
      {use.kind === 'ring' ? (
        <Ring use={use} own={own} readOnly={readOnly} put={put} set={set} />
      ) : use.kind === 'layer' ? (
        <Layer use={use} o={o} readOnly={readOnly} put={put} set={set} />
      ) : use.kind === 'in_crop' ? (
        <InCrop use={use} own={own} readOnly={readOnly} put={put} />
      ) : (
        <p className="note">
          {words(o.methodKey)}: the rate is the mean over the ground it covers.
        </p>
      )}
      <YearAfterYear own={own} />
    </>
  );
}
