'use client';

import { Plus, Trash2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { GREEN_MANURE_STAGES } from '@/core/budget/schools';
import { KillNote } from './StandClock';
import { RANGES } from '@/core/quantity/range';
import { greenManures, residuePlacements } from '@/core/book/greenManures';
import { modifierLevels } from '@/core/book/legumes';
import type { GreenManurePlan } from '@/core/document/previousDocument';
import { ChoiceBox, DateBox, optionsOf } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { replaceAt, without, useEdit, usePlan } from '../workspace/context';
import { Weighing } from './Weighing';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

// It works the mixture out three times over: fetched when the page stands.
const GreenManureReading = dynamic(
  () => import('./GreenManureReading').then((m) => m.GreenManureReading),
  { ssr: false },
);
export const NEW_GREEN_MANURE: GreenManurePlan = {
  kind: 'green_manure',
  dmTHa: 0,
  weighed: null,
  species: [{ speciesKey: 'hairy_vetch', share: 1, stage: 'early_flower', nPct: null }],
  removedFracTops: 0,
  placement: 'ploughed_in',
  killDate: null,
  killTiming: null,
  weeksTo80pctUptake: null,
};

/**
 * A green manure or catch crop from cut and weighed quadrats: each species with its share of the
 * dry matter, its stage and its N.
 */
export function GreenManure({ previous }: { previous: GreenManurePlan }) {
  const { edit, readOnly } = useEdit();
  const set = (part: Partial<GreenManurePlan>) =>
    edit((p) =>
      p.previous?.kind === 'green_manure' ? { ...p, previous: { ...p.previous, ...part } } : p,
    );
  const { species } = previous;
  const sum = species.reduce((t, s) => t + s.share, 0);
  const names = greenManures().map((g) => ({ value: g.speciesKey, label: g.name }));
  return (
    <div className="basis-full">
      <Weighing
        weighed={previous.weighed}
        disabled={readOnly}
        onWeighed={(weighed, dmTHa) => set({ weighed, dmTHa })}
      />
      <div className="mb-1 fields">
        <FigureBox
          label="Dry matter"
          disabled={readOnly}
          optional
          value={previous.dmTHa === 0 ? null : previous.dmTHa}
          range={{ label: 'Dry matter', unit: 't DM/ha', min: 0, max: 25 }}
          onValue={(v) => set({ dmTHa: v ?? 0, weighed: null })}
        />
        <FigureBox
          label="Share of tops carried off"
          disabled={readOnly}
          value={previous.removedFracTops}
          range={{ ...RANGES.share, label: 'Share carried off' }}
          onValue={(v) => v !== null && set({ removedFracTops: v })}
        />
        <ChoiceBox
          label="It lies"
          disabled={readOnly}
          value={previous.placement}
          options={optionsOf(residuePlacements())}
          onValue={(v) => v && set({ placement: v })}
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
          options={optionsOf(modifierLevels('kill_timing'))}
          onValue={(v) => set({ killTiming: v })}
        />
        <KillNote previous={previous} />
        <FigureBox
          label="Weeks until the crop has 80 % of its N"
          optional
          disabled={readOnly}
          value={previous.weeksTo80pctUptake}
          range={{ label: 'Weeks', unit: 'weeks', min: 0, max: 40 }}
          onValue={(v) => set({ weeksTo80pctUptake: v })}
        />
      </div>
      <table className="ruled max-w-[44rem]">
        <thead>
          <tr>
            <th>Species</th>
            <th>Share of DM</th>
            <th>Stage</th>
            <th>N, %</th>
            <RemoveHead />
          </tr>
        </thead>
        <tbody>
          {species.map((s, i) => (
            <tr key={i}>
              <th scope="row">
                <ChoiceBox
                  label={`Species ${i + 1}`}
                  hideLabel
                  disabled={readOnly}
                  value={s.speciesKey}
                  options={names}
                  onValue={(v) => v && set({ species: replaceAt(species, i, { speciesKey: v }) })}
                />
              </th>
              <td>
                <FigureBox
                  label={`Share of species ${i + 1}`}
                  hideLabel
                  disabled={readOnly}
                  value={s.share}
                  range={{ ...RANGES.share, label: 'Share' }}
                  onValue={(v) =>
                    v !== null && set({ species: replaceAt(species, i, { share: v }) })
                  }
                />
              </td>
              <td>
                <ChoiceBox
                  label={`Stage of species ${i + 1}`}
                  hideLabel
                  disabled={readOnly}
                  value={s.stage}
                  options={optionsOf(GREEN_MANURE_STAGES)}
                  onValue={(v) =>
                    v &&
                    set({
                      species: replaceAt(species, i, {
                        stage: v as GreenManurePlan['species'][number]['stage'],
                      }),
                    })
                  }
                />
              </td>
              <td>
                <FigureBox
                  label={`N of species ${i + 1}`}
                  hideLabel
                  optional
                  disabled={readOnly}
                  value={s.nPct}
                  range={{ label: 'N', unit: '', min: 0.3, max: 6 }}
                  onValue={(v) => set({ species: replaceAt(species, i, { nPct: v }) })}
                />
              </td>
              <td>
                {!readOnly && species.length > 1 && (
                  <RemoveButton
                    label={`Remove species ${i + 1}`}
                    onClick={() => set({ species: without(species, i) })}
                  />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {Math.abs(sum - 1) > 0.02 && (
        <p role="alert" className="problem">
          The shares sum to {sum.toFixed(2)}, not to 1: they are shares of the dry matter, not of
          the seed.
        </p>
      )}
      <GreenManureReading previous={previous} />
      {!readOnly && species.length < 12 && (
        <button
          type="button"
          className="button mt-1"
          onClick={() =>
            set({
              species: [
                ...species,
                {
                  speciesKey: 'cereal_rye',
                  share: Number(Math.max(0, 1 - sum).toFixed(2)),
                  stage: 'early_flower',
                  nPct: null,
                },
              ],
            })
          }
        >
          <Plus size={13} aria-hidden /> Species
        </button>
      )}
    </div>
  );
}

/** Straw, tops and leaves that stay on the field: they take N or give it. */
export function ResidueBoxes() {
  const plan = usePlan('residue');
  const { edit, readOnly } = useEdit();
  const { residue } = plan;
  const set = (part: Partial<NonNullable<typeof residue>>) =>
    edit((p) => (p.residue ? { ...p, residue: { ...p.residue, ...part } } : p));
  if (!residue)
    return readOnly ? null : (
      <button
        type="button"
        className="button mt-2"
        onClick={() =>
          edit((p) => ({
            ...p,
            residue: { leftTDmHa: 4, nKgTDm: 6, placement: 'ploughed_in', leadWeeks: 0 },
          }))
        }
      >
        <Plus size={13} aria-hidden /> Straw or leaves left on the field
      </button>
    );
  return (
    <div className="mt-2 fields" role="group" aria-label="Residues">
      <FigureBox
        label="Residue left"
        disabled={readOnly}
        value={residue.leftTDmHa}
        range={{ label: 'Residue left', unit: 't DM/ha', min: 0, max: 25 }}
        onValue={(v) => v !== null && set({ leftTDmHa: v })}
      />
      <FigureBox
        label="N in it"
        disabled={readOnly}
        value={residue.nKgTDm}
        range={{ label: 'N of the residue', unit: 'kg/t DM', min: 0, max: 60, above: true }}
        onValue={(v) => v !== null && set({ nKgTDm: v })}
      />
      <ChoiceBox
        label="Residue lies"
        disabled={readOnly}
        value={residue.placement}
        options={optionsOf(residuePlacements())}
        onValue={(v) => v && set({ placement: v })}
      />
      <FigureBox
        label="Weeks before planting"
        disabled={readOnly}
        value={residue.leadWeeks}
        range={{ label: 'Weeks before planting', unit: 'weeks', min: 0, max: 52 }}
        onValue={(v) => v !== null && set({ leadWeeks: v })}
      />
      {!readOnly && (
        <button
          type="button"
          className="button"
          onClick={() => edit((p) => ({ ...p, residue: null }))}
        >
          <Trash2 size={14} aria-hidden /> No residue
        </button>
      )}
    </div>
  );
}
