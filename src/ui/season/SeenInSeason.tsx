'use client';

import { Plus, Trash2 } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { stagesOf } from '@/core/book/stages';
import { crosswalkOf } from '@/core/book/crops';
import type { Plan } from '@/core/document/document';
import { inSeasonReadings } from '@/core/views/inSeason';
import { dateInWords } from '@/core/quantity/calendar';
import type { Range } from '@/core/quantity/range';
import { ChoiceBox, DateBox, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { SimulatedMeter } from '../leaf/SimulatedMeter';
import {
  editSeason,
  lineId,
  useBook,
  useEdit,
  useWholeAssessment,
  useWholePlan,
} from '../workspace/context';

const NITRATE = { label: 'Nitrate-N, 0 to 30 cm', unit: 'mg/kg', min: 0, max: 200 };
const HEIGHT = { label: 'Height of the plants', unit: 'cm', min: 1, max: 300 };
const ABOVE_0 = { label: 'Reading', unit: '', min: 0, max: 1000, above: true };

/** Stages that were seen, and what was measured in the growing crop. */
export function SeenInSeason() {
  const { readOnly } = useEdit();
  const plan = useWholePlan();
  const book = useBook();
  const { cropKey } = plan.season;
  const cropId = cropKey ? crosswalkOf(book, cropKey).seasonCropId : null;
  if (!cropKey) return null;
  return (
    <Part
      title="Seen and measured in the crop"
      aside="a stage that was seen puts the crop’s clock right; a measurement stands before any model"
    >
      <div className="grid gap-x-8 gap-y-3 xl:grid-cols-2">
        {cropId === null ? (
          <p className="note">There is no table of stages for this crop yet.</p>
        ) : (
          <StagesSeen cropId={cropId} />
        )}
        <Measured readOnly={readOnly} cropId={cropId} />
      </div>
    </Part>
  );
}

function StagesSeen({ cropId }: { cropId: string }) {
  const { season, asOf } = useWholePlan();
  const { edit, readOnly } = useEdit();
  const [date, setDate] = useState<string | null>(asOf);
  const [stage, setStage] = useState<string | null>(null);
  const stages = stagesOf(cropId).map((s) => ({
    value: s.stageBbch,
    label: `${s.stageBbch} ${s.stageAlias.replaceAll('_', ' ')}`,
  }));
  const nameOf = (code: string) => stages.find((s) => s.value === code)?.label ?? code;
  const seen = season.observedStages.toSorted((a, b) => a.date.localeCompare(b.date));
  return (
    <div data-testid="stages-seen">
      <h3>Stages seen</h3>
      <ul>
        {seen.map((o) => (
          <li key={o.id} className="flex items-baseline gap-2">
            {dateInWords(o.date)}: {nameOf(o.stage)}
            {!readOnly && (
              <button
                type="button"
                className="plain"
                aria-label={`Remove the stage of ${dateInWords(o.date)}`}
                onClick={() =>
                  edit((p) =>
                    editSeason({
                      observedStages: p.season.observedStages.filter((x) => x.id !== o.id),
                    })(p),
                  )
                }
              >
                <Trash2 size={13} aria-hidden />
              </button>
            )}
          </li>
        ))}
        {seen.length === 0 && (
          <li className="note">
            None yet: the clock runs by the warmth of a normal year, give or take ten days.
          </li>
        )}
      </ul>
      {!readOnly && (
        <div className="mt-1 flex flex-wrap items-baseline gap-2">
          <DateBox label="Seen on" value={date} max={asOf} onValue={setDate} />
          <ChoiceBox
            label="Stage"
            value={stage}
            empty="choose"
            options={stages}
            onValue={setStage}
          />
          <button
            type="button"
            className="button"
            disabled={date === null || stage === null || seen.length >= 12}
            onClick={() => {
              if (date === null || stage === null) return;
              edit((p) =>
                editSeason({
                  observedStages: [...p.season.observedStages, { id: lineId(), date, stage }],
                })(p),
              );
              setStage(null);
            }}
          >
            <Plus size={13} aria-hidden /> Add the stage
          </button>
        </div>
      )}
    </div>
  );
}

type Test = NonNullable<Plan['season']['sidedressTest']>;
type Strip = NonNullable<Plan['season']['richStrip']>;
function Measured({ readOnly, cropId }: { readOnly: boolean; cropId: string | null }) {
  const plan = useWholePlan();
  const a = useWholeAssessment();
  const { edit } = useEdit();
  const { words } = useUnits();
  const { sidedressTest: test, richStrip: strip } = plan.season;
  const setTest = (part: Partial<Test>) =>
    edit((p) => {
      const had = p.season.sidedressTest;
      return had ? editSeason({ sidedressTest: { ...had, ...part } })(p) : p;
    });
  const setStrip = (part: Partial<Strip>) =>
    edit((p) => {
      const had = p.season.richStrip;
      return had ? editSeason({ richStrip: { ...had, ...part } })(p) : p;
    });
  const readings = inSeasonReadings(plan, a, { seasonCropId: cropId });
  return (
    <div data-testid="measured">
      <h3>Measured in the growing crop</h3>
      {test && (
        <MeasuredRow
          dateLabel="Nitrate sampled on"
          date={test.date}
          onDate={(date) => setTest({ date })}
          boxes={[
            {
              label: 'Nitrate-N, 0 to 30 cm',
              value: test.nitrateNMgKg,
              range: NITRATE,
              onValue: (v) => setTest({ nitrateNMgKg: v }),
            },
            {
              label: 'Plants are',
              value: test.plantHeightCm,
              range: HEIGHT,
              onValue: (v) => setTest({ plantHeightCm: v }),
            },
          ]}
          onRemove={() => edit(editSeason({ sidedressTest: null }))}
        />
      )}
      {strip && (
        <MeasuredRow
          dateLabel="Strip read on"
          date={strip.date}
          onDate={(date) => setStrip({ date })}
          boxes={[
            {
              label: 'The field reads',
              value: strip.fieldReading,
              range: ABOVE_0,
              onValue: (v) => setStrip({ fieldReading: v }),
            },
            {
              label: 'The rich strip reads',
              value: strip.stripReading,
              range: ABOVE_0,
              onValue: (v) => setStrip({ stripReading: v }),
            },
          ]}
          onRemove={() => edit(editSeason({ richStrip: null }))}
        >
          <SimulatedMeter
            asked={{ meter: 'colour', date: strip.date }}
            onRead={(r) =>
              'strip' in r && setStrip({ fieldReading: r.field, stripReading: r.strip })
            }
          />
        </MeasuredRow>
      )}
      {readings.map((r) => (
        <ul key={r.id} className="max-w-[46rem] list-disc pl-5" data-testid={r.id}>
          {r.words.map((w) => (
            <li key={words(w)}>{words(w)}</li>
          ))}
        </ul>
      ))}
      {!readOnly && (
        <p className="mt-1 flex flex-wrap gap-2">
          {!test && (
            <button
              type="button"
              className="button"
              onClick={() =>
                edit(
                  editSeason({
                    sidedressTest: { date: plan.asOf, nitrateNMgKg: null, plantHeightCm: null },
                  }),
                )
              }
            >
              <Plus size={13} aria-hidden /> Nitrate test before sidedressing
            </button>
          )}
          {!strip && (
            <button
              type="button"
              className="button"
              onClick={() =>
                edit(
                  editSeason({
                    richStrip: { date: plan.asOf, fieldReading: null, stripReading: null },
                  }),
                )
              }
            >
              <Plus size={13} aria-hidden /> Strip that was fed richly
            </button>
          )}
        </p>
      )}
    </div>
  );
}

/** What was measured on a day: its figures, and a way to take it out again. */
function MeasuredRow({
  dateLabel,
  date,
  onDate,
  boxes,
  onRemove,
  children,
}: {
  dateLabel: string;
  date: string;
  onDate: (v: string) => void;
  boxes: {
    label: string;
    value: number | null;
    range: Range;
    onValue: (v: number | null) => void;
  }[];
  onRemove: () => void;
  children?: ReactNode;
}) {
  const { readOnly } = useEdit();
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      <DateBox label={dateLabel} disabled={readOnly} value={date} onValue={(v) => v && onDate(v)} />
      {boxes.map((b) => (
        <FigureBox key={b.label} {...b} disabled={readOnly} optional />
      ))}
      {!readOnly && children}
      {!readOnly && (
        <button type="button" className="plain" onClick={onRemove}>
          remove
        </button>
      )}
    </div>
  );
}
