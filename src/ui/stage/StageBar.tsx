/** Over the stage: which view and layout, the pointer's tools, fit, arranging. */
'use client';
import { clamp } from '@/core/numbers';
import {
  Crosshair,
  Box,
  Grid3x3,
  Lasso,
  List,
  Map as MapIcon,
  Maximize2,
  MousePointer2,
  Move,
  Minus,
  Plus,
} from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Button, Dialog, Field, Tabs } from '../parts/controls';
import { edit } from '../state/edits';
import { setTool, useStage, type StageView } from '../state/stage';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

const VIEWS: readonly [StageView, string, React.ReactNode][] = [
  ['plan', 'Plan', <MapIcon key="p" size={14} />],
  ['3d', 'Space', <Box key="s" size={14} />],
  ['grid', 'Numbers', <Grid3x3 key="g" size={14} />],
  ['list', 'List', <List key="l" size={14} />],
];
const CAMERAS = [
  ['front', 'Front'],
  ['seat', 'A seat'],
  ['side', 'Side'],
  ['top', 'Above'],
] as const;

/** In the choice of layouts. */
const NEW = '+';

/** A square key of the bar. */
function Tool({
  name,
  title,
  on,
  onPress,
  children,
}: {
  name: string;
  title: string;
  /** Absent of one that does something at once. */
  on?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      title={title}
      aria-pressed={on}
      onClick={onPress}
      className={`grid size-7 place-items-center rounded-md ${on ? 'bg-lift text-text' : 'text-muted hover:bg-raised hover:text-soft'}`}
    >
      {children}
    </button>
  );
}

/** Asks who lights the spot of the floor that is clicked. */
function SpotTool() {
  const on = useStage((s) => s.tool === 'spot');
  return (
    <Tool
      name="Who lights this spot?"
      title="Who lights this spot? Click the floor"
      on={on}
      onPress={() => setTool('spot')}
    >
      <Crosshair size={14} />
    </Tool>
  );
}

/** Stage’s head: views, layouts and tools. */
export function StageBar() {
  const view = useStage((s) => s.view);
  return (
    <div className="flex min-h-10 flex-none flex-wrap items-center gap-x-1.5 border-b border-line px-2.5 py-1">
      <Tabs
        label="View"
        value={view}
        options={VIEWS.map(([value, words, icon]) => ({
          value,
          title: words,
          label: (
            <span className="flex items-center gap-1.5">
              {icon}
              <span className={view === value ? '' : 'sr-only'}>{words}</span>
            </span>
          ),
        }))}
        onChange={(id) => useStage.setState({ view: id, tool: 'select' })}
      />
      {view === 'plan' && (
        <>
          <span className="mx-1 h-4 w-px bg-line" />
          <Layouts />
          <PlanTools />
        </>
      )}
      {view === '3d' && <Cameras />}
    </div>
  );
}

/** Which layout of the plan is shown, and a new one. */
function Layouts() {
  const show = useShow();
  const role = useScreen((s) => s.you.role);
  const layoutId = useStage((s) => s.layoutId);
  const [isNaming, setNaming] = useState(false);
  const layouts = [...show.layouts.values()].sort((a, b) => a.number - b.number);
  const choose = (id: string): void => {
    if (id === NEW) setNaming(true);
    else useStage.setState({ layoutId: id || null, view2d: null, pieceId: null });
  };
  return (
    <>
      <select
        aria-label="Layout"
        value={layoutId ?? ''}
        onChange={(e) => choose(e.target.value)}
        className="h-7 max-w-[130px] rounded-md bg-raised px-1.5 text-[12.5px] text-soft"
      >
        <option value="">Stage</option>
        {layouts.map((l) => (
          <option key={l.id} value={l.id}>
            {l.name}
          </option>
        ))}
        {mayEdit(role) && <option value={NEW}>New layout …</option>}
      </select>
      {isNaming && <NewLayout onDone={() => setNaming(false)} />}
    </>
  );
}

