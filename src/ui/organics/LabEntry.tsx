'use client';

import { useState } from 'react';
import {
  asCandidate,
  belowLimit,
  bookRatios,
  LAB_FIGURES,
  printedFigure,
  reportFactor,
  reread,
  slipOf,
  withPrinted,
  type LabFigureKey,
  type LabReport,
} from '@/core/lines/labReading';
import { AS_KG_T } from '@/core/document/organicDefaults';
import type { ManureLab } from '@/core/document/organicDocument';
import { LAB_REPORT_UNITS } from '@/core/document/organicKeys';
import { Refusal } from '@/core/quantity/refusal';
import { RANGES } from '@/core/quantity/range';
import type { Material } from '@/core/book/organicMaterials';
import { manuresOf } from '@/core/lines/manureFile';
import { ChoiceBox, DateBox, TickBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { ReportFile } from '../samples/ReportFile';

const UNITS: Record<(typeof LAB_REPORT_UNITS)[number], string> = {
  kg_t: 'kg/t',
  pct: '%',
  g_kg: 'g/kg',
  mg_kg: 'mg/kg',
  lb_ton: 'lb per short ton',
  kg_m3: 'kg/m3',
  g_l: 'g/L',
  mg_l: 'mg/L',
  lb_1000gal: 'lb per 1000 US gal',
  lb_1000impgal: 'lb per 1000 imp. gal',
  lb_acin: 'lb per acre-inch',
};

const TOTAL_WORDS = { total: 'Total N', kjeldahl: 'Kjeldahl N', organic: 'Organic N' } as const;
/**
 * An analysis as the laboratory printed it: unit, basis and form first, then the figures, each
 * beside the book.
 */
export function LabEntry({
  lab,
  material,
  readOnly,
  onLab,
}: {
  lab: ManureLab;
  material: Material;
  readOnly: boolean;
  onLab: (lab: ManureLab) => void;
}) {
  const [problem, setProblem] = useState<string | null>(null);
  const report = lab.report ?? AS_KG_T;
  const dm = lab.dmPct ?? material.dmPct;
  const written = (part: Partial<LabReport>) => {
    try {
      onLab(reread(lab, { ...report, ...part }, material));
      setProblem(null);
    } catch (e) {
      if (e instanceof Refusal) setProblem(e.message);
      else throw e;
    }
  };
  const ratios = bookRatios(lab, material);
  const slip = slipOf(lab, material);
  const offers = (slip?.candidates ?? []).flatMap((c) => {
    const next = asCandidate(report, c);
    return next
      ? [
          {
            word:
              next.basis !== report.basis
                ? next.basis === 'dry'
                  ? 'dry basis'
                  : 'as received'
                : UNITS[next.unit],
            report: next,
          },
        ]
      : [];
  });
  const name = (key: LabFigureKey, label: string, oxide: string | null) =>
    key === 'totalNKgT'
      ? TOTAL_WORDS[report.totalAs]
      : key === 'nh4NKgT' && report.nh4As !== 'n'
        ? `Ammonium as ${report.nh4As.toUpperCase()}`
        : key === 'no3NKgT' && report.no3As !== 'n'
          ? 'Nitrate as NO3'
          : report.oxides && oxide
            ? `${label} as ${oxide === 'P' ? 'P2O5' : oxide === 'K' ? 'K2O' : 'SO3'}`
            : label;
  return (
    <div className="py-1">
      {!readOnly && (
        <div className="mb-2">
          <ReportFile
            kind="manure"
            samplesOf={manuresOf}
            disabled={readOnly}
            said={(s) =>
              `Taken over in kg/t as received: look at the figures${s.beside.length > 0 ? `. Not held here: ${s.beside.join(', ')}` : ''}.`
            }
            onTake={(s) => onLab({ ...s.lab, earlier: lab.earlier })}
          />
        </div>
      )}
      <div className="mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1.5">
        <DateBox
          label="Sampled"
          disabled={readOnly}
          value={lab.date}
          onValue={(v) => onLab({ ...lab, date: v })}
        />
        <ChoiceBox
          label="The report is in"
          disabled={readOnly}
          value={report.unit}
          options={LAB_REPORT_UNITS.map((u) => ({ value: u, label: UNITS[u] }))}
          onValue={(v) => v && written({ unit: v as LabReport['unit'] })}
        />
        <ChoiceBox
          label="on"
          disabled={readOnly}
          value={report.basis}
          options={[
            { value: 'as_received', label: 'as received' },
            { value: 'dry', label: 'dry basis' },
          ]}
          onValue={(v) => v && written({ basis: v as LabReport['basis'] })}
        />
        <TickBox
          label="P, K and S as oxides"
          disabled={readOnly}
          value={report.oxides}
          onValue={(v) => written({ oxides: v })}
        />
        <ChoiceBox
          label="N is given as"
          disabled={readOnly}
          value={report.totalAs}
          options={[
            { value: 'total', label: 'total N' },
            { value: 'kjeldahl', label: 'Kjeldahl N, nitrate apart' },
            { value: 'organic', label: 'organic N, ammonium apart' },
          ]}
          onValue={(v) => v && written({ totalAs: v as LabReport['totalAs'] })}
        />
        <ChoiceBox
          label="ammonium as"
          disabled={readOnly}
          value={report.nh4As}
          options={[
            { value: 'n', label: 'N' },
            { value: 'nh4', label: 'NH4' },
            { value: 'nh3', label: 'NH3' },
          ]}
          onValue={(v) => v && written({ nh4As: v as LabReport['nh4As'] })}
        />
        <ChoiceBox
          label="nitrate as"
          disabled={readOnly}
          value={report.no3As}
          options={[
            { value: 'n', label: 'N' },
            { value: 'no3', label: 'NO3' },
          ]}
          onValue={(v) => v && written({ no3As: v as LabReport['no3As'] })}
        />
        <TickBox
          label="burnt from a dried sample"
          disabled={readOnly}
          value={report.driedSample}
          onValue={(v) => written({ driedSample: v })}
        />
        <FigureBox
          label="Dry matter"
          optional
          disabled={readOnly}
          value={lab.dmPct}
          range={RANGES.dmPct}
          onValue={(v) => onLab({ ...lab, dmPct: v })}
        />
        <FigureBox
          label="Density"
          optional
          disabled={readOnly}
          value={report.densityKgM3}
          range={{ label: 'Density', unit: 'kg/m3', min: 60, max: 1500 }}
          onValue={(v) => written({ densityKgM3: v })}
        />
        <FigureBox
          label="C:N"
          optional
          disabled={readOnly}
          value={lab.cToN}
          range={{ label: 'C:N', unit: '', min: 1, max: 500 }}
          onValue={(v) => onLab({ ...lab, cToN: v })}
        />
      </div>
      {problem && (
        <p role="alert" className="problem">
          {problem}
        </p>
      )}
      {!readOnly && offers.length > 0 && (
        <p className="flex flex-wrap items-center gap-2">
          <span className="text-hot">{slip?.ratio.toFixed(1)} times the book.</span>
          {offers.map((o) => (
            <button key={o.word} type="button" className="button" onClick={() => written(o.report)}>
              Read it as {o.word}
            </button>
          ))}
          <span className="note">after a look at the heading of the report</span>
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="ruled max-w-[40rem]">
          <thead>
            <tr>
              <th>Figure</th>
              <th>As printed, {UNITS[report.unit]}</th>
              <th className="num">kg/t as received</th>
              <th className="num">Book</th>
              <th className="num">Times the book</th>
            </tr>
          </thead>
          <tbody>
            {LAB_FIGURES.map(([key, label, oxide, max]) => {
              const factor = reportFactor(key, report, dm, material.densityKgM3);
              const value = lab[key];
              const printed = printedFigure(lab, key, material);
              const r = ratios.find((x) => x.key === key);
              return (
                <tr key={key}>
                  <th scope="row">{name(key, label, oxide)}</th>
                  <td>
                    <FigureBox
                      label={name(key, label, oxide)}
                      hideLabel
                      optional
                      disabled={readOnly}
                      value={printed === null ? null : Number(printed.toPrecision(8))}
                      range={{
                        label: name(key, label, oxide),
                        unit: '',
                        min: 0,
                        max: Number((max / factor).toPrecision(4)),
                      }}
                      belowLimit={(limit) => belowLimit(limit * factor, material[key]) / factor}
                      onValue={(v, below) =>
                        onLab(withPrinted({ ...lab, report }, key, v, material, below))
                      }
                    />
                    {report.below.includes(key) && (
                      <span className="note">
                        {' '}
                        below the limit: {value === 0 ? 'nothing' : 'half'} counted
                      </span>
                    )}
                  </td>
                  <td className="num">
                    {value === null ? <span className="note">book</span> : value.toFixed(2)}
                  </td>
                  <td className="num">{r?.book ?? '·'}</td>
                  <td
                    className={`num ${r?.ratio != null && (r.ratio > 2.5 || r.ratio < 0.4) ? 'text-hot font-bold' : ''}`}
                  >
                    {r?.ratio == null ? '·' : r.ratio.toFixed(2)}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="note mt-1">
        A figure below the laboratory’s limit is typed as it stands, such as &lt;0.05. A printed
        line of available N is no input: it holds somebody’s guess about placement.
      </p>
    </div>
  );
}
