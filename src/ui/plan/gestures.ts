/** What the hand does on the plan: select by click, box and lasso; zoom and move; aim; move units and pieces; draw. */
import { useEffect, useRef, useState, type RefObject } from 'react';
import type { LayoutRow, PieceRow } from '@/core/plan/rows';
import { ontoPiece, snapped } from '@/core/plan/arrange';
import { edit, said, select, toggleSelected } from '../state/actions';
import { seqNow, since } from '../state/looked';
import { setTool, useStage } from '../state/stage';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import type { Lamp } from './light';
import { inside, movedBy, toMetre, toPixel, zoomedAt, type Bounds, type View } from './view';

const HIT_PX = 17;
const PIECE_HIT_M = 0.25;
const DRAG_PX = 4;
const WHEEL_STEP = 1.0016;

interface Pixel {
  x: number;
  y: number;
}
type Metre = Pixel;

/** What is under the hand and not yet put down. */
export interface Moving {
  fixtures?: ReadonlyMap<string, { x: number; y: number; z?: number }>;
  piece?: PieceRow;
  hang?: string;
  says: string;
}

interface Gesture {
  start: Pixel;
  kind: 'select' | 'lasso' | 'pan' | 'fixtures' | 'piece' | 'line' | 'aim';
  lamp: Lamp | null;
  piece: PieceRow | null;
  moved: boolean;
  additive: boolean;
  last: Pixel;
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
  moving: Moving | null;
  setMoving: (moving: Moving | null) => void;
  /** Without zoom, tools and layouts: the plan in Rig. */
  fixed: boolean;
}

