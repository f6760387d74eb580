'use client';

import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { memo, useCallback, useEffect, useMemo, type ReactNode } from 'react';
import { bookOf } from '@/core/book/book';
import { fertiliserOf } from '@/core/book/fertilisers';
import type { StationState } from '@/core/assessment/stations';
import type { Plan } from '@/core/document/document';
import type { Figures } from '@/core/views/figures';
import { useHydrated } from '../frame/hydrated';
import { isTyped } from '../frame/keys';
import { useUnits } from '../frame/units';
import { FurrowSection } from '../furrow/FurrowSection';
import { Consequences } from '../season/Consequences';
import { SeasonYearsProvider, useSeasonYears } from '../season/seasonYears';
import { StationLine } from '../StationLine';
import { useAssessed, useBook, useEdit, useWorkspace } from './context';
import { useDoors } from './doors';
import { LeftEdits, SaveLine } from './SaveLine';
import { useFigures } from './useFigures';
import { useSavedPlan } from './useSavedPlan';
import { WorkspaceProvider } from './WorkspaceProvider';

export interface WorkspaceProps {
  farmId: string;
  fieldId: string;
  seasonId: string;
  plan: Plan;
  /** Figures of the plan as it was stored, for the first paint. */
  figures: Figures;
  station: string;
  seasons: { id: string; label: string }[];
  /** The fields around it in the farm's list, at most a hundred on each side. */
  siblings: { id: string; name: string }[];
  /** State of the plan sheet. */
  sheetState: StationState;
  readOnly: boolean;
  /**
   * The section through the ground stands above the sheet; a part of Ground has a picture of its
   * own instead.
   */
  furrow: boolean;
  children: ReactNode;
}

/** Brackets go to the field before and after in the farm's list. */
function useFieldSteps(siblings: WorkspaceProps['siblings'], fieldId: string, station: string) {
  const router = useRouter();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if ((e.key !== '[' && e.key !== ']') || isTyped(e)) return;
      const i = siblings.findIndex((f) => f.id === fieldId);
      const next = siblings[i + (e.key === ']' ? 1 : -1)];
      if (next) router.push(`/fields/${next.id}/${station}` as Route);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [siblings, fieldId, station, router]);
}

/** The stations of the field, each with what it lacks. */
const Stations = memo(function Stations({
  fieldId,
  sheetState,
  current,
  seasonQuery,
}: {
  fieldId: string;
  sheetState: StationState;
  current: string;
  seasonQuery: string;
}) {
  const { stations: at } = useAssessed('stations');
  const stations = [
    { key: 'ground', title: 'Ground', state: at.ground },
    { key: 'crop', title: 'Crop', state: at.crop },
    { key: 'budget', title: 'Budget', state: at.budget },
    { key: 'supply', title: 'Supply', state: at.supply },
    { key: 'season', title: 'Season', state: at.season },
    { key: 'sheet', title: 'Plan sheet', state: sheetState },
  ];
  return (
    <StationLine
      fieldId={fieldId}
      stations={stations}
      current={current}
      seasonQuery={seasonQuery}
    />
  );
});

/** The section through the season, once crop and dates are known. */
const SeasonInSection = memo(function SeasonInSection({
  station,
  readOnly,
}: {
  station: string;
  readOnly: boolean;
}) {
  const section = useWorkspace((w) => w.section);
  const { edit } = useEdit();
  const book = useBook();
  const move = useCallback(
    (passId: string, date: string) =>
      edit((p) => ({ ...p, passes: p.passes.map((x) => (x.id === passId ? { ...x, date } : x)) })),
    [edit],
  );
  const size = useCallback(
    (passId: string, kgN: number) =>
      edit((p) => ({
        ...p,
        passes: p.passes.map((x) => {
          const pct = x.id === passId ? fertiliserOf(book, x.productId).nTotalPct : 0;
          return pct > 0 ? { ...x, productKgHa: Math.round((100 * kgN) / pct) } : x;
        }),
      })),
    [edit, book],
  );
  const years = useSeasonYears();
  const moves = station === 'supply' && !readOnly;
  return (
    section && (
      <>
        <FurrowSection
          section={section}
          size={station === 'budget' || station === 'supply' ? 'full' : 'low'}
          onMove={moves ? move : undefined}
          onSize={moves ? size : undefined}
          outlook={years?.now ?? null}
        />
        {years && <Consequences />}
      </>
    )
  );
});

