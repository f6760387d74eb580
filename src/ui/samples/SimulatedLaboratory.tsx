'use client';

import { Download } from 'lucide-react';
import { useState, useTransition } from 'react';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import { Part } from '../figure/fields';
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
}: {
  send: (form: FormData) => Promise<Answer<Report>>;
}) {
  const [working, start] = useTransition();
  const hydrated = useHydrated();
  const [report, setReport] = useState<Report | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const choose = (file: File | undefined) => {
    setReport(null);
    setSaid(null);
    if (!file) return;
    const form = new FormData();
    form.set('file', file);
    start(async () => {
      const reply = await send(form);
      if (reply.ok) setReport(reply.value);
      else setSaid(reply.refusal.message);
    });
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
