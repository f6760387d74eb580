'use client';

import { dateInWords } from '@/core/quantity/calendar';
import type { LeafResult, ReadLeaf } from '@/core/lines/leaf';
import { RangeTrough } from '../RangeTrough';
import { words } from '../figure/fields';
import { WhyFigure } from '../frame/why';
import { Warnings } from '../Warnings';

const SHORT = ['deficient', 'low', 'low_or_deficient', 'below_sufficient', 'toxic_risk'];
const wordOf = (r: LeafResult): string =>
  r.refused
    ? 'not read'
    : r.blocked
      ? 'hidden by dust, spray or a wrong unit'
      : r.cls === null
        ? 'no standard'
        : words(r.cls);

/** The shortest first; what has no place on the scale last. */
const inOrderOfNeed = (results: readonly LeafResult[]): LeafResult[] =>
  results.toSorted(
    (a, b) =>
      Number(a.score === null || a.blocked) - Number(b.score === null || b.blocked) ||
      (a.score ?? 0) - (b.score ?? 0),
  );

function Row({ r }: { r: LeafResult }) {
  const decide = r.cls !== null && SHORT.includes(r.cls) && !r.blocked;
  return (
    <tr className={r.blocked ? 'text-faint' : ''}>
      <th scope="row">{r.nutrient.replace('_', '-')}</th>
      <td className="hidden sm:table-cell">
        {r.value !== null && r.limits && r.limits.sh > 0 && (
          <RangeTrough
            value={r.value}
            low={r.limits.sl}
            high={r.limits.sh}
            label={r.nutrient}
            word={wordOf(r)}
            decide={decide}
          />
        )}
      </td>
      <td className="num font-bold">
        <WhyFigure step={r.why ?? undefined} label={`${r.nutrient} ${r.reported}`}>
          {r.value === null ? r.reported : Number(r.value.toPrecision(4))} {r.coreUnit}
        </WhyFigure>
      </td>
      <td className="note num">
        {r.limits && r.limits.sl > 0
          ? `${Number(r.limits.sl.toPrecision(4))}-${Number(r.limits.sh.toPrecision(4))}`
          : ''}
      </td>
      <td className={decide ? 'pl-2 text-hot' : 'pl-2'}>
        {r.refused ?? wordOf(r)}
        {r.cls !== null && SHORT.includes(r.cls) && r.wording ? `, ${r.wording}` : ''}
        {r.why?.confidence === 'low' && <span className="note block">weak standard</span>}
      </td>
      <td className="note hidden pl-2 md:table-cell">
        {r.why ? [r.why.source, r.why.confidence].filter(Boolean).join(', ') : ''}
      </td>
    </tr>
  );
}

/** One leaf sample, each nutrient against the range of its crop, part and stage. */
export function LeafResults({ leaf, onRemove }: { leaf: ReadLeaf; onRemove?: () => void }) {
  const { sample, assessment } = leaf;
  return (
    <article
      className="mb-4 border-b-2 border-rule pb-3"
      aria-label={`Leaf sample of ${dateInWords(sample.date)}`}
    >
      <h3>
        {dateInWords(sample.date)}{' '}
        <span className="note font-sans">
          {assessment.standard?.partLabel ?? words(sample.part)}, BBCH {sample.bbch}
          {assessment.standard
            ? ` (${assessment.standard.stageLabel}${assessment.standard.how === 'interpolated' ? ', between two stages' : assessment.standard.how === 'near_edge' ? ', near the edge' : ''})`
            : ''}
          {sample.nOrgans ? `, ${sample.nOrgans} organs` : ''}
          {sample.role === 'survey' ? '' : `, of ${sample.role} plants`}
          {sample.place ? `, ${sample.place}` : ''}
        </span>
      </h3>
      {assessment.refused && <p className="problem">{assessment.refused.message}</p>}
      {assessment.without !== null && <p className="note">{assessment.without}</p>}
      {assessment.order.length > 0 && (
        <p>
          <strong>Shortest first: {assessment.order.join(', ')}.</strong>
          {assessment.coLimiting.length > 1
            ? ` ${assessment.coLimiting.join(' and ')} limit together.`
            : ''}{' '}
          The leaf does not say how many kg/ha; look at roots, water and pH first.
        </p>
      )}
      <table className="ruled">
        <caption className="sr-only">Leaf values against their ranges</caption>
        <thead>
          <tr>
            <th>In order of need</th>
            <th className="hidden sm:table-cell">Range</th>
            <th className="num">Leaf</th>
            <th className="num">Sufficient</th>
            <th className="pl-2">Class</th>
            <th className="hidden pl-2 md:table-cell">Range by, confidence</th>
          </tr>
        </thead>
        <tbody>
          {inOrderOfNeed(assessment.results).map((r) => (
            <Row key={r.nutrient} r={r} />
          ))}
        </tbody>
      </table>
      <div className="mt-2">
        <Warnings list={assessment.warnings} />
      </div>
      {onRemove && (
        <button type="button" className="plain note" onClick={onRemove}>
          remove this sample
        </button>
      )}
    </article>
  );
}
