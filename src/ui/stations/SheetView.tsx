import { dateInWords } from '@/core/quantity/calendar';
import { NUTRIENT_KEYS } from '@/core/lines/line';
import type { SheetJob } from '@/core/views/jobs';
import {
  answerWords,
  areaOfSheet,
  isUnknown,
  NOT_KNOWN,
  sheetUnit,
  totalOf,
} from '@/core/views/sheetLines';
import { inFigures } from '@/core/views/shown';
import type { SheetDocument } from '@/core/views/sheet';

const signed = (v: number | null): string => (v === null ? '·' : v < 0 ? `−${-v}` : String(v));
const SYMBOL = { n: 'N', p: 'P', k: 'K', s: 'S' } as const;
const END_CLASS: Record<SheetDocument['totals'][number]['kind'], string> = {
  passes: '',
  left: '',
  still_to_apply: 'sum',
  over: 'total',
  to_bring: 'sum',
  planned: 'total',
  balance: 'total',
};
const LEVEL: Record<string, string> = { stop: 'Stop', caution: 'Caution', info: 'Note' };

const STATE: Record<SheetJob['status'], string> = {
  planned: '',
  done: ', done',
  'may not go out': ', may not go out: counts nothing',
};
function JobRow({ job: j }: { job: SheetJob }) {
  return (
    <tr>
      <td className="whitespace-nowrap">
        {j.date ? dateInWords(j.date) : NOT_KNOWN} <span className="note">{j.stage}</span>
      </td>
      <th scope="row">
        {j.what}
        {STATE[j.status]} <span className="note">{j.analysis}</span>
      </th>
      <td className="num whitespace-nowrap">{j.rate ? inFigures(j.rate) : ''}</td>
      <td className="num whitespace-nowrap">
        {j.total ? inFigures(j.total) : ''}
        {j.loads ? <span className="note block">{j.loads} loads</span> : null}
      </td>
      {NUTRIENT_KEYS.map((x) => (
        <td key={x} className="num">
          {j[x] ?? '·'}
        </td>
      ))}
      <td className="pl-4">
        {j.how}
        {j.notIf && j.status === 'planned' && <span className="note block">{j.notIf}</span>}
      </td>
      <td className="num">{j.cost === null ? '·' : j.cost.toFixed(0)}</td>
      <td className="pl-4">{j.who ?? ''}</td>
    </tr>
  );
}

/**
 * The plan sheet: one page of figures, reasons, sources and cautions, made to be printed and
 * signed.
 */
