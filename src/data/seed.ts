import { DEMO_ADVISOR, DEMO_FARMS } from '../core/plan/demo/scenario';
import { demoLeaves } from '../core/plan/demo/quernOrchard';
import type { Db, Executor } from './client';
import { addLeafSample } from './samples';
import { farms, fields, memberships, people } from './schema';
import { createSeason } from './seasons';

/** A rectangle of about the field's area, laid out on the open sea: the farms are made up. */
function outline(areaHa: number, index: number): { type: 'Polygon'; coordinates: number[][][] } {
  const [width, height] = [Math.sqrt(areaHa * 10000 * 1.4), Math.sqrt((areaHa * 10000) / 1.4)];
  const [dLon, dLat] = [width / (111320 * Math.cos((52 * Math.PI) / 180)), height / 111320];
  const [lon, lat] = [-30 + (index % 4) * 0.01, 52 + Math.floor(index / 4) * 0.006];
  return { type: 'Polygon', coordinates: [[[lon, lat], [lon + dLon, lat], [lon + dLon, lat + dLat], [lon, lat + dLat], [lon, lat]].map((c) => c.map((x) => Number(x.toFixed(6))))] };
}

async function demoFarms(tx: Executor): Promise<void> {
  await tx.insert(people).values({ id: DEMO_ADVISOR.key, name: DEMO_ADVISOR.name });
  let place = 0;
  for (const f of DEMO_FARMS) {
    await tx.insert(people).values({ id: f.farmer.key, name: f.farmer.name });
    await tx.insert(farms).values({ id: f.key, place: f.place, latitudeDeg: f.latitudeDeg, climateId: f.climateId, demo: true, ...f.farm });
    await tx.insert(memberships).values([{ personId: DEMO_ADVISOR.key, farmId: f.key, role: 'advisor' }, { personId: f.farmer.key, farmId: f.key, role: 'farmer' }]);
    for (const [position, d] of f.fields.entries()) {
      const { name, areaHa, soilTextureId, omPct, omDepthCm, cecCmolKg, clayPct, tillage, tenure, certification } = d.field;
      await tx.insert(fields).values({ id: d.key, farmId: f.key, outline: outline(areaHa, place++), position, name, areaHa, soilTextureId, omPct, omDepthCm, cecCmolKg, clayPct, tillage, tenure, certification });
      for (const plan of d.seasons) await createSeason(tx, `${d.key}-${plan.season.label.replace('/', '-')}`, d.key, plan, () => `${d.key}-soil-${plan.ground.sampleDate}`);
    }
  }
  for (const l of demoLeaves) await addLeafSample(tx, { fieldId: l.fieldKey, cropKey: l.cropKey, sample: l.sample });
}

/** The user's own start: one person, one farm without fields. */
async function ownFarm(tx: Executor): Promise<void> {
  await tx.insert(people).values({ id: 'me', name: 'Me' });
  await tx.insert(farms).values({ id: 'my-farm', name: 'My farm', place: '', latitudeDeg: 52, climateId: 'maritime_cool_52n', closedPeriods: [], legalNCapKgHa: null, nPricePerKg: 1.2 });
  await tx.insert(memberships).values({ personId: 'me', farmId: 'my-farm', role: 'owner' });
}

/** Fills an empty database, all or nothing; leaves one with people alone. */
export async function seed(db: Db, kind: 'demo' | 'own'): Promise<void> {
  if ((await db.select({ id: people.id }).from(people).limit(1)).length > 0) return;
  await db.transaction((tx) => (kind === 'demo' ? demoFarms(tx) : ownFarm(tx)));
}
