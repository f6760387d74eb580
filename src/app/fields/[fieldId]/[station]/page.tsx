import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Desk, STATION_TITLES } from '../desk';

interface Props {
  params: Promise<{ fieldId: string; station: string }>;
  searchParams: Promise<{ season?: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: STATION_TITLES[(await params).station] ?? 'Field' };
}

export default async function FieldPage({ params, searchParams }: Props) {
  const { fieldId, station } = await params;
  if (!(station in STATION_TITLES)) notFound();
  return (
    <Desk
      fieldId={fieldId}
      station={station}
      part=""
      season={(await searchParams).season ?? null}
    />
  );
}
