'use client';

import { useEffect, useId, useRef, useState } from 'react';
import { Refusal } from '@/core/quantity/refusal';
import { rangeProblem, rangeText, type Range } from '@/core/quantity/range';
import {
  asWritten,
  dimensionOf,
  fromCore,
  readFigure,
  type Dimension,
} from '@/core/quantity/units';
import { useUnits } from '../frame/units';

export interface FigureBoxProps {
  label: string;
  value: number | null;
  range: Range;
  /** Where the range's unit does not say it: rates of a product. */
  dimension?: Dimension;
  /** Empty means "not known" where that is allowed. */
  optional?: boolean;
  disabled?: boolean;
  hideLabel?: boolean;
  /** Where the head of its column says the unit. */
  hideUnit?: boolean;
  /** Where a laboratory may write "<0.05": what such a limit counts. */
  belowLimit?: (limit: number) => number;
  onValue: (value: number | null, below?: boolean) => void;
  /** Hears when what stands in the box can’t be used, and when it can again. */
  onProblem?: (problem: string | null) => void;
}

const shown = (v: number): string => String(Number(v.toFixed(4)));

/**
 * A number that is edited in place. What was typed stays; only a value inside its range goes on
 * into the plan.
 */
export function FigureBox({
  label,
  value,
  range,
  dimension,
  optional = false,
  disabled = false,
  hideLabel = false,
  hideUnit = false,
  belowLimit,
  onValue,
  onProblem,
}: FigureBoxProps) {
  const id = useId();
  const { unit } = useUnits();
  const found = dimension ? { dimension, of: '' } : dimensionOf(range.unit);
  const unitShown = found ? unit(found.dimension) : null;
  const converted = (v: number): number => (unitShown ? asWritten(fromCore(v, unitShown)) : v);
  const display = value === null ? '' : shown(converted(value));
  const suffix = found && unitShown ? unitShown.replace('/', `${found.of}/`) : range.unit;
  const ownRange: Range = {
    ...range,
    min: converted(range.min),
    max: converted(range.max),
    unit: suffix,
  };
  /** The limits in the reader's unit; where rounding hides that one is passed, as they are. */
  const outside = (core: number): string | null => {
    const problem = rangeProblem(label, core, range);
    return problem && (rangeProblem(label, converted(core), ownRange) ?? problem);
  };
  const [typed, setTyped] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const focused = useRef(false);
  // A value that changed from elsewhere (undo, other unit, another person) replaces the text
  // unless it is being typed.
  const lastDisplay = useRef(display);
  useEffect(() => {
    if (lastDisplay.current === display) return;
    lastDisplay.current = display;
    if (!focused.current) {
      setTyped(null);
      setProblem(null);
    }
  }, [display]);

  const read = (text: string): { core: number | null; below?: boolean } | string => {
    if (text.trim() === '')
      return optional ? { core: null } : `${label} is missing: give ${rangeText(ownRange)}.`;
    if (belowLimit && text.trim().startsWith('<')) {
      const limit = Number(text.trim().slice(1).replace(',', '.'));
      return rangeProblem(label, limit, range) ?? { core: belowLimit(limit), below: true };
    }
    try {
      const core =
        unitShown && found
          ? readFigure(label, text, found.dimension, unitShown).core
          : Number(text.replace(',', '.'));
      return outside(core) ?? { core };
    } catch (e) {
      if (e instanceof Refusal) return e.message;
      throw e;
    }
  };
  const change = (text: string) => {
    setTyped(text);
    const result = read(text);
    const wrong = typeof result === 'string' ? result.replace(`${label} (${label})`, label) : null;
    setProblem(wrong);
    onProblem?.(wrong);
    if (typeof result === 'string') return;
    if (result.core !== value || result.below) onValue(result.core, result.below);
  };
  return (
    <span className="field inline-flex flex-col">
      <span className="inline-flex items-baseline gap-1.5">
        <label htmlFor={id} className={hideLabel ? 'sr-only' : 'min-w-0'}>
          {label}
        </label>
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          className="box box-num"
          disabled={disabled}
          value={typed ?? display}
          aria-invalid={problem ? true : undefined}
          aria-describedby={problem ? `${id}-p` : undefined}
          onFocus={() => {
            focused.current = true;
          }}
          onBlur={() => {
            focused.current = false;
            if (!problem) setTyped(null);
          }}
          onChange={(e) => change(e.target.value)}
        />
        {suffix && !hideUnit && <span className="note whitespace-nowrap">{suffix}</span>}
      </span>
      {problem && (
        <span id={`${id}-p`} role="alert" className="problem">
          {problem}
        </span>
      )}
    </span>
  );
}
