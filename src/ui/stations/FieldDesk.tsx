'use client';

import dynamic from 'next/dynamic';
import type { StationState } from '@/core/assessment/stations';
import type { SamplingPartProps } from '../ground/SamplingPart';
import type { SurveySample } from '../ground/surveyScale';
import type { ClaimsPartProps } from '../ground/ClaimsPart';
import { Workspace, type WorkspaceProps } from '../workspace/Workspace';
import type { SeasonStationProps } from '../leaf/NewLeaf';
import type { FarmGear } from '../organics/gear';
import type { SheetStationProps } from './SheetStation';
import { StationParts } from './StationParts';

// One chunk a station: a phone that opens Season does not fetch the ledger's editors.
const STATIONS = {
  ground: dynamic(() => import('./GroundStation').then((m) => m.GroundStation)),
  crop: dynamic(() => import('./CropStation').then((m) => m.CropStation)),
  budget: dynamic(() => import('./BudgetStation').then((m) => m.BudgetStation)),
  supply: dynamic(() => import('./SupplyStation').then((m) => m.SupplyStation)),
} as const;
// The parts of Ground bring a map, charts and projections: each is fetched when it is opened.
const PARTS = {
  lime: dynamic(() => import('../ground/LimePart').then((m) => m.LimePart)),
  barrel: dynamic(() => import('../ground/BarrelPart').then((m) => m.BarrelPart)),
  nutrients: dynamic(() => import('../ground/NutrientsPart').then((m) => m.NutrientsPart)),
  // Charts, worker and the organics' core come once the page stands.
  years: dynamic(() => import('../budget/YearsPart').then((m) => m.YearsPart), { ssr: false }),
} as const;
const OrganicsPart = dynamic(() => import('../organics/OrganicsPart').then((m) => m.OrganicsPart), {
  ssr: false,
  loading: () => (
    <p className="note" role="status">
      The planner is being fetched.
    </p>
  ),
});
const loading = () => (
  <p className="note" role="status">
    The map is being fetched.
  </p>
);
// These two live on a canvas: they come once the page stands.
const SamplingPart = dynamic(() => import('../ground/SamplingPart').then((m) => m.SamplingPart), {
  ssr: false,
  loading,
});
const SurveyPart = dynamic(() => import('../ground/SurveyPart').then((m) => m.SurveyPart), {
  ssr: false,
  loading,
});
const ClaimsPart = dynamic(() => import('../ground/ClaimsPart').then((m) => m.ClaimsPart));
const SeasonStation = dynamic(() => import('./SeasonStation').then((m) => m.SeasonStation));
const SheetStation = dynamic(() => import('./SheetStation').then((m) => m.SheetStation));

/** What the Ground station keeps beside the plan; given where one of its parts is open. */
export interface GroundDesk {
  sampling: SamplingPartProps;
  samples: SurveySample[];
  claims: ClaimsPartProps;
}
export interface FieldDeskProps extends Omit<WorkspaceProps, 'children' | 'sheetState' | 'furrow'> {
  sheetState: StationState;
  leaf: SeasonStationProps | null;
  sheet: SheetStationProps;
  /** Part of a station that has several; empty for the first. */
  part: string;
  ground: GroundDesk | null;
  gear: FarmGear | null;
}

function StationPart({
  part,
  ground,
  gear,
}: {
  part: string;
  ground: GroundDesk | null;
  gear: FarmGear | null;
}) {
  const Own = PARTS[part as keyof typeof PARTS];
  if (Own) return <Own />;
  if (gear) return <OrganicsPart gear={gear} />;
  if (!ground) return null;
  return part === 'sampling' ? (
    <SamplingPart {...ground.sampling} />
  ) : part === 'survey' ? (
    <SurveyPart
      outline={ground.sampling.outline}
      plans={ground.sampling.plans}
      samples={ground.samples}
    />
  ) : part === 'claims' ? (
    <ClaimsPart {...ground.claims} />
  ) : null;
}

/** The desk of one field season, with the sheet of the chosen station on it. */
export function FieldDesk({ leaf, sheet, part, ground, gear, ...workspace }: FieldDeskProps) {
  const Station = STATIONS[workspace.station as keyof typeof STATIONS];
  const season = workspace.plan.season.label;
  const query =
    season === workspace.seasons[0]?.label ? '' : `?season=${encodeURIComponent(season)}`;
  return (
    <Workspace {...workspace} furrow={part === ''}>
      <StationParts
        fieldId={workspace.fieldId}
        station={workspace.station}
        title={workspace.station === 'ground' ? 'Ground' : 'Budget'}
        current={part}
        seasonQuery={query}
      />
      {part !== '' ? (
        <StationPart part={part} ground={ground} gear={gear} />
      ) : workspace.station === 'season' && leaf ? (
        <SeasonStation {...leaf} />
      ) : workspace.station === 'sheet' ? (
        <SheetStation {...sheet} />
      ) : Station ? (
        <Station />
      ) : null}
    </Workspace>
  );
}
