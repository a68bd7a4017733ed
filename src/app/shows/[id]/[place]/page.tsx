import { notFound } from 'next/navigation';
import { BookPlace } from '@/ui/book/BookPlace';
import { CrewPlace } from '@/ui/crew/CrewPlace';
import { RigPlace } from '@/ui/rig/RigPlace';
import { MonitorWindow } from '@/ui/rig/MonitorWindow';
import { StagePlace } from '@/ui/stage/StagePlace';

const PLACES = { rig: RigPlace, stage: StagePlace, book: BookPlace, crew: CrewPlace, monitor: MonitorWindow };

export default async function PlacePage({ params }: { params: Promise<{ place: string }> }) {
  const { place } = await params;
  if (!(place in PLACES)) notFound();
  const Place = PLACES[place as keyof typeof PLACES];
  return <Place />;
}
