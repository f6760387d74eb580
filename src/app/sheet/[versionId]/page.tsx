import type { Route } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { dateInWords } from '@/core/quantity/calendar';
import { versionFor } from '@/server/plans';
import { session } from '@/server/session';
import { SheetView } from '@/ui/stations/SheetView';

const WORD: Record<string, string> = {
  proposed: 'proposed, not answered yet',
  change_asked: 'a change was asked for',
  agreed: 'agreed by advisor and farmer',
};

export default async function VersionPage({ params }: { params: Promise<{ versionId: string }> }) {
  const { versionId } = await params;
  const { db, actor } = await session();
  const version = await versionFor(db, actor, versionId);
  if (!version) notFound();
  return (
    <>
      <div className="no-print mb-3 flex flex-wrap items-baseline gap-3">
        <h1>Version {version.number}</h1>
        <span>
          {WORD[version.status]}
          {version.decidedAt ? ` on ${dateInWords(version.decidedAt.slice(0, 10))}` : ''}
          {version.comment ? `: ${version.comment}` : ''}
        </span>
        <Link href={`/fields/${version.fieldId}/sheet` as Route}>Back to the working sheet</Link>
        <a className="button no-underline" href={`/sheet/${versionId}/pdf`}>
          PDF
        </a>
        <a className="button no-underline" href={`/sheet/${versionId}/sheet.csv`} download>
          CSV
        </a>
        <a className="button no-underline" href={`/sheet/${versionId}/sheet.xlsx`} download>
          XLSX
        </a>
      </div>
      <SheetView
        sheet={version.sheet}
        standing={`Version ${version.number}, ${WORD[version.status]}; frozen as it was on ${dateInWords(version.proposedAt.slice(0, 10))}`}
      />
    </>
  );
}
