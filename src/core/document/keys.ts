import { moistureClasses } from '../book/budgetTables';
import { bookOf, type Book, type LibraryTable } from '../book/book';
import { CROPS } from '../book/crops';
import { FERTILISERS, placements } from '../book/fertilisers';
import { greenManures, residuePlacements } from '../book/greenManures';
import { legumes, modifierLevels } from '../book/legumes';
import { LIMES } from '../book/limes';
import { ammoniaLevels, MATERIALS, spreadingMethods } from '../book/organicMaterials';
import { setbacks } from '../book/organicTables';
import { seedRowOpeners } from '../nitrogen/seedRow';
import { drainageClasses, soils } from '../book/soils';
import { climateIds } from '../book/stages';
import { lazily } from '../book/table';
import { LEAF_PROTOCOLS, LEAF_RANGES } from '../book/leafStandards';
import { toSnake } from '../quantity/names';
import { closest } from '../quantity/range';
import { Refusal, type RefusalDetail } from '../quantity/refusal';
import type { Plan } from './document';

/** A key of the book that a plan uses, and where. */
interface KeyUse {
  /** Path in the plan, as the plan writes it. */
  field: string;
  key: string;
  known: (book: Book) => ReadonlySet<string> | ReadonlyMap<string, unknown>;
}
type Known = KeyUse['known'];
const fixed = (keys: () => readonly string[]): Known => lazily(() => new Set(keys()));
const CROP: Known = (b) => b.rows(CROPS);
const MATERIAL: Known = (b) => b.rows(MATERIALS);
const FERTILISER: Known = (b) => b.rows(FERTILISERS);
const LIME: Known = (b) => b.rows(LIMES);
const OWN: Record<LibraryTable, Known> = {
  crops: CROP,
  materials: MATERIAL,
  fertilisers: FERTILISER,
  limes: LIME,
  ranges: (b) => b.rows(LEAF_RANGES),
  protocols: (b) => b.rows(LEAF_PROTOCOLS),
};
const TEXTURE = fixed(() => soils().map((s) => s.textureId));
const CLIMATE = fixed(climateIds);
const MOISTURE = fixed(moistureClasses);
const FEATURE = fixed(() => setbacks().map((s) => s.feature));
const LEGUME = fixed(() => legumes().map((l) => l.legumeKey));
const SPECIES = fixed(() => greenManures().map((g) => g.speciesKey));
const RESIDUE_PLACEMENT = fixed(residuePlacements);
const METHOD = fixed(() => spreadingMethods().map((m) => m.methodKey));
const COVERING = fixed(() => ammoniaLevels('r_event'));
const COVER = fixed(() => ammoniaLevels('m_cover'));
const SOIL_STATE = fixed(() => ammoniaLevels('m_soil'));
const PLACEMENT = fixed(() => placements().map((p) => p.placementId));
const DRAINAGE = fixed(() => drainageClasses().map((d) => d.drainageClass));
const OPENER = fixed(() => seedRowOpeners().map((o) => o.openerId));
const level = (modifier: string) => fixed(() => modifierLevels(modifier));

function previousUses({ previous }: Plan): KeyUse[] {
  const at = (field: string, key: string | null, known: Known): KeyUse[] =>
    key === null ? [] : [{ field: `previous.${field}`, key, known }];
  if (previous?.kind === 'legume')
    return [
      ...at('legumeKey', previous.legumeKey, LEGUME),
      ...at('killTiming', previous.killTiming, level('kill_timing')),
      ...at('tillage', previous.tillage, level('tillage')),
      ...at('climate', previous.climate, level('climate')),
      ...at('standAge', previous.standAge, level('stand_age')),
    ];
  return previous?.kind === 'green_manure'
    ? [
        ...at('placement', previous.placement, RESIDUE_PLACEMENT),
        ...previous.species.flatMap((s, k) =>
          at(`species[${k}].speciesKey`, s.speciesKey, SPECIES),
        ),
      ]
    : [];
}

/** Keys of dressings and passes; a plan holds others beside its own. */
function supplyUses(
  { organics, passes }: Pick<Plan, 'organics' | 'passes'>,
  path: string,
): KeyUse[] {
  const at = (field: string, key: string, known: Known): KeyUse => ({
    field: `${path}${field}`,
    key,
    known,
  });
  return [
    ...organics.flatMap((o, k) => [
      at(`organics[${k}].materialKey`, o.materialKey, MATERIAL),
      at(`organics[${k}].methodKey`, o.methodKey, METHOD),
      at(`organics[${k}].soil`, o.soil, SOIL_STATE),
      at(`organics[${k}].cover`, o.cover, COVER),
      ...o.coverings.map((c, i) => at(`organics[${k}].coverings[${i}].kind`, c.kind, COVERING)),
    ]),
    ...passes.flatMap((p, k) => [
      at(`passes[${k}].productId`, p.productId, FERTILISER),
      at(`passes[${k}].placementId`, p.placementId, PLACEMENT),
    ]),
  ];
}

