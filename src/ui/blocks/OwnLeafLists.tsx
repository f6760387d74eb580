'use client';

import { Download } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { coreUnitOf } from '@/core/book/tissueNutrients';
import type { OwnLeaf, OwnLeafStandard } from '@/core/document/leafDocument';
import { dateInWords } from '@/core/quantity/calendar';
import type { Answer } from '@/core/quantity/refusal';
import { ENOUGH_FOR_SPAN } from '@/core/tissue/ownStandard';
import { ChoiceBox, optionsOf, Part, words } from '../figure/fields';
import { RemoveButton, RemoveHead } from '../figure/RemoveButton';
import { Scrolled } from '../figure/Scrolled';
import { useHydrated } from '../frame/hydrated';
import { figure, spread } from './LeafBlocksDesk';

export interface OwnLeafListsProps {
  farmId: string;
  own: OwnLeaf;
  cropNames: Record<string, string>;
  withRanges: string[];
  without: { key: string; name: string }[];
  readOnly: boolean;
  dropStandard: (id: string) => Promise<Answer<void>>;
  dropNorms: (normSet: string) => Promise<Answer<void>>;
  nameSimilar: (raw: { cropKey: string; like: string | null }) => Promise<Answer<void>>;
}
const placeOf = (
  x: Pick<OwnLeafStandard, 'cropKey' | 'part' | 'bbchFrom' | 'bbchTo'>,
  names: Record<string, string>,
): string =>
  `${names[x.cropKey] ?? words(x.cropKey)}, ${words(x.part)}, BBCH ${x.bbchFrom}-${x.bbchTo}`;
const Csv = ({ farmId, which }: { farmId: string; which: 'standards' | 'norms' }) => (
  <a className="button" href={`/farms/${farmId}/own-leaf/${which}/table.csv`}>
    <Download size={14} aria-hidden /> CSV
  </a>
);

