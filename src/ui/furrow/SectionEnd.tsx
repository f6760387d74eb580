import { dateInWords } from '@/core/quantity/calendar';
import type { FurrowSection } from '@/core/views/furrow';
import { useUnits } from '../frame/units';

/**
 * How the season ends, in the sheet's own figures, and what comes late: an amount is told once, what
 * is added here is time.
 */
export function SectionEnd({ section }: { section: FurrowSection }) {
  const { show, unit } = useUnits();
  const { end, late, demandTotal, uptakeTotal } = section;
  const kg = (v: number) => `${show(v, 'nutrient_rate')} ${unit('nutrient_rate')}`;
  const behind = demandTotal - uptakeTotal;
  return (
    <>
      {end.stillToApply >= 0.5 && (
        <strong className="text-hot">
          still to apply {end.atMost ? 'at most ' : ''}
          {kg(end.stillToApply)}
        </strong>
      )}
      {end.over >= 0.5 && <strong className="text-hot">over {kg(end.over)}</strong>}
      {end.leftOut >= 0.5 && <span>{kg(end.leftOut)} left out on purpose</span>}
      {late && (
        <span>
          Enough in all, but {kg(late.kg)} come after {dateInWords(late.date)}
          {late.passDate === null
            ? ''
            : `; bring the pass of ${dateInWords(late.passDate)} forward by ${late.daysForward} days`}
          .
        </span>
      )}
      {demandTotal > 0 && (
        <span className="note">
          {behind >= 1
            ? `Of ${kg(demandTotal)} the crop holds about ${kg(uptakeTotal)} at harvest; ${kg(behind)} stay behind as usual.`
            : behind <= -1
              ? `The crop holds about ${kg(uptakeTotal)} at harvest, ${kg(-behind)} of it from reserves and recycled leaves.`
              : `The crop holds about ${kg(uptakeTotal)} at harvest.`}
        </span>
      )}
    </>
  );
}
