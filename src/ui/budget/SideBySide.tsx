'use client';

import { useMemo, useState } from 'react';
import { compared, schoolsGap, variantsOf, type Compared } from '@/core/views/schools';
import type { Plan } from '@/core/document/document';
import { ChoiceBox } from '../figure/fields';
import { useUnits } from '../frame/units';
import { Warnings } from '../Warnings';
import { useBook, useEdit, useWholePlan } from '../workspace/context';
import { Scrolled } from '../figure/Scrolled';

const MOST = 4;
type Figures = NonNullable<Compared['figures']>;

/**
 * The same field under two to four schools or what-ifs: figures, surplus, flags; one of them can
 * be kept.
 */
export function SideBySide() {
  const plan = useWholePlan();
  const { edit, readOnly } = useEdit();
  const book = useBook();
  const { show, unit } = useUnits();
  const variants = useMemo(() => variantsOf(plan), [plan]);
  const [chosen, setChosen] = useState<string[]>(['plan', 'n.index_ceiling', 'pk.build_maintain']);
  const columns = useMemo(
    () =>
      chosen.flatMap((key) => {
        const v = variants.find((x) => x.key === key);
        return v ? [compared(book, v)] : [];
      }),
    [book, chosen, variants],
  );
  const kg = (v: number) => show(v, 'nutrient_rate', 0);
  const rows: [string, (f: Figures) => string][] = [
    [`N required, ${unit('nutrient_rate')}`, (f) => kg(f.requirementN)],
    ['found and applied', (f) => kg(f.creditsN)],
    ['N net requirement', (f) => `${kg(f.toBring.n)} +/- ${kg(f.sdN)}`],
    ['P net requirement', (f) => kg(f.toBring.p)],
    ['K net requirement', (f) => kg(f.toBring.k)],
    ['S net requirement', (f) => kg(f.toBring.s)],
    ['N left over', (f) => kg(f.surplusN)],
    [
      `N to buy, ${unit('price_per_area')}`,
      (f) => (f.cost === null ? '·' : show(f.cost, 'price_per_area')),
    ],
    ['Stops and cautions', (f) => `${f.stops} and ${f.cautions}`],
  ];
  const keep = (next: Plan) => {
    edit((p) => ({ ...next, passes: p.passes }));
    setChosen(['plan']);
  };
  return (
    <>
      <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
        {columns.length < MOST && (
          <ChoiceBox
            label="Look at it as"
            value={null}
            empty="another way"
            options={variants
              .filter((v) => !chosen.includes(v.key))
              .map((v) => ({ value: v.key, label: v.label }))}
            onValue={(v) =>
              v && setChosen((c) => [...c.filter((k) => variants.some((x) => x.key === k)), v])
            }
          />
        )}
        <span className="note">up to four at once; the passes planned stay as they are</span>
      </div>
      <Scrolled label="Ways compared">
        <table className="ruled" data-testid="side-by-side">
          <thead>
            <tr>
              <th>
                <span className="sr-only">Figure</span>
              </th>
              {columns.map((c) => (
                <th key={c.key} className="num">
                  {c.label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([word, of]) => (
              <tr key={word} className={word === 'N net requirement' ? 'font-bold' : ''}>
                <th scope="row">{word}</th>
                {columns.map((c) => (
                  <td key={c.key} className="num">
                    {c.figures ? of(c.figures) : '·'}
                  </td>
                ))}
              </tr>
            ))}
            <tr>
              <th scope="row">
                <span className="sr-only">Keep</span>
              </th>
              {columns.map((c) => (
                <td key={c.key} className="num">
                  {c.refused ? (
                    <span className="problem block max-w-[16rem] text-left whitespace-normal">
                      {c.refused}
                    </span>
                  ) : c.key !== 'plan' && !readOnly ? (
                    <button
                      type="button"
                      className="button"
                      aria-label={`Keep: ${c.label}`}
                      onClick={() => keep(c.plan)}
                    >
                      Keep this
                    </button>
                  ) : null}{' '}
                  {c.key !== 'plan' && (
                    <button
                      type="button"
                      className="button"
                      aria-label={`Put away: ${c.label}`}
                      onClick={() => setChosen((k) => k.filter((x) => x !== c.key))}
                    >
                      Put away
                    </button>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </Scrolled>
      <Warnings list={schoolsGap(columns)} />
    </>
  );
}
