'use client';

import { useState } from 'react';
import { indicatorPlants } from '@/core/book/symptoms';
import type { Plan } from '@/core/document/document';
import type { LeafBeside } from '@/core/views/leafBeside';
import { readSymptoms, type SymptomsRead } from '@/core/views/symptoms';
import { ChoiceBox, Part, TickBox, words } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { Warnings } from '../Warnings';
import { editSeason, useBook, useEdit, useWholeAssessment } from '../workspace/context';
import { useKnownPlan } from './useCalendar';
import { LeafPattern, PlantZones } from './LeafPattern';

type Symptoms = NonNullable<Plan['season']['symptoms']>;
const GROUP: Readonly<Record<string, string>> = {
  field_pattern: 'Where in the field',
  timing: 'When',
  position: 'Which leaves',
  leaf_pattern: 'Pattern in the leaf',
  growth: 'Growing point, stem, fruit',
  roots: 'Roots, dug up',
  signs: 'Signs, with a hand lens',
};
/** The order in which a careful eye looks (chapter 5, 12.1). */
const ORDER = ['field_pattern', 'timing', 'position', 'leaf_pattern', 'growth', 'roots', 'signs'];
const blank = (asOf: string): Symptoms => ({
  seenOn: asOf,
  answers: [],
  pictures: [],
  conditions: [],
  tests: [],
});

/** Symptoms with what the plan knows already: causes in order, the evidence, the next test. */
export function SymptomsPart({ beside }: { beside: LeafBeside }) {
  const plan = useKnownPlan();
  const a = useWholeAssessment();
  const book = useBook();
  const { edit, readOnly } = useEdit();
  const read = readSymptoms(book, plan, a, beside);
  if (!read) return <p className="note">Choose a crop first.</p>;
  const change = (of: (s: Symptoms) => Symptoms) =>
    edit((p) => editSeason({ symptoms: of(p.season.symptoms ?? blank(p.asOf)) })(p));
  const answer = (id: string, yes: boolean | null) =>
    change((s) => ({
      ...s,
      answers: [...s.answers.filter((x) => x.id !== id), ...(yes === null ? [] : [{ id, yes }])],
    }));
  const toggle = (key: 'pictures' | 'conditions', id: string, on: boolean) =>
    change((s) => ({
      ...s,
      [key]: on
        ? [...s[key].filter((x) => x.id !== id), { id }]
        : s[key].filter((x) => x.id !== id),
    }));
  return (
    <div className="grid gap-x-8 xl:grid-cols-[2fr_3fr]">
      <div>
        <Part title="What is seen" aside="what was not looked at is left open: it is no “no”">
          <PlantZones
            answers={Object.fromEntries(
              read.groups.flatMap((g) => g.features).map((f) => [f.featureId, f.answer]),
            )}
            disabled={readOnly}
            onPick={answer}
          />
          {read.pictures.length > 0 && (
            <details className="mb-2">
              <summary className="cursor-pointer font-bold">
                Telling pictures of this crop
                {read.pictures.some((p) => p.seen)
                  ? `, ${read.pictures.filter((p) => p.seen).length} seen`
                  : ''}
              </summary>
              <ul>
                {read.pictures.map((p) => (
                  <li key={p.featureId}>
                    <TickBox
                      label={p.description ?? words(p.featureId)}
                      disabled={readOnly}
                      value={p.seen}
                      onValue={(v) => toggle('pictures', p.featureId, v)}
                    />
                    {p.lookAlikes && (
                      <span className="note block pl-6">looks alike: {p.lookAlikes}</span>
                    )}
                  </li>
                ))}
              </ul>
            </details>
          )}
          {ORDER.flatMap((key) => read.groups.filter((g) => g.group === key)).map((g) => (
            <Features key={g.group} group={g} readOnly={readOnly} onAnswer={answer} />
          ))}
          <details className="mb-2">
            <summary className="cursor-pointer font-bold">Soil, season and history</summary>
            <ul>
              {read.conditions.map((c) => (
                <li key={c.id}>
                  <TickBox
                    label={c.label}
                    disabled={readOnly || c.known !== null}
                    value={c.ticked}
                    onValue={(v) => toggle('conditions', c.id, v)}
                  />
                  {c.known !== null && <span className="note"> known from the plan</span>}
                </li>
              ))}
            </ul>
          </details>
          <Weeds />
        </Part>
      </div>
      <div>
        <Causes
          read={read}
          readOnly={readOnly}
          onTest={(id, outcome) =>
            change((s) => ({
              ...s,
              tests: [
                ...s.tests.filter((t) => t.id !== id),
                ...(outcome === null ? [] : [{ id, outcome }]),
              ],
            }))
          }
        />
      </div>
    </div>
  );
}

