import type { Book } from '../book/book';
import { CROPS } from '../book/crops';
import type { Plan } from '../document/document';
import type { LeafResult } from '../lines/leaf';
import { said, type Words } from '../why/said';
import type { LeafBeside } from './leafBeside';

// Fruit that drops early, year after year. Water is asked first: a tree drops fruit in drought and
// on drowned roots whatever is in its leaves. Only then is it a question of calcium and potassium.

export interface FruitDrop {
  /** What is still to be answered before more can be said. */
  open: ('years' | 'drought' | 'waterlogged')[];
  words: Words[];
  /** Nutrients to be measured in leaf and fruit before anything is given. */
  measure: string[];
}
const ASKED = ['Ca', 'K'] as const;
const BELOW: readonly string[] = ['deficient', 'low', 'marginal', 'low_or_deficient'];
const counted = (r: LeafResult | undefined): LeafResult | null =>
  r && r.cls !== null && !r.blocked && r.refused === null ? r : null;

/** Reads what was said of the fruit that drops; null of a crop that bears otherwise. */
export function fruitDropOf(book: Book, plan: Plan, beside: LeafBeside): FruitDrop | null {
  const { cropKey, fruitDrop } = plan.season;
  const crop = cropKey === null ? undefined : book.rows(CROPS).get(cropKey);
  if (!crop?.fruitSet) return null;
  const told = fruitDrop ?? { years: null, drought: null, waterlogged: null };
  const open = (['years', 'drought', 'waterlogged'] as const).filter((x) => told[x] === null);
  const read = (words: Words[], measure: string[] = []): FruitDrop => ({ open, words, measure });
  if (fruitDrop === null) return read([]);
  if (told.years === 1)
    return read([
      'One year is weather: frost, poor pollination, a heavy set that thins itself. It is a question of food from the second year on.',
    ]);
  const water: Words[] = [
    ...(told.drought
      ? [
          'It was dry when the fruit fell: see to the water first. A dry root takes up neither calcium nor potassium, however much there is.',
        ]
      : []),
    ...(told.waterlogged
      ? [
          'The ground stood wet: see to drainage and roots first. Drowned roots drop fruit and show every shortage at once.',
        ]
      : []),
  ];
  if (water.length > 0 || open.length > 0) return read(water);
  const of = (x: string) => counted(beside.leaf?.assessment.results.find((r) => r.nutrient === x));
  const measure = ASKED.filter((x) => of(x) === null);
  const short = ASKED.filter((x) => BELOW.includes(of(x)?.cls ?? ''));
  const enough = ASKED.filter((x) => of(x) !== null && !short.includes(x));
  return read(
    [
      ...(short.length > 0
        ? [
            said`The leaf is low in ${short.join(' and ')}, and neither drought nor standing water explains the drop: go through the gates of Act for ${short.length === 1 ? 'it' : 'them'}.`,
          ]
        : []),
      ...(enough.length > 0
        ? [
            said`${enough.join(' and ')} of the leaf ${enough.length === 1 ? 'is' : 'are'} not low. A leaf may hold enough while the fruit starves of calcium: have the fruit analysed, and look at crop load, vigour and pollination.`,
          ]
        : []),
      ...(measure.length > 0
        ? [
            said`${measure.join(' and ')} ${measure.length === 1 ? 'was' : 'were'} not measured: take a leaf at its window, and fruit with it, before anything is given.`,
          ]
        : []),
    ],
    measure,
  );
}
