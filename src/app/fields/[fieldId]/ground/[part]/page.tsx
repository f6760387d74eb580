import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Desk, GROUND_TITLES } from '../../desk';

interface Props { params: Promise<{ fieldId: string; part: string }>; searchParams: Promise<{ season?: string }> }

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: GROUND_TITLES[(await params).part] ?? 'Ground' };
}

export default async function GroundPartPage({ params, searchParams }: Props) {
  const { fieldId, part } = await params;
  if (!(part in GROUND_TITLES)) notFound();
  return <Desk fieldId={fieldId} station="ground" part={part} season={(await searchParams).season ?? null} />;
}
