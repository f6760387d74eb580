import { deepEqual } from 'fast-equals';
import type { Book } from '../book/book';
import { cropOf, crosswalkOf, type Crop } from '../book/crops';
import { fertiliserOf, fertilisers } from '../book/fertilisers';
import { legumeOf } from '../book/legumes';
import { limeMaterialOf } from '../book/limes';
import { materialOf } from '../book/organicMaterials';
import type { OrganicApplication, Plan } from '../document/document';
import type { LimePlan } from '../document/limeDocument';
import { DEFAULT_SCHOOLS } from '../document/schoolsDocument';
import type { PreviousLegume } from '../document/previousDocument';
import { dateInWords, daysBetween, type IsoDate } from '../quantity/calendar';
import { exactly, joined, said, type Said, type Words } from '../why/said';

// What one season hands to the next (chapter 6, G.7). N left over on paper, passes that were only
// planned and a yield that was only hoped for are never handed on.

export interface CarriedLine {
  id: string;
  /** What it is, in the season that ends. */
  title: Words;
  /** What it becomes in the season that begins, or why it stays behind. */
  says: Words;
  /** Offered, in the next plan already, or staying behind with the reason in `says`. */
  state: 'offered' | 'there' | 'left';
  /** Ticked before anybody has decided. */
  proposed: boolean;
  /** Lines of one group exclude each other. */
  group: string | null;
  /** Another line without which it says nothing. */
  needs: string | null;
}
/** A field whose season is over, or will be, and what it hands on. */
export interface FieldHandsOn {
  fieldId: string;
  name: string;
  /** The season that ends. */
  seasonId: string;
  from: string;
  cropName: string | null;
  /** The season that begins. */
  to: string;
  /** It stands already: what is not in it yet can be added. */
  opened: boolean;
  lines: CarriedLine[];
}
interface Item extends Omit<CarriedLine, 'state'> {
  /** The next plan with this in it; null where it stays behind. Taking it twice changes nothing. */
  take: ((to: Plan) => Plan) | null;
}

/** Years after which nothing of a dressing is counted any more, unless the farm counts longer. */
const LAST_YEAR = 4;
const LONG_MEMORY_YEAR = 10;
/** A soil test older than this is shown, and somebody has to say that it still holds. */
const OLD_TEST_YEARS = 4;
const LEGUME_YEARS = 3;

const rateOf = (o: OrganicApplication): Said =>
  o.rateUnit === 't_ha' ? said`${o.rate} t/ha` : said`${o.rate} m3/ha`;
const item = (
  id: string,
  title: Words,
  says: Words,
  take: Item['take'],
  more: Partial<Pick<Item, 'proposed' | 'group' | 'needs'>> = {},
): Item => ({
  id,
  title,
  says,
  take,
  proposed: take !== null,
  group: null,
  needs: null,
  ...more,
});
const stays = (id: string, title: Words, says: Words): Item => item(id, title, says, null);

/** The season after one: a year on, and named by its years as the last was. */
export function seasonAfter(season: Plan['season']): { label: string; startDate: IsoDate } {
  const monthDay = season.startDate.slice(4).replace('-02-29', '-02-28');
  const startDate = `${Number(season.startDate.slice(0, 4)) + 1}${monthDay}`;
  const years = /^(\d{4})(?:\/(\d{2}|\d{4}))?$/u.exec(season.label);
  if (!years) return { label: `${season.label}, next`.slice(0, 120), startDate };
  const [first, second] = [Number(years[1]) + 1, years[2]];
  const label =
    second === undefined
      ? String(first)
      : `${first}/${String(first + 1).slice(second.length === 2 ? 2 : 0)}`;
  return { label, startDate };
}

function legumeAfter(legumeKey: string, from: Plan): PreviousLegume {
  return {
    kind: 'legume',
    legumeKey,
    // Nobody has looked at the stand yet: the sheet asks for it.
    standClass: null,
    plantsM2: null,
    legumeCoverPct: null,
    regrowth: null,
    removedFracTops:
      legumeOf(legumeKey)[0]?.useType === 'grain_legume' ? from.season.strawRemovedFrac : null,
    killDate: null,
    killTiming: null,
    tillage: null,
    climate: null,
    standAge: null,
    yearsSinceKill: 1,
    overlap: 'none',
  };
}

