'use client';

import type { Route } from 'next';
import Link from 'next/link';
import type { Plan } from '@/core/document/document';
import { dateInWords } from '@/core/quantity/calendar';
import { RANGES } from '@/core/quantity/range';
import { soils } from '@/core/book/soils';
import { ChoiceBox, DateBox, optionsOf, Part, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { LayerTable } from '../ground/LayerTable';
import { ReadingTable } from '../ground/ReadingTable';
import { Cautions } from '../Cautions';
import { editField, editGround, editSeason, useEdit, usePlan } from '../workspace/context';
import { GroundList } from './GroundList';
import { Problems } from './Problems';

function ReadingRows() {
  const plan = usePlan('ground');
  const { edit, readOnly } = useEdit();
  return (
    <ReadingTable
      readings={plan.ground.readings}
      readOnly={readOnly}
      onChange={(change) => edit((p) => editGround({ readings: change(p.ground.readings) })(p))}
    />
  );
}

/** Nitrate and sulphate of one profile: the sheet credits both. */
function ProfileLayers() {
  const plan = usePlan('asOf', 'ground', 'season');
  const { edit, readOnly } = useEdit();
  const { nitrateLayers, sulphateLayers, nitrateSampleDate } = plan.ground;
  return (
    <>
      <DateBox
        label="Sampled on"
        value={nitrateSampleDate}
        disabled={readOnly}
        max={plan.asOf}
        onValue={(v) => edit(editGround({ nitrateSampleDate: v }))}
      />
      {nitrateLayers.length > 0 && (
        <FigureBox
          label="Rain since then, by the gauge"
          optional
          disabled={readOnly}
          value={plan.season.rainSinceSampleMm}
          range={{ label: 'Rain since the nitrate sample', unit: 'mm', min: 0, max: 3000 }}
          onValue={(v) => edit(editSeason({ rainSinceSampleMm: v }))}
        />
      )}
      <LayerTable
        what="nitrate-N"
        word="Layer"
        figure="no3nMgKg"
        range={RANGES.no3nMgKg}
        layers={nitrateLayers}
        readOnly={readOnly}
        make={(layer, no3nMgKg) => ({ ...layer, no3nMgKg })}
        onChange={(change) =>
          edit((p) => editGround({ nitrateLayers: change(p.ground.nitrateLayers) })(p))
        }
      />
      <details className="mt-2" open={sulphateLayers.length > 0}>
        <summary className="cursor-pointer">Sulphate of the same profile</summary>
        <LayerTable
          what="sulphate-S"
          word="Sulphate layer"
          figure="so4sMgKg"
          range={RANGES.so4sMgKg}
          layers={sulphateLayers}
          readOnly={readOnly}
          make={(layer, so4sMgKg) => ({ ...layer, so4sMgKg })}
          onChange={(change) =>
            edit((p) => editGround({ sulphateLayers: change(p.ground.sulphateLayers) })(p))
          }
        />
      </details>
    </>
  );
}

/** Nothing stands in the way only of what is known (chapter 7, W3.2.5). */
function nothingInTheWay(ground: Plan['ground']): string {
  const has = (x: string) => ground.readings.some((r) => r.nutrient === x);
  const unknown = [
    ...(ground.phWater === null && ground.phCacl2 === null ? ['pH'] : []),
    ...(has('p') ? [] : ['P']),
    ...(has('k') ? [] : ['K']),
  ];
  return unknown.length > 0
    ? `Not known yet: ${unknown.join(', ')}.`
    : 'Nothing stands in the way.';
}

/**
 * Ground: the soil test, each reading classed by its own extractant, and the pH gate before
 * anything else.
 */
export function GroundStation() {
  const plan = usePlan('asOf', 'field', 'ground', 'reads');
  const { edit, readOnly } = useEdit();
  const { ground, field, reads } = plan;
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
          <Cautions station="ground" empty={nothingInTheWay(ground)} />
        </Part>
      </div>
      <div>
        <Part title="Soil test" aside="type it in, or import a laboratory file">
          <div className="mb-2 fields">
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
              {reads.soil && (
                <>
                  {' · '}
                  <Link href={`/samples/${reads.soil.id}` as Route}>
                    This sample: history, spread, what it tells of the ground
                  </Link>
                </>
              )}
            </p>
          )}
        </Part>
        <Part title="Nitrate by layers" aside="mg/kg nitrate-N, from the surface down">
          <ProfileLayers />
        </Part>
        <Part title="The soil itself">
          <div className="fields">
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
