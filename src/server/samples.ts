import { farmsById } from '@/data/farms';
import { mappingsOf, soilSamplesOf, waitingRowsOf } from '@/data/samples';
import type { Db } from '@/data/client';
import { farmsAllowed, type Actor } from './authorise';

/** Soil samples, waiting rows and known laboratories of the farms that the actor may see. */
export async function samplesOverview(db: Db, actor: Actor) {
  const [readable, editable] = [await farmsAllowed(db, actor, 'read'), await farmsAllowed(db, actor, 'edit')];
  const farms = await farmsById(db, readable);
  const laboratories: Record<string, string[]> = {};
  for (const id of editable) laboratories[id] = (await mappingsOf(db, id)).map((m) => m.laboratory);
  return {
    laboratories, editable: farms.filter((f) => editable.includes(f.id)).map(({ id, name }) => ({ id, name })),
    samples: (await soilSamplesOf(db, readable)).map(({ sample, field }) => ({ ...sample, fieldName: field.name, farmName: farms.find((f) => f.id === field.farmId)?.name ?? '' })),
    waiting: (await waitingRowsOf(db, editable)).map(({ id, laboratory, fileName, row, cells, problems }) => ({ id, laboratory, fileName, row, cells, problems })),
  };
}
