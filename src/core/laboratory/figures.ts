import { squeezed } from './grid';

// Numbers as laboratories write them: marks, groups, limits, flags, words for nothing.

export type Mark = '.' | ',';

/** What a cell says that ought to hold a figure. */
export type Figure =
  | { kind: 'value'; value: number; limit: 'below' | 'above' | null; rest: string; flag: string }
  /** Nothing was stated. */
  | { kind: 'missing' }
  /** Looked for and not found, without a limit. */
  | { kind: 'not_found' }
  | { kind: 'unreadable' };

const MISSING =
  /^(|[-–—−.?/x*]|n\.?a\.?|n\/a|#n\/a|k\.?\s?a\.?|nm|n\.?b\.?|s\/d|none stated|not (measured|analysed|analyzed|tested|determined)|nicht (bestimmt|gemessen|untersucht)|keine angabe|null|nan|-{2,}|\.{2,})$/iu;
const NOT_FOUND =
  /^(n\.?\s?d\.?|n\.?\s?n\.?|tr\.?|traces?|spuren?|trazas?|bdl|b\.?d\.?|blq|<\s?(lod|loq|dl|mdl|bg|ng)|not (detected|found)|none detected|nicht (nachweisbar|nachgewiesen|gefunden)|u\.?\s?b\.?\s?g\.?|non d[eé]tect[eé]|no detectado|nil)$/iu;

const GROUPED = String.raw`\d+(?:[ '’.,]\d+)*`;
const FIGURE = new RegExp(
  String.raw`^(<=?|>=?|≤|≥|~|≈|ca\.?|kl\.?|under|unter|below|over|über|above)?\s*([-+−]?(?:${GROUPED}|[.,]\d+))(e[-+]?\d+)?\s*(.*)$`,
  'iu',
);
/** A letter or a sign that the laboratory sets beside a figure: low, high, see the note. */
const FLAG =
  /^(\*{1,3}|[†‡#!↑↓+-]{1,3}|\(?[a-z]{1,2}\)?|low|high|def|suff|opt|very low|very high)$/iu;

/** Digits with their marks in a cell, as far as they say which mark is the decimal one. */
const digitsOf = (text: string): string | null =>
  FIGURE.exec(squeezed(text))?.[2]?.replaceAll(/[ '’]/gu, '') ?? null;

type Evidence = Mark | 'either' | null;
/** What one figure says of the marks: the decimal one, either, or nothing. */
function evidenceOf(digits: string): Evidence {
  const marks = [...digits].filter((c) => c === '.' || c === ',');
  const last = marks.at(-1) as Mark | undefined;
  if (last === undefined) return null;
  const other: Mark = last === '.' ? ',' : '.';
  if (marks.includes(other)) return last;
  if (marks.length > 1) return other;
  const [whole = '', part = ''] = digits.replace(/^[-+−]/u, '').split(last);
  if (part.length !== 3 || whole.length > 3 || /^0*$/u.test(whole)) return last;
  return 'either';
}

export interface MarkFound {
  mark: Mark | null;
  /** Cells that fit both ways, or speak against each other: then somebody has to say. */
  doubtful: string[];
}
/**
 * The decimal mark of a whole file, by all its figures.
 *
 * @example markOf(['6,1', '1.250']).mark // ','
 */
export function markOf(cells: Iterable<string>): MarkFound {
  const seen: Record<'.' | ',' | 'either', string[]> = { '.': [], ',': [], either: [] };
  for (const cell of cells) {
    const digits = digitsOf(cell);
    const evidence = digits === null ? null : evidenceOf(digits);
    if (evidence) seen[evidence].push(cell);
  }
  if (seen['.'].length > 0 && seen[','].length > 0)
    return { mark: null, doubtful: [...seen['.'].slice(0, 3), ...seen[','].slice(0, 3)] };
  if (seen['.'].length > 0) return { mark: '.', doubtful: [] };
  if (seen[','].length > 0) return { mark: ',', doubtful: [] };
  return { mark: null, doubtful: seen.either.slice(0, 6) };
}

function numberOf(digits: string, mark: Mark): number | null {
  const group = mark === '.' ? ',' : '.';
  const plain = digits.replaceAll(/[ '’]/gu, '').replace('−', '-');
  const [whole = '', ...parts] = plain.split(mark);
  if (parts.length > 1 || (parts[0] ?? '').includes(group)) return null;
  // Groups have three digits each: 1,25 in a file with points is no number of either kind.
  const groups = whole.replace(/^[-+]/u, '').split(group);
  if (groups.length > 1 && groups.slice(1).some((g) => g.length !== 3)) return null;
  const value = Number(`${whole.replaceAll(group, '')}.${parts[0] ?? '0'}`);
  return Number.isFinite(value) ? value : null;
}

/**
 * Reads one cell.
 *
 * @param mark the file's decimal mark
 * @example readFigure('n.d.', ',') // { kind: 'not_found' }
 */
export function readFigure(text: string, mark: Mark): Figure {
  const t = squeezed(text);
  if (MISSING.test(t)) return { kind: 'missing' };
  if (NOT_FOUND.test(t)) return { kind: 'not_found' };
  const m = FIGURE.exec(t);
  if (!m) return { kind: 'unreadable' };
  const [, sign = '', digits = '', exponent = '', after = ''] = m;
  const value = numberOf(digits, mark);
  if (value === null || /^(~|≈|ca\.?)$/iu.test(sign)) return { kind: 'unreadable' };
  const rest = after.trim();
  const flag = FLAG.test(rest) && !/^%$/u.test(rest) ? rest : '';
  return {
    kind: 'value',
    value: exponent === '' ? value : Number(`${value}${exponent.toLowerCase()}`),
    limit: sign === '' ? null : /^(<|≤|kl|under|unter|below)/iu.test(sign) ? 'below' : 'above',
    rest: flag === '' ? rest : '',
    flag,
  };
}
