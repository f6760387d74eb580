'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { asWritten } from '@/core/quantity/units';
import { usYieldToTHa } from '@/core/quantity/cropYield';
import { RANGES } from '@/core/quantity/range';
import { cropOf, crops, type Crop } from '@/core/book/crops';
import { stopRulesFor } from '@/core/book/stopRules';
import { crosswalkOf, PIT_PRONE } from '@/core/book/crops';
import { ChoiceBox, DateBox, optionsOf, Part, SearchBox, TickBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { Cautions } from '../Cautions';
import { editSeason, useBook, useAssessed, useEdit, usePlan } from '../workspace/context';
import { ResidueBoxes } from './GreenManure';
import { Problems } from './Problems';
import { PreviousCrop } from './PreviousCrop';
import { CutRows, GrowthBoxes } from './StandClock';
import { StandBoxes, ForageBoxes } from './StandBoxes';

const GrainBalance = dynamic(() => import('./GrainBalance').then((m) => m.GrainBalance), {
  ssr: false,
});

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
    <span className="fields">
      <FigureBox
        key={us ? 'us' : 'metric'}
        label="Yield goal"
        disabled={readOnly}
        value={goal === null ? null : us ? asWritten(goal / factor) : goal}
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

const MOST_T_HA = 500;
/** Earlier yields, in t/ha or in the crop's own unit per acre. */
function HistoryBox({ crop }: { crop: Crop | null }) {
  const plan = usePlan('season');
  const { edit, readOnly } = useEdit();
  const { system } = useUnits();
  const [typed, setTyped] = useState<string | null>(null);
  const us = system === 'us' && crop !== null;
  const factor = us ? usYieldToTHa({ yieldUsPerAc: 1, kgPerUsUnit: crop.kgPerUsUnit }).yieldTHa : 1;
  const unit = us ? `${words(crop.usYieldUnit)}/ac` : 't/ha';
  const most = Math.floor(MOST_T_HA / factor);
  const stored = plan.season.yieldHistoryTHa.map((y) => asWritten(y / factor)).join(' ');
  const text = typed ?? stored;
  const parts = text.trim() === '' ? [] : text.trim().split(/[\s;]+/);
  const read = (part: string): number => Number(part.replace(',', '.'));
  const bad = parts.find((x) => !(read(x) >= 0 && read(x) <= most));
  return (
    <span className="field inline-flex flex-col">
      <span>
        <label htmlFor="yields">Yields of earlier years, {unit}</label>
        <input
          id="yields"
          className="box w-56"
          disabled={readOnly}
          value={text}
          aria-invalid={bad ? true : undefined}
          onChange={(e) => {
            const now = e.target.value;
            setTyped(now);
            const list =
              now.trim() === ''
                ? []
                : now
                    .trim()
                    .split(/[\s;]+/)
                    .map(read);
            if (list.every((x) => x >= 0 && x <= most) && list.length <= 15)
              edit(editSeason({ yieldHistoryTHa: list.map((x) => x * factor) }));
          }}
          onBlur={() => {
            if (!bad) setTyped(null);
          }}
        />
      </span>
      {bad && (
        <span role="alert" className="problem">
          Yield = {bad} is not a number from 0 to {most} {unit}; part the years with spaces.
        </span>
      )}
    </span>
  );
}

/** Crop: what is to grow, how much of it, when, and what stood there before. */
export function CropStation() {
  const { words: said } = useUnits();
  const plan = usePlan('season');
  const a = useAssessed('realistic');
  const { edit, readOnly } = useEdit();
  const { season } = plan;
  const book = useBook();
  const crop = season.cropKey ? cropOf(book, season.cropKey as string) : null;
  const listed = crops(book);
  const seasonCrop = crop ? crosswalkOf(book, crop.key).seasonCropId : null;
  const uses = [
    ...new Set(seasonCrop ? stopRulesFor(seasonCrop).map((r) => r.use) : []),
    ...(crop && crosswalkOf(book, crop.key).pitProneTissueCrop ? [PIT_PRONE] : []),
  ];
  return (
    <div className="grid gap-x-8 xl:grid-cols-2">
      <div>
        <Part title="Crop and goal">
          <div className="fields">
            <SearchBox
              label="Crop"
              disabled={readOnly}
              value={season.cropKey}
              empty="choose a crop"
              options={listed.map((c) => ({ value: c.key, label: c.name, group: words(c.group) }))}
              onValue={(cropKey) =>
                edit(
                  editSeason({
                    cropKey,
                    use: null,
                    proteinTargetPct: null,
                    legumeShare: null,
                    cuts: [],
                    budBurst: null,
                    leafFall: null,
                  }),
                )
              }
            />
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
            <HistoryBox crop={crop} />
            {crop && (
              <FigureBox
                label={`Yield harvested, ${season.label}`}
                optional
                disabled={readOnly}
                value={season.harvestedTHa}
                dimension="mass_rate"
                range={{ label: 'Yield harvested', unit: 't/ha', min: 0, max: 500 }}
                onValue={(v) => edit(editSeason({ harvestedTHa: v }))}
              />
            )}
            {a.realistic && (
              <p className="note basis-full">
                {a.realistic.bookYield
                  ? said(
                      `Fewer than three years: book yield ${a.realistic.realisticYieldTHa} t/ha.`,
                    )
                  : said(
                      `Realistic goal from these years: ${a.realistic.realisticYieldTHa.toFixed(1)} t/ha (mean x 1.05${season.yieldHistoryTHa.length >= 5 ? ', worst year left out' : ''}).`,
                    )}
              </p>
            )}
            {crop && crop.proteinNFactor !== null && (
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
          <div className="fields">
            <DateBox
              label={crop && crop.nBaseKgHa > 0 ? 'Planted on (if young)' : 'Planting or sowing'}
              disabled={readOnly}
              value={season.plantingDate}
              onValue={(v) => edit(editSeason({ plantingDate: v }))}
            />
            <DateBox
              label={crop?.cut ? 'Last cut' : 'First harvest'}
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
            {crop && <GrowthBoxes crop={crop} />}
            {crop && <CutRows crop={crop} />}
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
        <Cautions station="crop" />
      </div>
    </div>
  );
}
