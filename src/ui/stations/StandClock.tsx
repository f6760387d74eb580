'use client';

import { Plus } from 'lucide-react';
import type { Crop } from '@/core/book/crops';
import { modifierOf } from '@/core/book/legumes';
import type { Plan } from '@/core/document/document';
import type { GreenManurePlan, PreviousLegume } from '@/core/document/previousDocument';
import { normalsOf } from '@/core/lines/calendar';
import { growthWindow } from '@/core/lines/growth';
import { killTimingOf } from '@/core/lines/killTiming';
import { Refusal } from '@/core/quantity/refusal';
import { dateInWords } from '@/core/quantity/calendar';
import { DateBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton } from '../figure/RemoveButton';
import {
  editSeason,
  replaceAt,
  useEdit,
  usePlan,
  useWholePlan,
  without,
} from '../workspace/context';

const CUT_RANGE = { label: 'Yield of the cut', unit: 't/ha', min: 0, max: 50 };

/** When a crop that drops its leaves takes N up: by the climate, unless somebody says so. */
export function GrowthBoxes({ crop }: { crop: Crop }) {
  const { season, farm, field } = usePlan('season', 'farm', 'field');
  const { edit, readOnly } = useEdit();
  if (crop.growsAboveC === null || crop.evergreen || crop.cut) return null;
  const usual = season.harvestDate
    ? growthWindow({
        crop,
        climate: normalsOf({ farm, field }),
        southern: field.latitudeDeg < 0,
        start: season.startDate,
        harvest: season.harvestDate,
        budBurst: null,
        leafFall: null,
      })
    : null;
  return (
    <>
      <DateBox
        label="Bud burst"
        disabled={readOnly}
        value={season.budBurst}
        onValue={(v) => edit(editSeason({ budBurst: v }))}
      />
      <DateBox
        label="Leaf fall"
        disabled={readOnly}
        value={season.leafFall}
        onValue={(v) => edit(editSeason({ leafFall: v }))}
      />
      {usual && (
        <p className="note basis-full">
          N is taken up from bud burst to leaf fall: {dateInWords(usual.from)} to{' '}
          {dateInWords(usual.to)} in a normal year here (mean of the day above {crop.growsAboveC}{' '}
          °C; assumed until you give the days).
        </p>
      )}
    </>
  );
}

/** Days on which a forage crop is cut or grazed: each starts its clock anew. */
export function CutRows({ crop }: { crop: Crop }) {
  const { season } = usePlan('season');
  const { edit, readOnly } = useEdit();
  if (!crop.cut) return null;
  const set = (cuts: typeof season.cuts) => edit(editSeason({ cuts }));
  return (
    <div className="basis-full">
      <h3>Cuts or grazings</h3>
      {season.cuts.map((c, i) => (
        <div key={i} className="fields mb-1">
          <DateBox
            label={`Cut ${i + 1}`}
            disabled={readOnly}
            value={c.date}
            min={season.startDate}
            max={season.harvestDate ?? undefined}
            onValue={(v) => v && set(replaceAt(season.cuts, i, { date: v }))}
          />
          <FigureBox
            label={`Yield of cut ${i + 1}`}
            optional
            disabled={readOnly}
            value={c.yieldTHa}
            dimension="mass_rate"
            range={CUT_RANGE}
            onValue={(v) => set(replaceAt(season.cuts, i, { yieldTHa: v }))}
          />
          {!readOnly && (
            <RemoveButton
              label={`Remove cut ${i + 1}`}
              onClick={() => set(without(season.cuts, i))}
            />
          )}
        </div>
      ))}
      {season.cuts.length === 0 && (
        <p className="note">
          None yet: stages after the first growth are not known, and N is spread over the season.
        </p>
      )}
      {!readOnly && season.cuts.length < 12 && season.harvestDate && (
        <button
          type="button"
          className="button"
          onClick={() =>
            set([...season.cuts, { date: season.harvestDate as string, yieldTHa: null }])
          }
        >
          <Plus size={14} aria-hidden /> Add a cut
        </button>
      )}
    </div>
  );
}

/** Contradictions are told among the problems of the station, with both values. */
function timingOf(plan: Plan, previous: PreviousLegume | GreenManurePlan): string | null {
  try {
    return killTimingOf(plan, previous) ?? 'spring_early';
  } catch (e) {
    if (e instanceof Refusal) return null;
    throw e;
  }
}

/** What the timing of a kill means, in the table's words, and what of its N it leaves. */
export function KillNote({ previous }: { previous: PreviousLegume | GreenManurePlan }) {
  const plan = useWholePlan();
  const timing = timingOf(plan, previous);
  if (timing === null) return null;
  const row = modifierOf('kill_timing', timing);
  const how = previous.killTiming !== null ? '' : previous.killDate ? ', by its date' : ', assumed';
  return (
    <p className="note basis-full">
      {words(timing)}
      {how}: {row.definition}; {Math.round(100 * row.factorYear1)} % of its N counts this year.
    </p>
  );
}
