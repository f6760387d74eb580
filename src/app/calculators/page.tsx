import type { Route } from 'next';
import Link from 'next/link';
import { METHODS } from '@/core/methods/registry';

export const metadata = { title: 'Calculators' };

export default function CalculatorsPage() {
  const groups = [...new Set(METHODS.map((m) => m.group))];
  return (
    <>
      <h1>Calculators</h1>
      <p className="note mb-3">
        Every calculation of the plan on its own, with its reasons. The same is to be had from the
        command line and from <code>POST /api/methods/ID</code>.
      </p>
      <p className="mb-3">
        <Link href="/claims">Claim checker</Link>{' '}
        <span className="note">
          any product sold for pH: its label against chemistry and the need
        </span>
      </p>
      <div className="columns-[20rem] gap-8">
        {groups.map((g) => (
          <section key={g} className="mb-4 break-inside-avoid" aria-label={g}>
            <h2>{g}</h2>
            <ul>
              {METHODS.filter((m) => m.group === g).map((m) => (
                <li key={m.id} className="border-b border-rule py-1">
                  <Link href={`/calculators/${m.id}` as Route}>{m.title}</Link>{' '}
                  <span className="note">{m.id}</span>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}
