import { notFound } from 'next/navigation';
import { bagsOf } from '@/core/ground/sampleList';
import { dateInWords } from '@/core/quantity/calendar';
import { today } from '@/server/clock';
import { NotAllowed } from '@/server/authorise';
import { samplingToPrint } from '@/server/sampling';
import { session } from '@/server/session';
import { LabelSheet } from '@/ui/ground/LabelSheet';

export const metadata = { title: 'Labels and map' };

export default async function SamplingSheetPage({
  params,
}: {
  params: Promise<{ planId: string }>;
}) {
  const { db, actor } = await session();
  const found = await samplingToPrint(db, actor, (await params).planId).catch((e: unknown) => {
    if (e instanceof NotAllowed) return null;
    throw e;
  });
  if (!found?.field.outline) notFound();
  return (
    <LabelSheet
      fieldId={found.field.id}
      fieldName={found.field.name}
      farmName={found.farmName}
      planName={found.plan.name}
      outline={found.field.outline}
      plan={found.plan.document}
      bags={bagsOf(found.plan.document)}
      printedOn={dateInWords(today())}
    />
  );
}
