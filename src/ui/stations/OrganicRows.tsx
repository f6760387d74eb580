'use client';

import { Plus, Trash2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { RANGES } from '@/core/quantity/range';
import {
  ammoniaLevels,
  isLiquid,
  materialOf,
  materials,
  spreadingMethods,
  type Material,
} from '@/core/book/organicMaterials';
import type { OrganicApplication } from '@/core/document/document';
import { BLANK_LAB, PLAIN_DRESSING } from '@/core/document/organicDefaults';
import { ChoiceBox, DateBox, optionsOf, SearchBox, words } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { Scrolled } from '../figure/Scrolled';
import { WhyFigure } from '../frame/why';
import { useUnits } from '../frame/units';
import {
  lineId,
  replaceAt,
  useBook,
  without,
  useAssessed,
  useEdit,
  usePlan,
} from '../workspace/context';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';

// It works the rate out for each basis: fetched when the page stands.
const RatePlanner = dynamic(() => import('../budget/RatePlanner').then((m) => m.RatePlanner), {
  ssr: false,
});

const LAB_BOXES = [
  ['totalNKgT', 'Total N', 250],
  ['nh4NKgT', 'Ammonium-N', 250],
  ['pKgT', 'P', 200],
  ['kKgT', 'K', 500],
  ['sKgT', 'S', 250],
] as const;

function methodsFor(m: Material) {
  const group = isLiquid(m) ? ['liquid'] : m.class === 'poultry' ? ['poultry', 'solid'] : ['solid'];
  return spreadingMethods().filter((x) => group.includes(x.group));
}

/** A new application of a material, by its usual technique. */
export function newApplication(m: Material, date: string, cropYear: number): OrganicApplication {
  const liquid = isLiquid(m);
  const materialKey = m.key;
  return {
    id: lineId(),
    date,
    materialKey,
    status: cropYear === 1 ? 'planned' : 'done',
    cropYear,
    // Nothing counts before somebody has said how much.
    rate: 0,
    rateUnit: liquid ? 'm3_ha' : 't_ha',
    methodKey: methodsFor(m)[0]?.methodKey ?? 'solid_broadcast',
    lab: null,
    coverings: [],
    plannedHours: null,
    tempC: null,
    windMS: null,
    soil: 'moist',
    cover: 'bare',
    ...PLAIN_DRESSING,
  };
}

function LabBoxes({
  o,
  set,
}: {
  o: OrganicApplication;
  set: (part: Partial<OrganicApplication>) => void;
}) {
  const { readOnly } = useEdit();
  const book = useBook();
  const lab = o.lab ?? BLANK_LAB;
  const m = materialOf(book, o.materialKey);
  const printed: Record<string, number> = {
    totalNKgT: m.totalNKgT,
    nh4NKgT: m.nh4NKgT,
    pKgT: m.pKgT,
    kKgT: m.kKgT,
    sKgT: m.sKgT,
  };
  return (
    <details open={o.lab !== null}>
      <summary className="cursor-pointer">
        Analysis {o.lab?.totalNKgT != null ? 'by a laboratory' : 'from the book'}
      </summary>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1">
        {LAB_BOXES.map(([k, label, max]) => (
          <span key={k}>
            <FigureBox
              label={label}
              optional
              disabled={readOnly}
              value={lab[k]}
              range={{ label, unit: 'kg/t', min: 0, max }}
              onValue={(v) => set({ lab: { ...lab, [k]: v } })}
            />{' '}
            <span className="note">book {printed[k]}</span>
          </span>
        ))}
        <FigureBox
          label="Dry matter"
          optional
          disabled={readOnly}
          value={lab.dmPct}
          range={RANGES.dmPct}
          onValue={(v) => set({ lab: { ...lab, dmPct: v } })}
        />
      </div>
    </details>
  );
}

/**
 * Material, date, rate, technique and covering of one dressing: what every sum about it begins
 * with.
 */
export function DressingHead({ o, index }: { o: OrganicApplication; index: number }) {
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const list = materials(book);
  const material = materialOf(book, o.materialKey);
  const change = (key: string) => {
    const m = list.find((x) => x.key === key);
    if (m) set({ ...newApplication(m, o.date, o.cropYear), id: o.id, status: o.status, lab: null });
  };
  const set = (part: Partial<OrganicApplication>) =>
    edit((p) => ({ ...p, organics: replaceAt(p.organics, index, part) }));
  const first = o.coverings[0];
  return (
    <div className="fields">
      <SearchBox
        label="Material"
        disabled={readOnly}
        value={o.materialKey}
        options={list.map((m) => ({ value: m.key, label: m.name }))}
        onValue={(v) => v && change(v)}
      />
      <DateBox
        label="Spread on"
        disabled={readOnly}
        value={o.date}
        onValue={(v) => v && set({ date: v })}
      />
      <FigureBox
        label="Rate"
        disabled={readOnly}
        value={o.rate === 0 ? null : o.rate}
        dimension={o.rateUnit === 'm3_ha' ? 'volume_rate' : 'mass_rate'}
        range={
          o.rateUnit === 'm3_ha' ? { ...RANGES.rateM3Ha, min: 0 } : { ...RANGES.rateTHa, min: 0 }
        }
        onValue={(v) => v !== null && set({ rate: v })}
      />
      <ChoiceBox
        label="Technique"
        disabled={readOnly}
        value={o.methodKey}
        options={methodsFor(material).map((m) => ({ value: m.methodKey, label: m.name }))}
        onValue={(v) => v && set({ methodKey: v })}
      />
      <ChoiceBox
        label="Worked in by"
        disabled={readOnly}
        value={first?.kind ?? null}
        empty="not worked in"
        options={optionsOf(ammoniaLevels('r_event'))}
        onValue={(v) => set({ coverings: v ? [{ kind: v, hours: first?.hours ?? 6 }] : [] })}
      />
      {first && (
        <FigureBox
          label="Worked in after"
          disabled={readOnly}
          value={first.hours}
          range={{ ...RANGES.hours, label: 'Hours to incorporation' }}
          onValue={(v) => v !== null && set({ coverings: replaceAt(o.coverings, 0, { hours: v }) })}
        />
      )}
      <FigureBox
        label="Meant within"
        optional
        disabled={readOnly}
        value={o.plannedHours}
        range={{ ...RANGES.hours, label: 'Planned hours' }}
        onValue={(v) => set({ plannedHours: v })}
      />
      <ChoiceBox
        label="It is"
        disabled={readOnly}
        value={o.status}
        options={optionsOf(['planned', 'done'])}
        onValue={(v) => v && set({ status: v as OrganicApplication['status'] })}
      />
      <FigureBox
        label="Air"
        optional
        disabled={readOnly}
        value={o.tempC}
        range={RANGES.tempC}
        onValue={(v) => set({ tempC: v })}
      />
      <FigureBox
        label="Wind"
        optional
        disabled={readOnly}
        value={o.windMS}
        range={RANGES.windMS}
        onValue={(v) => set({ windMS: v })}
      />
    </div>
  );
}

function ThisYear({ o, index }: { o: OrganicApplication; index: number }) {
  const a = useAssessed('organics');
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const { show, unit } = useUnits();
  const name = materialOf(book, o.materialKey).name;
  const assessed = a.organics.find((x) => x.app.id === o.id);
  const set = (part: Partial<OrganicApplication>) =>
    edit((p) => ({ ...p, organics: replaceAt(p.organics, index, part) }));
  return (
    <li className="border-b border-rule py-2" aria-label={name}>
      <DressingHead o={o} index={index} />
      {!readOnly && (
        <button
          type="button"
          className="button mt-1 px-2"
          aria-label={`Remove ${name}`}
          onClick={() => edit((p) => ({ ...p, organics: without(p.organics, index) }))}
        >
          <Trash2 size={14} aria-hidden />
        </button>
      )}
      <LabBoxes o={o} set={set} />
      <details>
        <summary className="cursor-pointer">Which rate</summary>
        <RatePlanner application={o} take={(rate) => set({ rate })} />
      </details>
      {assessed && (
        <p className="mt-1">
          Brings{' '}
          <strong>
            <WhyFigure step={assessed.pan.why} label="Plant-available N per tonne">
              {show(assessed.nKgHa, 'nutrient_rate')} {unit('nutrient_rate')}
            </WhyFigure>
          </strong>{' '}
          available N;{' '}
          <WhyFigure step={assessed.loss.why} label="Ammonium lost">
            {Math.round(assessed.loss.lossFrac * 100)} %
          </WhyFigure>{' '}
          of its ammonium goes to the air
          {assessed.autumn ? '; spread in autumn, so the winter takes its share' : ''}.
        </p>
      )}
    </li>
  );
}

/** Manure and compost of this season, with what each brings and loses, and of the years before. */
export function OrganicRows() {
  const plan = usePlan('manureHistory', 'organics');
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const list = materials(book);
  const bed = materialOf(book, 'sheep_bedded');
  const earlier = plan.organics.map((o, index) => ({ o, index })).filter((x) => x.o.cropYear >= 2);
  const now = plan.organics.map((o, index) => ({ o, index })).filter((x) => x.o.cropYear < 2);
  const add = (key: Material, cropYear: number) =>
    edit((p) => ({
      ...p,
      manureHistory: cropYear > 1 ? 'yes' : p.manureHistory,
      organics: [
        ...p.organics,
        newApplication(
          key,
          cropYear === 1
            ? p.season.plantingDate && p.season.plantingDate > p.asOf
              ? p.asOf
              : (p.season.plantingDate ?? p.asOf)
            : `${Number(p.season.startDate.slice(0, 4)) - cropYear + 2}-03-15`,
          cropYear,
        ),
      ],
    }));
  return (
    <>
      <ul>
        {now.map(({ o, index }) => (
          <ThisYear key={o.id} o={o} index={index} />
        ))}
      </ul>
      {!readOnly && (
        <button type="button" className="button mt-2" onClick={() => add(bed, 1)}>
          <Plus size={13} aria-hidden /> Manure or compost of this season
        </button>
      )}
      <h3 className="mt-4">Earlier years</h3>
      <ChoiceBox
        label="Manure in the last four years"
        disabled={readOnly}
        value={plan.manureHistory}
        options={[
          { value: 'unknown', label: 'not known' },
          { value: 'none', label: 'none' },
          { value: 'yes', label: 'yes' },
        ]}
        onValue={(v) => v && edit((p) => ({ ...p, manureHistory: v as typeof p.manureHistory }))}
      />
      {earlier.length > 0 && (
        <Scrolled label="Manure of earlier years">
          <table className="ruled mt-1">
            <thead>
              <tr>
                <th>Material</th>
                <th>Rate</th>
                <th>Crops ago</th>
                <RemoveHead />
              </tr>
            </thead>
            <tbody>
              {earlier.map(({ o, index }, k) => (
                <tr key={o.id}>
                  <td>
                    <ChoiceBox
                      label={`Earlier material ${k + 1}`}
                      hideLabel
                      disabled={readOnly}
                      value={o.materialKey}
                      options={list.map((m) => ({ value: m.key, label: m.name }))}
                      onValue={(v) => {
                        const m = list.find((x) => x.key === v);
                        if (m)
                          edit((p) => ({
                            ...p,
                            organics: replaceAt(p.organics, index, {
                              ...newApplication(m, o.date, o.cropYear),
                              id: o.id,
                            }),
                          }));
                      }}
                    />
                  </td>
                  <td>
                    <FigureBox
                      label={`Earlier rate ${k + 1}`}
                      hideLabel
                      disabled={readOnly}
                      value={o.rate}
                      dimension={o.rateUnit === 'm3_ha' ? 'volume_rate' : 'mass_rate'}
                      range={{ ...RANGES.rateTHa, label: 'Rate', min: 0 }}
                      onValue={(v) =>
                        v !== null &&
                        edit((p) => ({ ...p, organics: replaceAt(p.organics, index, { rate: v }) }))
                      }
                    />
                  </td>
                  <td>
                    <FigureBox
                      label={`Earlier crops ago ${k + 1}`}
                      hideLabel
                      disabled={readOnly}
                      value={o.cropYear - 1}
                      range={{ label: 'Crops ago', unit: '', min: 1, max: 9 }}
                      onValue={(v) =>
                        v !== null &&
                        edit((p) => ({
                          ...p,
                          organics: replaceAt(p.organics, index, { cropYear: Math.round(v) + 1 }),
                        }))
                      }
                    />
                  </td>
                  <td>
                    {!readOnly && (
                      <RemoveButton
                        label={`Remove earlier ${words(o.materialKey)}`}
                        onClick={() =>
                          edit((p) => ({ ...p, organics: without(p.organics, index) }))
                        }
                      />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Scrolled>
      )}
      {!readOnly && (
        <button type="button" className="button mt-2" onClick={() => add(bed, 2)}>
          <Plus size={13} aria-hidden /> Manure of an earlier year
        </button>
      )}
    </>
  );
}
