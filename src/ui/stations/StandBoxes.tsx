'use client';

import { RANGES } from '@/core/quantity/range';
import { crops } from '@/core/book/crops';
import { ChoiceBox, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { editField, editSeason, useBook, useEdit, usePlan } from '../workspace/context';

/** What is known of the stand beside its yield. */
export function StandBoxes({ fixing, pruned }: { fixing: boolean; pruned: boolean }) {
  const plan = usePlan('season');
  const { edit, readOnly } = useEdit();
  const { stand } = plan.season;
  const set = (part: Partial<typeof stand>) => edit(editSeason({ stand: { ...stand, ...part } }));
  return (
    <div className="fields">
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
export function ForageBoxes() {
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
    <div className="mt-2 fields" role="group" aria-label="Years of forage">
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
