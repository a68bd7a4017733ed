/** What the hand does on the plan: select by click, box and lasso; zoom and move; aim; move units and pieces; draw. */
import { useRef, useState, type RefObject } from 'react';
import { useLed } from '../parts/use-led';
import { isWithin } from '@/core/areas/within';
import type { LayoutRow, PieceRow } from '@/core/plan/rows';
import { said, select, toggleSelected } from '../state/commands';
import { seqNow, since } from '../state/looked';
import { askSpot } from '../state/sheets';
import { useStage } from '../state/stage';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import type { Lamp } from './light';
import { cm, movedFixtures, movedPiece, putDown, type Moving } from './moving';
import { drawn } from './new-lines';
import { lampAt, lampsWithin, pieceAt, type Pixel } from './pick';
import { movedBy, toMetre, type Bounds, type View } from './view';
import { pinched, useWheelZoom } from './zoom';

const DRAG_PX = 4;
/** The button of a mouse's wheel, and the right one. */
const WHEEL_BUTTON = 1;
const MENU_BUTTON = 2;

type Kind = 'select' | 'lasso' | 'pan' | 'fixtures' | 'piece' | 'line' | 'aim' | 'spot';

interface Gesture {
  start: Pixel;
  kind: Kind;
  lamp: Lamp | null;
  piece: PieceRow | null;
  moved: boolean;
  additive: boolean;
  /** As it was when it began. */
  view: View;
  /** The show's last change when it began. */
  seen: number;
}

interface Asked {
  box: RefObject<HTMLDivElement | null>;
  view: View;
  bounds: Bounds;
  size: { width: number; height: number };
  lamps: readonly Lamp[];
  pieces: readonly PieceRow[];
  arranging: boolean;
  layout: LayoutRow | undefined;
  /** What is led over the plan. */
  moving: Pick<ReturnType<typeof useLed<Moving | null>>, 'now' | 'put'>;
  /** Without zoom, tools and layouts: the plan in Rig. */
  fixed: boolean;
}

/** What a gesture leaves on the screen while it lasts. */
interface Trace {
  rubber: { x: number; y: number; w: number; h: number } | null;
  lasso: Pixel[] | null;
  line: { from: Pixel; to: Pixel } | null;
}
const NO_TRACE: Trace = { rubber: null, lasso: null, line: null };

/** What hands do on the plan, and what is drawn of it. */
export interface Gestures extends Trace {
  hover: Lamp | null;
  /** The piece that is chosen while arranging. */
  piece: string | null;
  handlers: Pick<
    React.DOMAttributes<HTMLCanvasElement>,
    | 'onPointerDown'
    | 'onPointerMove'
    | 'onPointerUp'
    | 'onPointerCancel'
    | 'onLostPointerCapture'
    | 'onPointerLeave'
    | 'onDoubleClick'
  >;
}

const pixelOf = (e: React.PointerEvent): Pixel => {
  const r = e.currentTarget.getBoundingClientRect();
  return { x: e.clientX - r.left, y: e.clientY - r.top };
};

const boxBetween = (a: Pixel, b: Pixel): NonNullable<Trace['rubber']> => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  w: Math.abs(a.x - b.x),
  h: Math.abs(a.y - b.y),
});

const inBox =
  (box: NonNullable<Trace['rubber']>) =>
  (q: Pixel): boolean =>
    q.x >= box.x && q.x <= box.x + box.w && q.y >= box.y && q.y <= box.y + box.h;

/** What a hand that comes down begins. @param found what may be moved under it */
function useKind(a: Asked) {
  const role = useScreen((s) => s.you.role);
  const tool = useStage((s) => s.tool);
  const draws = tool === 'bar' || tool === 'boom' || tool === 'set';
  return (found: { lamp: Lamp | null; piece: PieceRow | null }): Kind => {
    if (!a.fixed) {
      if (tool === 'aim' && mayPlay(role)) return 'aim';
      if ((tool === 'line' && mayPlay(role)) || (draws && mayEdit(role))) return 'line';
      if (tool === 'lasso' || tool === 'spot') return tool;
    }
    if (!a.arranging || !mayEdit(role)) return 'select';
    if (found.lamp) return 'fixtures';
    return found.piece ? 'piece' : 'select';
  };
}

/** A press that moved nothing: it selects, adds, or lets go. */
function clicked({ lamp, piece, additive }: Gesture, selection: readonly string[]): void {
  useStage.setState({ pieceId: piece?.id ?? null });
  if (!lamp) {
    if (!piece && selection.length > 0) select([]);
    return;
  }
  const { id } = lamp.fixture;
  const isAlone = selection.length === 1 && selection[0] === id;
  if (additive) toggleSelected(id);
  else select(isAlone ? [] : [id]);
}

function aimAt(to: { x: number; y: number }): void {
  void said({ command: 'aim', points: [{ x: cm(to.x), y: cm(to.y), z: 0 }], flip: false });
}

type Held = React.PointerEvent<HTMLCanvasElement>;
type Leading = ReturnType<typeof useLed<Trace>>;

/** Fingers on the plan; two of them zoom and move it. */
function useFingers(a: Asked) {
  const touches = useRef(new Map<number, Pixel>());
  return {
    count: () => touches.current.size,
    down: (e: Held, p: Pixel): void => {
      if (e.pointerType === 'touch') touches.current.set(e.pointerId, p);
    },
    up: (e: Held): void => void touches.current.delete(e.pointerId),
    /** @returns whether two fingers have moved the plan */
    pinch: (e: Held, p: Pixel): boolean => {
      const before = touches.current.get(e.pointerId);
      if (!before || touches.current.size < 2 || a.fixed) return false;
      const other = [...touches.current].find(([id]) => id !== e.pointerId)?.[1];
      touches.current.set(e.pointerId, p);
      if (other) pinched(a, before, p, other);
      return other !== undefined;
    },
  };
}

