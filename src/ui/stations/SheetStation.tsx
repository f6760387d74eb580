'use client';

import { Download, FileText, Printer } from 'lucide-react';
import type { Route } from 'next';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useId, useMemo, useState, useTransition } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import { openStops } from '@/core/assessment/triage';
import { buildSheet, type SheetDocument } from '@/core/views/sheet';
import { standingWords, type PlanStanding } from '@/core/views/standing';
import { useHydrated } from '../frame/hydrated';
import { TextBox } from '../figure/TextBox';
import { useUnits } from '../frame/units';
import {
  useBook,
  useEdit,
  usePlan,
  useWholeAssessment,
  useWholePlan,
  useWorkspace,
} from '../workspace/context';
import { useDoors } from '../workspace/doors';
import { PlanFileBox } from './PlanFileBox';
import { SheetView } from './SheetView';

export interface SheetVersion {
  id: string;
  number: number;
  status: 'proposed' | 'change_asked' | 'agreed';
  seasonVersion: number;
  proposer: string;
  proposedAt: string;
  decidedAt: string | null;
  comment: string | null;
}
export interface SheetStationProps {
  fieldId: string;
  seasonId: string;
  versions: SheetVersion[];
  mayPropose: boolean;
  mayDecide: boolean;
  standing: PlanStanding;
}
const STATUS = {
  proposed: 'waits for the farmer’s answer',
  change_asked: 'a change was asked for',
  agreed: 'agreed by both',
} as const;

function Decide({ version }: { version: SheetVersion }) {
  const { decide } = useDoors();
  const router = useRouter();
  const id = useId();
  const [comment, setComment] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const [pending, start] = useTransition();
  const answer = (agree: boolean) =>
    start(async () => {
      const reply = await decide(version.id, agree, comment);
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) router.refresh();
    });
  return (
    <div className="my-2 border-2 border-ink bg-raised p-3">
      <p>
        <strong>Version {version.number} waits for your answer.</strong> It shows the figures of{' '}
        {dateInWords(version.proposedAt.slice(0, 10))};{' '}
        <Link href={`/sheet/${version.id}` as Route}>read it as proposed</Link>.
      </p>
      <label htmlFor={id} className="block">
        Comment, needed when you ask for a change
      </label>
      <textarea
        id={id}
        className="box w-full max-w-[40rem]"
        rows={2}
        maxLength={500}
        value={comment}
        onChange={(e) => setComment(e.target.value)}
      />
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <div className="mt-1 flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-strong"
          disabled={pending}
          onClick={() => answer(true)}
        >
          I agree with this plan
        </button>
        <button type="button" className="button" disabled={pending} onClick={() => answer(false)}>
          Ask for a change
        </button>
      </div>
    </div>
  );
}

/** Who does each job that is still to do. */
function JobPeople({ sheet }: { sheet: SheetDocument }) {
  const { jobs } = usePlan('jobs');
  const { edit, readOnly } = useEdit();
  const open = sheet.jobs.filter((j) => j.status !== 'done');
  if (readOnly || open.length === 0) return null;
  const set = (line: string, who: string) =>
    edit((p) => ({
      ...p,
      jobs: [
        ...p.jobs.filter((j) => j.line !== line),
        ...(who.trim() === '' ? [] : [{ line, who }]),
      ],
    }));
  return (
    <details className="mt-2">
      <summary className="cursor-pointer">Who does what</summary>
      <div className="fields mt-1">
        {open.map((j) => (
          <TextBox
            key={j.id}
            label={`${j.what}${j.date ? `, ${dateInWords(j.date)}` : ''}`}
            value={jobs.find((x) => x.line === j.id)?.who ?? ''}
            onValue={(who) => set(j.id, who)}
          />
        ))}
      </div>
    </details>
  );
}

/**
 * Plan sheet: the page to print, the advisor's proposal and the farmer's answer, and the plan as
 * an open file.
 */
export function SheetStation({
  fieldId,
  seasonId,
  versions,
  mayPropose,
  mayDecide,
  standing,
}: SheetStationProps) {
  const { propose } = useDoors();
  const plan = useWholePlan();
  const whole = useWholeAssessment();
  const book = useBook();
  const { readOnly } = useEdit();
  const { system } = useUnits();
  const metric = useWorkspace((w) => w.sheet);
  // In lb/ac every figure is converted before it is rounded: the sheet is built anew.
  const sheet = useMemo(
    () => (system === 'metric' ? metric : buildSheet(book, plan, whole, system)),
    [book, plan, whole, system, metric],
  );
  const router = useRouter();
  const [said, setSaid] = useState<string | null>(null);
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const pending = working || !hydrated;
  const open = versions.find((v) => v.status === 'proposed');
  const stops = openStops(whole.cautions).length;
  const put = () =>
    start(async () => {
      const reply = await propose(seasonId);
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) router.refresh();
    });
  const query = `?season=${encodeURIComponent(plan.season.label)}${system === 'us' ? '&units=us' : ''}`;
  return (
    <>
      <div className="no-print mb-3">
        <div className="flex flex-wrap items-center gap-2">
          {mayPropose && (
            <button
              type="button"
              className="button button-strong"
              disabled={pending || open !== undefined}
              onClick={put}
            >
              Propose this plan to the farmer
            </button>
          )}
          <button type="button" className="button" onClick={() => window.print()}>
            <Printer size={14} aria-hidden /> Print
          </button>
          <a className="button no-underline" href={`/fields/${fieldId}/sheet/pdf${query}`}>
            <FileText size={14} aria-hidden /> PDF, A4
          </a>
          <a
            className="button no-underline"
            href={`/fields/${fieldId}/sheet/pdf${query}&paper=letter`}
          >
            <FileText size={14} aria-hidden /> PDF, Letter
          </a>
          <a
            className="button no-underline"
            href={`/fields/${fieldId}/sheet/sheet.csv${query}`}
            download
          >
            <Download size={14} aria-hidden /> CSV
          </a>
          <a
            className="button no-underline"
            href={`/fields/${fieldId}/sheet/sheet.xlsx${query}`}
            download
          >
            <Download size={14} aria-hidden /> XLSX
          </a>
          <a
            className="button no-underline"
            href={`/fields/${fieldId}/sheet/plan.json${query}`}
            download
          >
            <Download size={14} aria-hidden /> Plan file
          </a>
          {!readOnly && <PlanFileBox seasonId={seasonId} />}
          {stops > 0 && (
            <span className="text-hot">
              {stops === 1 ? 'One stop is' : `${stops} stops are`} open: both of you should read{' '}
              {stops === 1 ? 'it' : 'them'} before agreeing.
            </span>
          )}
        </div>
        {said && (
          <p role="alert" className="problem">
            {said}
          </p>
        )}
        {open && mayDecide && <Decide version={open} />}
        {versions.length > 0 && (
          <table className="ruled mt-2 max-w-[46rem]">
            <caption className="sr-only">Versions of this plan</caption>
            <thead>
              <tr>
                <th>Version</th>
                <th>Proposed</th>
                <th>State</th>
                <th>Comment</th>
              </tr>
            </thead>
            <tbody>
              {versions.map((v) => (
                <tr key={v.id}>
                  <th scope="row">
                    <Link href={`/sheet/${v.id}` as Route}>Version {v.number}</Link>
                  </th>
                  <td>
                    {dateInWords(v.proposedAt.slice(0, 10))} by {v.proposer}
                  </td>
                  <td>{STATUS[v.status]}</td>
                  <td>{v.comment}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <JobPeople sheet={sheet} />
      </div>
      <SheetView sheet={sheet} standing={standingWords(plan, standing)} />
    </>
  );
}
