'use client';

import { chosenSchools } from '@/core/lines/chosenSchools';
import { RANGES } from '@/core/quantity/range';
import { moistureClasses } from '@/core/book/budgetTables';
import { ChoiceBox, optionsOf, Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import dynamic from 'next/dynamic';
import { N_SCHOOL_WORDS, PK_SCHOOL_WORDS, SchoolsPart } from '../budget/SchoolsPart';
import { WaterBoxes } from '../budget/WaterBoxes';
import { Cautions } from '../Cautions';
import { useUnits } from '../frame/units';
import { editSeason, useAssessed, useEdit, usePlan } from '../workspace/context';
import { Barrel } from './Barrel';
import { GroundList } from './GroundList';
import { LedgerSheet } from './LedgerSheet';
import { OrganicRows } from './OrganicRows';
import { Problems } from './Problems';

// It assesses the field anew for each column: the core comes with it, once the page stands.
const FieldBalancePart = dynamic(
  () => import('../budget/FieldBalancePart').then((m) => m.FieldBalancePart),
  { ssr: false },
);
const SideBySide = dynamic(() => import('../budget/SideBySide').then((m) => m.SideBySide), {
  ssr: false,
});

function SeasonConditions() {
  const plan = usePlan('cropN', 'season');
  const { edit, readOnly } = useEdit();
  const { season, cropN } = plan;
  return (
    <div className="fields">
      <FigureBox
        label="Winter drainage"
        disabled={readOnly}
        value={season.winterDrainageMm}
        range={RANGES.drainageMm}
        onValue={(v) => v !== null && edit(editSeason({ winterDrainageMm: v }))}
      />
      <ChoiceBox
        label="Moisture of the season"
        disabled={readOnly}
        value={season.moistureClass}
        options={optionsOf(moistureClasses())}
        onValue={(v) => v && edit(editSeason({ moistureClass: v }))}
      />
      <FigureBox
        label="Soil temperature"
        optional
        disabled={readOnly}
        value={season.soilTempSeasonC}
        range={RANGES.soilTempC}
        onValue={(v) => edit(editSeason({ soilTempSeasonC: v }))}
      />
      <FigureBox
        label="Days of release"
        optional
        disabled={readOnly}
        value={season.releaseDays}
        range={RANGES.seasonDays}
        onValue={(v) => edit(editSeason({ releaseDays: v }))}
      />
      <FigureBox
        label="N deposition in a year"
        optional
        disabled={readOnly}
        value={season.depositionNKgHa}
        dimension="nutrient_rate"
        range={RANGES.depositionN}
        onValue={(v) => edit(editSeason({ depositionNKgHa: v }))}
      />
      <FigureBox
        label="S deposition in a year"
        optional
        disabled={readOnly}
        value={season.depositionSKgHa}
        dimension="nutrient_rate"
        range={RANGES.depositionS}
        onValue={(v) => edit(editSeason({ depositionSKgHa: v }))}
      />
      <WaterBoxes />
      <FigureBox
        label="Shoots of a winter cereal in spring"
        optional
        disabled={readOnly}
        value={cropN?.shootsM2 ?? null}
        range={{ label: 'Shoots', unit: 'per m2', min: 0, max: 3000 }}
        onValue={(v) =>
          edit((p) => ({
            ...p,
            cropN: v === null ? null : { cropNKgHa: null, gai: null, shootsM2: v },
          }))
        }
      />
    </div>
  );
}

/** Ca, Mg and trace elements: told, not budgeted. */
function SecondaryNote() {
  const a = useAssessed('secondary');
  const { show, unit } = useUnits();
  if (!a.secondary) return null;
  return (
    <p className="note mt-2">
      With the harvest leave about {show(a.secondary.caKgHa, 'nutrient_rate')} Ca and{' '}
      {show(a.secondary.mgKgHa, 'nutrient_rate')} Mg, {unit('nutrient_rate')}: for information.
      Their dose, and trace elements, are decided by the soil, at Ground.
    </p>
  );
}

/** Budget: requirement minus what is found already, line by line, with the reason for each. */
export function BudgetStation() {
  const plan = usePlan('farm', 'schools');
  return (
    <>
      <div className="grid gap-x-8 xl:grid-cols-[3fr_2fr]">
        <div>
          <Part
            title="The sheet"
            aside={`N by ${N_SCHOOL_WORDS[chosenSchools(plan).n]}; P and K: ${PK_SCHOOL_WORDS[chosenSchools(plan).pk]}`}
          >
            <LedgerSheet strike />
          </Part>
          <Problems station="budget" />
          <FieldBalancePart />
        </div>
        <div>
          <Part title="Limiting factor">
            <Barrel />
          </Part>
          <Part title="This ground">
            <GroundList />
            <SecondaryNote />
          </Part>
        </div>
      </div>
      <div className="grid gap-x-8 xl:grid-cols-[2fr_3fr]">
        <Part
          title="Recommendation system"
          aside="a dose holds what the soil gives; a total supply does not"
        >
          <SchoolsPart />
        </Part>
        <Part title="Side by side">
          <SideBySide />
        </Part>
      </div>
      <div className="grid gap-x-8 xl:grid-cols-2">
        <Part title="Manure and compost">
          <OrganicRows />
        </Part>
        <div>
          <Part title="To settle">
            <Cautions station="budget" empty="Nothing to settle." />
          </Part>
          <Part title="Season and water" aside="empty means not known">
            <SeasonConditions />
          </Part>
        </div>
      </div>
    </>
  );
}