/** Standards of the farm's own making, its norms, and the similar crops that it named. */
export function OwnLeafLists(props: OwnLeafListsProps) {
  const { farmId, own, cropNames, withRanges, without, readOnly } = props;
  const router = useRouter();
  const hydrated = useHydrated();
  const [working, start] = useTransition();
  const [said, setSaid] = useState<string | null>(null);
  const off = working || !hydrated;
  const run = (work: () => Promise<Answer<void>>) =>
    start(async () => {
      const reply = await work();
      setSaid(reply.ok ? null : reply.refusal.message);
      if (reply.ok) router.refresh();
    });
  const sets = [...new Set(own.norms.map((x) => x.normSet))];
  return (
    <>
      {said && (
        <p role="alert" className="problem">
          {said}
        </p>
      )}
      <Part title="Standards of the farm’s own">
        {own.standards.length === 0 ? (
          <p className="note">None yet.</p>
        ) : (
          <>
            <Scrolled label="Table of the standards">
              <table className="ruled" data-testid="own-standards">
                <thead>
                  <tr>
                    <th>Of</th>
                    <th className="num">samples</th>
                    <th className="pl-3">mean ± spread</th>
                    <th className="pl-2">why, who, when</th>
                    {!readOnly && <RemoveHead />}
                  </tr>
                </thead>
                <tbody>
                  {own.standards.map((s) => (
                    <tr key={s.id}>
                      <th scope="row">
                        {placeOf(s, cropNames)}
                        {s.blocks.length < ENOUGH_FOR_SPAN && (
                          <span className="note block font-normal">provisional</span>
                        )}
                      </th>
                      <td className="num">{s.blocks.length}</td>
                      <td className="pl-3">
                        {s.figures
                          .map(
                            (f) =>
                              `${f.nutrient.replace('_', '-')} ${figure(f.mean)}${f.sd === null ? '' : ` ± ${spread(f.sd)}`} ${coreUnitOf(f.nutrient)}`,
                          )
                          .join('; ')}
                      </td>
                      <td className="pl-2">
                        {s.why}{' '}
                        <span className="note">
                          {s.by}, {dateInWords(s.on)}; from{' '}
                          {s.blocks.map((b) => `${b.field} ${dateInWords(b.date)}`).join(', ')}
                        </span>
                      </td>
                      {!readOnly && (
                        <td>
                          <RemoveButton
                            label={`Remove the standard of ${placeOf(s, cropNames)}`}
                            disabled={off}
                            onClick={() => run(() => props.dropStandard(s.id))}
                          />
                        </td>
                      )}
                    </tr>
                  ))}
                </tbody>
              </table>
            </Scrolled>
            <p className="mt-1">
              <Csv farmId={farmId} which="standards" />
            </p>
          </>
        )}
      </Part>
      <Part
        title="Norms of the balance"
        aside="none is in force by itself: what stands here was brought or made by the farm"
      >
        {sets.length === 0 ? (
          <p className="note">None yet.</p>
        ) : (
          <>
            <Scrolled label="Table of the norms">
              <table className="ruled" data-testid="own-norms">
                <thead>
                  <tr>
                    <th>Set</th>
                    <th className="pl-2">of</th>
                    <th>pairs: mean, variation</th>
                    <th className="pl-2">source, confidence, who, when</th>
                    {!readOnly && <RemoveHead />}
                  </tr>
                </thead>
                <tbody>
                  {sets.map((set) => {
                    const rows = own.norms.filter((x) => x.normSet === set);
                    const [first] = rows;
                    return first ? (
                      <tr key={set}>
                        <th scope="row">{set}</th>
                        <td className="pl-2">{placeOf(first, cropNames)}</td>
                        <td>
                          {rows
                            .map((x) => `${x.ratio} ${figure(x.normMean)}, ${figure(x.cvPct)} %`)
                            .join('; ')}
                        </td>
                        <td className="pl-2">
                          {first.source}, {first.confidence}
                          {first.nSamples === null ? '' : `, ${first.nSamples} samples`}{' '}
                          <span className="note">
                            {first.by}, {dateInWords(first.on)}
                          </span>
                        </td>
                        {!readOnly && (
                          <td>
                            <RemoveButton
                              label={`Remove the norms ${set}`}
                              disabled={off}
                              onClick={() => run(() => props.dropNorms(set))}
                            />
                          </td>
                        )}
                      </tr>
                    ) : null;
                  })}
                </tbody>
              </table>
            </Scrolled>
            <p className="mt-1">
              <Csv farmId={farmId} which="norms" />
            </p>
          </>
        )}
      </Part>
      <Part
        title="Crops without ranges"
        aside="a similar crop’s may stand beside their leaves, as a similar crop’s: nothing is classed by them"
      >
        {without.length === 0 && own.similar.length === 0 ? (
          <p className="note">Every crop of this farm’s seasons has ranges of its own.</p>
        ) : (
          <ul data-testid="similar-crops">
            {[
              ...without,
              ...own.similar
                .filter((s) => !without.some((w) => w.key === s.cropKey))
                .map((s) => ({ key: s.cropKey, name: cropNames[s.cropKey] ?? words(s.cropKey) })),
            ].map((crop) => {
              const named = own.similar.find((s) => s.cropKey === crop.key);
              return (
                <li key={crop.key} className="py-1">
                  <ChoiceBox
                    label={`${crop.name} beside`}
                    disabled={off || readOnly}
                    value={named?.like ?? null}
                    empty="no other crop"
                    options={optionsOf(withRanges)}
                    onValue={(like) => run(() => props.nameSimilar({ cropKey: crop.key, like }))}
                  />{' '}
                  {named && (
                    <span className="note">
                      {named.by}, {dateInWords(named.on)}
                    </span>
                  )}
                </li>
              );
            })}
          </ul>
        )}
      </Part>
    </>
  );
}
