import { bookOf } from '@/core/book/book';
import { notFound } from 'next/navigation';
import type { StationState } from '@/core/assessment/stations';
import { figuresOf } from '@/core/views/figures';
import {
  addLeafAction,
  changeSamplingPlanAction,
  createSamplingPlanAction,
  decideAction,
  dropClaimAction,
  dropLeafAction,
  dropSamplingPlanAction,
  importPlanAction,
  keepClaimAction,
  simulatedMeterAction,
  solveBlendAction,
  lookAtPlanAction,
  outlinesInFileAction,
  proposeAction,
  saveOutlineAction,
  savePlanAction,
} from '@/server/actions';
import { may } from '@/server/authorise';
import { leafChoicesOf } from '@/server/leaves';
import { deskOf, standingOf } from '@/server/plans';
import { samplingDesk } from '@/server/sampling';
import { session } from '@/server/session';
import { farmDesk } from '@/server/farm';
import type { FarmGear } from '@/ui/organics/gear';
import { FieldDesk, type GroundDesk } from '@/ui/stations/FieldDesk';
import { FieldDoorsProvider, type FieldDoors } from '@/ui/workspace/doors';

export const STATION_TITLES: Record<string, string> = {
  ground: 'Ground',
  crop: 'Crop',
  budget: 'Budget',
  supply: 'Supply',
  season: 'Season',
  sheet: 'Plan sheet',
};
export const PART_TITLES: Record<string, Record<string, string>> = {
  ground: {
    sampling: 'Sampling plan',
    survey: 'Map and history',
    barrel: 'Barrel',
    lime: 'pH and lime',
    nutrients: 'Sulphur, magnesium and trace elements',
    claims: 'Claims',
  },
  budget: { organics: 'Manure and compost', years: 'P and K over years' },
};

/** The ground's own records, fetched only for the parts that show them. */
async function groundDesk(fieldId: string, part: string): Promise<GroundDesk | null> {
  if (!['sampling', 'survey', 'claims'].includes(part)) return null;
  const { db, actor } = await session();
  const found = await samplingDesk(db, actor, fieldId, part === 'survey');
  return {
    sampling: {
      outline: found.outline,
      longitudeDeg: found.longitudeDeg,
      plans: found.plans,
    },
    samples: found.samples.map(({ sample, readings }) => ({
      sample: {
        id: sample.id,
        date: sample.date ?? '',
        label: sample.label,
        kind: sample.kind,
        samplingPlanId: sample.samplingPlanId,
        depthFromCm: sample.depthFromCm,
        depthCm: sample.depthCm,
        nCores: sample.nCores,
        nPoints: sample.nPoints,
        moisture: sample.moisture,
        phWater: sample.phWater,
      },
      readings: readings.map(({ nutrient, extractant, value, unit, belowDetection }) => ({
        nutrient,
        extractant,
        value,
        unit,
        belowDetection,
      })),
    })),
    claims: {
      claims: found.claims.map(({ id, product, checkedOn, verdict, message }) => ({
        id,
        product,
        checkedOn,
        verdict,
        message,
      })),
    },
  };
}

/** Stores and machines of the farm, for the part that plans with them. */
async function gearOf(farmId: string, part: string): Promise<FarmGear | null> {
  if (part !== 'organics') return null;
  const { db, actor } = await session();
  const farm = await farmDesk(db, actor, farmId);
  return (
    farm && {
      stores: farm.stores.map(({ farmId: _, position: __, ...s }) => s),
      machines: farm.machines.map(({ farmId: _, position: __, ...m }) => m),
    }
  );
}

/** The doors of one field: the actions, with the field and season that they are about. */
function doorsOf(fieldId: string, seasonId: string): FieldDoors {
  return {
    savePlan: savePlanAction,
    lookAtPlan: lookAtPlanAction,
    importPlan: importPlanAction,
    propose: proposeAction,
    decide: decideAction,
    addLeaf: addLeafAction.bind(null, fieldId),
    dropLeaf: dropLeafAction.bind(null, fieldId),
    readMeter: simulatedMeterAction.bind(null, seasonId),
    saveOutline: saveOutlineAction.bind(null, fieldId),
    readOutlines: outlinesInFileAction.bind(null, fieldId),
    createSamplingPlan: createSamplingPlanAction.bind(null, fieldId),
    changeSamplingPlan: changeSamplingPlanAction,
    dropSamplingPlan: dropSamplingPlanAction,
    solveBlend: solveBlendAction.bind(null, fieldId),
    keepClaim: keepClaimAction.bind(null, fieldId),
    dropClaim: dropClaimAction.bind(null, fieldId),
  };
}

/** The desk of a field at one of its stations; `part` is one of its parts, or empty. */
export async function Desk({
  fieldId,
  station,
  part,
  season,
}: {
  fieldId: string;
  station: string;
  part: string;
  season: string | null;
}) {
  const { db, actor } = await session();
  const desk = await deskOf(db, actor, fieldId, season);
  if (!desk) notFound();
  const { stored, role, seasons, siblings, versions } = desk;
  const newest = versions[0];
  const sheetState: StationState = !newest
    ? { state: 'open', note: 'not proposed' }
    : newest.status === 'agreed'
      ? {
          state: 'done',
          note: newest.seasonVersion === stored.version ? '' : 'changed since agreed',
        }
      : {
          state: 'open',
          note: newest.status === 'proposed' ? 'waits for an answer' : 'change asked',
        };
  return (
    <FieldDoorsProvider value={doorsOf(fieldId, stored.seasonId)}>
      <FieldDesk
        key={`${stored.seasonId}`}
        farmId={stored.farmId}
        fieldId={fieldId}
        seasonId={stored.seasonId}
        plan={stored.plan}
        figures={figuresOf(
          bookOf(stored.plan.farm.library),
          stored.plan,
          station === 'ground' && part !== '',
        )}
        station={station}
        part={part}
        seasons={seasons}
        siblings={siblings}
        sheetState={sheetState}
        readOnly={!may(role, 'edit')}
        leaf={
          station === 'season'
            ? {
                ...(await leafChoicesOf(db, stored.farmId, stored.plan.season.cropKey)),
              }
            : null
        }
        sheet={{
          fieldId,
          seasonId: stored.seasonId,
          versions,
          mayPropose: may(role, 'propose'),
          mayDecide: may(role, 'decide'),
          standing: await standingOf(db, versions),
        }}
        ground={await groundDesk(fieldId, part)}
        gear={await gearOf(stored.farmId, part)}
      />
    </FieldDoorsProvider>
  );
}
