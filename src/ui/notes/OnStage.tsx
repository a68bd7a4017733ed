/** The stage as it is at this moment, to point at a unit or a place and to draw on. */
'use client';
import { clamp } from '@/core/numbers';
import { Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Show } from '@/core/show/show';
import { plural } from '@/core/words';
import { Button, Dialog } from '../parts/controls';
import { Plan } from '../plan/Plan';
import { notice } from '../state/messages';
import { useShow } from '../state/store';
import { small } from './photo';
import { Strokes } from './Picture';
import { coloursAt } from '../parts/tokens';

/** What a note points at. */
export interface Pointed {
  fixtureId?: string;
  place?: { x: number; y: number };
  drawing?: { picture?: string; lines: number[][] };
}

const TAP_PX = 7;
const NEAR_PX = 18;
const MOST_LINES = 200;
const MOST_POINTS = 990;
/** Nearer to the last point of a line no other is needed. */
const STEP_PX = 3;
/** The longest side of the picture. */
const MOST_PX = 1400;
/** The plan has drawn itself by then. */
const DRAWN_MS = 450;

/** 0…1 of a picture, across and down. */
type Spot = [number, number];

/** The picture of a moment, and how its pixels are metres: scale, and where the middle of the stage is. */
interface Frozen {
  data: HTMLCanvasElement;
  width: number;
  height: number;
  view: [scale: number, x: number, y: number];
}
interface Place {
  x: number;
  y: number;
}

/** All layers of a plan as one picture; null while it has not drawn itself. */
function freeze(box: HTMLElement): Frozen | null {
  const layers = [...box.querySelectorAll('canvas')];
  const top = box.querySelector('[data-testid=plan]');
  const view = (top?.getAttribute('data-view') ?? '').split(',').map(Number);
  if (layers.length === 0 || view.length !== 3) return null;
  const data = document.createElement('canvas');
  const [width, height] = [box.clientWidth, box.clientHeight];
  const scale = Math.min(2, MOST_PX / width);
  [data.width, data.height] = [Math.round(width * scale), Math.round(height * scale)];
  const g = data.getContext('2d');
  if (!g) return null;
  g.fillStyle = coloursAt(box)('ink');
  g.fillRect(0, 0, data.width, data.height);
  for (const layer of layers) g.drawImage(layer, 0, 0, data.width, data.height);
  return { data, width, height, view: view as Frozen['view'] };
}

/** The plan draws itself first; then its layers are one picture, and nothing moves under the pen. */
function useFrozen(box: React.RefObject<HTMLDivElement | null>): Frozen | null {
  const [frozen, setFrozen] = useState<Frozen | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => box.current && setFrozen(freeze(box.current)), DRAWN_MS);
    return () => clearTimeout(timer);
  }, [box]);
  return frozen;
}

/** What a short touch points at: the unit that is near, or the floor. @param at 0…1 of the picture */
function pointed(show: Show, { view, width, height }: Frozen, [u, v]: Spot): Place & Pointed {
  const [scale, ox, oy] = view;
  const [px, py] = [u * width, v * height];
  const near = [...show.fixtures.values()]
    .map(({ id, position }) => ({
      id,
      away_px: Math.hypot(ox + position.x * scale - px, oy - position.y * scale - py),
    }))
    .filter(({ away_px }) => away_px <= NEAR_PX)
    .sort((a, b) => a.away_px - b.away_px)[0];
  const metres = (pixels: number): number => Math.round((pixels / scale) * 100) / 100;
  return {
    x: metres(px - ox),
    y: metres(oy - py),
    ...(near ? { fixtureId: near.id } : {}),
  };
}

/** Points at a unit or a place of the plan, or draws on it. */
export function OnStage({
  onUse,
  onClose,
}: {
  onUse: (pointed: Pointed) => void;
  onClose: () => void;
}) {
  const show = useShow();
  const box = useRef<HTMLDivElement>(null);
  const frozen = useFrozen(box);
  const [lines, setLines] = useState<number[][]>([]);
  const [at, setAt] = useState<(Place & Pointed) | null>(null);
  const unit = at?.fixtureId === undefined ? undefined : show.fixtures.get(at.fixtureId);
  const draw = (line: number[]): void => {
    if (lines.length < MOST_LINES) setLines([...lines, line]);
    else notice.warning(`A drawing has at most ${MOST_LINES} lines.`);
  };
  const use = (): void => {
    onUse({
      ...(at?.fixtureId === undefined ? {} : { fixtureId: at.fixtureId }),
      ...(at && at.fixtureId === undefined ? { place: { x: at.x, y: at.y } } : {}),
      ...(lines.length > 0 ? { drawing: { lines, ...pictureOf(frozen) } } : {}),
    });
    onClose();
  };
  const said = [
    unit ? `unit ${unit.number} ${unit.label}` : at && 'a place on the stage',
    lines.length > 0 && plural(lines.length, 'line'),
  ].filter(Boolean);
  const nothing = frozen ? 'Nothing pointed at yet' : 'Taking the picture …';
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="On the stage, as it is now"
      about="Touch a unit or a place to point at it; draw with a finger or a pen."
      width="w-[860px]"
      tall
    >
      <div ref={box} className="relative h-[min(460px,56vh)] overflow-hidden rounded-lg bg-ink">
        {frozen ? (
          <Picture of={frozen} />
        ) : (
          <div className="pointer-events-none absolute inset-0">
            <Plan arrange={false} />
          </div>
        )}
        <Sheet
          frozen={frozen}
          lines={lines}
          onPoint={(spot) => frozen && setAt(pointed(show, frozen, spot))}
          onLine={draw}
        />
        {at && frozen && <Marker frozen={frozen} at={at} says={unit ? unit.number : 'here'} />}
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <span data-testid="pointed" className="min-w-0 flex-1 basis-[180px] text-soft">
          {said.join(', ') || nothing}
        </span>
        <Button
          kind="quiet"
          className="!h-11"
          disabled={lines.length === 0}
          onClick={() => setLines(lines.slice(0, -1))}
        >
          <Undo2 size={15} /> Last line
        </Button>
        <Button kind="strong" className="!h-11" disabled={!at && lines.length === 0} onClick={use}>
          Take it into the note
        </Button>
      </div>
    </Dialog>
  );
}

