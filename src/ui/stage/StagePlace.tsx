/** Stage: groups on the left, the stage and the shelf in the middle, the controls on the right, the programmer beneath. */
'use client';
import { GripVertical } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { CueStrip } from '../frame/CueLook';
import { layouts } from '../state/preferences';
import { Plan } from '../plan/Plan';
import { useCueLook } from '../state/cue-look';
import { useStage } from '../state/stage';
import { mayEdit, usePlaying, useScreen } from '../state/store';
import { ArrangeBar } from './ArrangeBar';
import { Deck } from './Deck';
import { Groups } from './Groups';
import { GridView, ListView } from './NumberViews';
import { Programmer } from './Programmer';
import { ProgrammerSheet } from './ProgrammerSheet';
import { Shelf } from './shelf/Shelf';
import { StageBar } from './StageBar';
import { Tabs } from '../parts/controls';
import { useTryingIn, type Trying } from '../state/trying';
import { EffectDeck } from './effect/EffectDeck';
import { EffectPanel } from './effect/EffectPanel';
import { useState } from 'react';
import { useParts } from '../state/use-parts';

/** Beside an effect that is worked on: how it runs, or the controls that hold what its steps are made of. */
function DeckOrEffect({ trying }: { trying: Trying }) {
  const [side, setSide] = useState<'effect' | 'controls'>('effect');
  return (
    <div className="flex h-full flex-col bg-panel">
      <div className="flex h-10 flex-none items-center border-b border-line px-3">
        <Tabs
          label="Beside the effect"
          value={side}
          options={[
            { value: 'effect', label: 'How it runs' },
            { value: 'controls', label: 'Controls' },
          ]}
          onChange={setSide}
        />
      </div>
      <div className="min-h-0 flex-1">
        {side === 'effect' ? <EffectDeck trying={trying} /> : <Deck />}
      </div>
    </div>
  );
}

const Space = dynamic(() => import('./space/Space').then((m) => m.Space), {
  ssr: false,
  loading: () => <p className="p-4 text-muted">Opening the stage …</p>,
});

/** Between panels; `flat` between one above and one below. */
export function Divider({ flat = false }: { flat?: boolean }) {
  if (flat)
    return (
      <Separator className="h-px bg-line outline-none data-[separator=active]:bg-standby data-[separator=focus]:bg-standby" />
    );
  return (
    <Separator className="group relative w-px bg-line outline-none data-[separator=active]:bg-standby data-[separator=focus]:bg-standby">
      <span className="absolute inset-y-0 -left-1.5 z-10 grid w-3 place-items-center opacity-0 group-hover:opacity-100">
        <GripVertical size={12} className="text-muted" />
      </span>
    </Separator>
  );
}

const AIMING: Partial<Record<string, string>> = {
  aim: 'Click where the selected heads should look. Esc ends it.',
  line: 'Drag a line: the selected heads share it out in their order. Esc ends it.',
  spot: 'Click the floor: who lights that spot is selected, by how much they give. Esc ends it.',
  lasso: 'Draw round what you want; Ctrl adds.',
  bar: 'Drag from one end of the bar to the other.',
  boom: 'Drag along the boom.',
  set: 'Drag a box over the stage.',
};

/** Stage: the plan, what is held, and what can be given. */
export function StagePlace() {
  const layout = useDefaultLayout({ id: 'wingman-stage', storage: layouts });
  const middle = useDefaultLayout({ id: 'wingman-stage-middle', storage: layouts });
  const { view, tool, arrange, sheet } = useParts(useStage, 'view', 'tool', 'arrange', 'sheet');
  const role = useScreen((s) => s.you.role);
  const blind = useScreen((s) => s.programmer.blind);
  const router = useRouter();
  const showId = useScreen((s) => s.showId);
  const playing = usePlaying();
  const trying = useTryingIn(showId);
  const looking = useCueLook((s) => s.cueId !== null);
  const hint = AIMING[tool];
  return (
    <div className="flex h-full flex-col">
      <Group {...layout} orientation="horizontal" className="min-h-0 flex-1">
        <Panel id="groups" defaultSize={136} minSize={96} collapsible>
          <Groups />
        </Panel>
        <Divider />
        <Panel id="middle" minSize={320}>
          <Group {...middle} orientation="vertical" className="h-full">
            <Panel id="stage" minSize={160}>
              <div className="flex h-full flex-col">
                <StageBar />
                {view === 'plan' && arrange && mayEdit(role) && <ArrangeBar />}
                <div className="relative min-h-0 flex-1">
                  {view === 'plan' && <Plan />}
                  {view === '3d' && <Space />}
                  {view === 'grid' && <GridView />}
                  {view === 'list' && <ListView />}
                  {hint && (
                    <p className="pointer-events-none absolute inset-x-0 top-2 mx-auto w-fit rounded-md bg-standby-wash/90 px-3 py-1 text-[12px] text-standby">
                      {hint}
                    </p>
                  )}
                  {blind && !looking && (
                    <p className="pointer-events-none absolute right-2 bottom-2 rounded-md bg-standby px-2 py-0.5 text-[12px] font-medium text-ink">
                      Blind: the stage with what you hold on it
                    </p>
                  )}
                </div>
                <CueStrip playing={playing} openBook={() => router.push(`/shows/${showId}/book`)} />
              </div>
            </Panel>
            <Divider flat />
            {trying ? (
              <Panel id="effect" defaultSize={400} minSize={220}>
                <EffectPanel trying={trying} />
              </Panel>
            ) : (
              <Panel id="shelf" defaultSize={150} minSize={44} collapsible>
                <Shelf />
              </Panel>
            )}
          </Group>
        </Panel>
        {sheet && (
          <>
            <Divider />
            <Panel id="held" defaultSize={240} minSize={180}>
              <ProgrammerSheet />
            </Panel>
          </>
        )}
        <Divider />
        <Panel id="deck" defaultSize={316} minSize={260} collapsible>
          {trying ? <DeckOrEffect trying={trying} /> : <Deck />}
        </Panel>
      </Group>
      <Programmer />
    </div>
  );
}
