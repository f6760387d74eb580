'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import type { LeafFileLook } from '@/core/farm/leafBringIn';
import type { Answers } from '@/core/laboratory/questions';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';

import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';
import { useHydrated } from '../frame/hydrated';
import { FileChooser, formOf, type ChosenFile } from './FileChooser';
import { Questions } from './Questions';
import { sendImport } from './sendImport';

const MOST_SHOWN = 60;

/** A laboratory's file of leaves for a whole farm: questions first, then what comes in and what not. */
export function ImportLeaves({
  farms,
  laboratories,
  look,
}: {
  farms: { id: string; name: string }[];
  laboratories: Record<string, string[]>;
  look: (form: FormData) => Promise<Answer<LeafFileLook>>;
}) {
  const router = useRouter();
  const hydrated = useHydrated();
  const [working, start] = useTransition();
  const pending = working || !hydrated;
  const [chosen, setChosen] = useState<ChosenFile>({
    farmId: farms[0]?.id ?? '',
    laboratory: '',
    file: null,
  });
  const [answers, setAnswers] = useState<Answers>({});
  const [seen, setSeen] = useState<LeafFileLook | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [done, setDone] = useState<string | null>(null);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const lookAgain = (given: Answers) =>
    start(async () => {
      setDone(null);
      const reply = await look(formOf(chosen, given));
      setSaid(reply.ok ? null : reply.refusal.message);
      setSeen(reply.ok ? reply.value : null);
    });
  const bringIn = () =>
    start(async () => {
      try {
        const reply = await sendImport<{ imported: number; left: number }>(
          '/api/leaf-import',
          formOf(chosen, answers),
          setProgress,
        );
        if (!reply.ok) return setSaid(reply.refusal.message);
        setSaid(null);
        setSeen(null);
        setAnswers({});
        setDone(
          `${reply.value.imported} ${reply.value.imported === 1 ? 'leaf is' : 'leaves are'} in${reply.value.left > 0 ? `, ${reply.value.left} stayed out` : ''}. Each stands on the Season of its field.`,
        );
        router.refresh();
      } catch {
        setSaid(
          'The server did not answer to the end. Look before you try again: an import is all or nothing.',
        );
      } finally {
        setProgress(null);
      }
    });
  return (
    <Part
      title="Import leaf results"
      aside="a row a sample or a row a result; each is read for the crop of its field on its day"
    >
      <FileChooser
        labels={{
          farm: 'Farm of the leaves',
          laboratory: 'Leaf laboratory',
          file: 'File of leaves',
          look: 'Look at the leaves',
        }}
        accept=".csv,.txt,.tsv,.xlsx,text/csv"
        farms={farms}
        laboratories={laboratories}
        chosen={chosen}
        set={(part) => setChosen((c) => ({ ...c, ...part }))}
        onFile={() => {
          setSeen(null);
          setAnswers({});
        }}
        onLook={() => lookAgain(answers)}
        disabled={pending}
        ready={chosen.file !== null && chosen.laboratory.trim() !== ''}
      />
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <p role="status">
        {done}
        {progress && `${progress.done} of ${progress.of} are in.`}
      </p>
      {seen && (
        <div data-testid="leaves-seen">
          <p className="note">
            {seen.readAs}: {seen.good.length} can come in, {seen.left.length} stay out.
          </p>
          {seen.questions.length > 0 ? (
            <Questions
              questions={seen.questions}
              pending={pending}
              onAnswer={(key, answer) => {
                const next = { ...answers, [key]: answer };
                setAnswers(next);
                lookAgain(next);
              }}
            />
          ) : (
            seen.good.length > 0 && (
              <button
                type="button"
                className="button button-strong"
                disabled={pending}
                onClick={bringIn}
              >
                Bring in {seen.good.length} {seen.good.length === 1 ? 'leaf' : 'leaves'}
              </button>
            )
          )}
          <LeafRows seen={seen} />
        </div>
      )}
    </Part>
  );
}

function LeafRows({ seen }: { seen: LeafFileLook }) {
  const more = Math.max(0, seen.good.length - MOST_SHOWN);
  return (
    <Scrolled label="Leaves of the file">
      <table className="ruled max-w-[60rem]">
        <thead>
          <tr>
            <th>Line</th>
            <th>Field</th>
            <th>Part and stage</th>
            <th className="num">values</th>
            <th className="pl-2">short, or why it stays out</th>
          </tr>
        </thead>
        <tbody>
          {seen.left.map((l) => (
            <tr key={`left ${l.row}`}>
              <th scope="row">{l.row}</th>
              <td colSpan={3}>{l.name}</td>
              <td className="pl-2 text-hot">{l.reasons.join(' ')}</td>
            </tr>
          ))}
          {seen.good.slice(0, MOST_SHOWN).map((g) => (
            <tr key={`good ${g.row}`}>
              <th scope="row">{g.row}</th>
              <td>
                {g.fieldName}, {dateInWords(g.date)}
              </td>
              <td>
                {g.part}, BBCH {g.bbch}
                {g.fills && <span className="note block">fills the sample that waits</span>}
              </td>
              <td className="num">{g.values}</td>
              <td className="pl-2">{g.short.length > 0 ? g.short.join(', ') : 'nothing'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="note">{more} more can come in.</p>}
    </Scrolled>
  );
}
