'use client';

import { Download } from 'lucide-react';
import { useState, useTransition } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import { ChoiceBox, Part } from '../figure/fields';
import { useHydrated } from '../frame/hydrated';

interface Report {
  fileName: string;
  csv: string;
  samples: number;
  receivedOn: string;
  reportedOn: string;
}

/**
 * The stand-in for a laboratory: the list that went with the bags goes in, a results file comes
 * back, to be imported like a real one.
 */
export function SimulatedLaboratory({
  send,
  farms,
  leaves,
}: {
  send: (form: FormData) => Promise<Answer<Report>>;
  farms: { id: string; name: string }[];
  /** Answers the leaves of a farm that wait for their values. */
  leaves: (farmId: string) => Promise<Answer<Report>>;
}) {
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const [report, setReport] = useState<Report | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [farmId, setFarm] = useState(farms[0]?.id ?? '');
  const ask = (work: () => Promise<Answer<Report>>) => {
    setReport(null);
    setSaid(null);
    start(async () => {
      const reply = await work();
      if (reply.ok) setReport(reply.value);
      else setSaid(reply.refusal.message);
    });
  };
  const choose = (file: File | undefined) => {
    if (!file) return;
    const form = new FormData();
    form.set('file', file);
    ask(() => send(form));
  };
  return (
    <Part
      title="Simulated laboratory"
      aside="a stand-in to practise with: made-up ground, with the error of cores and of analysis"
    >
      <label className="inline-flex flex-wrap items-baseline gap-1.5">
        Sample list (CSV of a sampling plan)
        <input
          type="file"
          accept=".csv,text/csv"
          className="box"
          disabled={working || !hydrated}
          onChange={(e) => choose(e.target.files?.[0])}
        />
      </label>
      <p className="mt-1 flex flex-wrap items-baseline gap-2">
        <ChoiceBox
          label="or leaves that wait, of"
          disabled={working || !hydrated}
          value={farmId}
          options={farms.map((f) => ({ value: f.id, label: f.name }))}
          onValue={(v) => v && setFarm(v)}
        />
        <button
          type="button"
          className="button"
          disabled={working || !hydrated}
          onClick={() => ask(() => leaves(farmId))}
        >
          Analyse the leaves
        </button>
      </p>
      {said && (
        <p role="alert" className="problem mt-1">
          {said}
        </p>
      )}
      {report && (
        <p role="status" className="mt-1">
          {report.samples} samples received on {dateInWords(report.receivedOn)}, reported on{' '}
          {dateInWords(report.reportedOn)} (simulated turn-round).{' '}
          <a
            className="button"
            download={report.fileName}
            href={`data:text/csv;charset=utf-8,${encodeURIComponent(report.csv)}`}
          >
            <Download size={14} aria-hidden /> Results, CSV
          </a>
        </p>
      )}
    </Part>
  );
}
