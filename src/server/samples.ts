import { farmsById } from '@/data/farms';
import { mappingsOf, soilSamplesOf, waitingRowsOf } from '@/data/samples';
import type { Db } from '@/data/client';
import { farmsAllowed, type Actor } from './authorise';

interface SampleLine {
  id: string;
  fieldId: string;
  fieldName: string;
  farmName: string;
  date: string | null;
  laboratory: string | null;
  depth: string;
  ph: string;
  /** Points of one survey make one line; their readings stand on the field's map. */
  points: number;
}
type Found = Awaited<ReturnType<typeof soilSamplesOf>>[number];

/**
 * One line a sample; the points of a survey, of which there may be thousands, make one line a day
 * and depth.
 */
function sampleLines(found: readonly Found[], farmName: (farmId: string) => string): SampleLine[] {
  const groups = new Map<string, Found[]>();
  for (const f of found) {
    const { sample } = f;
    const key =
      sample.kind === 'point'
        ? `${sample.fieldId}|${sample.samplingPlanId}|${sample.date}|${sample.depthFromCm}|${sample.depthCm}`
        : sample.id;
    const group = groups.get(key);
    if (group) group.push(f);
    else groups.set(key, [f]);
  }
  return [...groups.values()].flatMap((group) => {
    const [first] = group;
    if (!first) return [];
    const { sample, field } = first;
    const phs = group.flatMap(({ sample: s }) => s.phWater ?? s.phCacl2 ?? []);
    const [low, high] = [Math.min(...phs).toFixed(1), Math.max(...phs).toFixed(1)];
    return [
      {
        id: sample.id,
        fieldId: field.id,
        fieldName: field.name,
        farmName: farmName(field.farmId),
        date: sample.date,
        laboratory: sample.laboratory,
        depth: sample.depthCm === null ? '·' : `${sample.depthFromCm}-${sample.depthCm}`,
        ph: phs.length === 0 ? '·' : low === high ? low : `${low} to ${high}`,
        points: sample.kind === 'point' ? group.length : 0,
      },
    ];
  });
}

/** Soil samples, waiting rows and known laboratories of the farms that the actor may see. */
export async function samplesOverview(db: Db, actor: Actor) {
  const [readable, editable] = [
    await farmsAllowed(db, actor, 'read'),
    await farmsAllowed(db, actor, 'edit'),
  ];
  const farms = await farmsById(db, readable);
  const laboratories: Record<string, string[]> = {};
  for (const id of editable) laboratories[id] = (await mappingsOf(db, id)).map((m) => m.laboratory);
  return {
    laboratories,
    editable: farms.filter((f) => editable.includes(f.id)).map(({ id, name }) => ({ id, name })),
    samples: sampleLines(
      await soilSamplesOf(db, readable),
      (id) => farms.find((f) => f.id === id)?.name ?? '',
    ),
    waiting: (await waitingRowsOf(db, editable)).map(
      ({ id, laboratory, fileName, row, cells, problems }) => ({
        id,
        laboratory,
        fileName,
        row,
        cells,
        problems,
      }),
    ),
  };
}
