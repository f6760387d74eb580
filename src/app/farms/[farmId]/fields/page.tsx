import type { Metadata, Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { soils } from '@/core/book/soils';
import { bringOutlinesAction, outlinesForFarmAction } from '@/server/actions';
import { may } from '@/server/authorise';
import { farmDesk } from '@/server/farm';
import {
  bringBackAction,
  createFieldsAction,
  removeFieldAction,
  renameFieldAction,
} from '@/server/farmActions';
import { namedFields } from '@/server/ownFields';
import { session } from '@/server/session';
import { FarmFields } from '@/ui/farm/FarmFields';

export const metadata: Metadata = { title: 'Fields of the farm' };

/** Fields made, renamed, taken away, and brought in with their outlines. */
export default async function FarmFieldsPage({ params }: { params: Promise<{ farmId: string }> }) {
  const { db, actor } = await session();
  const { farmId } = await params;
  const desk = await farmDesk(db, actor, farmId).catch(() => null);
  if (!desk) notFound();
  return (
    <>
      <p>
        <Link href={`/farms/${farmId}` as Route}>{desk.terms.name}</Link>
      </p>
      <h1 className="mb-3">Fields of {desk.terms.name}</h1>
      <FarmFields
        farmId={farmId}
        fields={await namedFields(db, actor, farmId)}
        soils={soils().map((s) => ({ value: s.textureId, label: s.name }))}
        readOnly={!may(desk.role, 'edit')}
        create={createFieldsAction}
        readOutlines={outlinesForFarmAction.bind(null, farmId)}
        bringOutlines={bringOutlinesAction.bind(null, farmId)}
        rename={renameFieldAction}
        remove={removeFieldAction}
        bringBack={bringBackAction.bind(null, farmId)}
      />
    </>
  );
}