/** Every key of the book that a plan uses. */
function keyUses(plan: Plan): KeyUse[] {
  const at = (field: string, key: string | null | undefined, known: Known): KeyUse[] =>
    key == null ? [] : [{ field, key, known }];
  const { field, season, lime } = plan;
  return [
    ...plan.farm.library.flatMap((c, k) => at(`farm.library[${k}].like`, c.like, OWN[c.table])),
    ...at('field.soilTextureId', field.soilTextureId, TEXTURE),
    ...at('field.climateId', field.climateId, CLIMATE),
    ...field.near.flatMap((n, k) => at(`field.near[${k}].feature`, n.feature, FEATURE)),
    ...at('field.forage.cropKey', field.forage?.cropKey, CROP),
    ...at('season.cropKey', season.cropKey, CROP),
    ...at('season.moistureClass', season.moistureClass, MOISTURE),
    ...previousUses(plan),
    ...at('residue.placement', plan.residue?.placement, RESIDUE_PLACEMENT),
    ...(lime?.rotation ?? []).flatMap((key, k) => at(`lime.rotation[${k}]`, key, CROP)),
    ...(lime?.candidates ?? []).flatMap((c, k) =>
      at(`lime.candidates[${k}].materialKey`, c.materialKey, LIME),
    ),
    ...at('lime.spread.materialKey', lime?.spread?.materialKey, LIME),
    ...at('field.drainageClass', field.drainageClass, DRAINAGE),
    ...at('season.openerId', season.openerId, OPENER),
    ...season.nextSeason.flatMap((c, k) =>
      at(`season.nextSeason[${k}].productId`, c.productId, FERTILISER),
    ),
    ...supplyUses(plan, ''),
    ...plan.others.flatMap((o, k) => supplyUses(o, `others[${k}].`)),
    ...plan.leaves.flatMap((l, k) => at(`leaves[${k}].cropKey`, l.cropKey, CROP)),
  ];
}

const refusalOfUse = (u: KeyUse, book: Book): RefusalDetail => {
  const field = u.field.split('.').map(toSnake).join('.');
  const keys = [...u.known(book).keys()];
  return {
    code: 'unknown_id',
    field,
    value: u.key,
    allowed: keys.length > 20 ? `nearest: ${closest(u.key, keys).join(', ')}` : keys.join(', '),
    message: `${field} = ${u.key} is not in the book. Nearest: ${closest(u.key, keys).join(', ')}.`,
  };
};
const unknownUses = (book: Book, plan: Plan): KeyUse[] =>
  keyUses(plan).filter((u) => !u.known(book).has(u.key));

/**
 * Keys of a plan that its farm's book does not know, each as a refusal that names the field and
 * the nearest keys.
 */
const unknownKeys = (book: Book, plan: Plan): RefusalDetail[] =>
  unknownUses(book, plan).map((u) => refusalOfUse(u, book));

/**
 * A plan that comes in from outside speaks of nothing that the book does not know. @throws Refusal
 * naming the first such field
 */
export function checkKeys(plan: Plan): void {
  const [first] = unknownKeys(bookOf(plan.farm.library), plan);
  if (first) throw new Refusal(first);
}

/**
 * An edit may not bring in a key that the book does not know. One that stands there already is no
 * reason to refuse the edit: it may be the
 * very door through which it is put right.
 *
 * @throws Refusal naming the first such field
 */
export function checkNewKeys(before: Plan, after: Plan): void {
  const book = bookOf(after.farm.library);
  const old = new Set(keyUses(before).map((u) => u.key));
  const fresh = unknownUses(book, after).find((u) => !old.has(u.key));
  if (fresh) throw new Refusal(refusalOfUse(fresh, book));
}

/**
 * The plan as it can be reckoned: what hangs on an unknown key is left out, line by line, and the
 * rest stands. An unknown soil or climate
 * leaves out the crop: without them no figure of a season is worth having.
 */
