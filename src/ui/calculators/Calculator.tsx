'use client';

import { useEffect, useState } from 'react';
import { aboutField } from '@/core/methods/about';
import type { FieldDescription } from '@/core/methods/describe';
import { placesFor } from '@/core/methods/places';
import type { RefusalDetail } from '@/core/quantity/refusal';
import type { Step } from '@/core/why/step';
import { useHydrated } from '../frame/hydrated';
import { useWhy } from '../frame/why';
import { FieldInput } from './FieldInput';
import { ResultTable } from './ResultTable';
import { UseInField, type PlaceDoors } from './UseInField';
import { given, speaksOf, type Values } from './values';

const WAIT_MS = 200;
const NO_ANSWER: RefusalDetail = {
  code: 'server',
  field: 'server',
  message: 'The server does not answer. What you entered stays; change a figure to try again.',
};
interface Answer {
  result: Record<string, unknown> | null;
  refusal: RefusalDetail | null;
}

async function asked(id: string, input: Values, signal: AbortSignal): Promise<Answer> {
  const reply = await fetch(`/api/methods/${id}`, {
    method: 'POST',
    body: JSON.stringify(input),
    signal,
  });
  const body = (await reply.json()) as Record<string, unknown>;
  return reply.ok
    ? { result: body, refusal: null }
    : { result: null, refusal: body.error as RefusalDetail };
}

/** The answer to what is entered, a moment after it was. */
function useAnswer(id: string, values: Values, broken: boolean): Answer {
  const [answer, setAnswer] = useState<Answer>({ result: null, refusal: null });
  useEffect(() => {
    const gone = new AbortController();
    const timer = setTimeout(() => {
      asked(id, given(values), gone.signal).then(setAnswer, () => {
        if (!gone.signal.aborted) setAnswer({ result: null, refusal: NO_ANSWER });
      });
    }, WAIT_MS);
    return () => {
      clearTimeout(timer);
      gone.abort();
    };
  }, [id, values]);
  return broken ? { result: null, refusal: null } : answer;
}

/** The boxes of one method, and its result beside them as it is typed. */
function Boxes({
  id,
  takes,
  gives,
  initial,
  doors,
}: {
  id: string;
  takes: FieldDescription[];
  gives: FieldDescription[];
  initial: Values;
  doors: PlaceDoors;
}) {
  const hydrated = useHydrated();
  const { open } = useWhy();
  const [values, setValues] = useState(initial);
  const [problems, setProblems] = useState<Record<string, string | null>>({});
  const broken = Object.values(problems).some((p) => p !== null);
  const { result, refusal } = useAnswer(id, values, broken);
  const put = (name: string, value: unknown) => {
    const next = { ...values, [name]: value };
    setValues(next);
    // A link to this page keeps what was entered.
    const kept = new URLSearchParams({ in: JSON.stringify(given(next)) });
    window.history.replaceState(null, '', `?${kept.toString()}`);
  };
  const why = result?.why as Step | undefined;
  const elsewhere = refusal && !takes.some((f) => speaksOf(refusal.field, f.name));
  const input = given(values);
  const placed = result !== null && placesFor({ ...input, ...result }).length > 0;
  return (
    <div className="grid gap-x-10 lg:grid-cols-2">
      <fieldset disabled={!hydrated} className="min-w-0">
        <legend className="sr-only">What goes in</legend>
        {takes.map((f) => {
          const wrong = refusal !== null && speaksOf(refusal.field, f.name) ? refusal : null;
          return (
            <div key={f.name} className="mb-2">
              <FieldInput
                field={f}
                value={values[f.name]}
                onValue={(v) => put(f.name, v)}
                onProblem={(p) => setProblems((all) => ({ ...all, [f.name]: p }))}
              />
              <span className="note block">{aboutField(f, 'takes')}</span>
              {wrong && (
                <p role="alert" className="problem">
                  {wrong.message}
                </p>
              )}
            </div>
          );
        })}
      </fieldset>
      <div className="min-w-0">
        <div aria-live="polite">
          {broken && (
            <p className="note">A figure is outside its range: no result until it is put right.</p>
          )}
          {elsewhere && (
            <p role="alert" className="problem">
              {refusal.message}
            </p>
          )}
          {result && <ResultTable gives={gives} result={result} />}
          {why && (
            <button type="button" className="button mt-2" onClick={() => open(why)}>
              Why
            </button>
          )}
        </div>
        {placed && (
          <UseInField
            key={JSON.stringify(input)}
            id={id}
            input={input}
            described={[...gives, ...takes]}
            doors={doors}
          />
        )}
      </div>
    </div>
  );
}

/** The screen of one method, with its worked example at hand. */
export function Calculator({
  id,
  takes,
  gives,
  initial,
  example,
  doors,
}: {
  id: string;
  takes: FieldDescription[];
  gives: FieldDescription[];
  /** What a link brought; null where it brought nothing. */
  initial: Values | null;
  example: { input: Values; working: string };
  doors: PlaceDoors;
}) {
  const [start, setStart] = useState({ times: 0, values: initial ?? example.input });
  const enter = () => {
    window.history.replaceState(null, '', window.location.pathname);
    setStart(({ times }) => ({ times: times + 1, values: example.input }));
  };
  return (
    <>
      <p className="note mb-3">
        {initial ? 'It opens with what the link brings.' : 'It opens with a worked example.'}{' '}
        {example.working && `The worked example: ${example.working}.`}{' '}
        <button type="button" className="plain" onClick={enter}>
          Enter the worked example
        </button>
      </p>
      <Boxes
        key={start.times}
        id={id}
        takes={takes}
        gives={gives}
        initial={start.values}
        doors={doors}
      />
    </>
  );
}
