'use client';

import { KillNote } from './StandClock';
import { RANGES } from '@/core/quantity/range';
import { legumeOf, legumes, modifierLevels } from '@/core/book/legumes';
import type { PreviousLegume } from '@/core/document/previousDocument';
import { ChoiceBox, DateBox, optionsOf } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useEdit, usePlan } from '../workspace/context';
import { GreenManure, NEW_GREEN_MANURE } from './GreenManure';

// It brings the sums of fixation: fetched when the page stands.
const newLegume = (legumeKey: string): PreviousLegume => ({
  kind: 'legume',
  legumeKey,
  standClass: legumeOf(legumeKey)[0]?.standClass === 'any' ? null : 'fair',
  plantsM2: null,
  legumeCoverPct: null,
  regrowth: null,
  removedFracTops: null,
  killDate: null,
  killTiming: null,
  tillage: null,
  climate: null,
  standAge: null,
  yearsSinceKill: 1,
  overlap: 'none',
});

export function PreviousCrop() {
  const plan = usePlan('previous');
  const { edit, readOnly } = useEdit();
  const { previous } = plan;
  const set = (part: Partial<PreviousLegume>) =>
    edit((p) =>
      p.previous?.kind === 'legume' ? { ...p, previous: { ...p.previous, ...part } } : p,
    );
  const keys = [...new Map(legumes().map((l) => [l.legumeKey, l.name])).entries()].map(
    ([value, label]) => ({ value, label }),
  );
  const stand = previous?.kind === 'legume' ? legumeOf(previous.legumeKey) : [];
  const levels = (m: string) => optionsOf(modifierLevels(m));
  const hay = stand[0]?.useType === 'perennial_hay' || stand[0]?.useType === 'ley';
  return (
    <div className="fields">
      <ChoiceBox
        label="Previous crop"
        disabled={readOnly}
        value={previous?.kind ?? null}
        empty="not known"
        options={[
          { value: 'other', label: 'no legume' },
          { value: 'legume', label: 'a legume or a ley' },
          { value: 'green_manure', label: 'a green manure, weighed' },
        ]}
        onValue={(v) =>
          edit((p) => ({
            ...p,
            previous:
              v === 'legume'
                ? newLegume('red_clover_hay')
                : v === 'green_manure'
                  ? NEW_GREEN_MANURE
                  : v === 'other'
                    ? { kind: 'other', cropName: 'not named' }
                    : null,
          }))
        }
      />
      {previous?.kind === 'other' && (
        <span className="field inline-flex flex-col">
          <span>
            <label htmlFor="previous-name">Which</label>
            <input
              id="previous-name"
              className="box"
              disabled={readOnly}
              defaultValue={previous.cropName}
              maxLength={120}
              onBlur={(e) => {
                const cropName = e.target.value.trim();
                if (cropName && cropName !== previous.cropName)
                  edit((p) => ({ ...p, previous: { kind: 'other', cropName } }));
              }}
            />
          </span>
        </span>
      )}
      {previous?.kind === 'green_manure' && <GreenManure previous={previous} />}
      {previous?.kind === 'legume' && (
        <>
          <ChoiceBox
            label="Which"
            disabled={readOnly}
            value={previous.legumeKey}
            options={keys}
            onValue={(v) =>
              v &&
              set({
                legumeKey: v,
                standClass:
                  legumeOf(v)[0]?.standClass === 'any' ? null : (previous.standClass ?? 'fair'),
              })
            }
          />
          {stand[0]?.standClass !== 'any' && (
            <ChoiceBox
              label="Stand, as claimed"
              disabled={readOnly}
              value={previous.standClass}
              options={stand.map((s) => ({
                value: s.standClass,
                label: `${s.standClass}: ${s.standDefinition}`,
              }))}
              onValue={(v) => v && set({ standClass: v as PreviousLegume['standClass'] })}
            />
          )}
          {hay && (
            <FigureBox
              label="Legume in the stand"
              optional
              disabled={readOnly}
              value={previous.legumeCoverPct}
              range={RANGES.legumeCoverPct}
              onValue={(v) => set({ legumeCoverPct: v })}
            />
          )}
          {stand[0]?.countedByPlants && (
            <FigureBox
              label="Plants"
              optional
              disabled={readOnly}
              value={previous.plantsM2}
              range={RANGES.plantsM2}
              onValue={(v) => set({ plantsM2: v })}
            />
          )}
          {hay && (
            <ChoiceBox
              label="Regrowth at the kill"
              disabled={readOnly}
              value={previous.regrowth}
              empty="not known"
              options={optionsOf(['full', 'half', 'none'])}
              onValue={(v) => set({ regrowth: v as PreviousLegume['regrowth'] })}
            />
          )}
          <FigureBox
            label="Share of tops carried off"
            optional
            disabled={readOnly}
            value={previous.removedFracTops}
            range={{ ...RANGES.share, label: 'Share carried off' }}
            onValue={(v) => set({ removedFracTops: v })}
          />
          <DateBox
            label="Killed on"
            disabled={readOnly}
            value={previous.killDate}
            onValue={(v) => set({ killDate: v })}
          />
          <ChoiceBox
            label="Kill"
            disabled={readOnly}
            value={previous.killTiming}
            empty={previous.killDate ? 'by its date' : 'early spring (assumed)'}
            options={levels('kill_timing')}
            onValue={(v) => set({ killTiming: v })}
          />
          <KillNote previous={previous} />
          <ChoiceBox
            label="Tillage"
            disabled={readOnly}
            value={previous.tillage}
            empty="inversion (default)"
            options={levels('tillage')}
            onValue={(v) => set({ tillage: v })}
          />
          <FigureBox
            label="Crops since the kill, this one included"
            disabled={readOnly}
            value={previous.yearsSinceKill}
            range={RANGES.yearsSinceKill}
            onValue={(v) => v !== null && set({ yearsSinceKill: v })}
          />
          <ChoiceBox
            label="Nitrate sample against the kill"
            disabled={readOnly}
            value={previous.overlap}
            options={[
              { value: 'none', label: 'no overlap' },
              { value: 'autumn_kill_spring_sample', label: 'killed in autumn, sampled in spring' },
              {
                value: 'kill_4_8_weeks_before_sample',
                label: 'killed 4-8 weeks before the sample',
              },
            ]}
            onValue={(v) => v && set({ overlap: v as PreviousLegume['overlap'] })}
          />
        </>
      )}
    </div>
  );
}
