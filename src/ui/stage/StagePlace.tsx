'use client';
import { GripVertical } from 'lucide-react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { keep } from '../parts/keep';
import { Plan } from '../plan/Plan';
import { Deck } from './Deck';
import { Groups } from './Groups';
import { Palettes } from './Palettes';
import { Programmer } from './Programmer';


/** Between panels; `flat` between one above and one below. */
export function Divider({ flat = false }: { flat?: boolean }) {
  if (flat) return <Separator className="h-px bg-line outline-none data-[separator=active]:bg-standby data-[separator=focus]:bg-standby" />;
  return (
    <Separator className="group relative w-px bg-line outline-none data-[separator=active]:bg-standby data-[separator=focus]:bg-standby">
      <span className="absolute inset-y-0 -left-1.5 z-10 grid w-3 place-items-center opacity-0 group-hover:opacity-100">
        <GripVertical size={12} className="text-muted" />
      </span>
    </Separator>
  );
}

export function StagePlace() {
  const layout = useDefaultLayout({ id: 'wingman-stage', storage: keep });
  return (
    <div className="flex h-full flex-col">
      <Group {...layout} orientation="horizontal" className="min-h-0 flex-1">
        <Panel id="groups" defaultSize={140} minSize={96} collapsible>
          <div className="grid h-full grid-rows-[minmax(0,1fr)_minmax(0,1.1fr)]">
            <Groups />
            <Palettes />
          </div>
        </Panel>
        <Divider />
        <Panel id="plan" minSize={320}>
          <Plan />
        </Panel>
        <Divider />
        <Panel id="deck" defaultSize={316} minSize={260} collapsible>
          <Deck />
        </Panel>
      </Group>
      <Programmer />
    </div>
  );
}
