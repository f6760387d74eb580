import type { Metadata, Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import {
  correctSampleAction,
  moveSampleAction,
  removeSampleAction,
  takeOverAction,
} from '@/server/actions';
import { sampleDesk } from '@/server/soilSample';
import { session } from '@/server/session';
import { SampleEditor } from '@/ui/samples/SampleEditor';
import { SampleHistory } from '@/ui/samples/SampleHistory';

export const metadata: Metadata = { title: 'Soil sample' };

/** One soil sample: opened, corrected, moved to another field, taken away. */
export default async function SamplePage({ params }: { params: Promise<{ sampleId: string }> }) {
  const { db, actor } = await session();
  const { sampleId } = await params;
  const desk = await sampleDesk(db, actor, sampleId).catch(() => null);
  if (!desk) notFound();
  const { earlier, members, spread, readBy, ...editor } = desk;
  return (
    <>
      <p className="flex flex-wrap gap-x-5">
        <Link href="/samples">Samples</Link>
        <Link href={`/fields/${desk.fieldId}/ground` as Route}>{desk.fieldName}, Ground</Link>
      </p>
      <h1 className="mb-1">
        {desk.sample.label ?? 'Soil sample'}, {desk.fieldName}
      </h1>
      <p className="note mb-3">
        {readBy.length === 0
          ? 'No season plans with it.'
          : `Planned with in ${readBy.map((r) => r.label).join(', ')}.`}
        {desk.at ? ` Taken at ${desk.at[1].toFixed(5)}, ${desk.at[0].toFixed(5)}.` : ''}
      </p>
      <SampleEditor
        key={desk.version}
        {...editor}
        correct={correctSampleAction.bind(null, sampleId)}
        move={moveSampleAction.bind(null, sampleId)}
        remove={removeSampleAction.bind(null, sampleId)}
        takeOver={takeOverAction.bind(null, sampleId)}
      />
      <SampleHistory earlier={earlier} members={members} spread={spread} />
    </>
  );
}