/** A tree stands on; a sward may, until somebody says that it was killed. */
const standing = (crop: Crop): { surely: boolean; may: boolean } => ({
  surely: crop.nBaseKgHa > 0,
  may: crop.nBaseKgHa > 0 || crop.sward,
});

/** The crop that stood, as what grew before; a stand that goes on; a legume of the year before. */
function cropItems(book: Book, from: Plan): Item[] {
  const { season, previous } = from;
  const items: Item[] = [];
  const crop = season.cropKey === null ? null : cropOf(book, season.cropKey);
  const older =
    previous?.kind === 'legume' && previous.yearsSinceKill < LEGUME_YEARS ? previous : null;
  if (crop) {
    const stands = standing(crop);
    if (stands.may)
      items.push(
        item(
          'crop',
          said`${crop.name} stands on`,
          season.plantingYear === null
            ? 'the same crop, goal and use; dates are entered anew'
            : said`the same crop, goal and use, in its year ${season.plantingYear + 1}; dates are entered anew`,
          (to) => ({
            ...to,
            season: {
              ...to.season,
              cropKey: season.cropKey,
              use: season.use,
              yieldGoalTHa: to.season.yieldGoalTHa ?? season.yieldGoalTHa,
              proteinTargetPct: to.season.proteinTargetPct ?? season.proteinTargetPct,
              legumeShare: to.season.legumeShare ?? season.legumeShare,
              plantingYear: season.plantingYear === null ? null : season.plantingYear + 1,
              plantingDate: season.plantingDate,
              eatenRaw: season.eatenRaw,
              touchesSoil: season.touchesSoil,
            },
          }),
          { proposed: stands.surely, group: 'before' },
        ),
      );
    if (!stands.surely) {
      const { legumeKey } = crosswalkOf(book, crop.key);
      const after = legumeKey === null ? null : legumeAfter(legumeKey, from);
      items.push(
        item(
          'previous',
          said`${crop.name} as previous crop`,
          after
            ? joined(
                [
                  said`credited once, as ${legumeOf(after.legumeKey)[0]?.name ?? crop.name}`,
                  ...(legumeOf(after.legumeKey)[0]?.standClass === 'any'
                    ? []
                    : [said`how good the stand was, and when it was killed, is asked`]),
                ],
                '; ',
              )
            : 'no legume: no credit',
          (to) => ({ ...to, previous: after ?? { kind: 'other', cropName: crop.name } }),
          { proposed: !stands.may && (after !== null || older === null), group: 'before' },
        ),
      );
    }
  }
  if (older && previous?.kind === 'legume')
    items.push(
      item(
        'previous_legume',
        said`${legumeOf(older.legumeKey)[0]?.name ?? older.legumeKey}, the crop before`,
        said`counts for its crop ${older.yearsSinceKill + 1}: a small part is left`,
        (to) => ({
          ...to,
          previous: { ...older, overlap: 'none', yearsSinceKill: older.yearsSinceKill + 1 },
        }),
        {
          proposed:
            crop !== null && !standing(crop).may && crosswalkOf(book, crop.key).legumeKey === null,
          group: 'before',
        },
      ),
    );
  return items;
}

function harvestItem(book: Book, from: Plan, to: Plan): Item[] {
  const { season } = from;
  if (season.cropKey === null) return [];
  const name = cropOf(book, season.cropKey).name;
  if (season.harvestedTHa === null)
    return [
      stays(
        'harvest',
        said`Yield of ${name} ${season.label}`,
        'not entered: enter it at Crop of that season',
      ),
    ];
  const stands = standing(cropOf(book, season.cropKey));
  const title = said`Yield of ${name} ${season.label}, ${season.harvestedTHa} t/ha`;
  const follows = to.season.cropKey ?? (stands.may ? season.cropKey : null);
  if (follows !== season.cropKey)
    return [stays('harvest', title, 'another crop follows: it stays with its season')];
  const years = [...season.yieldHistoryTHa, season.harvestedTHa].slice(-15);
  return [
    item(
      'harvest',
      title,
      said`with the field’s own years for ${name}: ${years.join(', ')} t/ha`,
      (next) =>
        next.season.cropKey === season.cropKey
          ? { ...next, season: { ...next.season, yieldHistoryTHa: years } }
          : next,
      { proposed: stands.surely, needs: to.season.cropKey === null ? 'crop' : null },
    ),
  ];
}

