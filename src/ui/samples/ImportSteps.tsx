'use client';

import type {
  BadRow,
  ColumnTarget,
  DateOrder,
  LabMapping,
  LabSoilUnit,
  ParsedSample,
  PlainTarget,
} from '@/core/ground/labReport';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import { ChoiceBox } from '../figure/fields';

export interface Preview {
  headers: string[];
  rows: number;
  delimiter: string;
  firstRows: Record<string, string>[];
  mapping: LabMapping;
  remembered: boolean;
}

const PLAIN: Record<PlainTarget, string> = {
  ignore: 'leave out',
  field: 'field',
  label: 'sample label',
  date: 'sampling date',
  depth_cm: 'depth, cm',
  cores: 'cores',
  ph_water: 'pH in water',
  ph_cacl2: 'pH in CaCl2',
  buffer_smp: 'buffer pH, SMP',
  buffer_sikora: 'buffer pH, Sikora',
  buffer_adams_evans: 'buffer pH, Adams-Evans',
  buffer_mehlich: 'buffer pH, Mehlich',
  om_pct: 'organic matter, %',
  cec_cmol_kg: 'CEC, cmol/kg',
  al_cmol_kg: 'exchangeable Al, cmol/kg',
  no3n_mg_kg: 'nitrate-N (NO3-N), mg/kg, by layer',
};
const UNITS: readonly [LabSoilUnit, string][] = [
  ['mg_kg', 'mg/kg (ppm)'],
  ['mg_l', 'mg/L'],
  ['lb_ac', 'lb/ac'],
];
const keyOf = (t: ColumnTarget): string =>
  t.kind === 'nutrient' ? `nutrient:${t.nutrient}` : t.kind;

function ColumnRow({
  header,
  target,
  nutrients,
  example,
  onTarget,
}: {
  header: string;
  target: ColumnTarget;
  nutrients: { nutrient: string; extractants: string[] }[];
  example: string;
  onTarget: (t: ColumnTarget) => void;
}) {
  const choose = (key: string | null) => {
    if (!key) return;
    if (!key.startsWith('nutrient:')) return onTarget({ kind: key as PlainTarget });
    const nutrient = key.slice(9);
    onTarget({
      kind: 'nutrient',
      nutrient,
      extractant: nutrients.find((n) => n.nutrient === nutrient)?.extractants[0] ?? 'unknown',
      unit: 'mg_kg',
    });
  };
  return (
    <tr>
      <th scope="row">
        {header}
        <span className="note block">{example}</span>
      </th>
      <td>
        <ChoiceBox
          label={`${header} holds`}
          hideLabel
          value={keyOf(target)}
          options={[
            ...Object.entries(PLAIN).map(([value, label]) => ({ value, label })),
            ...nutrients.map((n) => ({
              value: `nutrient:${n.nutrient}`,
              label: nutrientSymbol(n.nutrient),
            })),
          ]}
          onValue={choose}
        />
      </td>
      <td>
        {target.kind === 'nutrient' && (
          <ChoiceBox
            label={`${header} extractant`}
            hideLabel
            value={target.extractant}
            options={(nutrients.find((n) => n.nutrient === target.nutrient)?.extractants ?? []).map(
              (e) => ({ value: e, label: extractantName(e) }),
            )}
            onValue={(v) => v && onTarget({ ...target, extractant: v })}
          />
        )}
      </td>
      <td>
        {target.kind === 'nutrient' && (
          <ChoiceBox
            label={`${header} unit`}
            hideLabel
            value={target.unit}
            options={UNITS.map(([value, label]) => ({ value, label }))}
            onValue={(v) => v && onTarget({ ...target, unit: v as LabSoilUnit })}
          />
        )}
      </td>
    </tr>
  );
}