export interface Gestures {
  hover: Lamp | null;
  rubber: { x: number; y: number; w: number; h: number } | null;
  lasso: Pixel[] | null;
  line: { from: Pixel; to: Pixel } | null;
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

const cm = (v: number): number => Math.round(v * 100) / 100;

export function useGestures(a: Asked): Gestures {
  const show = useShow();
  const role = useScreen((s) => s.you.role);
  const selection = useScreen((s) => s.selection);
  const tool = useStage((s) => s.tool);
  const [hover, setHover] = useState<Lamp | null>(null);
  const [rubber, setRubber] = useState<Gestures['rubber']>(null);
  const [lasso, setLasso] = useState<Pixel[] | null>(null);
  const [line, setLine] = useState<Gestures['line']>(null);
  const piece = useStage((s) => s.pieceId);
  const gesture = useRef<Gesture | null>(null);
  const touches = useRef(new Map<number, Pixel>());
  const { view, bounds, size } = a;

  // The wheel may not scroll the page, so it is listened to by hand.
  useEffect(() => {
    const element = a.box.current;
    if (!element || a.fixed) return;
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      const r = element.getBoundingClientRect();
      useStage.setState({
        view2d: zoomedAt(
          view,
          bounds,
          size,
          { x: e.clientX - r.left, y: e.clientY - r.top },
          WHEEL_STEP ** -e.deltaY,
        ),
      });
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [a.box, a.fixed, view, bounds, size]);

  const at = (e: React.PointerEvent): Pixel => {
    const r = e.currentTarget.getBoundingClientRect();
    return { x: e.clientX - r.left, y: e.clientY - r.top };
  };
  const hit = (p: Pixel): Lamp | null => {
    let best: Lamp | null = null;
    let distance = Infinity;
    for (const lamp of a.lamps) {
      const q = toPixel(view, lamp.fixture.position);
      const d = Math.hypot(Math.abs(q.x - p.x) / (lamp.shape === 'strip' ? 1.8 : 1), q.y - p.y);
      if (d < HIT_PX && d < distance) {
        best = lamp;
        distance = d;
      }
    }
    return best;
  };
  const hitPiece = (p: Pixel): PieceRow | null => {
    const m = toMetre(view, p);
    return (
      a.pieces.find((row) => ontoPiece(row, m).distance < Math.max(PIECE_HIT_M, 6 / view.scale)) ??
      null
    );
  };

  const begin = (e: React.PointerEvent<HTMLCanvasElement>): void => {
    // The right button is the menu’s; a second hand does not take the first one’s gesture over, except two fingers that zoom.
    if (e.button === 2 || (gesture.current && e.pointerType !== 'touch')) return;
    const p = at(e);
    e.currentTarget.setPointerCapture(e.pointerId);
    if (e.pointerType === 'touch') touches.current.set(e.pointerId, p);
    const lamp = hit(p);
    const canEdit = a.arranging && mayEdit(role);
    const found = canEdit && !lamp ? hitPiece(p) : null;
    const aims = !a.fixed && (tool === 'aim' || tool === 'line') && mayPlay(role);
    const draws =
      !a.fixed && (tool === 'bar' || tool === 'boom' || tool === 'set') && mayEdit(role);
    const kind: Gesture['kind'] =
      e.button === 1 || touches.current.size > 1
        ? 'pan'
        : aims
          ? tool === 'line'
            ? 'line'
            : 'aim'
          : draws
            ? 'line'
            : tool === 'lasso' && !a.fixed
              ? 'lasso'
              : canEdit && lamp
                ? 'fixtures'
                : found
                  ? 'piece'
                  : 'select';
    gesture.current = {
      start: p,
      last: p,
      kind,
      lamp,
      piece: found,
      moved: false,
      additive: e.ctrlKey || e.metaKey || e.shiftKey,
      seen: seqNow(),
    };
    setRubber(null);
  };

  /** Two fingers move and zoom at once. */
  const pinch = (e: React.PointerEvent, p: Pixel): boolean => {
    const before = touches.current.get(e.pointerId);
    if (!before || touches.current.size < 2 || a.fixed) return false;
    const other = [...touches.current].find(([id]) => id !== e.pointerId)?.[1];
    touches.current.set(e.pointerId, p);
    if (!other) return false;
    const factor =
      Math.hypot(p.x - other.x, p.y - other.y) /
      Math.max(1, Math.hypot(before.x - other.x, before.y - other.y));
    const middle = { x: (p.x + other.x) / 2, y: (p.y + other.y) / 2 };
    const zoomed = zoomedAt(view, bounds, size, middle, factor);
    const scale = view.scale * factor;
    useStage.setState({
      view2d: {
        ...zoomed,
        x: zoomed.x - (p.x - before.x) / 2 / scale,
        y: zoomed.y + (p.y - before.y) / 2 / scale,
      },
    });
    return true;
  };

  const move = (e: React.PointerEvent<HTMLCanvasElement>): void => {
    const p = at(e);
    if (pinch(e, p)) {
      gesture.current = null;
      return;
    }
    const now = gesture.current;
    if (!now) {
      setHover(hit(p));
      return;
    }
    if (!now.moved && Math.hypot(p.x - now.start.x, p.y - now.start.y) < DRAG_PX) return;
    now.moved = true;
    const [m, from] = [toMetre(view, p), toMetre(view, now.start)];
    switch (now.kind) {
      case 'pan':
        if (!a.fixed)
          useStage.setState({
            view2d: movedBy(view, bounds, size, p.x - now.last.x, p.y - now.last.y),
          });
        break;
      case 'lasso':
        setLasso((l) => [...(l ?? [now.start]), p]);
        break;
      case 'line':
        setLine({ from: now.start, to: p });
        break;
      case 'fixtures':
        if (now.lamp) a.setMoving(moveFixtures(now.lamp, { x: m.x - from.x, y: m.y - from.y }));
        break;
      case 'piece':
        if (now.piece) {
          const by = { x: m.x - from.x, y: m.y - from.y };
          const points = now.piece.points.map((q) => ({ x: cm(q.x + by.x), y: cm(q.y + by.y) }));
          a.setMoving({
            piece: { ...now.piece, points },
            says: `${now.piece.name || 'line'} by ${by.x.toFixed(2)} ${by.y.toFixed(2)} m`,
          });
        }
        break;
      case 'select':
        setRubber({
          x: Math.min(p.x, now.start.x),
          y: Math.min(p.y, now.start.y),
          w: Math.abs(p.x - now.start.x),
          h: Math.abs(p.y - now.start.y),
        });
        break;
      case 'aim':
        break;
    }
    now.last = p;
  };

  /** The lead goes with the hand and onto a bar that is near; the others keep their distance to it. */
  const moveFixtures = (lead: Lamp, by: Metre): Moving => {
    const ids = selection.includes(lead.fixture.id) ? selection : [lead.fixture.id];
    const home = lead.fixture.position;
    // The lamps are drawn where the hand has them already: the start is what the show says.
    const of = (id: string): { x: number; y: number; z: number } => ({
      ...(show.fixtures.get(id)?.position ?? home),
      ...a.layout?.places?.[id],
    });
    const wanted = {
      x: of(lead.fixture.id).x + by.x,
      y: of(lead.fixture.id).y + by.y,
      z: of(lead.fixture.id).z,
    };
    const to = a.layout?.places
      ? {
          place: {
            ...wanted,
            x: Math.round(wanted.x * 10) / 10,
            y: Math.round(wanted.y * 10) / 10,
          },
          hang: '',
        }
      : snapped(show.pieces.values(), wanted);
    const delta = {
      x: to.place.x - of(lead.fixture.id).x,
      y: to.place.y - of(lead.fixture.id).y,
      z: to.place.z - of(lead.fixture.id).z,
    };
    return {
      fixtures: new Map(
        ids.map((id) => [
          id,
          { x: cm(of(id).x + delta.x), y: cm(of(id).y + delta.y), z: cm(of(id).z + delta.z) },
        ]),
      ),
      hang: to.hang,
      says: `${lead.fixture.number} at ${to.place.x.toFixed(2)} ${to.place.y.toFixed(2)}${a.layout?.places ? '' : `, ${to.place.z.toFixed(1)} m up${to.hang ? ` on ${to.hang}` : ''}`}`,
    };
  };

  const putDown = (moving: Moving): void => {
    const done = (): void => a.setMoving(null);
    if (moving.piece) {
      const { id, ...set } = moving.piece;
      void edit('set-piece', { id, set }, { quiet: true }).finally(done);
    } else if (moving.fixtures) {
      const places = Object.fromEntries(
        [...moving.fixtures].map(([id, p]) => [id, { x: p.x, y: p.y }]),
      );
      if (a.layout?.places)
        void edit('set-layout', { id: a.layout.id, set: { places } }, { quiet: true }).finally(
          done,
        );
      else
        void edit(
          'change-fixtures',
          {
            fixtures: [...moving.fixtures].map(([id, p]) => ({
              id,
              set: { position: p, hang: moving.hang ?? '' },
            })),
          },
          { quiet: true },
        ).finally(done);
    }
  };

  const within = (holds: (p: Pixel) => boolean, additive: boolean): void => {
    const ids = a.lamps
      .filter((l) => holds(toPixel(view, l.fixture.position)))
      .map((l) => l.fixture)
      .sort((x, y) => x.number - y.number)
      .map((f) => f.id);
    select(additive ? [...new Set([...selection, ...ids])] : ids);
  };

  const drawn = (from: Metre, to: Metre): void => {
    const far = Math.hypot(to.x - from.x, to.y - from.y) > 0.2;
    if (tool === 'line' && far)
      void said({
        command: 'aim',
        points: [
          { x: cm(from.x), y: cm(from.y), z: 0 },
          { x: cm(to.x), y: cm(to.y), z: 0 },
        ],
        flip: false,
      });
    else if (far && (tool === 'bar' || tool === 'boom')) {
      const word = tool === 'bar' ? 'Bar' : 'Boom';
      const n =
        Array.from({ length: 99 }, (_, i) => i + 1).find(
          (i) => ![...show.pieces.values()].some((x) => x.name === `${word} ${i}`),
        ) ?? 99;
      void edit('set-piece', {
        set: { name: `${word} ${n}`, kind: tool, points: [from, to], z: tool === 'bar' ? 6 : 2 },
      });
    } else if (far && tool === 'set')
      void edit('set-piece', {
        set: {
          name: 'Set piece',
          kind: 'set',
          points: [from, { x: to.x, y: from.y }, to, { x: from.x, y: to.y }],
          z: 0,
          height: 1,
        },
      });
    if (tool !== 'line') setTool('select');
  };

  const end = (e: React.PointerEvent<HTMLCanvasElement>): void => {
    touches.current.delete(e.pointerId);
    const done = gesture.current;
    gesture.current = null;
    if (!done) return;
    const p = at(e);
    if (done.kind === 'aim') {
      const m = toMetre(view, p);
      void said({ command: 'aim', points: [{ x: cm(m.x), y: cm(m.y), z: 0 }], flip: false });
    } else if (done.kind === 'line') {
      if (line) drawn(toMetre(view, line.from), toMetre(view, line.to));
    } else if (a.moving) since(done.seen, () => a.moving && putDown(a.moving));
    else if (lasso) within((q) => inside(lasso, q), done.additive);
    else if (rubber)
      within(
        (q) =>
          q.x >= rubber.x &&
          q.x <= rubber.x + rubber.w &&
          q.y >= rubber.y &&
          q.y <= rubber.y + rubber.h,
        done.additive,
      );
    else if (!done.moved && done.kind !== 'pan') clicked(done);
    setRubber(null);
    setLasso(null);
    setLine(null);
  };

  /** Taken away by the system: nothing is put down, nothing is selected. */
  const torn = (e: React.PointerEvent<HTMLCanvasElement>): void => {
    touches.current.delete(e.pointerId);
    gesture.current = null;
    a.setMoving(null);
    setRubber(null);
    setLasso(null);
    setLine(null);
  };

  const clicked = (g: Gesture): void => {
    useStage.setState({ pieceId: g.piece?.id ?? null });
    if (g.lamp) {
      if (g.additive) toggleSelected(g.lamp.fixture.id);
      else
        select(
          selection.length === 1 && selection[0] === g.lamp.fixture.id ? [] : [g.lamp.fixture.id],
        );
    } else if (!g.piece && selection.length > 0) select([]);
  };

  return {
    hover,
    rubber,
    lasso,
    line,
    piece: a.arranging ? piece : null,
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
