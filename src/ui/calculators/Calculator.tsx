'use client';

import { useId, useState, useTransition } from 'react';
import type { RefusalDetail } from '@/core/quantity/refusal';
import type { Step } from '@/core/why/step';
import { words } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';
import { useWhy } from '../frame/why';

export interface CalculatorField {
  name: string;
  kind: 'number' | 'text' | 'choice' | 'boolean' | 'json';
  required: boolean;
  options: string[];
  note: string;
  initial: string;
}
type Run = (
  id: string,
  input: unknown,
) => Promise<{ ok: true; value: Record<string, unknown> } | { ok: false; refusal: RefusalDetail }>;

/**
 * What was typed as the method wants it; a text that is no number goes through as it is, so that
 * core names it.
 */
function inputOf(
  fields: readonly CalculatorField[],
  typed: Record<string, string>,
): Record<string, unknown> {
  const entries = fields.flatMap((f): [string, unknown][] => {
    const text = (typed[f.name] ?? '').trim();
    if (text === '') return [];
    if (f.kind === 'number') {
      const n = Number(text.replace(',', '.'));
      return [[f.name, Number.isFinite(n) ? n : text]];
    }
    if (f.kind === 'boolean') return [[f.name, text === 'true']];
    if (f.kind === 'json') {
      try {
        return [[f.name, JSON.parse(text)]];
      } catch {
        return [[f.name, text]];
      }
    }
    return [[f.name, text]];
  });
  return Object.fromEntries(entries);
}
const shown = (v: unknown): string =>
  typeof v === 'number'
    ? String(Number(v.toPrecision(8)))
    : v === null
      ? 'none'
      : typeof v === 'object'
        ? JSON.stringify(v)
        : String(v);

/** The screen of one method, made from its registry entry. */
export function Calculator({
  id,
  fields,
  run,
}: {
  id: string;
  fields: CalculatorField[];
  run: Run;
}) {
  const base = useId();
  const { open } = useWhy();
  const [typed, setTyped] = useState<Record<string, string>>(
    Object.fromEntries(fields.map((f) => [f.name, f.initial])),
  );
  const [result, setResult] = useState<Record<string, unknown> | null>(null);
  const [refusal, setRefusal] = useState<RefusalDetail | null>(null);
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const send = () =>
    start(async () => {
      const reply = await run(id, inputOf(fields, typed));
      setResult(reply.ok ? reply.value : null);
      setRefusal(reply.ok ? null : reply.refusal);
    });
  const why = result?.why as Step | undefined;
  return (
    <div className="grid max-w-[64rem] gap-x-8 lg:grid-cols-2">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
      >
        {fields.map((f) => {
          const wrong =
            refusal !== null &&
            (refusal.field === f.name ||
              refusal.field.startsWith(`${f.name}.`) ||
              refusal.field.startsWith(`${f.name}[`));
          const common = {
            id: `${base}-${f.name}`,
            value: typed[f.name] ?? '',
            'aria-invalid': wrong ? true : undefined,
            onChange: (e: { target: { value: string } }) =>
              setTyped((t) => ({ ...t, [f.name]: e.target.value })),
          } as const;
          return (
            <div key={f.name} className="mb-2">
              <label htmlFor={common.id} className="block">
                {words(f.name)}
                {f.required ? '' : <span className="note"> (optional)</span>}
              </label>
              {f.kind === 'choice' || f.kind === 'boolean' ? (
                <select className="box" {...common}>
                  <option value="">not given</option>
                  {f.options.map((o) => (
                    <option key={o} value={o}>
                      {words(o)}
                    </option>
                  ))}
                </select>
              ) : f.kind === 'json' ? (
                <textarea className="box w-full font-mono" rows={2} {...common} />
              ) : (
                <input
                  className="box w-64"
                  inputMode={f.kind === 'number' ? 'decimal' : undefined}
                  autoComplete="off"
                  {...common}
                />
              )}
              {f.note && <span className="note block">{f.note}</span>}
            </div>
          );
        })}
        <button type="submit" className="button button-strong" disabled={pending}>
          Calculate
        </button>
      </form>
      <div aria-live="polite">
        {refusal && (
          <p role="alert" className="problem">
            <strong>{words(refusal.field)}.</strong> {refusal.message}
          </p>
        )}
        {result && (
          <table className="ruled">
            <caption className="sr-only">Result</caption>
            <tbody>
              {Object.entries(result)
                .filter(([k]) => k !== 'why')
                .map(([k, v]) => (
                  <tr key={k}>
                    <th scope="row">{words(k)}</th>
                    <td className="num break-all whitespace-normal">{shown(v)}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        )}
        {why && (
          <button type="button" className="button mt-2" onClick={() => open(why)}>
            Why
          </button>
        )}
      </div>
    </div>
  );
}
