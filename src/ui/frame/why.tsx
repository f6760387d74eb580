'use client';

import { X } from 'lucide-react';
import {
  createContext,
  use,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { figureIn, inWords } from '@/core/why/said';
import type { Step } from '@/core/why/step';
import { useUnits } from './units';

interface Why {
  open: (step: Step) => void;
}
const Context = createContext<Why | null>(null);
export function useWhy(): Why {
  const why = use(Context);
  if (!why) throw new Error('useWhy needs WhyProvider');
  return why;
}

/** The figure of a step with its unit, in the units that are shown. */
function useFigure(s: Step): string {
  const { system } = useUnits();
  if (typeof s.value !== 'number') return `${s.value ?? 'not known'} ${s.unit}`;
  const { value, unit } = figureIn(s.value, s.unit, system);
  return `${Number(value.toFixed(Math.abs(value) < 10 ? 3 : 2))} ${unit}`;
}

function StepView({ step, depth }: { step: Step; depth: number }) {
  const { words } = useUnits();
  const figure = useFigure(step);
  const head = (
    <span className="inline-flex flex-wrap items-baseline gap-x-2">
      <span>{words(step.label)}</span>
      <strong className="whitespace-nowrap">{figure}</strong>
    </span>
  );
  const about = [step.formula, step.school && `method: ${step.school}`].filter(Boolean).join(' · ');
  const origin = [
    step.source === 'entered' ? 'entered by you' : step.source && `source: ${step.source}`,
    step.confidence && `confidence ${step.confidence}`,
  ]
    .filter(Boolean)
    .join(' · ');
  const body = (
    <>
      {about && <div className="text-[0.9rem]">{about}</div>}
      {origin && <div className="note">{origin}</div>}
      {step.note && <div className="note">{step.note}</div>}
    </>
  );
  if (step.inputs.length === 0)
    return (
      <li className="border-b border-rule py-1">
        {head}
        {body}
      </li>
    );
  return (
    <li className="border-b border-rule py-1">
      <details open={depth < 1}>
        <summary className="cursor-pointer">{head}</summary>
        <div className="pl-4">
          {body}
          <ul className="mt-1 border-l-2 border-rule pl-3">
            {step.inputs.map((s, i) => (
              <StepView key={`${s.id}-${i}`} step={s} depth={depth + 1} />
            ))}
          </ul>
        </div>
      </details>
    </li>
  );
}

const WhyTitle = ({ step }: { step: Step }) => <>Why {useFigure(step)}</>;

/**
 * The drawer at the right: a figure with its steps. It narrows the page instead of covering the
 * number that was asked about.
 */
export function WhyProvider({ children }: { children: ReactNode }) {
  const [step, setStep] = useState<Step | null>(null);
  const opener = useRef<HTMLElement | null>(null);
  const panel = useRef<HTMLElement | null>(null);
  const open = useCallback((s: Step) => {
    opener.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    setStep(s);
  }, []);
  const close = useCallback(() => {
    setStep(null);
    opener.current?.focus();
  }, []);
  useEffect(() => {
    if (!step) return;
    panel.current?.focus();
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'Escape') close();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [step, close]);
  const value = useMemo(() => ({ open }), [open]);
  return (
    <Context value={value}>
      <div className={step ? 'lg:pr-[23rem]' : ''}>{children}</div>
      {step && (
        <aside
          ref={panel}
          tabIndex={-1}
          aria-label={`Why: ${inWords(step.label)}`}
          className="no-print fixed inset-x-0 bottom-0 z-40 max-h-[55dvh] overflow-y-auto border-t-2 border-ink bg-raised p-4 lg:inset-y-0 lg:right-0 lg:left-auto lg:max-h-none lg:w-[22.5rem] lg:border-t-0 lg:border-l-2"
        >
          <div className="mb-2 flex items-start justify-between gap-2">
            <h2>
              <WhyTitle step={step} />
            </h2>
            <button type="button" className="button" onClick={close} aria-label="Close the reasons">
              <X size={16} aria-hidden />
            </button>
          </div>
          <ul>{<StepView step={step} depth={0} />}</ul>
          <p className="note mt-3">
            A laboratory’s figure takes the place of the book’s. Where methods differ, the note says
            so.
          </p>
        </aside>
      )}
    </Context>
  );
}

/** A figure that opens its reasons; `w` on the keyboard does the same while it has the focus. */
export function WhyFigure({
  step,
  children,
  label,
}: {
  step: Step | undefined;
  children: ReactNode;
  label: string;
}) {
  const { open } = useWhy();
  if (!step) return <>{children}</>;
  return (
    <button
      type="button"
      className="plain"
      data-why={step.id}
      onClick={() => open(step)}
      aria-label={`${label}: why?`}
    >
      {children}
    </button>
  );
}