export function withoutUnknown(book: Book, plan: Plan): { plan: Plan; unknown: RefusalDetail[] } {
  const uses = unknownUses(book, plan);
  if (uses.length === 0) return { plan, unknown: [] };
  const bad = (path: string) =>
    uses.some((u) => u.field === path || u.field.startsWith(`${path}.`));
  const ground = bad('field.soilTextureId') || bad('field.climateId');
  const noCrop = ground || bad('season.cropKey');
  const { lime } = plan;
  return {
    unknown: uses.map((u) => refusalOfUse(u, book)),
    plan: {
      ...plan,
      field: {
        ...plan.field,
        soilTextureId: bad('field.soilTextureId') ? ANY_SOIL : plan.field.soilTextureId,
        climateId: bad('field.climateId') ? (climateIds()[0] ?? '') : plan.field.climateId,
        near: plan.field.near.filter((_, k) => !bad(`field.near[${k}]`)),
        forage: bad('field.forage') ? null : plan.field.forage,
        drainageClass: bad('field.drainageClass') ? null : plan.field.drainageClass,
      },
      season: {
        ...plan.season,
        cropKey: noCrop ? null : plan.season.cropKey,
        moistureClass: bad('season.moistureClass')
          ? (moistureClasses()[0] ?? '')
          : plan.season.moistureClass,
        openerId: bad('season.openerId') ? null : plan.season.openerId,
        nextSeason: plan.season.nextSeason.filter((_, k) => !bad(`season.nextSeason[${k}]`)),
      },
      previous: bad('previous') ? null : plan.previous,
      residue: bad('residue') ? null : plan.residue,
      lime: lime && {
        ...lime,
        rotation: lime.rotation.filter((_, k) => !bad(`lime.rotation[${k}]`)),
        candidates: lime.candidates.filter((_, k) => !bad(`lime.candidates[${k}]`)),
        spread: bad('lime.spread') ? null : lime.spread,
      },
      organics: plan.organics.filter((_, k) => !bad(`organics[${k}]`)),
      passes: plan.passes.filter((_, k) => !bad(`passes[${k}]`)),
      others: plan.others.map((o, i) => ({
        ...o,
        organics: o.organics.filter((_, k) => !bad(`others[${i}].organics[${k}]`)),
        passes: o.passes.filter((_, k) => !bad(`others[${i}].passes[${k}]`)),
      })),
      leaves: plan.leaves.filter((_, k) => !bad(`leaves[${k}]`)),
    },
  };
}
/**
 * Stands in where the soil of a field is unknown, so that the page can be drawn; no crop is
 * reckoned on it.
 */
const ANY_SOIL = 'loam';

const TABLE_OF: ReadonlyMap<Known, LibraryTable> = new Map([
  [CROP, 'crops'],
  [MATERIAL, 'materials'],
  [FERTILISER, 'fertilisers'],
  [LIME, 'limes'],
]);
/** Fields of a plan that use one row of a table. */
export const usesOfRow = (plan: Plan, table: LibraryTable, key: string): string[] =>
  keyUses(plan).flatMap((u) => (TABLE_OF.get(u.known) === table && u.key === key ? [u.field] : []));

/** The plan with one row of a table in place of another, wherever it used it. */
export function withRowReplaced(plan: Plan, table: LibraryTable, from: string, to: string): Plan {
  const of = (own: LibraryTable) => (key: string) => (own === table && key === from ? to : key);
  const [crop, material, fertiliser, lime] = [
    of('crops'),
    of('materials'),
    of('fertilisers'),
    of('limes'),
  ];
  const supply = ({ organics, passes }: Pick<Plan, 'organics' | 'passes'>) => ({
    organics: organics.map((o) => ({ ...o, materialKey: material(o.materialKey) })),
    passes: passes.map((p) => ({ ...p, productId: fertiliser(p.productId) })),
  });
  const maybe = (key: string | null) => (key === null ? null : crop(key));
  return {
    ...plan,
    field: {
      ...plan.field,
      forage: plan.field.forage && {
        ...plan.field.forage,
        cropKey: crop(plan.field.forage.cropKey),
      },
    },
    season: {
      ...plan.season,
      cropKey: maybe(plan.season.cropKey),
      nextSeason: plan.season.nextSeason.map((c) => ({ ...c, productId: fertiliser(c.productId) })),
    },
    lime: plan.lime && {
      ...plan.lime,
      rotation: plan.lime.rotation.map(crop),
      targetFor: maybe(plan.lime.targetFor),
      candidates: plan.lime.candidates.map((c) => ({ ...c, materialKey: lime(c.materialKey) })),
      spread: plan.lime.spread && {
        ...plan.lime.spread,
        materialKey: lime(plan.lime.spread.materialKey),
      },
    },
    ...supply(plan),
    others: plan.others.map((o) => ({ ...o, ...supply(o) })),
  };
}
