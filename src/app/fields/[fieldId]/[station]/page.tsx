import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import type { StationState } from '@/core/plan/assess';
import { figuresOf } from '@/core/plan/figures';
import { addLeafAction, decideAction, dropLeafAction, importPlanAction, proposeAction, readLeafFileAction, savePlanAction } from '@/server/actions';
import { may } from '@/server/authorise';
import { leavesOf } from '@/server/leaves';
import { deskOf } from '@/server/plans';
import { session } from '@/server/session';
import { FieldDesk } from '@/ui/stations/FieldDesk';

const TITLES: Record<string, string> = { ground: 'Ground', crop: 'Crop', budget: 'Budget', supply: 'Supply', season: 'Season', sheet: 'Plan sheet' };

interface Props { params: Promise<{ fieldId: string; station: string }>; searchParams: Promise<{ season?: string }> }

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: TITLES[(await params).station] ?? 'Field' };
}

export default async function FieldPage({ params, searchParams }: Props) {
  const { fieldId, station } = await params;
  const { season } = await searchParams;
  if (!(station in TITLES)) notFound();
  const { db, actor } = await session();
  const desk = await deskOf(db, actor, fieldId, season ?? null);
  if (!desk) notFound();
  const { stored, role, seasons, siblings, versions } = desk;
  const leaves = await leavesOf(db, actor, fieldId, stored.plan.season.cropKey);
  const ofSeason = leaves.samples.filter((l) => l.sample.date >= stored.plan.season.startDate);
  const short = ofSeason[0]?.assessment.order ?? [];
  const leafState: StationState = ofSeason.length === 0 ? { state: 'open', note: 'no leaf sample yet' } : { state: 'done', note: short.length > 0 ? `short: ${short.join(', ')}` : '' };
  const newest = versions[0];
  const sheetState: StationState = !newest ? { state: 'open', note: 'not proposed' } : newest.status === 'agreed' ? { state: 'done', note: newest.seasonVersion === stored.version ? '' : 'changed since agreed' } : { state: 'open', note: newest.status === 'proposed' ? 'waits for an answer' : 'change asked' };
  const importPlan = async (seasonId: string, file: string) => { 'use server'; const r = await importPlanAction(seasonId, file); return r.ok ? { ok: true as const, value: { plan: r.value.plan, version: r.value.version } } : r; };
  return (
    <FieldDesk
      key={`${stored.seasonId}`} fieldId={fieldId} seasonId={stored.seasonId} plan={stored.plan} figures={figuresOf(stored.plan)} version={stored.version} station={station} seasons={seasons} siblings={siblings} sheetState={sheetState} leafState={leafState} readOnly={!may(role, 'edit')} save={savePlanAction}
      leaf={station === 'season' ? { fieldId, samples: leaves.samples, choices: leaves.choices, nutrients: leaves.nutrients, addLeaf: addLeafAction, dropLeaf: dropLeafAction, readFile: readLeafFileAction } : null}
      sheet={{ fieldId, seasonId: stored.seasonId, versions, mayPropose: may(role, 'propose'), mayDecide: may(role, 'decide'), propose: proposeAction, decide: decideAction, importPlan }}
    />
  );
}
