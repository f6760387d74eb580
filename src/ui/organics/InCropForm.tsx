'use client';

import { dateInWords } from '@/core/quantity/calendar';
import { useMemo } from 'react';
import { timesCompared } from '@/core/views/dressing';
import type { AssessedApplication } from '@/core/lines/organicLines';
import { standLoss } from '@/core/organics/inCrop';
import { incropCropGroups, incropTechniques } from '@/core/book/organicTables';
import { ChoiceBox, optionsOf, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { useBook, useWholePlan } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';
import { type Of } from './laid';

export function InCrop({
  use,
  own,
  readOnly,
  put,
}: {
  use: Of<'in_crop'>;
  own: AssessedApplication;
  readOnly: boolean;
  put: (part: Partial<Of<'in_crop'>>) => void;
}) {
  const plan = useWholePlan();
  const book = useBook();
  const { show, unit } = useUnits();
  const times = useMemo(() => timesCompared(book, plan, own), [book, plan, own]);
  const techniques = incropTechniques(use.cropGroup);
  return (
    <>
      <div className="fields">
        <ChoiceBox
          label="Crop"
          disabled={readOnly}
          value={use.cropGroup}
          options={optionsOf(incropCropGroups())}
          onValue={(v) => v && put({ cropGroup: v, technique: incropTechniques(v)[0] ?? 'any' })}
        />
        <ChoiceBox
          label="Technique"
          disabled={readOnly}
          value={use.technique}
          options={optionsOf(techniques.length > 0 ? techniques : ['any'])}
          onValue={(v) => v && put({ technique: v })}
        />
        <FigureBox
          label="Stage (BBCH)"
          optional
          disabled={readOnly}
          value={use.bbch}
          range={{ label: 'Growth stage (BBCH)', unit: '', min: 0, max: 99 }}
          onValue={(v) => put({ bbch: v })}
        />
        <FigureBox
          label="Leaf collars"
          optional
          disabled={readOnly}
          value={use.vStage}
          range={{ label: 'Leaf collars', unit: '', min: 0, max: 25 }}
          onValue={(v) => put({ vStage: v })}
        />
        <FigureBox
          label="Stand lost"
          disabled={readOnly}
          value={use.standLossPct}
          range={{ label: 'Stand lost', unit: '%', min: 0, max: 100 }}
          onValue={(v) => v !== null && put({ standLossPct: v })}
        />
        <TickBox
          label="wheels would rut"
          disabled={readOnly}
          value={use.wheelPan}
          onValue={(v) => put({ wheelPan: v })}
        />
      </div>
      <p className="mt-1">
        {use.standLossPct} % of the stand lost costs about{' '}
        {standLoss({ stand: use.standLossPct, crop: use.cropGroup }).toFixed(1)} % of the yield.{' '}
        <span className="note">
          In maize collars decide: the growing point comes up between five and six. Dull, cool, dry
          leaves, soil that carries; light rain afterwards washes them.
        </span>
      </p>
      {times.length > 0 && (
        <Scrolled label="The same load at other times">
          <table className="ruled mt-2 max-w-[46rem]" data-testid="times">
            <thead>
              <tr>
                <th>The same load</th>
                <th>on</th>
                <th className="num">
                  N this crop,
                  <br />
                  {unit('nutrient_rate')}
                </th>
                <th className="num">to the air</th>
                <th className="num">
                  worth less stand lost,
                  <br />
                  {unit('price_per_area')}
                </th>
              </tr>
            </thead>
            <tbody>
              {times.map((t) => (
                <tr key={t.key} className={t.key === 'planned' ? 'font-bold' : ''}>
                  <th scope="row">{t.label}</th>
                  <td className="whitespace-nowrap">{dateInWords(t.date)}</td>
                  <td className="num">{show(t.panKgHa, 'nutrient_rate')}</td>
                  <td className="num">{show(t.airKgHa, 'nutrient_rate')}</td>
                  <td className="num">{show(t.money, 'price_per_area')}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
    </>
  );
}
