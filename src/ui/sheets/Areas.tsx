/** Areas of the stage floor: drawn as a box over the plan, their corners moved, named and deleted. */
'use client';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { inOrder } from '@/core/plan/edits';
import type { AreaRow, Corner } from '@/core/areas/rows';
import { Dialog, Field, IconButton } from '../parts/controls';
import { useDrag } from '../parts/use-drag';
import { useLed } from '../parts/use-led';
import { useStillPlan } from '../plan/still';
import { LayerCanvases } from '../plan/use-canvases';
import { toMetre, toPixel, type View } from '../plan/view';
import { useWriting } from '../parts/use-writing';
import { edit } from '../state/edits';
import { useShow } from '../state/store';

const dm = (v: number): number => Math.round(v * 10) / 10;
/** A smaller box was no area. */
const LEAST_M = 0.3;

const boxed = (a: Corner, b: Corner): Corner[] => {
  const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
  const [near, far] = [Math.min(a.y, b.y), Math.max(a.y, b.y)];
  return [
    { x: left, y: near },
    { x: right, y: near },
    { x: right, y: far },
    { x: left, y: far },
  ];
};

/** The first of `Area 1`, `Area 2` … that is free. */
function freeName(areas: readonly AreaRow[]): string {
  const taken = new Set(areas.map((a) => a.name));
  let n = 1;
  while (taken.has(`Area ${n}`)) n++;
  return `Area ${n}`;
}

async function write(set: Pick<AreaRow, 'name' | 'corners'>, id?: string): Promise<string | null> {
  const answer = await edit(
    'set-area',
    { ...(id === undefined ? {} : { id }), set },
    { quiet: true },
  );
  return 'changes' in answer ? (answer.changes[0]?.id ?? null) : null;
}

function AreaName({ area }: { area: AreaRow }) {
  const label = `Area ${area.number}`;
  const { field, problem } = useWriting(label, area.name, (text) =>
    edit(
      'set-area',
      { id: area.id, set: { name: text.trim(), corners: area.corners } },
      { quiet: true },
    ),
  );
  return (
    <Field label={label} maxLength={120} className="min-w-0 flex-1" {...field} problem={problem} />
  );
}

/** A corner of the chosen area, which a hand moves. */
function CornerHandle({
  at,
  view,
  onMove,
  onEnd,
}: {
  at: Corner;
  view: View;
  onMove: (to: Corner) => void;
  onEnd: (torn: boolean) => void;
}) {
  const p = toPixel(view, at);
  const drag = useDrag<{ x: number; y: number }>({
    begin: (e) => {
      e.stopPropagation();
      return { x: e.clientX - p.x, y: e.clientY - p.y };
    },
    move: (from, e) => {
      const m = toMetre(view, { x: e.clientX - from.x, y: e.clientY - from.y });
      onMove({ x: dm(m.x), y: dm(m.y) });
    },
    end: (_, torn) => onEnd(torn),
  });
  return (
    <span
      data-testid="area-corner"
      className="absolute size-6 -translate-1/2 cursor-move touch-none rounded-full after:absolute after:inset-1.5 after:rounded-full after:bg-standby"
      style={{ left: p.x, top: p.y }}
      {...drag}
    />
  );
}

function Floor({
  areas,
  chosen,
  choose,
}: {
  areas: readonly AreaRow[];
  chosen: string | null;
  choose: (id: string | null) => void;
}) {
  const { box, size, refs, view } = useStillPlan();
  const [drawn, setDrawn] = useState<Corner[] | null>(null);
  const led = useLed<Corner[] | null>(null);
  const moved = led.shown;
  const area = areas.find((a) => a.id === chosen);
  const drag = useDrag<{ from: Corner; corner: DOMRect; last: Corner[] | null }>({
    begin: (e) => {
      const corner = e.currentTarget.getBoundingClientRect();
      const from = toMetre(view, { x: e.clientX - corner.left, y: e.clientY - corner.top });
      return { from, corner, last: null };
    },
    move: (d, e) => {
      const to = toMetre(view, { x: e.clientX - d.corner.left, y: e.clientY - d.corner.top });
      d.last = boxed(d.from, to).map((c) => ({ x: dm(c.x), y: dm(c.y) }));
      setDrawn(d.last);
    },
    end: (d, torn) => {
      setDrawn(null);
      const [a, , b] = d.last ?? [];
      const isSmall = !a || !b || b.x - a.x < LEAST_M || b.y - a.y < LEAST_M;
      if (torn || isSmall || !d.last) return;
      void write({ name: freeName(areas), corners: d.last }).then((id) => id && choose(id));
    },
  });
  const outline = (corners: readonly Corner[], is: boolean, key: string) => (
    <polygon
      key={key}
      points={corners
        .map((c) => toPixel(view, c))
        .map((p) => `${p.x},${p.y}`)
        .join(' ')}
      className={is ? 'fill-standby/15' : 'fill-none'}
      stroke={is ? 'var(--color-standby)' : 'var(--color-soft)'}
      strokeDasharray={is ? undefined : '5 5'}
    />
  );
  return (
    <div
      ref={box}
      data-theme="night"
      data-testid="area-floor"
      data-view={`${view.scale},${view.ox},${view.oy}`}
      className="relative h-[420px] cursor-crosshair touch-none overflow-hidden rounded-lg bg-ink"
      {...drag}
    >
      <LayerCanvases refs={refs} size={size} />
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
        {areas.map((a) =>
          outline(a.id === chosen && moved ? moved : a.corners, a.id === chosen, a.id),
        )}
        {drawn && outline(drawn, true, 'drawn')}
      </svg>
      {area?.corners.map((c, i) => (
        <CornerHandle
          key={i}
          at={(moved ?? area.corners)[i] ?? c}
          view={view}
          onMove={(to) => led.put((led.now() ?? area.corners).map((x, n) => (n === i ? to : x)))}
          onEnd={(torn) => {
            const corners = led.now();
            if (!torn && corners)
              void write({ name: area.name, corners }, area.id).finally(() => led.put(null));
            else led.put(null);
          }}
        />
      ))}
    </div>
  );
}

/** Areas of the stage floor, drawn and named. */
export function AreasDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const areas = inOrder(show.areas.values());
  const [chosen, setChosen] = useState<string | null>(areas[0]?.id ?? null);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Areas of the stage floor"
      about="Drag a box over the floor for a new one. Lights are found by areas, on sheets and in the command line: lights on “Deck”."
      width="w-[860px]"
    >
      <div className="grid grid-cols-[220px_minmax(0,1fr)] gap-4">
        <ul className="max-h-[420px] space-y-1 overflow-y-auto">
          {areas.map((area) => (
            <li
              key={area.id}
              className={`flex items-end gap-1 rounded-md p-1 ${area.id === chosen ? 'bg-raised' : ''}`}
              onFocusCapture={() => setChosen(area.id)}
            >
              <AreaName area={area} />
              <IconButton
                label={`Delete area ${area.name}`}
                onClick={() => void edit('delete-area', { id: area.id })}
              >
                <Trash2 size={14} />
              </IconButton>
            </li>
          ))}
          {areas.length === 0 && <li className="text-muted">There is no area yet.</li>}
        </ul>
        <Floor areas={areas} chosen={chosen} choose={setChosen} />
      </div>
    </Dialog>
  );
}
