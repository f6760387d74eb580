'use client';

import dynamic from 'next/dynamic';
import { newWater } from '@/core/document/defaults';
import type { Plan } from '@/core/document/document';
import { watersOf, type WaterFound } from '@/core/lines/waterFile';
import { RANGES } from '@/core/quantity/range';
import { DateBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { useEdit, usePlan } from '../workspace/context';

// A report is brought in now and then: its reader comes once the page stands.
const ReportFile = dynamic(() => import('../samples/ReportFile').then((m) => m.ReportFile), {
  ssr: false,
}) as typeof import('../samples/ReportFile').ReportFile;

type Water = NonNullable<Plan['irrigation']>;
const FOUND: readonly ['so4sMgL' | 'kMgL' | 'clMgL', string, number][] = [
  ['so4sMgL', 'Sulphate-S in the water', 500],
  ['kMgL', 'K in the water', 500],
  ['clMgL', 'Chloride in the water', 5000],
];
const shown = (v: number | null): string => (v === null ? 'not told' : `${Number(v.toFixed(2))}`);

/** Irrigation: how much, and what is in it; what nobody measured stays empty and counts nothing. */
export function WaterBoxes() {
  const { irrigation: water, season } = usePlan('irrigation', 'season');
  const { edit, readOnly } = useEdit();
  const set = (part: Partial<Water>) =>
    edit((p) => ({ ...p, irrigation: p.irrigation && { ...p.irrigation, ...part } }));
  const take = ({ name: _, beside: __, ...found }: WaterFound) => set(found);
  return (
    <>
      <FigureBox
        label="Irrigation"
        optional
        disabled={readOnly}
        value={water?.mm ?? null}
        range={RANGES.irrigationMm}
        onValue={(mm) =>
          edit((p) => ({
            ...p,
            irrigation: mm === null ? null : { ...(p.irrigation ?? newWater()), mm },
          }))
        }
      />
      {water && (
        <>
          <FigureBox
            label="Nitrate-N in the water"
            optional
            disabled={readOnly}
            value={water.no3nMgL}
            range={RANGES.waterNo3n}
            onValue={(no3nMgL) => set({ no3nMgL })}
          />
          <FigureBox
            label="Share before the run-down date"
            disabled={readOnly}
            value={water.shareBeforeRunDown}
            range={{ ...RANGES.share, label: 'Share' }}
            onValue={(v) => v !== null && set({ shareBeforeRunDown: v })}
          />
          {FOUND.map(([key, label, max]) => (
            <FigureBox
              key={key}
              label={label}
              optional
              disabled={readOnly}
              value={water[key]}
              range={{ label, unit: 'mg/L', min: 0, max }}
              onValue={(v) => set({ [key]: v })}
            />
          ))}
          <DateBox
            label="Water sampled"
            disabled={readOnly}
            value={water.sampledOn}
            onValue={(sampledOn) => set({ sampledOn })}
          />
          {!readOnly && (
            <ReportFile
              kind="water"
              samplesOf={watersOf}
              disabled={readOnly}
              said={(s: WaterFound) =>
                `Taken over for ${season.label}: nitrate-N ${shown(s.no3nMgL)}, sulphate-S ${shown(s.so4sMgL)}, K ${shown(s.kMgL)}, chloride ${shown(s.clMgL)} mg/L. Look at the boxes.`
              }
              onTake={take}
            />
          )}
        </>
      )}
    </>
  );
}
