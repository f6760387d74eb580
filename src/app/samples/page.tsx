import type { Route } from 'next';
import Link from 'next/link';
import { standardHeadings } from '@/core/laboratory/standardHeadings';
import { dateInWords } from '@/core/quantity/calendar';
import {
  discardWaitingAction,
  importWaitingAction,
  lookAtFileAction,
  lookAtLeavesAction,
  simulatedLaboratoryAction,
  simulatedLeavesAction,
  takeBackImportAction,
} from '@/server/actions';
import { importLines } from '@/server/imports';
import { pageOf, type ListParams } from '@/server/paging';
import { samplesOverview } from '@/server/samples';
import { session } from '@/server/session';
import { FieldFinder, Pager } from '@/ui/figure/Pager';
import { Imports } from '@/ui/samples/Imports';
import { ImportFile } from '@/ui/samples/ImportFile';
import { ImportLeaves } from '@/ui/samples/ImportLeaves';
import { SimulatedLaboratory } from '@/ui/samples/SimulatedLaboratory';
import { WaitingRows } from '@/ui/samples/WaitingRows';

export const metadata = { title: 'Samples' };

interface Props {
  searchParams: Promise<ListParams>;
}

export default async function SamplesPage({ searchParams }: Props) {
  const { db, actor } = await session();
  const asked = pageOf(await searchParams);
  const { samples, found, waiting, laboratories, editable } = await samplesOverview(
    db,
    actor,
    asked,
  );
  const imports = await importLines(db, actor);
  return (
    <>
      <h1 className="mb-1">Samples</h1>
      <p className="mb-3">
        <Link className="underline" href={'/samples/leaves' as Route}>
          Leaves side by side
        </Link>{' '}
        <span className="note">blocks compared, and standards of the farm’s own</span>
      </p>
      {editable.length > 0 && (
        <ImportFile
          farms={editable}
          laboratories={laboratories}
          headings={standardHeadings()}
          look={lookAtFileAction}
        />
      )}
      {editable.length > 0 && (
        <ImportLeaves farms={editable} laboratories={laboratories} look={lookAtLeavesAction} />
      )}
      {waiting.length > 0 && (
        <WaitingRows
          rows={waiting}
          importRow={importWaitingAction}
          discard={discardWaitingAction}
        />
      )}
      {editable.length > 0 && <Imports lines={imports} takeBack={takeBackImportAction} />}
      {editable.length > 0 && (
        <SimulatedLaboratory
          send={simulatedLaboratoryAction}
          farms={editable}
          leaves={simulatedLeavesAction}
        />
      )}
      <section aria-label="Soil samples">
        <div className="mb-1 flex flex-wrap items-baseline justify-between gap-x-6">
          <h2>Soil samples</h2>
          <FieldFinder asked={asked} found={found} />
        </div>
        <div className="overflow-x-auto">
          <table className="ruled max-w-[52rem]">
            <thead>
              <tr>
                <th>Sample</th>
                <th>Field</th>
                <th>Farm</th>
                <th>Date</th>
                <th>Laboratory</th>
                <th className="num">pH</th>
                <th className="num">Depth, cm</th>
              </tr>
            </thead>
            <tbody>
              {samples.map((s) => (
                <tr key={s.id}>
                  <th scope="row">
                    {s.kind === 'point' ? (
                      <Link href={`/fields/${s.fieldId}/ground/survey` as Route}>
                        {s.samples} {s.samples === 1 ? 'point' : 'points'}
                      </Link>
                    ) : (
                      <Link href={`/samples/${s.id}` as Route}>{s.label ?? 'composite'}</Link>
                    )}
                  </th>
                  <td>{s.fieldName}</td>
                  <td>{s.farmName}</td>
                  <td>{s.date === null ? 'no date' : dateInWords(s.date)}</td>
                  <td>{s.laboratory}</td>
                  <td className="num">{s.ph}</td>
                  <td className="num">{s.depth}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <Pager path="/samples" asked={asked} found={found} />
      </section>
    </>
  );
}
