'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { usYieldToTHa } from '@/core/quantity/cropYield';
import { RANGES } from '@/core/quantity/range';
import { cropOf, crops, type Crop } from '@/core/book/crops';
import { stopRulesFor } from '@/core/book/stopRules';
import { crosswalkOf } from '@/core/book/crops';
import { legumeOf, legumes, modifierLevels } from '@/core/book/legumes';
import type { PreviousLegume } from '@/core/document/previousDocument';
import { ChoiceBox, DateBox, optionsOf, Part, TickBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { Warnings } from '../Warnings';
import {
  editField,
  editSeason,
  useBook,
  useAssessed,
  useEdit,
  usePlan,
} from '../workspace/context';
import { GreenManure, NEW_GREEN_MANURE, ResidueBoxes } from './GreenManure';
import { Problems } from './Problems';

// It brings the sums of fixation: fetched when the page stands.
const GrainBalance = dynamic(() => import('./GrainBalance').then((m) => m.GrainBalance), {
  ssr: false,
});

const PROTEIN_CROPS = [
  'winter_wheat',
  'spring_wheat',
  'durum_wheat',
  'winter_barley',
  'spring_barley_feed',
  'spring_barley_malting',
];

/** A yield in t/ha or in the crop's own unit per acre. */
function YieldBox({ crop }: { crop: Crop }) {
  const plan = usePlan('season');
  const { edit, readOnly } = useEdit();
  const { system } = useUnits();
  const [perAcre, setPerAcre] = useState(false);
  const us = perAcre || system === 'us';
  const factor = usYieldToTHa({ yieldUsPerAc: 1, kgPerUsUnit: crop.kgPerUsUnit }).yieldTHa;
  const goal = plan.season.yieldGoalTHa;
  const unit = `${words(crop.usYieldUnit)}/ac`;
  return (
    <span className="inline-flex flex-wrap items-baseline gap-2">
      <FigureBox
        key={us ? 'us' : 'metric'}
        label="Yield goal"
        disabled={readOnly}
        value={goal === null ? null : us ? Number((goal / factor).toFixed(4)) : goal}
        range={{
          label: 'Yield goal',
          unit: us ? unit : 't/ha',
          min: 0,
          max: Number((us ? crop.yieldMaxTHa / factor : crop.yieldMaxTHa).toFixed(1)),
          above: crop.nBaseKgHa === 0,
        }}
        onValue={(v) => edit(editSeason({ yieldGoalTHa: v === null ? null : us ? v * factor : v }))}
      />
      {system === 'metric' && <TickBox label={`in ${unit}`} value={perAcre} onValue={setPerAcre} />}
      <span className="note">
        {crop.product} at {crop.marketMoisturePct} % moisture; typical{' '}
        {us
          ? `${(crop.yieldTypicalTHa / factor).toFixed(0)} ${unit}`
          : `${crop.yieldTypicalTHa} t/ha`}
      </span>
    </span>
  );
}

function HistoryBox() {
  const plan = usePlan('season');
  const { edit, readOnly } = useEdit();
  const [typed, setTyped] = useState<string | null>(null);
  const text = plan.season.yieldHistoryTHa.join(' ');
  const parts = (typed ?? text).trim() === '' ? [] : (typed ?? text).trim().split(/[\s;]+/);
  const bad = parts.find(
    (x) =>
      !Number.isFinite(Number(x.replace(',', '.'))) ||
      Number(x.replace(',', '.')) < 0 ||
      Number(x.replace(',', '.')) > 500,
  );
  return (
    <span className="inline-flex flex-col">
      <label className="inline-flex items-baseline gap-1.5">
        Yields of earlier years, t/ha
        <input
          className="box w-56"
          disabled={readOnly}
          value={typed ?? text}
          aria-invalid={bad ? true : undefined}
          onChange={(e) => {
            setTyped(e.target.value);
            const list =
              e.target.value.trim() === ''
                ? []
                : e.target.value
                    .trim()
                    .split(/[\s;]+/)
                    .map((x) => Number(x.replace(',', '.')));
            if (list.every((x) => Number.isFinite(x) && x >= 0 && x <= 500) && list.length <= 15)
              edit(editSeason({ yieldHistoryTHa: list }));
          }}
          onBlur={() => {
            if (!bad) setTyped(null);
          }}
        />
      </label>
      {bad && (
        <span role="alert" className="problem">
          Yield = {bad} is not a number from 0 to 500 t/ha; part the years with spaces.
        </span>
      )}
    </span>
  );
}

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

function PreviousCrop() {
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
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
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
        <label className="inline-flex items-baseline gap-1.5">
          which
          <input
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
        </label>
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
            empty="early spring (default)"
            options={levels('kill_timing')}
            onValue={(v) => set({ killTiming: v })}
          />
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

/** What is known of the stand beside its yield. */
function StandBoxes({ fixing, pruned }: { fixing: boolean; pruned: boolean }) {
  const plan = usePlan('season');
  const { edit, readOnly } = useEdit();
  const { stand } = plan.season;
  const set = (part: Partial<typeof stand>) => edit(editSeason({ stand: { ...stand, ...part } }));
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
      <TickBox
        label="a legume stands in or under it"
        disabled={readOnly}
        value={stand.companionLegume}
        onValue={(v) => set({ companionLegume: v })}
      />
      {fixing && (
        <>
          <TickBox
            label="grown here for the first time"
            disabled={readOnly}
            value={stand.firstTimeHere}
            onValue={(v) => set({ firstTimeHere: v })}
          />
          <TickBox
            label="nodules failed"
            disabled={readOnly}
            value={stand.nodulesFailed}
            onValue={(v) => set({ nodulesFailed: v })}
          />
        </>
      )}
      <TickBox
        label="after six months of bare fallow"
        disabled={readOnly}
        value={stand.afterBareFallow}
        onValue={(v) => set({ afterBareFallow: v })}
      />
      <TickBox
        label="a cover crop stood well over winter"
        disabled={readOnly}
        value={stand.winterCover}
        onValue={(v) => set({ winterCover: v })}
      />
      {plan.season.strawRemovedFrac > 0 && (
        <TickBox
          label="rain of over 25 mm on the straw"
          disabled={readOnly}
          value={stand.strawWashed}
          onValue={(v) => set({ strawWashed: v })}
        />
      )}
      {pruned && (
        <FigureBox
          label="Prunings carried off"
          disabled={readOnly}
          value={stand.pruningsTDmHa}
          range={{ label: 'Prunings carried off', unit: 't DM/ha', min: 0, max: 25 }}
          onValue={(v) => v !== null && set({ pruningsTDmHa: v })}
        />
      )}
      <TickBox
        label="hit by drought, frost or hail"
        disabled={readOnly}
        value={stand.stressed}
        onValue={(v) => set({ stressed: v })}
      />
      <FigureBox
        label="Yield that water or stand allow, as a share"
        optional
        disabled={readOnly}
        value={stand.otherLimitRy}
        range={{ ...RANGES.share, label: 'Share of the goal' }}
        onValue={(v) => set({ otherLimitRy: v })}
      />
    </div>
  );
}

/** Years of hay, silage or greenfeed behind this season: what they took, and what came back. */
function ForageBoxes() {
  const plan = usePlan('field');
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const { forage } = plan.field;
  const set = (part: Partial<NonNullable<typeof forage>>) =>
    edit((p) =>
      p.field.forage ? { ...p, field: { ...p.field, forage: { ...p.field.forage, ...part } } } : p,
    );
  if (!forage)
    return readOnly ? null : (
      <p className="mt-2">
        <button
          type="button"
          className="button"
          onClick={() =>
            edit(
              editField({
                forage: {
                  cropKey: 'grass_clover_ley',
                  yieldsTHa: [8, 8, 8],
                  returnedPKgHa: 0,
                  returnedKKgHa: 0,
                },
              }),
            )
          }
        >
          Years of hay, silage or greenfeed before
        </button>
      </p>
    );
  const years = forage.yieldsTHa;
  return (
    <div
      className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-2"
      role="group"
      aria-label="Years of forage"
    >
      <ChoiceBox
        label="Forage"
        disabled={readOnly}
        value={forage.cropKey}
        options={crops(book)
          .filter((c) => c.group.startsWith('forage') || c.key === 'cereal_greenfeed')
          .map((c) => ({ value: c.key, label: c.name }))}
        onValue={(v) => v && set({ cropKey: v })}
      />
      {years.map((y, i) => (
        <FigureBox
          key={i}
          label={`Year ${i + 1}`}
          disabled={readOnly}
          value={y}
          range={{ label: `Yield of year ${i + 1}`, unit: 't/ha', min: 0, max: 100 }}
          onValue={(v) => v !== null && set({ yieldsTHa: years.map((x, k) => (k === i ? v : x)) })}
        />
      ))}
      {!readOnly && (
        <>
          <button
            type="button"
            className="button"
            onClick={() => set({ yieldsTHa: [...years, years.at(-1) ?? 8].slice(0, 15) })}
          >
            One year more
          </button>
          <button
            type="button"
            className="button"
            onClick={() =>
              years.length > 1
                ? set({ yieldsTHa: years.slice(0, -1) })
                : edit(editField({ forage: null }))
            }
          >
            One year less
          </button>
        </>
      )}
      <FigureBox
        label="P brought back in these years"
        disabled={readOnly}
        value={forage.returnedPKgHa}
        range={{ label: 'P brought back', unit: 'kg/ha', min: 0, max: 3000 }}
        onValue={(v) => v !== null && set({ returnedPKgHa: v })}
      />
      <FigureBox
        label="K brought back"
        disabled={readOnly}
        value={forage.returnedKKgHa}
        range={{ label: 'K brought back', unit: 'kg/ha', min: 0, max: 3000 }}
        onValue={(v) => v !== null && set({ returnedKKgHa: v })}
      />
    </div>
  );
}

/** Crop: what is to grow, how much of it, when, and what stood there before. */
export function CropStation() {
  const plan = usePlan('season');
  const a = useAssessed('realistic', 'warnings');
  const { edit, readOnly } = useEdit();
  const { season } = plan;
  const book = useBook();
  const crop = season.cropKey ? cropOf(book, season.cropKey as string) : null;
  const listed = crops(book);
  const groups = [...new Set(listed.map((c) => c.group))];
  const seasonCrop = crop ? crosswalkOf(book, crop.key).seasonCropId : null;
  const uses = seasonCrop ? [...new Set(stopRulesFor(seasonCrop).map((r) => r.use))] : [];
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <div>
        <Part title="Crop and goal">
          <div className="flex flex-col items-start gap-2">
            <span className="inline-flex items-baseline gap-1.5">
              <label htmlFor="crop">Crop</label>
              <select
                id="crop"
                className="box"
                disabled={readOnly}
                value={season.cropKey ?? ''}
                onChange={(e) =>
                  edit(
                    editSeason({
                      cropKey: e.target.value || null,
                      use: null,
                      proteinTargetPct: null,
                      legumeShare: null,
                    }),
                  )
                }
              >
                <option value="">choose a crop</option>
                {groups.map((g) => (
                  <optgroup key={g} label={words(g)}>
                    {listed
                      .filter((c) => c.group === g)
                      .map((c) => (
                        <option key={c.key} value={c.key}>
                          {c.name}
                        </option>
                      ))}
                  </optgroup>
                ))}
              </select>
            </span>
            {crop && uses.length > 1 && (
              <ChoiceBox
                label="Use"
                disabled={readOnly}
                value={season.use}
                empty="not set"
                options={optionsOf(uses)}
                onValue={(v) => edit(editSeason({ use: v }))}
              />
            )}
            {crop && <YieldBox crop={crop} />}
            <HistoryBox />
            {a.realistic && (
              <p className="note">
                {a.realistic.bookYield
                  ? `Fewer than three years: book yield ${a.realistic.realisticYieldTHa} t/ha.`
                  : `Realistic goal from these years: ${a.realistic.realisticYieldTHa.toFixed(1)} t/ha (mean x 1.05${season.yieldHistoryTHa.length >= 5 ? ', worst year left out' : ''}).`}
              </p>
            )}
            {crop && PROTEIN_CROPS.includes(crop.key) && (
              <FigureBox
                label="Protein target"
                optional
                disabled={readOnly}
                value={season.proteinTargetPct}
                range={RANGES.proteinPct}
                onValue={(v) => edit(editSeason({ proteinTargetPct: v }))}
              />
            )}
            {crop?.nFixing === 'mixed_ley' && (
              <FigureBox
                label="Legume share of the stand"
                optional
                disabled={readOnly}
                value={season.legumeShare}
                range={{ ...RANGES.share, label: 'Legume share' }}
                onValue={(v) => edit(editSeason({ legumeShare: v }))}
              />
            )}
            {crop && crop.nBaseKgHa > 0 && (
              <FigureBox
                label="Year since planting"
                optional
                disabled={readOnly}
                value={season.plantingYear}
                range={{ label: 'Planting year', unit: '', min: 1, max: 100 }}
                onValue={(v) => edit(editSeason({ plantingYear: v }))}
              />
            )}
            {crop?.residueDmTPerT != null && (
              <FigureBox
                label="Share of straw or tops carried off"
                disabled={readOnly}
                value={season.strawRemovedFrac}
                range={{ ...RANGES.share, label: 'Straw carried off' }}
                onValue={(v) => v !== null && edit(editSeason({ strawRemovedFrac: v }))}
              />
            )}
          </div>
        </Part>
        <Part title="Dates">
          <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
            <DateBox
              label={crop && crop.nBaseKgHa > 0 ? 'Planted on (if young)' : 'Planting or sowing'}
              disabled={readOnly}
              value={season.plantingDate}
              onValue={(v) => edit(editSeason({ plantingDate: v }))}
            />
            <DateBox
              label="First harvest"
              disabled={readOnly}
              value={season.harvestDate}
              min={season.startDate}
              onValue={(v) => edit(editSeason({ harvestDate: v }))}
            />
            <TickBox
              label="may be eaten raw"
              disabled={readOnly}
              value={season.eatenRaw}
              onValue={(v) => edit(editSeason({ eatenRaw: v }))}
            />
            <TickBox
              label="touches the soil"
              disabled={readOnly}
              value={season.touchesSoil}
              onValue={(v) => edit(editSeason({ touchesSoil: v }))}
            />
          </div>
        </Part>
        <Part title="The stand">
          <StandBoxes
            fixing={crop?.nFixing === 'grain_legume' || crop?.nFixing === 'forage_legume'}
            pruned={crop !== null && crop !== undefined && crop.residueDmTPerT === null}
          />
        </Part>
      </div>
      <div>
        <Part title="What stood there before" aside="what was cut and carried off is not credited">
          <PreviousCrop />
          <GrainBalance />
          <ResidueBoxes />
          <ForageBoxes />
        </Part>
        <Problems station="crop" />
        <Warnings
          list={a.warnings.filter(
            (w) =>
              w.id.startsWith('Y-') ||
              [
                'N-10',
                'N-12',
                'N-13',
                'N-14',
                'N-15',
                'N-16',
                'N-18',
                'N-18b',
                'N-19',
                'N-23',
                'N-31',
                'M-01',
                'X-01',
                'F-01',
              ].includes(w.id),
          )}
        />
      </div>
    </div>
  );
}
