import type { Route } from 'next';
import Link from 'next/link';
import { extractantName, nutrientSymbol } from '@/core/book/soilTests';
import type { EarlierSample, Spread } from '@/core/facts/soilSample';
import { dateInWords } from '@/core/quantity/calendar';
import { Part } from '../figure/fields';
import { Scrolled } from '../figure/Scrolled';

/** A sample as it stood, in one line. */
const told = (s: EarlierSample): string =>
  [
    s.date === null ? 'no date' : dateInWords(s.date),
    ...(s.phWater === null ? [] : [`pH ${s.phWater}`]),
    ...(s.phCacl2 === null ? [] : [`pH in CaCl2 ${s.phCacl2}`]),
    ...(s.omPct === null ? [] : [`organic matter ${s.omPct} %`]),
    ...s.readings.map(
      (r) =>
        `${nutrientSymbol(r.nutrient)} ${r.belowDetection ? '< ' : ''}${r.value} ${r.unit.replace('_', '/')} (${extractantName(r.extractant)})`,
    ),
  ].join(', ');

/** How a sample stood before, and what a mean is made of. */
export function SampleHistory({
  earlier,
  members,
  spread,
}: {
  earlier: readonly EarlierSample[];
  members: readonly { id: string; label: string | null }[];
  spread: readonly Spread[];
}) {
  return (
    <>
      {spread.length > 0 && (
        <Part title="Spread of its samples" aside="none of them is read alone">
          <Scrolled label="Mean and spread, figure by figure">
            <table className="ruled max-w-[44rem]">
              <thead>
                <tr>
                  <th>Figure</th>
                  <th className="num">Samples</th>
                  <th className="num">Mean</th>
                  <th className="num">Standard deviation</th>
                  <th className="num">Lowest</th>
                  <th className="num">Highest</th>
                </tr>
              </thead>
              <tbody>
                {spread.map((s) => (
                  <tr key={s.label}>
                    <th scope="row">{s.label}</th>
                    <td className="num">{s.n}</td>
                    <td className="num">{Number(s.mean.toFixed(2))}</td>
                    <td className="num">{Number(s.sd.toFixed(2))}</td>
                    <td className="num">{s.min}</td>
                    <td className="num">{s.max}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Scrolled>
          <p className="note mt-1 flex flex-wrap gap-x-3">
            {members.map((m, i) => (
              <Link key={m.id} href={`/samples/${m.id}` as Route}>
                {m.label ?? `sample ${i + 1}`}
              </Link>
            ))}
          </p>
        </Part>
      )}
      {earlier.length > 0 && (
        <Part title="As it stood before" aside="the newest first">
          <ol className="max-w-[52rem]">
            {earlier.map((s) => (
              <li key={s.version} className="border-b border-rule py-1">
                {told(s)}
                <span className="note">
                  {' '}
                  version {s.version}
                  {s.author === null ? '' : `, ${s.author}`}
                  {s.recordedOn === null ? '' : `, ${dateInWords(s.recordedOn)}`}
                </span>
              </li>
            ))}
          </ol>
        </Part>
      )}
    </>
  );
}
