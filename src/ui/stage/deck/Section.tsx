/** One family of controls: its name, whether it is recorded, what it says, how it is spread and in what time. */
'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { attributeInfo } from '@/core/rig/attributes';
import type { Family } from '@/core/show/fields';
import { Button, Field } from '../../parts/controls';
import { useDrag } from '../../parts/use-drag';
import { said, streamCommand } from '../../state/commands';
import { useEach, usePending, type Chosen } from './chosen';
import { FanShape, Graph, shapeOf, type Shape } from './FanShape';
import { CHIP, PANEL } from './look';
import { Times } from './Times';

/** A family of the deck. */
export function Section({
  title,
  family,
  chosen,
  disabled,
  says,
  fan,
  children,
}: {
  title: string;
  family: Family;
  chosen: readonly Chosen[];
  disabled: boolean;
  says?: ReactNode;
  fan?: ReactNode;
  children: ReactNode;
}) {
  const pending = usePending(chosen, family);
  return (
    <section aria-label={title} className="border-t border-line px-4 py-2.5 first:border-t-0">
      <div className="mb-1 flex h-7 items-center gap-2">
        <h3 className="text-[13.5px] font-semibold">{title}</h3>
        {pending && (
          <i title="Not recorded" className="size-1.5 flex-none rounded-full bg-unrecorded" />
        )}
        <span className="ml-auto flex min-w-0 items-center truncate text-[12px] text-muted">
          {says}
        </span>
        {fan}
        <Times family={family} chosen={chosen} disabled={disabled} />
      </div>
      {children}
    </section>
  );
}

/** With the hand a fan goes so far a pixel, in the attribute's unit. */
const PER_PIXEL = { degrees: 0.25, percent: 0.5 } as const;
const DRAG_PX = 4;

/** A fan led by the hand; a press that moves nothing is a press. @returns where it is led, and what a button needs */
function useFanDrag(attribute: string, shape: Shape, disabled: boolean, pressed: () => void) {
  const [spreading, setSpreading] = useState<DOMRect | null>(null);
  const { unit } = attributeInfo(attribute);
  const handlers = useDrag<{ x: number; moved: boolean; at: DOMRect }>({
    begin: (e) =>
      disabled ? null : { x: e.clientX, moved: false, at: e.currentTarget.getBoundingClientRect() },
    move: (from, e) => {
      if (Math.abs(e.clientX - from.x) < (from.moved ? 1 : DRAG_PX)) return;
      const by = (e.clientX - from.x) * (unit === '°' ? PER_PIXEL.degrees : PER_PIXEL.percent);
      from.x = e.clientX;
      from.moved = true;
      setSpreading(from.at);
      streamCommand(`fan-${attribute}-${performance.now()}`, {
        command: 'fan',
        attribute,
        what: 'value',
        by,
        ...shapeOf(shape),
        mirrored: false,
      });
    },
    end: (from, torn) => {
      setSpreading(null);
      if (!from.moved && !torn) pressed();
    },
  });
  return { spreading, handlers };
}

/** Drag it to spread an attribute over the selection; press it for from, to and how. */
export function FanButton({
  attribute,
  label,
  chosen,
  disabled,
}: {
  attribute: string;
  label: string;
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [shape, setShape] = useState<Shape>({ pivot: 'middle', curve: 'even' });
  const [stops, setStops] = useState<Stops>({ from: '', to: '' });
  const few = chosen.length < 2;
  const cannot = disabled || few;
  const { spreading, handlers } = useFanDrag(attribute, shape, cannot, () => setOpen(true));
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <button
          type="button"
          aria-label={`Fan ${label}`}
          title={
            few
              ? 'A fan needs at least two fixtures'
              : `Fan ${label}: drag to spread it over the selection, press for more`
          }
          disabled={cannot}
          {...handlers}
          onKeyDown={(e) => e.key === 'Enter' && setOpen(true)}
          className={`${CHIP} cursor-ew-resize touch-none`}
        >
          <FanMark />
        </button>
      </Popover.Anchor>
      {spreading && <Spreading attribute={attribute} chosen={chosen} over={spreading} />}
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className={PANEL} aria-label={`Fan ${label}`}>
          <FanForm
            attribute={attribute}
            label={label}
            count={chosen.length}
            stops={stops}
            onStops={setStops}
            shape={shape}
            onShape={setShape}
            onDone={() => setOpen(false)}
          />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** As it is typed; it stands there when the form is opened again. */
interface Stops {
  from: string;
  to: string;
}

/** From, to, and how: typed. */
function FanForm({
  attribute,
  label,
  count,
  stops: { from, to },
  onStops,
  shape,
  onShape,
  onDone,
}: {
  attribute: string;
  label: string;
  count: number;
  stops: Stops;
  onStops: (stops: Stops) => void;
  shape: Shape;
  onShape: (shape: Shape) => void;
  onDone: () => void;
}) {
  const { unit } = attributeInfo(attribute);
  const typed = [from, to];
  const numbers = typed.map((s) => Number(s.replace(',', '.')));
  const ready = typed.every((s) => s.trim() !== '') && numbers.every(Number.isFinite);
  const spread = async (): Promise<void> => {
    const { ok } = await said({
      command: 'fan',
      attribute,
      what: 'value',
      stops: numbers,
      ...shapeOf(shape),
      mirrored: shape.pivot === 'mirrored',
    });
    if (ok) onDone();
  };
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        void spread();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        <Field
          label={`From, ${unit === 'slot' ? '%' : unit}`}
          number
          autoFocus
          value={from}
          onChange={(e) => onStops({ from: e.target.value, to })}
        />
        <Field
          label="To"
          number
          value={to}
          onChange={(e) => onStops({ from, to: e.target.value })}
        />
        <FanShape count={count} stops={ready ? numbers : []} shape={shape} onChange={onShape} />
      </div>
      <div className="mt-3 flex justify-end gap-2">
        <Button type="submit" kind="strong" disabled={!ready}>
          Spread {label}
        </Button>
      </div>
    </form>
  );
}

/** Where each unit is while a fan is dragged. */
function Spreading({
  attribute,
  chosen,
  over,
}: {
  attribute: string;
  chosen: readonly Chosen[];
  /** What is dragged: the drawing stands above it, and covers no number. */
  over: DOMRect;
}) {
  const values = useEach(chosen, attribute);
  return (
    <div
      role="status"
      aria-label="As it is spread"
      className="pointer-events-none fixed z-30 w-[248px] rounded-lg bg-panel p-2 shadow-pop"
      style={{ right: window.innerWidth - over.right, bottom: window.innerHeight - over.top + 6 }}
    >
      <Graph values={values} />
    </div>
  );
}

function FanMark() {
  return (
    <svg
      width="15"
      height="15"
      viewBox="0 0 16 16"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.4"
      strokeLinecap="round"
      aria-hidden="true"
    >
      <path d="M8 14V4M8 14 3.200 5.500M8 14l4.800-8.500M5.500 3 8 2l2.500 1" />
    </svg>
  );
}
