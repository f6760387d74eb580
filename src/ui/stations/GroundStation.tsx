'use client';

import { Plus } from 'lucide-react';
import Link from 'next/link';
import { extractantsFor, labNutrients } from '@/core/book/soilTests';
import { dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import { soils } from '@/core/book/soils';
import type { SoilReading } from '@/core/facts/soilSample';
import { ChoiceBox, DateBox, optionsOf, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Warnings } from '../Warnings';
import {
  editField,
  editGround,
  replaceAt,
  without,
  useAssessed,
  useEdit,
  usePlan,
} from '../workspace/context';
import { GroundList } from './GroundList';
import { Problems } from './Problems';
import { RemoveButton } from '../figure/RemoveButton';

const UNITS = [
  { value: 'mg_kg', label: 'mg/kg (ppm)' },
  { value: 'mg_l', label: 'mg/L' },
  { value: 'lb_ac', label: 'lb/ac' },
];

function ReadingRows() {
  const plan = usePlan('ground');
  const { edit, readOnly } = useEdit();
  const { readings } = plan.ground;
  const set = (i: number, part: Partial<SoilReading>) =>
    edit((p) => editGround({ readings: replaceAt(p.ground.readings, i, part) })(p));
  const free = labNutrients().filter(
    (n) => !readings.some((r) => r.nutrient === n),
  ) as SoilReading['nutrient'][];
  return (
    <>
      <table className="ruled">
        <thead>
          <tr>
            <th>Nutrient</th>
            <th>Extractant</th>
            <th>Value</th>
            <th>Unit</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {readings.map((r, i) => (
            <tr key={r.nutrient}>
              <th scope="row">{nutrientSymbol(r.nutrient)}</th>
              <td>
                <ChoiceBox
                  label={`Extractant of ${nutrientSymbol(r.nutrient)}`}
                  hideLabel
                  disabled={readOnly}
                  value={r.extractant}
                  options={[
                    ...new Set([...extractantsFor(r.nutrient), r.extractant, 'unknown']),
                  ].map((e) => ({ value: e, label: extractantName(e) }))}
                  onValue={(v) => set(i, { extractant: v ?? 'unknown' })}
                />
              </td>
              <td>
                <FigureBox
                  label={`${nutrientSymbol(r.nutrient)} test`}
                  hideLabel
                  disabled={readOnly}
                  value={r.value}
                  range={{ ...RANGES.testMgKg, unit: '', max: r.nutrient === 'p' ? 2000 : 5000 }}
                  onValue={(v) => v !== null && set(i, { value: v, belowDetection: false })}
                />
              </td>
              <td>
                <ChoiceBox
                  label={`Unit of ${nutrientSymbol(r.nutrient)}`}
                  hideLabel
                  disabled={readOnly}
                  value={r.unit}
                  options={UNITS}
                  onValue={(v) => v && set(i, { unit: v as SoilReading['unit'] })}
                />
              </td>
              <td>
                {!readOnly && (
                  <RemoveButton
                    label={`Remove ${nutrientSymbol(r.nutrient)}`}
                    onClick={() =>
                      edit((p) => editGround({ readings: without(p.ground.readings, i) })(p))
                    }
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!readOnly && free.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-1">
          {free.map((n) => (
            <button
              key={n}
              type="button"
              className="button"
              onClick={() =>
                edit((p) =>
                  editGround({
                    readings: [
                      ...p.ground.readings,
                      {
                        nutrient: n,
                        extractant: extractantsFor(n)[0] ?? 'unknown',
                        value: 0,
                        unit: 'mg_kg',
                        belowDetection: false,
                      },
                    ],
                  })(p),
                )
              }
            >
              <Plus size={13} aria-hidden />
              {nutrientSymbol(n)}
            </button>
          ))}
        </div>
      )}
    </>
  );
}

function NitrateLayers() {
  const plan = usePlan('asOf', 'ground');
  const { edit, readOnly } = useEdit();
  const { nitrateLayers: list, nitrateSampleDate } = plan.ground;
  const set = (i: number, part: Partial<(typeof list)[number]>) =>
    edit((p) => editGround({ nitrateLayers: replaceAt(p.ground.nitrateLayers, i, part) })(p));
  const bottom = list[list.length - 1]?.bottomCm ?? 0;
  return (
    <>
      <DateBox
        label="Sampled on"
        value={nitrateSampleDate}
        disabled={readOnly}
        max={plan.asOf}
        onValue={(v) => edit(editGround({ nitrateSampleDate: v }))}
      />
      {list.length > 0 && (
        <table className="ruled mt-1">
          <thead>
            <tr>
              <th>From, cm</th>
              <th>To, cm</th>
              <th>Nitrate-N, mg/kg</th>
              <th>Bulk density, g/cm3</th>
              <th>
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {list.map((l, i) => (
              <tr key={i}>
                <td>
                  <FigureBox
                    label={`Layer ${i + 1} from`}
                    hideLabel
                    disabled={readOnly}
                    value={l.topCm}
                    range={{ ...RANGES.layerCm, unit: '' }}
                    onValue={(v) => v !== null && set(i, { topCm: v })}
                  />
                </td>
                <td>
                  <FigureBox
                    label={`Layer ${i + 1} to`}
                    hideLabel
                    disabled={readOnly}
                    value={l.bottomCm}
                    range={{ ...RANGES.layerCm, unit: '' }}
                    onValue={(v) => v !== null && set(i, { bottomCm: v })}
                  />
                </td>
                <td>
                  <FigureBox
                    label={`Layer ${i + 1} nitrate-N`}
                    hideLabel
                    disabled={readOnly}
                    value={l.no3nMgKg}
                    range={{ ...RANGES.no3nMgKg, unit: '' }}
                    onValue={(v) => v !== null && set(i, { no3nMgKg: v })}
                  />
                </td>
                <td>
                  <FigureBox
                    label={`Layer ${i + 1} bulk density`}
                    hideLabel
                    optional
                    disabled={readOnly}
                    value={l.bulkDensityGCm3}
                    range={{ ...RANGES.bulkDensityGCm3, unit: '' }}
                    onValue={(v) => set(i, { bulkDensityGCm3: v })}
                  />
                </td>
                <td>
                  {!readOnly && (
                    <RemoveButton
                      label={`Remove layer ${i + 1}`}
                      onClick={() =>
                        edit((p) =>
                          editGround({ nitrateLayers: without(p.ground.nitrateLayers, i) })(p),
                        )
                      }
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!readOnly && list.length < 6 && bottom <= 150 && (
        <button
          type="button"
          className="button mt-2"
          onClick={() =>
            edit((p) =>
              editGround({
                nitrateLayers: [
                  ...p.ground.nitrateLayers,
                  {
                    topCm: bottom,
                    bottomCm: bottom + 30,
                    no3nMgKg: 0,
                    bulkDensityGCm3: null,
                    stonesVolFrac: null,
                  },
                ],
              })(p),
            )
          }
        >
          <Plus size={13} aria-hidden /> Layer {bottom}-{bottom + 30} cm
        </button>
      )}
    </>
  );
}

/**
 * Ground: the soil test, each reading classed by its own extractant, and the pH gate before
 * anything else.
 */
export function GroundStation() {
  const plan = usePlan('asOf', 'field', 'ground');
  const a = useAssessed('warnings');
  const { edit, readOnly } = useEdit();
  const { ground, field } = plan;
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <div>
        <Part
          title="This ground"
          aside={
            ground.sampleDate
              ? `sampled ${dateInWords(ground.sampleDate)}${ground.laboratory ? `, ${ground.laboratory}` : ''}`
              : undefined
          }
        >
          <GroundList />
        </Part>
        <Problems station="ground" />
        <Part title="What it means">
          <Warnings
            list={a.warnings.filter((w) => w.module === 'ground')}
            empty="Nothing stands in the way."
          />
        </Part>
      </div>
      <div>
        <Part title="Soil test" aside="type it in, or import a laboratory file">
          <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
            <DateBox
              label="Sampled on"
              value={ground.sampleDate}
              max={plan.asOf}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ sampleDate: v }))}
            />
            <FigureBox
              label="pH in water"
              optional
              value={ground.phWater}
              range={RANGES.phWater}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ phWater: v }))}
            />
            <FigureBox
              label="pH in CaCl2"
              optional
              value={ground.phCacl2}
              range={RANGES.phSalt}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ phCacl2: v }))}
            />
            <FigureBox
              label="Depth"
              optional
              value={ground.depthCm}
              range={RANGES.sampleDepthCm}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ depthCm: v }))}
            />
            <FigureBox
              label="Cores"
              optional
              value={ground.nCores}
              range={RANGES.nCores}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ nCores: v }))}
            />
            <ChoiceBox
              label="Soil at sampling"
              value={ground.moisture}
              empty="not known"
              options={optionsOf(['dry', 'moist', 'wet'])}
              disabled={readOnly}
              onValue={(v) => edit(editGround({ moisture: v as typeof ground.moisture }))}
            />
          </div>
          {!ground.sampleDate && ground.readings.length > 0 && (
            <p className="problem">Give the sampling date: without it the soil test is not kept.</p>
          )}
          <ReadingRows />
          {!readOnly && (
            <p className="mt-2">
              <Link href="/samples">Import a laboratory file</Link>
            </p>
          )}
        </Part>
        <Part title="Nitrate by layers" aside="mg/kg nitrate-N, from the surface down">
          <NitrateLayers />
        </Part>
        <Part title="The soil itself">
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
            <ChoiceBox
              label="Texture"
              value={field.soilTextureId}
              disabled={readOnly}
              options={soils().map((s) => ({ value: s.textureId, label: s.name }))}
              onValue={(v) => v && edit(editField({ soilTextureId: v }))}
            />
            <FigureBox
              label="Organic matter"
              optional
              value={field.omPct}
              range={RANGES.omPct}
              disabled={readOnly}
              onValue={(v) => edit(editField({ omPct: v }))}
            />
            <FigureBox
              label="tested to"
              value={field.omDepthCm}
              range={{ label: 'Depth of the test', unit: 'cm', min: 5, max: 60 }}
              disabled={readOnly}
              onValue={(v) => v !== null && edit(editField({ omDepthCm: v }))}
            />
            <FigureBox
              label="CEC"
              optional
              value={field.cecCmolKg}
              range={RANGES.cecCmolKg}
              disabled={readOnly}
              onValue={(v) => edit(editField({ cecCmolKg: v }))}
            />
            <ChoiceBox
              label="Tenure"
              value={field.tenure}
              disabled={readOnly}
              options={['owned', 'lease_8_years_or_more', 'lease_3_to_7_years', 'yearly_lease'].map(
                (v) => ({ value: v, label: words(v) }),
              )}
              onValue={(v) => v && edit(editField({ tenure: v as typeof field.tenure }))}
            />
            <ChoiceBox
              label="It binds for good"
              disabled={readOnly}
              value={field.fixes}
              options={[
                { value: 'none', label: 'neither P nor K' },
                { value: 'p', label: 'P (volcanic ash, oxides)' },
                { value: 'k', label: 'K (some clays)' },
              ]}
              onValue={(v) => v && edit(editField({ fixes: v as typeof field.fixes }))}
            />
            <ChoiceBox
              label="Certification"
              value={field.certification}
              disabled={readOnly}
              options={optionsOf(['none', 'in_conversion', 'organic'])}
              onValue={(v) =>
                v && edit(editField({ certification: v as typeof field.certification }))
              }
            />
          </div>
        </Part>
      </div>
    </div>
  );
}
