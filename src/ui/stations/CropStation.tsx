'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
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
    <span className="field inline-flex flex-col">
      <span>
        <label htmlFor="yields">Yields of earlier years, t/ha</label>
        <input
          id="yields"
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
      </span>
      {bad && (
        <span role="alert" className="problem">
          Yield = {bad} is not a number from 0 to 500 t/ha; part the years with spaces.
        </span>
      )}
    </span>
  );
}

/** Crop: what is to grow, how much of it, when, and what stood there before. */
export function CropStation() {
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
            <HistoryBox />
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
                  ? `Fewer than three years: book yield ${a.realistic.realisticYieldTHa} t/ha.`
                  : `Realistic goal from these years: ${a.realistic.realisticYieldTHa.toFixed(1)} t/ha (mean x 1.05${season.yieldHistoryTHa.length >= 5 ? ', worst year left out' : ''}).`}
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