function dressingItems(book: Book, from: Plan): Item[] {
  const last = from.farm.residualTailFrac > 0 ? LONG_MEMORY_YEAR : LAST_YEAR;
  const items = from.organics.map((o): Item => {
    const id = `organic.${o.id}`;
    const title = joined(
      [said`${materialOf(book, o.materialKey).name}`, rateOf(o), said`${dateInWords(o.date)}`],
      ', ',
    );
    if (o.status !== 'done')
      return stays(id, title, 'planned, not recorded as spread: record it there first');
    if (o.cropYear >= last) return stays(id, title, said`nothing is counted after ${last} crops`);
    return item(
      id,
      title,
      said`counts as spread ${o.cropYear} crops ago: what is left of its organic N`,
      (to) => ({
        ...to,
        manureHistory: 'yes',
        organics: [...to.organics.filter((x) => x.id !== o.id), { ...o, cropYear: o.cropYear + 1 }],
      }),
    );
  });
  const none = from.manureHistory === 'none' && from.organics.length === 0;
  return none
    ? [
        item(
          'no_manure',
          'No manure or compost',
          'none in earlier years, as this season says',
          (to) => ({ ...to, manureHistory: 'none' }),
        ),
      ]
    : items;
}

function limeItems(book: Book, from: Plan): Item[] {
  const { lime } = from;
  if (!lime) return [];
  const { spread } = lime;
  if (spread) {
    const next = (to: Plan): LimePlan => ({
      ...(to.lime ?? { ...lime, spreadDate: null, chosenId: null }),
      spread,
    });
    return [
      item(
        'lime',
        joined(
          [
            said`${limeMaterialOf(book, spread.materialKey).name}`,
            said`${spread.rateTHa} t/ha`,
            said`${dateInWords(spread.date)}`,
          ],
          ', ',
        ),
        'its clock of rain and warmth runs on; what was spread is taken off what the test asks for',
        (to) => ({ ...to, lime: next(to) }),
      ),
    ];
  }
  const chosen = lime.candidates.find((c) => c.id === lime.chosenId);
  return chosen
    ? [
        stays(
          'lime',
          limeMaterialOf(book, chosen.materialKey).name,
          'planned, not recorded as spread: record it there first',
        ),
      ]
    : [];
}

const dayOf = (date: IsoDate | null): string =>
  date === null ? 'an unknown day' : dateInWords(date);
const YEAR_D = 365.25;
function testItems(from: Plan, startDate: IsoDate): Item[] {
  const { ground, reads, season } = from;
  const items: Item[] = [];
  if (reads.soil) {
    const age =
      ground.sampleDate === null ? null : daysBetween(ground.sampleDate, startDate) / YEAR_D;
    const {
      sampleDate,
      nitrateSampleDate,
      nitrateLayers,
      sulphateLayers,
      boronLastYearKgHa,
      ...found
    } = ground;
    const soil = reads.soil;
    items.push(
      item(
        'soil_sample',
        said`Soil sample of ${dayOf(sampleDate)}`,
        age === null
          ? 'of unknown age'
          : age > OLD_TEST_YEARS
            ? said`${exactly(age, 1)} years old when the season begins: sample again`
            : said`${exactly(age, 1)} years old when the season begins`,
        (to) => ({
          ...to,
          reads: { ...to.reads, soil },
          ground: { ...to.ground, sampleDate, ...found },
        }),
        { proposed: age !== null && age <= OLD_TEST_YEARS },
      ),
    );
  }
  if (reads.nitrate) {
    const { nitrateSampleDate: on, nitrateLayers, sulphateLayers } = ground;
    const nitrate = reads.nitrate;
    const title = said`Nitrate profile of ${dayOf(on)}`;
    items.push(
      on !== null && season.harvestDate !== null && on >= season.harvestDate
        ? item('nitrate', title, 'taken after the harvest: counts for the next crop', (to) => ({
            ...to,
            reads: { ...to.reads, nitrate },
            ground: { ...to.ground, nitrateSampleDate: on, nitrateLayers, sulphateLayers },
          }))
        : stays('nitrate', title, 'that crop and winter have taken it: sample anew'),
    );
  }
  return items;
}