/** The picture that is drawn on, small enough for a note; without it where it cannot be made so small, which is said. */
function pictureOf(frozen: Frozen | null): { picture?: string } {
  if (!frozen) return {};
  try {
    return { picture: small(frozen.data, frozen.data.width, frozen.data.height) };
  } catch (error) {
    notice.error((error as Error).message);
    return {};
  }
}

function Picture({ of }: { of: Frozen }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => canvas.current?.getContext('2d')?.drawImage(of.data, 0, 0), [of]);
  return (
    <canvas
      ref={canvas}
      width={of.data.width}
      height={of.data.height}
      aria-hidden="true"
      className="absolute inset-0 size-full"
    />
  );
}

/** What a pen or a finger draws on, over the picture. */
function Sheet({
  frozen,
  lines,
  onPoint,
  onLine,
}: {
  frozen: Frozen | null;
  lines: number[][];
  onPoint: (spot: Spot) => void;
  onLine: (line: number[]) => void;
}) {
  const stroke = useRef<{ id: number; points: number[]; from: Spot } | null>(null);
  const [drawing, setDrawing] = useState<number[] | null>(null);
  const spotOf = (e: React.PointerEvent): Spot => {
    const r = e.currentTarget.getBoundingClientRect();
    const inside = (v: number): number => Math.round(clamp(v) * 10_000) / 10_000;
    return [inside((e.clientX - r.left) / r.width), inside((e.clientY - r.top) / r.height)];
  };
  const apart_px = ([u, v]: Spot, [x = 0, y = 0]: readonly number[]): number =>
    Math.hypot((u - x) * (frozen?.width ?? 1), (v - y) * (frozen?.height ?? 1));
  const end = (e: React.PointerEvent): void => {
    const s = stroke.current;
    if (s?.id !== e.pointerId) return;
    stroke.current = null;
    setDrawing(null);
    if (e.type === 'pointercancel') return;
    const isShort = s.points.length <= 4 && apart_px(s.from, s.points.slice(-2)) < TAP_PX;
    if (isShort) onPoint(s.from);
    else onLine(s.points);
  };
  return (
    <svg
      data-testid="draw"
      role="img"
      aria-label={`The stage to draw on, ${lines.length} lines`}
      viewBox="0 0 1 1"
      preserveAspectRatio="none"
      className="absolute inset-0 size-full cursor-crosshair touch-none"
      onPointerDown={(e) => {
        if (!e.isPrimary || !frozen) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const p = spotOf(e);
        stroke.current = { id: e.pointerId, points: [...p, ...p], from: p };
      }}
      onPointerMove={(e) => {
        const s = stroke.current;
        if (s?.id !== e.pointerId || s.points.length >= MOST_POINTS * 2) return;
        const p = spotOf(e);
        if (apart_px(p, s.points.slice(-2)) < STEP_PX) return;
        s.points.push(...p);
        setDrawing([...s.points]);
      }}
      onPointerUp={end}
      onPointerCancel={end}
    >
      <Strokes lines={drawing ? [...lines, drawing] : lines} />
    </svg>
  );
}

function Marker({
  frozen: { view, width, height },
  at,
  says,
}: {
  frozen: Frozen;
  at: Place;
  says: string | number;
}) {
  const [scale, ox, oy] = view;
  return (
    <span
      className="pointer-events-none absolute -translate-x-1/2 -translate-y-full"
      style={{
        left: `${((ox + at.x * scale) / width) * 100}%`,
        top: `${((oy - at.y * scale) / height) * 100}%`,
      }}
    >
      <span className="num block rounded bg-warning px-1.5 text-[12px] font-semibold whitespace-nowrap text-ink">
        {says}
      </span>
      <i className="mx-auto block h-2 w-0.5 bg-warning" />
    </span>
  );
}
