'use client';

import { Upload } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { PlanFileLook } from '@/core/document/planChanges';
import { Scrolled } from '../figure/Scrolled';
import { useHydrated } from '../frame/hydrated';
import { useWorkspace } from '../workspace/context';
import { useDoors } from '../workspace/doors';

const MAX_BYTES = 5 * 1024 * 1024;
const MOST_SHOWN = 80;

/** A plan file comes in only after somebody has seen what it would change, and where. */
export function PlanFileBox({ seasonId }: { seasonId: string }) {
  const { lookAtPlan, importPlan } = useDoors();
  const replace = useWorkspace((w) => w.replace);
  const router = useRouter();
  const hydrated = useHydrated();
  const [file, setFile] = useState<File | null>(null);
  const [look, setLook] = useState<PlanFileLook | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [working, start] = useTransition();
  const pending = working || !hydrated;
  const formOf = (chosen: File): FormData => {
    const form = new FormData();
    form.set('seasonId', seasonId);
    form.set('file', chosen);
    return form;
  };
  const read = (chosen: File | undefined) =>
    start(async () => {
      if (!chosen) return;
      setLook(null);
      if (chosen.size > MAX_BYTES)
        return setSaid(
          `The file has ${(chosen.size / 1048576).toFixed(1)} MB; at most 5 MB are read.`,
        );
      const reply = await lookAtPlan(formOf(chosen));
      setSaid(reply.ok ? null : reply.refusal.message);
      if (!reply.ok) return;
      setFile(chosen);
      setLook(reply.value);
    });
  const take = () =>
    start(async () => {
      if (!file || !look) return;
      const form = formOf(file);
      form.set('looked', String(look.version));
      const reply = await importPlan(form);
      setSaid(reply.ok ? null : reply.refusal.message);
      setLook(null);
      if (!reply.ok) return;
      replace(reply.value.plan);
      router.refresh();
    });
  const other =
    look !== null && (look.of.field !== look.here.field || look.of.season !== look.here.season);
  return (
    <>
      <label className={`button ${pending ? 'opacity-60' : ''}`}>
        <Upload size={14} aria-hidden /> Import a plan file
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          disabled={pending}
          onChange={(e) => {
            read(e.target.files?.[0]);
            e.target.value = '';
          }}
        />
      </label>
      {said && (
        <p role="alert" className="problem basis-full">
          {said}
        </p>
      )}
      {look && (
        <section aria-label="What the plan file would change" className="basis-full">
          <p className={other ? 'problem' : ''}>
            {other
              ? `The file is of ${look.of.field}, ${look.of.season}. It would land in ${look.here.field}, ${look.here.season}.`
              : `The file is of this field and season.`}{' '}
            {look.changes.length === 0
              ? 'It changes nothing.'
              : `It changes ${look.changes.length} ${look.changes.length === 1 ? 'place' : 'places'}:`}
          </p>
          {look.changes.length > 0 && (
            <Scrolled label="Each place that the plan file would change">
              <table className="ruled max-w-[52rem]">
                <thead>
                  <tr>
                    <th>Place in the plan</th>
                    <th>Now</th>
                    <th>With the file</th>
                  </tr>
                </thead>
                <tbody>
                  {look.changes.slice(0, MOST_SHOWN).map((c) => (
                    <tr key={c.path}>
                      <th scope="row">{c.path.replaceAll('_', ' ').replaceAll('.', ', ')}</th>
                      <td>{c.before}</td>
                      <td>{c.after}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Scrolled>
          )}
          <p className="mt-1 flex gap-3">
            <button
              type="button"
              className="button button-strong"
              disabled={pending || look.changes.length === 0}
              onClick={take}
            >
              Take the file over into {look.here.field}, {look.here.season}
            </button>
            <button type="button" className="button" onClick={() => setLook(null)}>
              Leave it
            </button>
          </p>
        </section>
      )}
    </>
  );
}
