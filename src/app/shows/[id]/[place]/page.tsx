import { notFound } from 'next/navigation';
import { BoothPage } from '@/ui/booth/BoothPage';
import { CallerPage } from '@/ui/booth/CallerPage';
import { BookPlace } from '@/ui/book/BookPlace';
import { CrewPlace } from '@/ui/crew/CrewPlace';
import { FocusPage } from '@/ui/remote/FocusPage';
import { GoPage } from '@/ui/remote/GoPage';
import { NotesPage } from '@/ui/remote/NotesPage';
import { RigPlace } from '@/ui/rig/RigPlace';
import { MonitorWindow } from '@/ui/rig/MonitorWindow';
import { SheetPage } from '@/ui/remote/SheetPage';
import { SheetsPlace } from '@/ui/sheets/SheetsPlace';
import { SheetWindow } from '@/ui/sheets/SheetWindow';
import { RunPlace } from '@/ui/run/RunPlace';
import { PanelWindow } from '@/ui/windows/PanelWindow';
import { StagePlace } from '@/ui/stage/StagePlace';

const PLACES = {
  rig: RigPlace,
  stage: StagePlace,
  book: BookPlace,
  run: RunPlace,
  crew: CrewPlace,
  monitor: MonitorWindow,
  panel: PanelWindow,
  focus: FocusPage,
  notes: NotesPage,
  page: SheetPage,
  sheets: SheetsPlace,
  sheet: SheetWindow,
  go: GoPage,
  booth: BoothPage,
  caller: CallerPage,
};

export default async function PlacePage({ params }: { params: Promise<{ place: string }> }) {
  const { place } = await params;
  if (!Object.hasOwn(PLACES, place)) notFound();
  const Place = PLACES[place as keyof typeof PLACES];
  return <Place />;
}