export interface Checked {
  good: ParsedSample[];
  bad: BadRow[];
}
/** The second step: what each column holds. */
export function Columns({
  seen,
  mapping,
  nutrients,
  laboratory,
  pending,
  change,
  onCheck,
}: {
  seen: Preview;
  mapping: LabMapping;
  nutrients: { nutrient: string; extractants: string[] }[];
  laboratory: string;
  pending: boolean;
  change: (part: Partial<LabMapping>) => void;
  onCheck: () => void;
}) {
  return (
    <div className="mt-3">
      <p>
        {seen.rows} rows, parted by {seen.delimiter === 'tab' ? 'tabs' : `"${seen.delimiter}"`}.{' '}
        {seen.remembered
          ? `The columns are as you set them for ${laboratory} before.`
          : 'Say what each column holds; an extractant is never guessed from the size of a number.'}
      </p>
      <ChoiceBox
        label="Dates are written"
        value={mapping.dateOrder}
        options={[
          { value: 'dmy', label: 'day month year' },
          { value: 'mdy', label: 'month day year' },
          { value: 'ymd', label: 'year month day' },
        ]}
        onValue={(v) => v && change({ dateOrder: v as DateOrder })}
      />
      <div className="overflow-x-auto">
        <table className="ruled mt-1 max-w-[48rem]">
          <thead>
            <tr>
              <th>Column</th>
              <th>holds</th>
              <th>Extractant</th>
              <th>Unit</th>
            </tr>
          </thead>
          <tbody>
            {seen.headers.map((h) => (
              <ColumnRow
                key={h}
                header={h}
                target={mapping.columns[h] ?? { kind: 'ignore' }}
                nutrients={nutrients}
                example={seen.firstRows
                  .map((r) => r[h])
                  .filter(Boolean)
                  .slice(0, 3)
                  .join(', ')}
                onTarget={(t) => change({ columns: { ...mapping.columns, [h]: t } })}
              />
            ))}
          </tbody>
        </table>
      </div>
      <button type="button" className="button mt-2" disabled={pending} onClick={onCheck}>
        Check the rows
      </button>
    </div>
  );
}

function BadRows({ bad }: { bad: readonly BadRow[] }) {
  return (
    <div className="overflow-x-auto">
      <table className="ruled max-w-[52rem]" data-testid="bad-rows">
        <thead>
          <tr>
            <th>Line</th>
            <th>Column</th>
            <th>Stands there</th>
            <th>Reason</th>
          </tr>
        </thead>
        <tbody>
          {bad.flatMap((b) =>
            b.problems.map((p, i) => (
              <tr key={`${b.row}-${i}`}>
                <td>{b.row}</td>
                <td>{p.column}</td>
                <td>{p.value || 'nothing'}</td>
                <td className="text-hot">{p.reason}</td>
              </tr>
            )),
          )}
        </tbody>
      </table>
    </div>
  );
}

/** The third step: what will come in, what not and why, and the import itself. */
export function Report({
  report,
  pending,
  progress,
  onImport,
}: {
  report: Checked;
  pending: boolean;
  progress: { done: number; of: number } | null;
  onImport: () => void;
}) {
  return (
    <div className="mt-3" role="status">
      <p>
        <strong>
          {report.good.length} rows can come in; {report.bad.length}{' '}
          {report.bad.length === 1 ? 'has' : 'have'} a fault.
        </strong>
      </p>
      {report.bad.length > 0 && <BadRows bad={report.bad} />}
      <button
        type="button"
        className="button button-strong mt-2"
        disabled={pending || report.good.length + report.bad.length === 0}
        onClick={onImport}
      >
        Bring in {report.good.length} {report.good.length === 1 ? 'row' : 'rows'}
        {report.bad.length > 0 ? `, keep ${report.bad.length} for later` : ''}
      </button>
      {progress && (
        <p className="mt-2">
          <progress
            max={progress.of}
            value={progress.done}
            aria-label="Rows stored"
            className="mr-2 align-middle"
          />
          {progress.done} of {progress.of}
        </p>
      )}
    </div>
  );
}
