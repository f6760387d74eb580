import Link from 'next/link';
import { standardHeadings } from '@/core/laboratory/standardHeadings';
import { dateInWords } from '@/core/quantity/calendar';
import {
  discardWaitingAction,
  importWaitingAction,
  lookAtFileAction,
  simulatedLaboratoryAction,
  takeBackImportAction,
} from '@/server/actions';
import { importLines } from '@/server/imports';
import { samplesOverview } from '@/server/samples';
import { session } from '@/server/session';
import { Imports } from '@/ui/samples/Imports';
import { ImportFile } from '@/ui/samples/ImportFile';
import { SimulatedLaboratory } from '@/ui/samples/SimulatedLaboratory';
import { WaitingRows } from '@/ui/samples/WaitingRows';

export const metadata = { title: 'Samples' };

export default async function SamplesPage() {
  const { db, actor } = await session();
  const { samples, waiting, laboratories, editable } = await samplesOverview(db, actor);
  const imports = await importLines(db, actor);
  return (
    <>
      <h1 className="mb-2">Samples</h1>
      {editable.length > 0 && (
        <ImportFile
          farms={editable}
          laboratories={laboratories}
          headings={standardHeadings()}
          look={lookAtFileAction}
        />
      )}
      {waiting.length > 0 && (
        <WaitingRows
          rows={waiting}
          importRow={importWaitingAction}
          discard={discardWaitingAction}
        />
      )}
      {editable.length > 0 && <Imports lines={imports} takeBack={takeBackImportAction} />}
      {editable.length > 0 && <SimulatedLaboratory send={simulatedLaboratoryAction} />}
      <section aria-label="Soil samples">
        <h2>Soil samples</h2>
        <div className="overflow-x-auto">
          <table className="ruled max-w-[52rem]">
            <thead>
              <tr>
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
                    {s.fieldName}
                    {s.points > 0 && (
                      <>
                        ,{' '}
                        <Link href={`/fields/${s.fieldId}/ground/survey`}>
                          {s.points} {s.points === 1 ? 'point' : 'points'}
                        </Link>
                      </>
                    )}
                  </th>
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
      </section>
    </>
  );
}
