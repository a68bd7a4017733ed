/** The stage in space: fixtures where they hang, their light on floor, cyc and set; turned with the hand, clicked to select or aim. */
'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { lampsOf } from '../../plan/light';
import { boundsOf, pointsOfPieces } from '../../plan/view';
import { said, select, toggleSelected } from '../../state/commands';
import { askSpot } from '../../state/sheets';
import { useStage, type StageState } from '../../state/stage';
import { useScreen, useShow } from '../../state/store';
import { buildScene } from './scene';
import { SpaceView, type Look } from './space-view';

const DRAG_PX = 5;

const CAMERAS: Record<Exclude<StageState['camera'], 'free'>, Look> = {
  front: [
    [0, 4.2, 14],
    [0, 2.2, -3],
  ],
  seat: [
    [2.6, 1.25, 9.5],
    [0, 2, -4],
  ],
  side: [
    [-13, 4, 1.5],
    [0, 2, -4],
  ],
  top: [
    [0, 21, -1.9],
    [0, 0, -2],
  ],
};

/** Where it was looked from last: a change of the rig, or a look at the plan in between, moves nobody. */
const kept: { look: Look } = { look: CAMERAS.front };

/** What there is to draw; made anew only where the rig or the set changes. */
function useDrawn() {
  const show = useShow();
  const index = useScreen((s) => s.index);
  const rigVersion = `${show.version('fixtures')}/${show.version('types')}/${show.version('pieces')}`;
  return useMemo(() => {
    void rigVersion;
    const lamps = lampsOf(show, index);
    const pieces = [...show.pieces.values()];
    const bounds = boundsOf([...pointsOfPieces(pieces), ...lamps.map((l) => l.fixture.position)]);
    return { lamps, pieces, bounds };
  }, [show, index, rigVersion]);
}
type Drawn = ReturnType<typeof useDrawn>;

/** The picture in an element, where a hand has left it also when the rig changes; null where this browser draws none. */
function useView(
  box: React.RefObject<HTMLDivElement | null>,
  { lamps, pieces, bounds }: Drawn,
): { view: React.RefObject<SpaceView | null>; failed: boolean } {
  const view = useRef<SpaceView | null>(null);
  const [failed, setFailed] = useState(false);
  const selection = useScreen((s) => s.selection);
  const blind = useScreen((s) => s.programmer.blind);
  const camera = useStage((s) => s.camera);

  useEffect(() => {
    if (!box.current) return undefined;
    try {
      view.current = new SpaceView(box.current, buildScene(lamps, pieces, bounds), () =>
        useStage.setState({ camera: 'free' }),
      );
    } catch {
      setFailed(true);
      return undefined;
    }
    view.current.lookFrom(kept.look);
    return () => {
      if (view.current) kept.look = view.current.look;
      view.current?.dispose();
      view.current = null;
    };
  }, [box, lamps, pieces, bounds]);
  useEffect(() => {
    if (camera !== 'free') view.current?.lookFrom(CAMERAS[camera]);
  }, [camera]);
  useEffect(() => view.current?.mark(new Set(selection)), [selection, lamps, pieces, bounds]);
  useEffect(() => view.current?.again(), [blind]);
  return { view, failed };
}

/** The stage in space. */
export function Space() {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const tool = useStage((s) => s.tool);
  const box = useRef<HTMLDivElement>(null);
  const drawn = useDrawn();
  const { view, failed } = useView(box, drawn);
  const [hover, setHover] = useState<{ x: number; y: number; text: string } | null>(null);
  const down = useRef<{ x: number; y: number } | null>(null);
  const place = (e: React.PointerEvent): { x: number; y: number } => {
    const r = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - r.left, y: e.clientY - r.top };
  };
  const name = (e: React.PointerEvent): void => {
    if (e.buttons !== 0) return;
    const { x, y } = place(e);
    const found = view.current?.near(x, y);
    const fixture = found && show.fixtures.get(found.id);
    setHover(
      fixture ? { x: found.x, y: found.y, text: `${fixture.number} ${fixture.label}` } : null,
    );
  };
  const press = (e: React.PointerEvent): void => {
    const from = down.current;
    down.current = null;
    const { x, y } = place(e);
    if (!from || Math.hypot(x - from.x, y - from.y) > DRAG_PX || e.button !== 0) return;
    if (tool === 'spot' || tool === 'aim') pointAt(tool, view.current?.onFloor(x, y));
    else choose(view.current?.near(x, y)?.id, selection, e.ctrlKey || e.metaKey || e.shiftKey);
  };
  if (failed) return <NoSpace />;
  return (
    <div
      ref={box}
      data-testid="space"
      data-theme="night"
      role="img"
      aria-label={`The stage in space with ${drawn.lamps.length} fixtures, ${selection.length} selected. Drag to look round, click to select.`}
      className="relative size-full touch-none overflow-hidden bg-ink text-text"
      style={{ cursor: tool === 'aim' || tool === 'spot' ? 'crosshair' : 'default' }}
      onPointerDown={(e) => (down.current = place(e))}
      onPointerMove={name}
      onPointerUp={press}
      onPointerLeave={() => setHover(null)}
    >
      {hover && (
        <div
          className="pointer-events-none absolute z-10 -translate-x-1/2 -translate-y-full rounded-md bg-text px-2 py-0.5 text-[12px] font-medium whitespace-nowrap text-ink"
          style={{ left: hover.x, top: hover.y - 14 }}
        >
          {hover.text}
        </div>
      )}
    </div>
  );
}

/** A place of the floor that was pressed. */
function pointAt(tool: 'spot' | 'aim', at: { x: number; y: number } | undefined): void {
  if (!at) return;
  if (tool === 'spot') {
    askSpot(at);
    return;
  }
  const cm = (metres: number): number => Math.round(metres * 100) / 100;
  const points = [{ x: cm(at.x), y: cm(at.y), z: 0 }];
  void said({ command: 'aim', points, flip: false });
}

/** A unit that was pressed, or none. @param more keys that add to what is selected */
function choose(id: string | undefined, selection: readonly string[], more: boolean): void {
  if (id === undefined) {
    if (selection.length > 0 && !more) select([]);
  } else if (more) toggleSelected(id);
  else select(selection.length === 1 && selection[0] === id ? [] : [id]);
}

const NoSpace = () => (
  <div className="grid h-full place-items-center p-8 text-center text-muted">
    <div className="max-w-sm">
      <p className="font-semibold text-soft">This browser has no way to draw the stage in space</p>
      <p className="mt-1">The plan shows the same light.</p>
      <button
        type="button"
        onClick={() => useStage.setState({ view: 'plan' })}
        className="mt-3 h-8 rounded-md bg-raised px-3 text-soft hover:bg-lift"
      >
        Open the plan
      </button>
    </div>
  </div>
);
