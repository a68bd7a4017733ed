/** The plan beside a sheet that is arranged: a unit, those that are selected, or an area of the floor is dragged from where it is. */
'use client';
import { useDraggable } from '@dnd-kit/core';
import { useState } from 'react';
import type { FixtureRow } from '@/core/fixtures/rows';
import { lampAt, type Pixel } from '../../plan/pick';
import { useStillPlan } from '../../plan/still';
import { LayerCanvases } from '../../plan/use-canvases';
import { toMetre } from '../../plan/view';
import { toggleSelected } from '../../state/commands';
import { areaAt } from '../../state/sheets';
import { useScreen } from '../../state/store';
import { Areas } from '../pieces/PlanPiece';
import { areaThing, unitsThing, unitThing, type Thing } from './things';

/** What is under the hand. */
interface Held {
  thing: Thing;
  at: Pixel;
  unit: string | undefined;
}
const adds = (e: React.MouseEvent): boolean => e.ctrlKey || e.metaKey || e.shiftKey;

/** One that is selected takes the others along, in the order of selection. */
function thingOfUnit(unit: FixtureRow): Thing {
  const { selection, show } = useScreen.getState();
  const [first, ...others] = selection.flatMap((id) => show.fixtures.get(id) ?? []);
  return first && others.length > 0 && selection.includes(unit.id)
    ? unitsThing([first, ...others])
    : unitThing(unit);
}

/** Units to be put on a sheet, taken from the plan. */
export function PlanShelf({ onPut }: { onPut: (thing: Thing) => void }) {
  const { box, size, refs, lamps, view } = useStillPlan();
  const [held, setHeld] = useState<Held | null>(null);
  const [over, setOver] = useState<Thing | null>(null);
  const { setNodeRef, listeners } = useDraggable({
    id: 'plan',
    data: held ? { thing: held.thing } : {},
    disabled: held === null,
  });
  const under = (e: React.PointerEvent): Held | null => {
    const r = e.currentTarget.getBoundingClientRect();
    const at = { x: e.clientX - r.left, y: e.clientY - r.top };
    const lamp = lampAt(lamps, view, at);
    const area = lamp ? undefined : areaAt(toMetre(view, at));
    const thing = lamp ? thingOfUnit(lamp.fixture) : area && areaThing(area);
    return thing ? { thing, at, unit: lamp?.fixture.id } : null;
  };
  return (
    <div className="relative flex h-60 flex-none border-t border-line">
      <div
        ref={box}
        data-theme="night"
        className="relative min-w-0 flex-1 overflow-hidden bg-ink text-text"
        onPointerMove={(e) => setOver(under(e)?.thing ?? null)}
        onPointerLeave={() => setOver(null)}
        onPointerDownCapture={(e) => setHeld(under(e))}
        onClick={(e) => {
          if (adds(e) && held?.unit) toggleSelected(held.unit);
          else if (held) onPut(held.thing);
        }}
        {...listeners}
      >
        <LayerCanvases
          refs={refs}
          size={size}
          top={{
            role: 'img',
            'data-testid': 'shelf-plan',
            'data-view': `${view.scale},${view.ox},${view.oy}`,
            'aria-label': `Plan of the stage with ${lamps.length} fixtures to put on the sheet; the same by name under Units and Areas`,
            style: { cursor: over ? 'grab' : 'default' },
          }}
        />
        <Areas view={view} turn_deg={0} shown lamps={lamps} />
        {/* What is dragged has the size of its name, where the hand took it. */}
        {held && (
          <span
            ref={setNodeRef}
            className="pointer-events-none absolute h-8 w-40"
            style={{ left: held.at.x, top: held.at.y }}
          />
        )}
      </div>
      <p className="pointer-events-none absolute bottom-0 left-0 m-0 px-3 py-1.5 text-[12px] text-muted">
        {over?.name}
      </p>
    </div>
  );
}
