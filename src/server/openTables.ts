import { stringify } from 'csv-stringify/sync';
import { strToU8, zipSync } from 'fflate';
import type { FeatureCollection } from 'geojson';
import { LIBRARY_COLUMNS } from '@/core/book/libraryColumns';
import { LIBRARY_TABLES, type LibraryTable } from '@/core/book/book';
import {
  openTables,
  packageDescriptor,
  type DataPackage,
  type OpenTable,
} from '@/core/farm/openTables';
import { refuse } from '@/core/quantity/refusal';
import type { Db } from '@/data/client';
import { farmById, fieldsOf } from '@/data/farms';
import { correctable } from '@/data/sampleHistory';
import { surveyOf } from '@/data/sampling';
import { loadPlansOf } from '@/data/seasons';
import { authorise, type Actor } from './authorise';
import { today } from './clock';
import { libraryCsv } from './library';

/** A table as a file: days as days, decimal points, nothing where nothing is known. */
export const openCsv = ({ columns, rows }: OpenTable): string =>
  stringify(
    rows.map((r) => r.map((v) => (typeof v === 'boolean' ? String(v) : v))),
    { header: true, columns: columns.map((c) => c.name), escape_formulas: true },
  );

interface FarmTablesFound {
  name: string;
  tables: OpenTable[];
  outlines: FeatureCollection;
}
/** Every table of a farm, and its outlines. Null where there is no such farm. */
export async function farmOpenTables(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<FarmTablesFound | null> {
  const farm = await farmById(db, farmId);
  if (!farm) return null;
  await authorise(db, actor, 'read', farmId);
  const fields = await fieldsOf(db, [farmId]);
  const plans = await loadPlansOf(db, [farmId], today());
  const samples = [];
  for (const f of fields)
    for (const { sample, readings } of await surveyOf(db, f.id))
      samples.push({
        fieldName: f.name,
        id: sample.id,
        kind: sample.kind,
        label: sample.label,
        depthFromCm: sample.depthFromCm,
        at: sample.at,
        sample: correctable(sample, readings),
      });
  return {
    name: farm.name,
    tables: openTables(plans, samples),
    outlines: {
      type: 'FeatureCollection',
      features: fields.flatMap((f) =>
        f.outline
          ? [
              {
                type: 'Feature' as const,
                id: f.id,
                properties: {
                  role: 'field',
                  name: f.name,
                  area_ha: Number(f.areaHa.toFixed(4)),
                  soil_texture_id: f.soilTextureId,
                },
                geometry: f.outline,
              },
            ]
          : [],
      ),
    },
  };
}

export const openTableOf = (found: FarmTablesFound, name: string): OpenTable =>
  found.tables.find((t) => t.name === name) ??
  refuse(
    'unknown_id',
    'table',
    `${name} is no table of a farm: ${found.tables.map((t) => t.name).join(', ')}.`,
    { value: name },
  );

/** All tables of a farm with their description, and its outlines, packed into one file. */
export function farmPackage({ name, tables, outlines }: FarmTablesFound): Uint8Array<ArrayBuffer> {
  const about: DataPackage = {
    name: 'farm-records',
    title: `Records of ${name}`,
    created: today(),
    licence: null,
    tables,
  };
  return new Uint8Array(
    zipSync({
      'datapackage.json': strToU8(`${JSON.stringify(packageDescriptor(about), null, 2)}\n`),
      ...Object.fromEntries(tables.map((t) => [`${t.name}.csv`, strToU8(openCsv(t))])),
      'fields.geojson': strToU8(`${JSON.stringify(outlines, null, 1)}\n`),
    }),
  );
}

const TITLES: Record<LibraryTable, string> = {
  crops: 'Crops',
  materials: 'Manure and compost',
  fertilisers: 'Fertilisers',
  limes: 'Limes',
  ranges: 'Leaf ranges',
  protocols: 'Leaf protocols',
};
/**
 * The tables of a farm's library with their description: units, what each column means, and under
 * which terms they may be used. Each comes back in by its own import.
 */
export async function libraryPackage(
  db: Db,
  actor: Actor,
  farmId: string,
): Promise<Uint8Array<ArrayBuffer>> {
  const files: Record<string, Uint8Array> = {};
  const tables: OpenTable[] = [];
  for (const table of LIBRARY_TABLES) {
    const csv = await libraryCsv(db, actor, farmId, table);
    files[`${table}.csv`] = strToU8(csv);
    const [head = ''] = csv.split(/\r?\n/u);
    tables.push({
      name: table,
      title: TITLES[table],
      key: ['key'],
      rows: [],
      columns: head.split(',').map((name) => {
        const figure = LIBRARY_COLUMNS[table].find((c) => c.column === name);
        return figure
          ? {
              name,
              type: 'number' as const,
              title: figure.label,
              ...(figure.unit === '' ? {} : { unit: figure.unit }),
            }
          : { name, type: 'string' as const, title: name.replaceAll('_', ' ') };
      }),
    });
  }
  const about = packageDescriptor({
    name: 'library',
    title: 'Reference figures with their sources',
    created: today(),
    licence: { name: 'CC0-1.0', title: 'CC0 1.0: figures are facts; each names its source' },
    tables,
  });
  return new Uint8Array(
    zipSync({ 'datapackage.json': strToU8(`${JSON.stringify(about, null, 2)}\n`), ...files }),
  );
}