/** Weather years are run where products and passes are decided. */
const Years = ({ station, children }: { station: string; children: ReactNode }) =>
  station === 'supply' ? <SeasonYearsProvider>{children}</SeasonYearsProvider> : children;

/**
 * One field season: switchers, stations, the furrow, and the station's own sheet under it. All
 * figures follow while typing.
 */
export function Workspace({
  farmId,
  fieldId,
  seasonId,
  plan: initial,
  figures: first,
  station,
  seasons,
  siblings,
  sheetState,
  readOnly,
  furrow,
  children,
}: WorkspaceProps) {
  const router = useRouter();
  const { savePlan } = useDoors();
  const hydrated = useHydrated();
  const { show, unit } = useUnits();
  const { plan, state, edit, undo, undoable, settle, replace, left, takeLeft } = useSavedPlan(
    seasonId,
    initial,
    savePlan,
  );
  const { library } = plan.farm;
  const book = useMemo(() => bookOf(library), [library]);
  const figures = useFigures(book, plan, initial, first, !furrow && station === 'ground');
  const { a } = figures;
  const context = useMemo(
    () => ({ ...figures, plan, book, readOnly: readOnly || !hydrated, edit, replace }),
    [plan, book, figures, readOnly, hydrated, edit, replace],
  );
  const query =
    plan.season.label === seasons[0]?.label
      ? ''
      : `?season=${encodeURIComponent(plan.season.label)}`;
  useFieldSteps(siblings, fieldId, station);
  const go = (href: string) => router.push(href as Route);
  return (
    <WorkspaceProvider value={context}>
      <div className="no-print mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <h1 className="flex flex-wrap items-center gap-x-2">
          <Link href="/" className="no-underline">
            {plan.farm.name}
          </Link>
          <span aria-hidden>▸</span>
          <span>{plan.field.name}</span>
        </h1>
        <label>
          <span className="sr-only">Field</span>
          <select
            className="box"
            value={fieldId}
            onChange={(e) => go(`/fields/${e.target.value}/${station}`)}
          >
            {siblings.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="sr-only">Season</span>
          <select
            className="box"
            value={plan.season.label}
            onChange={(e) =>
              go(`/fields/${fieldId}/${station}?season=${encodeURIComponent(e.target.value)}`)
            }
          >
            {seasons.map((s) => (
              <option key={s.id} value={s.label}>
                {s.label}
              </option>
            ))}
          </select>
        </label>
        <Link
          href={
            `/farms/${farmId}/next-season?field=${fieldId}&season=${encodeURIComponent(plan.season.label)}` as Route
          }
        >
          Next season
        </Link>
        <span className="note">
          {show(plan.field.areaHa, 'area', 1)} {unit('area')}
          {a.cropName ? `, ${a.cropName}` : ', no crop yet'}
        </span>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <SaveLine
            state={state}
            undo={undo}
            undoable={undoable}
            settle={settle}
            readOnly={readOnly}
          />
        </span>
      </div>
      {left && !readOnly && <LeftEdits take={takeLeft} />}
      <Stations fieldId={fieldId} sheetState={sheetState} current={station} seasonQuery={query} />
      {a.stageNote && station !== 'sheet' && <p className="note no-print">{a.stageNote}</p>}
      <Years station={station}>
        {furrow && station !== 'sheet' && <SeasonInSection station={station} readOnly={readOnly} />}
        {children}
      </Years>
    </WorkspaceProvider>
  );
}
