import type { Db } from '@/data/client';
import { farmsById } from '@/data/farms';
import { mappingsOf, sampleLines, waitingRowsOf, type SampleLine } from '@/data/samples';
import type { PageAsked } from '@/data/summaries';
import { farmsAllowed, type Actor } from './authorise';

/** A page of soil samples, waiting rows and known laboratories of the farms that the actor may see. */
export async function samplesOverview(db: Db, actor: Actor, asked: PageAsked) {
  const [readable, editable] = [
    await farmsAllowed(db, actor, 'read'),
    await farmsAllowed(db, actor, 'edit'),
  ];
  const farms = await farmsById(db, readable);
  const laboratories: Record<string, string[]> = {};
  for (const id of editable) laboratories[id] = (await mappingsOf(db, id)).map((m) => m.laboratory);
  const { lines, found } = await sampleLines(db, readable, asked);
  return {
    laboratories,
    editable: farms.filter((f) => editable.includes(f.id)).map(({ id, name }) => ({ id, name })),
    found,
    samples: lines.map((l) => ({
      ...l,
      farmName: farms.find((f) => f.id === l.farmId)?.name ?? '',
      depth: l.depthCm === null ? '·' : `${l.depthFromCm}-${l.depthCm}`,
      ph: phOf(l),
    })),
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
function phOf({ lowest, highest }: SampleLine): string {
  if (lowest === null || highest === null) return '·';
  const [low, high] = [lowest.toFixed(1), highest.toFixed(1)];
  return low === high ? low : `${low} to ${high}`;
}
