/** The stage as it is at this moment, to point at a unit or a place and to draw on. */
'use client';
import { Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Button, Dialog } from '../parts/controls';
import { Plan } from '../plan/Plan';
import { notice } from '../state/messages';
import { useShow } from '../state/store';
import { small } from './photo';
import { Strokes } from './Picture';
import { coloursAt } from '../parts/tokens';

export interface Pointed {
  fixtureId?: string;
  place?: { x: number; y: number };
  drawing?: { picture?: string; lines: number[][] };
}

const TAP_PX = 7;
const NEAR_PX = 18;
const MOST_LINES = 200;
const MOST_POINTS = 990;

export function OnStage({
  onUse,
  onClose,
}: {
  onUse: (pointed: Pointed) => void;
  onClose: () => void;
}) {
  const show = useShow();
  const box = useRef<HTMLDivElement>(null);
  const picture = useRef<HTMLCanvasElement>(null);
  /** The picture of the moment, and how its pixels are metres: scale, and where the middle of the stage is. */
  const [frozen, setFrozen] = useState<{
    data: HTMLCanvasElement;
    width: number;
    height: number;
    view: [number, number, number];
  } | null>(null);
  const [lines, setLines] = useState<number[][]>([]);
  const [at, setAt] = useState<{ x: number; y: number; fixtureId?: string } | null>(null);
  const stroke = useRef<{ id: number; points: number[]; from: [number, number] } | null>(null);
  const [drawing, setDrawing] = useState<number[] | null>(null);

  // The plan draws itself first; then its layers are one picture, and nothing moves under the pen.
  useEffect(() => {
    const timer = setTimeout(() => {
      const layers = [...(box.current?.querySelectorAll('canvas') ?? [])];
      const top = box.current?.querySelector('[data-testid=plan]');
      const view = (top?.getAttribute('data-view') ?? '').split(',').map(Number);
      if (!box.current || layers.length === 0 || view.length !== 3) return;
      const data = document.createElement('canvas');
      const [width, height] = [box.current.clientWidth, box.current.clientHeight];
      const scale = Math.min(2, 1400 / width);
      [data.width, data.height] = [Math.round(width * scale), Math.round(height * scale)];
      const g = data.getContext('2d');
      if (!g) return;
      g.fillStyle = coloursAt(box.current)('ink');
      g.fillRect(0, 0, data.width, data.height);
      for (const layer of layers) g.drawImage(layer, 0, 0, data.width, data.height);
      setFrozen({ data, width, height, view: view as [number, number, number] });
    }, 450);
    return () => clearTimeout(timer);
  }, []);
  useEffect(() => {
    const g = picture.current?.getContext('2d');
    if (!g || !frozen || !picture.current) return;
    [picture.current.width, picture.current.height] = [frozen.data.width, frozen.data.height];
    g.drawImage(frozen.data, 0, 0);
  }, [frozen]);

  const spot = (e: React.PointerEvent): [number, number] => {
    const r = e.currentTarget.getBoundingClientRect();
    const inside = (v: number): number => Math.round(Math.min(1, Math.max(0, v)) * 10_000) / 10_000;
    return [inside((e.clientX - r.left) / r.width), inside((e.clientY - r.top) / r.height)];
  };
  /** A short touch points: at the unit that is near, or at the floor. */
  const point = ([u, v]: [number, number]): void => {
    if (!frozen) return;
    const [scale, ox, oy] = frozen.view;
    const [px, py] = [u * frozen.width, v * frozen.height];
    const near = [...show.fixtures.values()]
      .map((f) => ({
        f,
        d: Math.hypot(ox + f.position.x * scale - px, oy - f.position.y * scale - py),
      }))
      .filter(({ d }) => d <= NEAR_PX)
      .sort((a, b) => a.d - b.d)[0];
    setAt({
      x: Math.round(((px - ox) / scale) * 100) / 100,
      y: Math.round(((oy - py) / scale) * 100) / 100,
      ...(near ? { fixtureId: near.f.id } : {}),
    });
  };
  const end = (): void => {
    const s = stroke.current;
    stroke.current = null;
    setDrawing(null);
    if (!s || !frozen) return;
    const [x, y] = s.points.slice(-2);
    const moved = Math.hypot(
      ((x ?? 0) - s.from[0]) * frozen.width,
      ((y ?? 0) - s.from[1]) * frozen.height,
    );
    if (s.points.length <= 4 && moved < TAP_PX) point(s.from);
    else if (lines.length < MOST_LINES) setLines([...lines, s.points]);
    else notice.warning(`A drawing has at most ${MOST_LINES} lines.`);
  };
  const unit = at?.fixtureId === undefined ? undefined : show.fixtures.get(at.fixtureId);
  const use = (): void => {
    let data: string | undefined;
    try {
      data =
        lines.length > 0 && frozen
          ? small(frozen.data, frozen.data.width, frozen.data.height)
          : undefined;
    } catch (error) {
      notice.error((error as Error).message);
    }
    onUse({
      ...(at?.fixtureId === undefined ? {} : { fixtureId: at.fixtureId }),
      ...(at && at.fixtureId === undefined ? { place: { x: at.x, y: at.y } } : {}),
      ...(lines.length > 0 ? { drawing: { lines, ...(data ? { picture: data } : {}) } } : {}),
    });
    onClose();
  };
  const marker =
    at && frozen
      ? {
          x: (frozen.view[1] + at.x * frozen.view[0]) / frozen.width,
          y: (frozen.view[2] - at.y * frozen.view[0]) / frozen.height,
        }
      : null;
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
        {!frozen && (
          <div className="pointer-events-none absolute inset-0">
            <Plan arrange={false} />
          </div>
        )}
        <canvas
          ref={picture}
          aria-hidden="true"
          className={`absolute inset-0 size-full ${frozen ? '' : 'invisible'}`}
        />
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
            const p = spot(e);
            stroke.current = { id: e.pointerId, points: [...p, ...p], from: p };
          }}
          onPointerMove={(e) => {
            const s = stroke.current;
            if (s?.id !== e.pointerId || s.points.length >= MOST_POINTS * 2) return;
            const p = spot(e);
            const [x, y] = s.points.slice(-2);
            if (
              Math.hypot(
                (p[0] - (x ?? 0)) * (frozen?.width ?? 1),
                (p[1] - (y ?? 0)) * (frozen?.height ?? 1),
              ) < 3
            )
              return;
            s.points.push(...p);
            setDrawing([...s.points]);
          }}
          onPointerUp={end}
          onPointerCancel={() => ((stroke.current = null), setDrawing(null))}
        >
          <Strokes lines={drawing ? [...lines, drawing] : lines} />
        </svg>
        {marker && (
          <span
            className="pointer-events-none absolute -translate-x-1/2 -translate-y-full"
            style={{ left: `${marker.x * 100}%`, top: `${marker.y * 100}%` }}
          >
            <span className="num block rounded bg-warning px-1.5 text-[12px] font-semibold whitespace-nowrap text-ink">
              {unit ? unit.number : 'here'}
            </span>
            <i className="mx-auto block h-2 w-0.5 bg-warning" />
          </span>
        )}
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <span data-testid="pointed" className="min-w-0 flex-1 basis-[180px] text-soft">
          {[
            unit ? `unit ${unit.number} ${unit.label}` : at ? 'a place on the stage' : '',
            lines.length > 0 ? `${lines.length} ${lines.length === 1 ? 'line' : 'lines'}` : '',
          ]
            .filter(Boolean)
            .join(', ') || (frozen ? 'Nothing pointed at yet' : 'Taking the picture …')}
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
