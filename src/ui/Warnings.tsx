import { CircleAlert, Info, OctagonX } from 'lucide-react';
import type { Warning } from '@/core/rules/rule';
import { useUnits } from './frame/units';

const MARK = {
  stop: <OctagonX size={16} aria-hidden className="mt-0.5 flex-none" />,
  caution: <CircleAlert size={16} aria-hidden className="mt-0.5 flex-none" />,
  info: <Info size={16} aria-hidden className="mt-0.5 flex-none text-faint" />,
} as const;
const WORD = { stop: 'Stop', caution: 'Caution', info: 'Note' } as const;

/** What is wrong, why it matters in the field, and what to do next; stops first. */
export function Warnings({ list, empty }: { list: readonly Warning[]; empty?: string }) {
  const { words } = useUnits();
  if (list.length === 0) return empty ? <p className="note">{empty}</p> : null;
  return (
    <ul className="max-w-[46rem]">
      {list.map((w, i) => (
        <li
          key={`${w.module}-${w.id}-${i}`}
          className={`flex gap-2 border-b border-rule py-1.5 ${w.level === 'info' ? '' : 'text-hot'}`}
        >
          {MARK[w.level]}
          <div>
            <strong>{WORD[w.level]}.</strong>{' '}
            <span className="text-ink">
              {words(w.message)} <em className="not-italic text-faint">{words(w.action)}</em>
            </span>{' '}
            <details className="inline-block align-top">
              <summary className="note ml-1 inline cursor-pointer">why</summary>
              <span className="note">
                Rule {w.module} {w.id}
              </span>
            </details>
          </div>
        </li>
      ))}
    </ul>
  );
}
