'use client';

import { Plus } from 'lucide-react';
import { useId, useState } from 'react';
import type { FieldDescription } from '@/core/methods/describe';
import {
  dimensionOf,
  type FiguresQuantity,
  type NumberQuantity,
} from '@/core/methods/dictionary/quantity';
import { ChoiceBox, DateBox } from '../figure/fields';
import { FigureBox } from '../figure/FigureBox';
import { RemoveButton } from '../figure/RemoveButton';
import { TextBox } from '../figure/TextBox';
import { blankRow, given, numbersIn, rangeOf, type Values } from './values';

export interface FieldInputProps {
  field: FieldDescription;
  value: unknown;
  onValue: (value: unknown) => void;
  /** A number outside its range was typed, or is right again. */
  onProblem: (problem: string | null) => void;
}

/** A longer list is typed into, with suggestions. */
const MOST_CHOICES = 250;
const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
];
const textOf = (v: unknown): string =>
  typeof v === 'string' || typeof v === 'number' ? String(v) : '';

/** Several figures or words in one line, as somebody would list them. */
function ListBox({ field, value, onValue }: FieldInputProps) {
  const numeric = field.quantity.kind === 'number';
  const first = Array.isArray(value) ? value.map(textOf).join(', ') : '';
  const [typed, setTyped] = useState(first);
  const unit = 'unit' in field.quantity ? field.quantity.unit : '';
  return (
    <TextBox
      label={`${field.quantity.label}${unit ? `, ${unit}` : ''}`}
      wide
      max={2000}
      value={typed}
      onValue={(text) => {
        setTyped(text);
        onValue(numeric ? numbersIn(text) : text.split(/[,;]\s*/u).filter(Boolean));
      }}
    />
  );
}

/** Figures, or yes and no, by names that the caller chooses. */
function NamedBox({ field, value, onValue, onProblem }: FieldInputProps) {
  const [rows, setRows] = useState(() => Object.entries((value ?? {}) as Values));
  const put = (next: [string, unknown][]) => {
    setRows(next);
    onValue(Object.fromEntries(next.filter(([name, v]) => name !== '' && v !== null)));
  };
  const q = field.quantity as FiguresQuantity;
  const change = (k: number, part: [string, unknown]) =>
    put(rows.map((r, i) => (i === k ? part : r)));
  return (
    <fieldset className="border-l-2 border-rule pl-3">
      <legend>{q.label}</legend>
      {rows.map(([name, v], k) => (
        <div key={k} className="mb-1 flex flex-wrap items-baseline gap-2">
          <TextBox
            label={`Name ${k + 1}`}
            hideLabel
            value={name}
            onValue={(n) => change(k, [n, v])}
          />
          {field.quantity.kind === 'flags' ? (
            <ChoiceBox
              label={`${q.label} ${k + 1}`}
              hideLabel
              value={v === true ? 'yes' : 'no'}
              options={YES_NO}
              onValue={(x) => change(k, [name, x === 'yes'])}
            />
          ) : (
            <FigureBox
              label={`${q.label} ${k + 1}`}
              hideLabel
              value={typeof v === 'number' ? v : null}
              range={rangeOf(q)}
              dimension={dimensionOf(q.unit)}
              onValue={(x) => change(k, [name, x])}
              onProblem={onProblem}
            />
          )}
          <RemoveButton
            label={`Remove ${name || `line ${k + 1}`}`}
            onClick={() => put(rows.filter((_, i) => i !== k))}
          />
        </div>
      ))}
      <button
        type="button"
        className="button"
        onClick={() => put([...rows, ['', field.quantity.kind === 'flags' ? true : 0]])}
      >
        <Plus size={13} aria-hidden /> Another
      </button>
    </fieldset>
  );
}

/** Rows of other quantities, or one group of them. */
function RowsBox({ field, value, onValue, onProblem }: FieldInputProps) {
  const of = field.of ?? [];
  const rows = field.many ? (Array.isArray(value) ? (value as Values[]) : []) : [];
  const inputs = (row: Values, put: (row: Values) => void) =>
    of.map((f) => (
      <FieldInput
        key={f.name}
        field={f}
        value={row[f.name]}
        onValue={(v) => put(given({ ...row, [f.name]: v }))}
        onProblem={onProblem}
      />
    ));
  return (
    <fieldset className="border-l-2 border-rule pl-3">
      <legend>{field.quantity.label}</legend>
      {field.many ? (
        <>
          {rows.map((row, k) => (
            <div
              key={k}
              role="group"
              aria-label={`${field.quantity.label} ${k + 1}`}
              className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule pb-1"
            >
              {inputs(row, (r) => onValue(rows.map((x, i) => (i === k ? r : x))))}
              <RemoveButton
                label={`Remove ${field.quantity.label} ${k + 1}`}
                onClick={() => onValue(rows.filter((_, i) => i !== k))}
              />
            </div>
          ))}
          <button type="button" className="button" onClick={() => onValue([...rows, blankRow(of)])}>
            <Plus size={13} aria-hidden /> Another row
          </button>
        </>
      ) : (
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {inputs((value ?? {}) as Values, (row) =>
            onValue(Object.keys(row).length === 0 && field.optional ? undefined : row),
          )}
        </div>
      )}
    </fieldset>
  );
}

/** The box of one field, as its quantity asks for. */
export function FieldInput(props: FieldInputProps) {
  const { field, value, onValue, onProblem } = props;
  const { quantity: q, optional, choices } = field;
  const id = useId();
  if (field.of) return <RowsBox {...props} />;
  if (q.kind === 'figures' || q.kind === 'flags') return <NamedBox {...props} />;
  if (field.many) return <ListBox {...props} />;
  if (q.kind === 'number')
    return (
      <FigureBox
        label={q.symbol && q.symbol !== q.label ? `${q.label} (${q.symbol})` : q.label}
        optional={optional}
        value={typeof value === 'number' ? value : null}
        range={rangeOf(q satisfies NumberQuantity)}
        dimension={dimensionOf(q.unit)}
        onValue={onValue}
        onProblem={onProblem}
      />
    );
  if (q.kind === 'yes')
    return (
      <ChoiceBox
        label={q.label}
        value={value === true ? 'yes' : value === false ? 'no' : null}
        empty={optional ? 'not given' : undefined}
        options={YES_NO}
        onValue={(v) => onValue(v === null ? undefined : v === 'yes')}
      />
    );
  if (q.kind === 'date')
    return (
      <DateBox
        label={q.label}
        value={typeof value === 'string' ? value : null}
        onValue={(v) => onValue(v ?? undefined)}
      />
    );
  if (choices && choices.length <= MOST_CHOICES)
    return (
      <ChoiceBox
        label={q.label}
        value={typeof value === 'string' ? value : null}
        empty={optional ? 'not given' : undefined}
        options={choices}
        onValue={(v) => onValue(v ?? undefined)}
      />
    );
  return (
    <span className="inline-flex max-w-full flex-wrap items-baseline gap-1.5">
      <label htmlFor={id}>{q.label}</label>
      <input
        id={id}
        className="box w-56"
        autoComplete="off"
        maxLength={200}
        list={choices ? `${id}-list` : undefined}
        value={textOf(value)}
        onChange={(e) => onValue(e.target.value === '' ? undefined : e.target.value)}
      />
      {choices && (
        <datalist id={`${id}-list`}>
          {choices.map((c) => (
            <option key={c.value} value={c.value}>
              {c.label}
            </option>
          ))}
        </datalist>
      )}
    </span>
  );
}