/** Weeds hint at something to measure; they are no evidence and weigh nothing here. */
function Weeds() {
  return (
    <details className="mb-2">
      <summary className="cursor-pointer font-bold">What weeds hint at</summary>
      <ul>
        {indicatorPlants().map((w) => (
          <li key={w.indicator}>
            {w.indicator}, {w.observation}: {w.suggests}? <span className="note">{w.caveat}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

function Features({
  group,
  readOnly,
  onAnswer,
}: {
  group: SymptomsRead['groups'][0];
  readOnly: boolean;
  onAnswer: (id: string, yes: boolean | null) => void;
}) {
  const answered = group.features.filter((f) => f.answer !== null).length;
  const [open] = useState(group.group === 'position' || answered > 0);
  return (
    <details className="mb-2" open={open}>
      <summary className="cursor-pointer font-bold">
        {GROUP[group.group] ?? words(group.group)}
        {answered > 0 ? `, ${answered} answered` : ''}
      </summary>
      <ul>
        {group.features.map((f) => (
          <li key={f.featureId} className="flex items-center gap-2 border-b border-rule py-1">
            <LeafPattern featureId={f.featureId} />
            <fieldset
              disabled={readOnly}
              className="flex flex-1 flex-wrap items-baseline justify-between gap-x-3"
            >
              <legend className="float-left">
                {f.question.replace(/^\(legumes only\) /u, '')}
              </legend>
              <span className="inline-flex gap-3">
                {(
                  [
                    ['yes', true],
                    ['no', false],
                    ['not looked', null],
                  ] as const
                ).map(([label, value]) => (
                  <label key={label} className="inline-flex items-baseline gap-1">
                    <input
                      type="radio"
                      name={f.featureId}
                      checked={f.answer === value}
                      onChange={() => onAnswer(f.featureId, value)}
                    />
                    {label}
                  </label>
                ))}
              </span>
            </fieldset>
          </li>
        ))}
      </ul>
    </details>
  );
}

const FULL = 70;
/** The largest weight that is drawn to scale, in logarithms. */
const MOST = 4;
/** How a piece of evidence weighs: filled speaks for it, hollow against. */
function Weight({ shift, says }: { shift: number; says: string }) {
  const width = Math.max(1.5, (Math.min(MOST, Math.abs(shift)) / MOST) * FULL);
  return (
    <svg viewBox={`0 0 ${FULL} 12`} width={FULL} height={12} role="img" aria-label={says}>
      <rect
        x={0.75}
        y={1.5}
        width={width}
        height={9}
        fill={shift > 0 ? 'var(--manure)' : 'none'}
        stroke="var(--manure)"
        strokeWidth={1.5}
      />
    </svg>
  );
}

const LABEL: Readonly<Record<string, string>> = {
  prior: 'how common it is',
  'features x 0.7, capped': 'what is seen',
  signature: 'telling picture',
};
const KIND = { deficiency: '', toxicity: '', lookalike: ' (no shortage)', reserve: '' } as const;

function Causes({
  read,
  readOnly,
  onTest,
}: {
  read: SymptomsRead;
  readOnly: boolean;
  onTest: (id: string, outcome: string | null) => void;
}) {
  const { diagnosis, shown, next, tests } = read;
  if (!diagnosis)
    return (
      <Part title="What it may be">
        <p className="note">
          Answer what you have looked at: three answers or more put the causes in order. Herbicide,
          virus, roots, water, cold and age are always among them.
        </p>
      </Part>
    );
  const rows = [...new Set(shown.flatMap((r) => r.evidence.map((e) => e.label)))];
  const first = next[0];
  return (
    <Part title="What it may be" aside="longer bar: weighs more; hollow: speaks against it">
      <p className="font-bold" data-testid="symptom-verdict">
        {diagnosis.verdict === 'not_enough_evidence'
          ? `${diagnosis.answered} answered: not enough for an order yet.`
          : diagnosis.verdict === 'leading'
            ? `${title(shown[0]?.hypothesis.label)} leads.`
            : `Several causes fit: ${shown
                .slice(0, 3)
                .map((r) => r.hypothesis.label)
                .join('; ')}.`}
      </p>
      {diagnosis.verdict !== 'not_enough_evidence' && (
        <Scrolled label="Evidence by cause">
          <table className="ruled" data-testid="evidence">
            <thead>
              <tr>
                <th className="min-w-[10rem]">evidence</th>
                {shown.map((r) => (
                  <th key={r.hypothesis.hypothesisId} className="min-w-[6rem]">
                    {r.hypothesis.label}
                    {KIND[r.hypothesis.kind]}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((label) => (
                <tr key={label}>
                  <th scope="row" className="font-normal">
                    {LABEL[label] ?? label}
                  </th>
                  {shown.map((r) => {
                    const e = r.evidence.find((x) => x.label === label);
                    return (
                      <td key={r.hypothesis.hypothesisId}>
                        {e && Math.abs(e.shift) >= 0.05 && label !== 'prior' ? (
                          <Weight
                            shift={e.shift}
                            says={`${LABEL[label] ?? label}: ${e.shift > 0 ? 'for' : 'against'} ${r.hypothesis.label}`}
                          />
                        ) : e && label === 'prior' ? (
                          <span className="note">{common(e.shift)}</span>
                        ) : (
                          '·'
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
              <tr className="sum">
                <th scope="row">together</th>
                {shown.map((r) => (
                  <td key={r.hypothesis.hypothesisId} className="font-bold">
                    {r.word}
                    <span className="note block font-normal">about {Math.round(100 * r.p)} %</span>
                  </td>
                ))}
              </tr>
            </tbody>
          </table>
        </Scrolled>
      )}
      <p className="note">
        Chances are guesses of experts, of medium confidence: read the order and the bars, not the
        figure.
      </p>
      <Warnings list={read.warnings} />
      {first && diagnosis.verdict !== 'not_enough_evidence' && (
        <section aria-label="Next best test" className="mt-3" data-testid="next-test">
          <h3>Next best test</h3>
          <p>
            <strong>{first.label}.</strong>{' '}
            <span className="note">
              {first.turnaroundDays === '0' ? 'At once' : `Answers in ${first.turnaroundDays} days`}
              ; it tells most for what it costs. Then:{' '}
              {next
                .slice(1)
                .map((t) => t.label)
                .join('; ')}
              .
            </span>
          </p>
        </section>
      )}
      <details className="mt-2">
        <summary className="cursor-pointer font-bold">
          Tests that were done
          {tests.some((t) => t.outcome) ? `, ${tests.filter((t) => t.outcome).length}` : ''}
        </summary>
        <ul>
          {tests.map((t) => (
            <li key={t.id} className="py-1">
              <ChoiceBox
                label={t.label}
                disabled={readOnly}
                value={t.outcome}
                empty="not done"
                options={t.outcomes.map((o) => ({ value: o, label: words(o) }))}
                onValue={(v) => onTest(t.id, v)}
              />
            </li>
          ))}
        </ul>
      </details>
    </Part>
  );
}
const title = (text = ''): string => (text[0] ?? '').toUpperCase() + text.slice(1);
const common = (shift: number): string =>
  shift > Math.log(0.08) ? 'common' : shift > Math.log(0.03) ? 'now and then' : 'rare';