/** A correction of the soil as a planned pass of the season that begins; once, however often taken. */
const withCorrection = (to: Plan, c: Plan['season']['nextSeason'][number]): Plan =>
  to.passes.some((p) => p.id === c.id)
    ? to
    : {
        ...to,
        passes: [
          ...to.passes,
          {
            id: c.id,
            date: to.season.plantingDate ?? to.season.startDate,
            productId: c.productId,
            productKgHa: c.productKgHa,
            placementId: 'broadcast_incorporated',
            status: 'planned' as const,
            pricePerT: null,
          },
        ],
      };

function termsItems(book: Book, from: Plan): Item[] {
  const { season, irrigation } = from;
  const done = from.passes.filter((p) => p.status === 'done');
  const boron = done.reduce(
    (sum, p) => sum + (p.productKgHa * (fertiliserOf(book, p.productId).bPct ?? 0)) / 100,
    0,
  );
  const unfinished = from.passes.filter((p) => p.status === 'planned');
  return [
    ...from.season.nextSeason.map((c) =>
      item(
        `correction.${c.id}`,
        said`${fertilisers(book).find((f) => f.productId === c.productId)?.name ?? c.productId}, ${c.productKgHa} kg/ha`,
        `planned for the soil by the leaf of this season: ${c.why}`,
        (to: Plan) => withCorrection(to, c),
      ),
    ),
    ...(deepEqual(from.schools, DEFAULT_SCHOOLS)
      ? []
      : [
          item('schools', 'Recommendation systems', 'as chosen for this field', (to: Plan) => ({
            ...to,
            schools: from.schools,
          })),
        ]),
    item(
      'site',
      'Drainage, moisture and deposition of the place',
      said`${season.winterDrainageMm} mm over winter, ${season.springDrainageMm} mm in spring`,
      (to) => ({
        ...to,
        season: {
          ...to.season,
          moistureClass: season.moistureClass,
          winterDrainageMm: season.winterDrainageMm,
          springDrainageMm: season.springDrainageMm,
          depositionNKgHa: season.depositionNKgHa,
          depositionSKgHa: season.depositionSKgHa,
        },
      }),
    ),
    ...(irrigation
      ? [
          item(
            'irrigation',
            said`Irrigation water, ${irrigation.mm} mm`,
            'the same water and amount, if it is irrigated again',
            (to: Plan) => ({ ...to, irrigation }),
            { proposed: false },
          ),
        ]
      : []),
    ...(boron > 0
      ? [
          item(
            'boron',
            said`Boron of the passes done, ${exactly(boron, 2)} kg/ha`,
            'boron of the last 12 months',
            (to: Plan) => ({ ...to, ground: { ...to.ground, boronLastYearKgHa: boron } }),
          ),
        ]
      : []),
    ...(unfinished.length > 0
      ? [
          stays(
            'passes',
            said`${unfinished.length} fertiliser passes not recorded as done`,
            'a pass that was only planned is not handed on',
          ),
        ]
      : []),
  ];
}

const itemsOf = (book: Book, from: Plan, to: Plan): Item[] => [
  ...cropItems(book, from),
  ...harvestItem(book, from, to),
  ...dressingItems(book, from),
  ...limeItems(book, from),
  ...testItems(from, to.season.startDate),
  ...termsItems(book, from),
];

/**
 * What a season hands to the one after it, line by line: each to be taken or left.
 *
 * @param to the next season as it stands: an empty one where it is only to be opened
 */
export const carryOver = (book: Book, from: Plan, to: Plan): CarriedLine[] =>
  itemsOf(book, from, to).map(({ take, proposed, ...line }) => {
    const there = take !== null && line.needs === null && deepEqual(take(to), to);
    return {
      ...line,
      state: take === null ? 'left' : there ? 'there' : 'offered',
      proposed: proposed && !there,
    };
  });

/**
 * The next season with the lines that were taken. Taking one that is there already changes nothing,
 * so that nothing counts twice.
 */
export function takeOver(book: Book, from: Plan, to: Plan, ids: ReadonlySet<string>): Plan {
  return itemsOf(book, from, to).reduce(
    (plan, { id, take }) => (take && ids.has(id) ? take(plan) : plan),
    to,
  );
}
