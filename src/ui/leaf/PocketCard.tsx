'use client';

import { tissueCropOf } from '@/core/book/crops';
import type { SampleWindow } from '@/core/views/sampleWindow';
import { words } from '../figure/fields';
import { useBook } from '../workspace/context';
import { PlantDrawing } from './PlantDrawing';
import { sentence, STALK, windowWords } from './protocolWords';
import { useKnownPlan } from './useCalendar';

/** A protocol on a card for the pocket: on paper alone, with lines to write on. */
export function PocketCard({ window: w }: { window: SampleWindow }) {
  const plan = useKnownPlan();
  const book = useBook();
  const { protocol } = w;
  const { cropKey, use } = plan.season;
  const crop = cropKey === null ? null : tissueCropOf(book, cropKey, use);
  return (
    <section
      aria-label={`Card: ${w.partLabel}`}
      className="mb-4 hidden w-[105mm] break-inside-avoid border border-ink p-3 print:block"
      data-testid="pocket-card"
    >
      <h3>
        {plan.field.name}: {crop ? words(crop) : ''}, {w.partLabel.toLowerCase()}
      </h3>
      <p>
        <strong>{windowWords(w)}</strong>, {w.stageLabel}, BBCH {w.bbchFrom} to {w.bbchTo}
      </p>
      <PlantDrawing form={protocol.plantForm} organ={protocol.organ} size={120} />
      <p>
        <strong>{sentence(protocol.partExact)}</strong> {sentence(protocol.howToFindIt)}{' '}
        {STALK[protocol.petioleRemoved] ?? ''}
      </p>
      <p>
        {protocol.recommendedCount} of them, at least {protocol.minCount}.{' '}
        {sentence(protocol.pattern)} {sentence(protocol.blockRule)} Keep away from {protocol.avoid}.
      </p>
      <p>
        {sentence(protocol.wash)} {sentence(protocol.dryAndPack)} To the laboratory or dry within{' '}
        {protocol.maxHoursToDryOrShip} h. Paper bags, clean dry hands; no rubber, brass or
        galvanised tools, no sunscreen.
      </p>
      <p>The usual mistake: {words(protocol.typicalMistake)}.</p>
      <p>
        A pair: the same leaf of ill and healthy plants on one day, washed alike, with soil (0 to 20
        cm) of both.
      </p>
      <p className="mt-2">
        Day ________ hour ____ stage ____ count ____ who ____________
        <br />
        where ______________________ number ____________
      </p>
    </section>
  );
}