export function SheetView({ sheet, standing }: { sheet: SheetDocument; standing: string }) {
  return (
    <article aria-label="Plan sheet" className="max-w-[60rem] text-[0.95rem]">
      <header className="mb-2 flex flex-wrap items-baseline justify-between gap-x-6 border-b-2 border-ink pb-1">
        <h2 className="text-[1.3rem]">
          {sheet.farm} ▸ {sheet.field}, {sheet.season}
        </h2>
        <span>
          {areaOfSheet(sheet)}, {sheet.crop}
        </span>
        <span className="note basis-full">
          {standing}; figures of {dateInWords(sheet.asOf)}; all amounts in {sheetUnit(sheet)} of the
          element
        </span>
      </header>
      <div className="grid gap-x-8 md:grid-cols-[3fr_2fr]">
        <section>
          <h3>The sheet</h3>
          <div className="overflow-x-auto">
            <table className="ruled" data-testid="sheet-ledger">
              <thead>
                <tr>
                  <th>{sheetUnit(sheet)}</th>
                  {NUTRIENT_KEYS.map((x) => (
                    <th key={x} className="num">
                      {SYMBOL[x]}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {sheet.rows.map((r) => (
                  <tr key={r.id} className={r.struck ? 'line-through' : ''}>
                    <th scope="row">
                      {r.label}{' '}
                      <span className="note">
                        {r.detail}
                        {r.struck ? `; struck out: ${r.struck}` : ''}
                      </span>
                    </th>
                    {NUTRIENT_KEYS.map((x) => (
                      <td key={x} className="num">
                        {signed(r[x])}
                      </td>
                    ))}
                  </tr>
                ))}
                {sheet.totals.map((t) => (
                  <tr key={`${t.kind} ${t.label}`} className={END_CLASS[t.kind]}>
                    <th scope="row">{t.label}</th>
                    {NUTRIENT_KEYS.map((x) => {
                      const v = totalOf(sheet, t, x);
                      return (
                        <td key={x} className="num">
                          {isUnknown(sheet, t, x) ? (
                            <span className="note">{NOT_KNOWN}</span>
                          ) : (
                            `${t.kind === 'balance' && (v ?? 0) > 0 ? '+' : ''}${signed(v)}`
                          )}
                        </td>
                      );
                    })}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </section>
        <section>
          <h3>This ground</h3>
          <table className="ruled">
            <tbody>
              {sheet.ground.map((g) => (
                <tr key={g.label}>
                  <th scope="row">{g.label}</th>
                  <td className="whitespace-nowrap">{g.value}</td>
                  <td>{g.cls}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {sheet.limiting && (
            <p className="mt-1">
              <strong>{sheet.limiting}.</strong> Repair it before more N.
            </p>
          )}
        </section>
      </div>
      <section className="mt-3">
        <h3>Jobs</h3>
        <div className="overflow-x-auto">
          <table className="ruled" data-testid="sheet-jobs">
            <thead>
              <tr>
                <th>When</th>
                <th>What</th>
                <th className="num">Rate</th>
                <th className="num">For the field</th>
                {NUTRIENT_KEYS.map((x) => (
                  <th key={x} className="num">
                    {SYMBOL[x]}
                  </th>
                ))}
                <th className="pl-4">How</th>
                <th className="num">Per {sheet.area.unit}</th>
                <th className="pl-4">Who</th>
              </tr>
            </thead>
            <tbody>
              {sheet.jobs.map((j) => (
                <JobRow key={j.id} job={j} />
              ))}
              {sheet.jobs.length === 0 && (
                <tr>
                  <td colSpan={11} className="note">
                    Nothing planned yet.
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        </div>
        <p>
          Fertiliser {sheet.cost.fertiliser.toFixed(0)} for the field
          {sheet.cost.lime > 0 ? `, lime ${sheet.cost.lime.toFixed(0)}` : ''}
          {sheet.demoPrices ? ', at placeholder prices: put in your own' : ''}.
        </p>
      </section>
      {sheet.unknown.length > 0 && (
        <section className="mt-3">
          <h3>Not known</h3>
          <ul>
            {sheet.unknown.map((u) => (
              <li key={u.label} className="border-b border-rule py-0.5">
                <strong>{u.label}</strong>: {u.usual}.{' '}
                <span className="text-faint">{u.findOut}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      {sheet.cautions.length > 0 && (
        <section className="mt-3">
          <h3>Cautions</h3>
          <ul>
            {sheet.cautions.map((c, i) => (
              <li key={i} className="border-b border-rule py-0.5">
                <strong>{LEVEL[c.level]}.</strong> {c.message}{' '}
                <em className="not-italic text-faint">{c.action}</em>
              </li>
            ))}
          </ul>
        </section>
      )}
      {sheet.smaller.length + sheet.answered.length > 0 && (
        <section className="mt-3">
          <h3>Other cautions</h3>
          <ul>
            {sheet.answered.map((x) => (
              <li key={x.message} className="border-b border-rule py-0.5">
                {x.message} <em className="not-italic text-faint">{answerWords(x)}</em>
              </li>
            ))}
            {sheet.smaller.map((x) => (
              <li key={x} className="border-b border-rule py-0.5">
                {x}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="mt-3">
        <h3>Reasons and sources for N</h3>
        <ul className="grid gap-x-6 md:grid-cols-2">
          {sheet.reasons.map((r) => (
            <li key={r.label} className="border-b border-rule py-1">
              <strong>{r.label}</strong> <span className="note">confidence {r.confidence}</span>
              {r.text.map((t, i) => (
                <div
                  key={i}
                  className={i === 0 ? '' : 'note'}
                  style={{ paddingLeft: `${(t.match(/^ */)?.[0].length ?? 0) * 4}px` }}
                >
                  {t.trim()}
                </div>
              ))}
            </li>
          ))}
        </ul>
      </section>
      <p className="note mt-3 border-t border-rule pt-1">
        Book values unless said otherwise. This sheet gives agronomic guidance: local rules, closed
        periods, labels and licensed advisers decide. Keep spreaders away from ditches, wells and
        watercourses, and off frozen, snow-covered or saturated ground.
      </p>
    </article>
  );
}