/** What a pointer does on the plan, how near it is, and whether units are moved. */
function PlanTools() {
  const role = useScreen((s) => s.you.role);
  const { tool, arrange, view2d } = useParts(useStage, 'tool', 'arrange', 'view2d');
  return (
    <span className="ml-auto flex items-center gap-0.5">
      <Tool
        name="Select"
        title="Click, or drag a box"
        on={tool === 'select'}
        onPress={() => useStage.setState({ tool: 'select' })}
      >
        <MousePointer2 size={14} />
      </Tool>
      <Tool
        name="Lasso"
        title="Draw round what you want"
        on={tool === 'lasso'}
        onPress={() => setTool('lasso')}
      >
        <Lasso size={14} />
      </Tool>
      <SpotTool />
      <span className="mx-1 h-4 w-px bg-line" />
      <Tool name="Zoom out" title="Zoom out (wheel)" onPress={() => zoomBy(0.8)}>
        <Minus size={14} />
      </Tool>
      <Tool
        name="Zoom in"
        title="Zoom in (wheel); the middle button moves"
        onPress={() => zoomBy(1.25)}
      >
        <Plus size={14} />
      </Tool>
      <button
        type="button"
        aria-label="Fit"
        title="Everything, or the selection when there is one"
        aria-pressed={view2d !== null}
        onClick={() => fitSelection()}
        className="grid size-7 place-items-center rounded-md text-muted hover:bg-raised hover:text-soft"
      >
        <Maximize2 size={13} />
      </button>
      {mayEdit(role) && (
        <button
          type="button"
          aria-pressed={arrange}
          title="Arrange: drag units and bars instead of selecting"
          onClick={() => useStage.setState({ arrange: !arrange, tool: 'select', pieceId: null })}
          className={`ml-1 flex h-7 items-center gap-1.5 rounded-md px-2 text-[12.5px] ${arrange ? 'bg-standby-wash text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}
        >
          <Move size={13} /> Arrange
        </button>
      )}
    </span>
  );
}

function Cameras() {
  const camera = useStage((s) => s.camera);
  return (
    <span className="ml-auto flex items-center gap-0.5" role="group" aria-label="Camera">
      <SpotTool />
      {CAMERAS.map(([id, label]) => (
        <button
          key={id}
          type="button"
          aria-pressed={camera === id}
          onClick={() => useStage.setState({ camera: id })}
          className={`h-7 rounded-md px-2 text-[12px] whitespace-nowrap ${camera === id ? 'bg-lift text-text' : 'text-muted hover:text-soft'}`}
        >
          {label}
        </button>
      ))}
    </span>
  );
}

function NewLayout({ onDone }: { onDone: () => void }) {
  const [typed, setTyped] = useState('');
  const name = typed.trim();
  const make = async (): Promise<void> => {
    const answer = await edit('set-layout', { set: { name, places: startPlaces() } });
    if ('changes' in answer)
      useStage.setState({ layoutId: answer.changes[0]?.id ?? null, view2d: null });
  };
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onDone()}
      title="Make a layout"
      about="Its own places move no light: put units where you want to find them."
      width="w-[380px]"
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (name) void make();
          onDone();
        }}
      >
        <Field
          label="Name"
          autoFocus
          value={typed}
          maxLength={120}
          onChange={(e) => setTyped(e.target.value)}
        />
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit" disabled={!name}>
            Make layout
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** A new layout begins with the selection where it hangs, or with everything. */
function startPlaces(): Record<string, { x: number; y: number }> {
  const { show, selection } = useScreen.getState();
  const ids = selection.length > 0 ? selection : [...show.fixtures.keys()];
  return Object.fromEntries(
    ids.flatMap((id) => {
      const at = show.fixtures.get(id)?.position;
      return at ? [[id, { x: at.x, y: at.y }] as const] : [];
    }),
  );
}

function zoomBy(factor: number): void {
  useStage.setState((s) => ({
    view2d: s.view2d
      ? { ...s.view2d, zoom: clamp(s.view2d.zoom * factor, 0.5, 14) }
      : { zoom: factor, x: 0, y: 2.25 },
  }));
}

/** All, or closer to what is selected. */
function fitSelection(): void {
  const { show, selection } = useScreen.getState();
  const { view2d, layoutId } = useStage.getState();
  const places = layoutId ? show.layouts.get(layoutId)?.places : undefined;
  const points = selection.flatMap((id) => places?.[id] ?? show.fixtures.get(id)?.position ?? []);
  if (view2d !== null || points.length === 0) {
    useStage.setState({ view2d: null });
    return;
  }
  const [xs, ys] = [points.map((p) => p.x), points.map((p) => p.y)];
  const span = Math.max(3, Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  useStage.setState({
    view2d: {
      zoom: Math.min(8, 15 / (span + 2)),
      x: (Math.max(...xs) + Math.min(...xs)) / 2,
      y: (Math.max(...ys) + Math.min(...ys)) / 2,
    },
  });
}
