import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Desk, PART_TITLES } from '../../desk';

interface Props {
  params: Promise<{ fieldId: string; station: string; part: string }>;
  searchParams: Promise<{ season?: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { station, part } = await params;
  return { title: PART_TITLES[station]?.[part] ?? 'Field' };
}

export default async function StationPartPage({ params, searchParams }: Props) {
  const { fieldId, station, part } = await params;
  if (!PART_TITLES[station]?.[part]) notFound();
  return (
    <Desk
      fieldId={fieldId}
      station={station}
      part={part}
      season={(await searchParams).season ?? null}
    />
  );
}
