'use client';

import dynamic from 'next/dynamic';
import type { StationState } from '@/core/plan/assess';
import { Workspace, type WorkspaceProps } from '../workspace/Workspace';
import type { SeasonStationProps } from './SeasonStation';
import type { SheetStationProps } from './SheetStation';

// One chunk a station: a phone that opens Season does not fetch the ledger's editors.
const STATIONS = {
  ground: dynamic(() => import('./GroundStation').then((m) => m.GroundStation)),
  crop: dynamic(() => import('./CropStation').then((m) => m.CropStation)),
  budget: dynamic(() => import('./BudgetStation').then((m) => m.BudgetStation)),
  supply: dynamic(() => import('./SupplyStation').then((m) => m.SupplyStation)),
} as const;
const SeasonStation = dynamic(() => import('./SeasonStation').then((m) => m.SeasonStation));
const SheetStation = dynamic(() => import('./SheetStation').then((m) => m.SheetStation));

export interface FieldDeskProps extends Omit<WorkspaceProps, 'children' | 'sheetState' | 'leafState'> {
  sheetState: StationState;
  leafState: StationState;
  leaf: SeasonStationProps | null;
  sheet: Omit<SheetStationProps, 'replace'>;
}

/** The desk of one field season, with the sheet of the chosen station on it. */
export function FieldDesk({ leaf, sheet, ...workspace }: FieldDeskProps) {
  const Station = STATIONS[workspace.station as keyof typeof STATIONS];
  return <Workspace {...workspace}>{(replace) => (workspace.station === 'season' && leaf ? <SeasonStation {...leaf} /> : workspace.station === 'sheet' ? <SheetStation {...sheet} replace={replace} /> : Station ? <Station /> : null)}</Workspace>;
}