/** What each kind of gesture does while the hand goes on. */
function useGoingOn(a: Asked, trace: Leading) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const { view, bounds, size } = a;
  return (now: Gesture, p: Pixel): void => {
    const [m, from] = [toMetre(view, p), toMetre(view, now.start)];
    const by = { x: m.x - from.x, y: m.y - from.y };
    switch (now.kind) {
      case 'pan':
        if (!a.fixed)
          useStage.setState({
            view2d: movedBy(now.view, bounds, size, p.x - now.start.x, p.y - now.start.y),
          });
        break;
      case 'lasso':
        trace.put({ ...NO_TRACE, lasso: [...(trace.now().lasso ?? [now.start]), p] });
        break;
      case 'line':
        trace.put({ ...NO_TRACE, line: { from: now.start, to: p } });
        break;
      case 'fixtures':
        if (now.lamp) {
          const { id } = now.lamp.fixture;
          const ids = selection.includes(id) ? selection : [id];
          a.moving.put(movedFixtures({ show, layout: a.layout }, now.lamp, ids, by));
        }
        break;
      case 'piece':
        if (now.piece) a.moving.put(movedPiece(now.piece, by));
        break;
      case 'select':
        trace.put({ ...NO_TRACE, rubber: boxBetween(now.start, p) });
        break;
      case 'aim':
      case 'spot':
        break;
    }
  };
}

/** What each kind of gesture does when the hand lets go. */
function useFinishing(a: Asked, trace: Leading) {
  const show = useShow();
  const selection = useScreen((s) => s.selection);
  const tool = useStage((s) => s.tool);
  const { view } = a;
  const selectWithin = (holds: (p: Pixel) => boolean, additive: boolean): void => {
    const ids = lampsWithin(a.lamps, view, holds);
    select(additive ? [...new Set([...selection, ...ids])] : ids);
  };
  return (done: Gesture, p: Pixel): void => {
    const moving = a.moving.now();
    const { rubber, lasso, line } = trace.now();
    if (done.kind === 'aim') aimAt(toMetre(view, p));
    else if (done.kind === 'spot') askSpot(toMetre(view, p));
    else if (done.kind === 'line') {
      if (line) drawn(tool, show, toMetre(view, line.from), toMetre(view, line.to));
    } else if (moving)
      since(done.seen, () => void putDown(moving, a.layout).finally(() => a.moving.put(null)));
    else if (lasso) selectWithin((q) => isWithin(lasso, q), done.additive);
    else if (rubber) selectWithin(inBox(rubber), done.additive);
    else if (!done.moved && done.kind !== 'pan') clicked(done, selection);
  };
}

/** By pointer, finger and wheel. */
export function useGestures(a: Asked): Gestures {
  const role = useScreen((s) => s.you.role);
  const chosen = useStage((s) => s.pieceId);
  const kindOf = useKind(a);
  const [hover, setHover] = useState<Lamp | null>(null);
  const trace = useLed<Trace>(NO_TRACE);
  const gesture = useRef<Gesture | null>(null);
  const fingers = useFingers(a);
  const goOn = useGoingOn(a, trace);
  const finish = useFinishing(a, trace);
  const { view } = a;
  useWheelZoom(a.box, a.fixed, a);

  const begin = (e: Held): void => {
    // The right button is the menu’s; a second hand does not take the first one’s gesture over, except two fingers that zoom.
    if (e.button === MENU_BUTTON || (gesture.current && e.pointerType !== 'touch')) return;
    const p = pixelOf(e);
    e.currentTarget.setPointerCapture(e.pointerId);
    fingers.down(e, p);
    const lamp = lampAt(a.lamps, view, p);
    const canMove = a.arranging && mayEdit(role);
    const piece = canMove && !lamp ? pieceAt(a.pieces, view, p) : null;
    const pans = e.button === WHEEL_BUTTON || fingers.count() > 1;
    gesture.current = {
      start: p,
      view,
      kind: pans ? 'pan' : kindOf({ lamp, piece }),
      lamp,
      piece,
      moved: false,
      additive: e.ctrlKey || e.metaKey || e.shiftKey,
      seen: seqNow(),
    };
    trace.put(NO_TRACE);
  };

  const move = (e: Held): void => {
    const p = pixelOf(e);
    if (fingers.pinch(e, p)) {
      gesture.current = null;
      return;
    }
    const now = gesture.current;
    if (!now) {
      setHover(lampAt(a.lamps, view, p));
      return;
    }
    if (!now.moved && Math.hypot(p.x - now.start.x, p.y - now.start.y) < DRAG_PX) return;
    now.moved = true;
    goOn(now, p);
  };

  const end = (e: Held): void => {
    fingers.up(e);
    const done = gesture.current;
    gesture.current = null;
    if (!done) return;
    finish(done, pixelOf(e));
    trace.put(NO_TRACE);
  };

  /** Taken away by the system: nothing is put down, nothing is selected. */
  const torn = (e: Held): void => {
    fingers.up(e);
    gesture.current = null;
    a.moving.put(null);
    trace.put(NO_TRACE);
  };

  return {
    hover,
    ...trace.shown,
    piece: a.arranging ? chosen : null,
    handlers: {
      onPointerDown: begin,
      onPointerMove: move,
      onPointerUp: end,
      onPointerCancel: torn,
      onLostPointerCapture: (e) => gesture.current && torn(e),
      onPointerLeave: () => setHover(null),
      onDoubleClick: () => !a.fixed && useStage.setState({ view2d: null }),
    },
  };
}
