'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { Plan } from '@/core/document/document';
import { MOST_PASSES } from '@/core/document/most';
import { dateInWords } from '@/core/quantity/calendar';
import {
  correctionsFor,
  spraysAsPasses,
  type Action,
  type GateAnswer,
} from '@/core/views/corrections';
import type { LeafBeside } from '@/core/views/leafBeside';
import { Part } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useUnits } from '../frame/units';
import { Warnings } from '../Warnings';
import {
  editSeason,
  lineId,
  useBook,
  useEdit,
  useWholeAssessment,
  useWholePlan,
} from '../workspace/context';
import { useCalendar, useKnownPlan } from './useCalendar';

const ANSWER: Readonly<Record<GateAnswer, string>> = {
  yes: 'yes',
  no: 'no',
  not_known: 'not known',
};

/** What is done about each nutrient that is short: this season, next, or nothing and why. */
export function ActionsPart({ beside }: { beside: LeafBeside }) {
  const plan = useKnownPlan();
  const a = useWholeAssessment();
  const book = useBook();
  const calendar = useCalendar();
  const [tmax, setTmax] = useState<number | null>(null);
  const actions = correctionsFor(book, plan, a, calendar, beside, tmax);
  if (!beside.leaf)
    return <p className="note">There is no leaf to act on: take one, or bring in its values.</p>;
  return (
    <Part
      title="What to do about it"
      aside={`by the leaf of ${dateInWords(beside.leaf.sample.date)}; the leaf does not say how many kg/ha: the budget does`}
    >
      {actions.length === 0 ? (
        <p data-testid="no-action">
          <strong>Nothing.</strong> No nutrient lies below its range: a spray or a dressing would
          bring no yield.
        </p>
      ) : (
        <>
          <p>
            <FigureBox
              label="Warmest hour of the spray day"
              optional
              value={tmax}
              range={{ label: 'Warmest hour', unit: '°C', min: -10, max: 50 }}
              onValue={setTmax}
            />
          </p>
          {actions.map((x) => (
            <OneAction key={x.nutrient} action={x} />
          ))}
        </>
      )}
      <Later />
      <p className="note max-w-[52rem]">
        The label of the registered product ranks above this page, and so do local rules on water,
        bees, drift and protective clothing. Jar test; never two salts above half a per cent in one
        tank; leave a strip without.
      </p>
    </Part>
  );
}

function OneAction({ action: x }: { action: Action }) {
  const { edit, readOnly } = useEdit();
  const held = useWholePlan().passes.length;
  const [said, setSaid] = useState<string | null>(null);
  const { show, unit, words } = useUnits();
  const kg = (v: number) => `${show(v, 'product_rate', v < 10 ? 2 : 0)} ${unit('product_rate')}`;
  const addSprays = () => {
    const { spray } = x;
    if (!spray) return;
    const more = spraysAsPasses(spray, lineId);
    if (held + more.length > MOST_PASSES)
      return setSaid(`A plan holds ${MOST_PASSES} passes: ${more.length} more are too many.`);
    setSaid(null);
    edit((p) => ({ ...p, passes: [...p.passes, ...more] }));
  };
  const addSoil = () => {
    const { soil } = x;
    if (!soil) return;
    edit((p) =>
      editSeason({
        nextSeason: [
          ...p.season.nextSeason.filter((c) => c.nutrient !== x.nutrient),
          {
            id: lineId(),
            nutrient: x.nutrient,
            productId: soil.product.productId,
            productKgHa: Number(soil.productKgHa.toPrecision(3)),
            why: `${x.nutrient} ${x.cls.replaceAll('_', ' ')} in the leaf`,
          },
        ],
      })(p),
    );
  };
  return (
    <article className="mb-4 border-b border-rule pb-3" data-testid={`action-${x.nutrient}`}>
      <h3>
        {x.nutrient}, {x.cls.replaceAll('_', ' ')}
      </h3>
      <p className="max-w-[52rem] font-bold">{words(x.words)}</p>
      {x.gates.length > 0 && (
        <ol className="max-w-[52rem] list-decimal pl-5">
          {x.gates.map((g) => (
            <li key={g.question} className={g.answer === 'no' ? 'font-bold' : ''}>
              {g.question} <strong>{ANSWER[g.answer]}.</strong>{' '}
              <span className="note">{words(g.why)}</span>
            </li>
          ))}
        </ol>
      )}
      {x.barred !== null && (
        <p className="problem">
          {x.barred} may not go onto certified land: the certifier’s list decides what may.
        </p>
      )}
      {x.spray && (
        <p className="max-w-[52rem]">
          {x.spray.product.name}, {kg(x.spray.productKgHa)} in{' '}
          {show(x.spray.waterLHa, 'liquid_rate')} {unit('liquid_rate')} of water (
          {x.spray.strengthPct.toFixed(2)} %
          {x.spray.maxPct === null ? '' : `, at most ${x.spray.maxPct} %`}
          ): {x.spray.dates.map(dateInWords).join(', ')}.
          {x.spray.retestOn &&
            ` Sample again from ${dateInWords(x.spray.retestOn)} on, leaves that grew after it.`}
        </p>
      )}
      {x.found?.row.caution && <p className="note max-w-[52rem]">{x.found.row.caution}.</p>}
      {x.found && (
        <p className="note">
          {x.found.row.source}, confidence {x.found.row.confidence}
        </p>
      )}
      <Warnings list={x.warnings} />
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      {!readOnly && (
        <p className="mt-1 flex flex-wrap gap-2">
          {x.spray && x.open && (
            <button type="button" className="button button-strong" onClick={addSprays}>
              <Plus size={13} aria-hidden /> Plan the {x.spray.sprays === 1 ? 'spray' : 'sprays'}
            </button>
          )}
          {x.soil && (
            <button type="button" className="button" onClick={addSoil}>
              <Plus size={13} aria-hidden /> {x.soil.product.name}, {kg(x.soil.productKgHa)}, to the
              soil of next season
            </button>
          )}
        </p>
      )}
    </article>
  );
}

/** What the next season begins with. */
function Later() {
  const plan = useWholePlan();
  const { edit, readOnly } = useEdit();
  const { show, unit } = useUnits();
  const list: Plan['season']['nextSeason'] = plan.season.nextSeason;
  if (list.length === 0) return null;
  return (
    <section aria-label="Next season begins with" className="mb-3" data-testid="next-season">
      <h3>Next season begins with</h3>
      <ul>
        {list.map((c) => (
          <li key={c.id}>
            {show(c.productKgHa, 'product_rate')} {unit('product_rate')}{' '}
            {c.productId.replaceAll('_', ' ')}: {c.why}{' '}
            {!readOnly && (
              <button
                type="button"
                className="plain"
                onClick={() =>
                  edit((p) =>
                    editSeason({ nextSeason: p.season.nextSeason.filter((x) => x.id !== c.id) })(p),
                  )
                }
              >
                remove
              </button>
            )}
          </li>
        ))}
      </ul>
      <p className="note">
        They stand among what this season hands on, and become planned passes of the next one.
      </p>
    </section>
  );
}
