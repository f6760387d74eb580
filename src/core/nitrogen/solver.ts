import { lazily } from '../book/table';

// Linear programmes, with yes-or-no choices in them, handed to HiGHS (Huangfu & Hall 2018).

/** A sum of variables by name that lies between two bounds. */
export interface Row {
  name: string;
  of: Readonly<Record<string, number>>;
  min?: number | null;
  max?: number | null;
}
export interface Programme {
  /** What is made as small as can be. */
  minimise: Readonly<Record<string, number>>;
  rows: readonly Row[];
  /** Bounds of a variable; 0 and no upper one where nothing is said. */
  bounds?: Readonly<Record<string, { min?: number; max?: number }>>;
  /** Variables that are 0 or 1. */
  choices?: readonly string[];
}
export interface Solved {
  least: number;
  values: Readonly<Record<string, number>>;
  /** No other values are as good; of a programme with choices it is not known. */
  only: boolean;
}
/** A variable outside the answer that costs less than this to bring in is as good as free. */
const FREE = 1e-9;
export type Solve = (p: Programme) => Solved | null;

const sumOf = (of: Readonly<Record<string, number>>): string => {
  const terms = Object.entries(of).filter(([, c]) => c !== 0);
  return terms.map(([v, c]) => `${c < 0 ? '-' : '+'} ${Math.abs(c)} ${v}`).join(' ');
};
/** The programme in the text that solvers of linear programmes read. */
function textOf({ minimise, rows, bounds = {}, choices = [] }: Programme): string {
  // A row without a variable is told by one that is always 0.
  const said = rows.flatMap(({ name, of, min, max }) => {
    const sum = sumOf(of) || '+ 0 nothing';
    return [
      ...(min == null ? [] : [` ${name}_min: ${sum} >= ${min}`]),
      ...(max == null ? [] : [` ${name}_max: ${sum} <= ${max}`]),
    ];
  });
  const limits = Object.entries(bounds).map(
    ([v, { min = 0, max }]) => ` ${min} <= ${v}${max === undefined ? '' : ` <= ${max}`}`,
  );
  return [
    'Minimize',
    ` least: ${sumOf(minimise) || '+ 0 nothing'}`,
    'Subject To',
    ...said,
    'Bounds',
    ' nothing = 0',
    ...limits,
    ...(choices.length > 0 ? ['Binary', ` ${choices.join(' ')}`] : []),
    'End',
  ].join('\n');
}

const EXACT = {
  output_flag: false,
  mip_rel_gap: 0,
  mip_abs_gap: 0,
  mip_feasibility_tolerance: 1e-9,
  primal_feasibility_tolerance: 1e-9,
  dual_feasibility_tolerance: 1e-9,
} as const;

/** The solver, fetched when somebody asks: few visits need it. */
const fetched = lazily(() => import('highs').then((m) => m.default()));
export const solver = async (): Promise<Solve> => {
  const highs = await fetched();
  return (programme) => {
    const found = highs.solve(textOf(programme), EXACT);
    if (found.Status !== 'Optimal') return null;
    return {
      least: found.ObjectiveValue,
      only: Object.values(found.Columns).every(
        (c) => c.Primal > FREE || !('Dual' in c) || Math.abs(c.Dual) > FREE,
      ),
      values: Object.fromEntries(
        Object.entries(found.Columns).map(([name, c]) => [name, c.Primal]),
      ),
    };
  };
};
