/** One family of controls: its name, whether it is recorded, what it says, how it is spread and in what time. */
'use client';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { attributeInfo } from '@/core/rig/attributes';
import type { Family } from '@/core/show/fields';
import { Button, Field } from '../../parts/controls';
import { useDrag } from '../../parts/use-drag';
import { said, streamCommand } from '../../state/actions';
import { useEach, usePending, type Chosen } from './chosen';
import { FanShape, Graph, shapeOf, type Shape } from './FanShape';
import { CHIP, PANEL } from './look';
import { Times } from './Times';

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
  const [stops, setStops] = useState(['', '']);
  const [shape, setShape] = useState<Shape>({ pivot: 'middle', curve: 'even' });
  const [spreading, setSpreading] = useState<DOMRect | null>(null);
  const { pivot } = shape;
  const { unit } = attributeInfo(attribute);
  const few = chosen.length < 2;
  const drag = useDrag<{ x: number; moved: boolean; at: DOMRect }>({
    begin: (e) =>
      disabled || few
        ? null
        : { x: e.clientX, moved: false, at: e.currentTarget.getBoundingClientRect() },
    move: (from, e) => {
      if (Math.abs(e.clientX - from.x) < (from.moved ? 1 : 4)) return;
      const by = (e.clientX - from.x) * (unit === '°' ? 0.25 : 0.5);
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
      if (!from.moved && !torn) setOpen(true);
    },
  });
  const numbers = stops.map((s) => Number(s.replace(',', '.')));
  const ready = stops.every((s) => s.trim() !== '') && numbers.every(Number.isFinite);
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
          disabled={disabled || few}
          {...drag}
          onKeyDown={(e) => e.key === 'Enter' && setOpen(true)}
          className={`${CHIP} cursor-ew-resize touch-none`}
        >
          <FanMark />
        </button>
      </Popover.Anchor>
      {spreading && <Spreading attribute={attribute} chosen={chosen} over={spreading} />}
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={4} className={PANEL} aria-label={`Fan ${label}`}>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              void said({
                command: 'fan',
                attribute,
                what: 'value',
                stops: numbers,
                ...shapeOf(shape),
                mirrored: pivot === 'mirrored',
              }).then((r) => r.ok && setOpen(false));
            }}
          >
            <div className="grid grid-cols-2 gap-2">
              <Field
                label={`From, ${unit === 'slot' ? '%' : unit}`}
                number
                autoFocus
                value={stops[0]}
                onChange={(e) => setStops([e.target.value, stops[1] ?? ''])}
              />
              <Field
                label="To"
                number
                value={stops[1]}
                onChange={(e) => setStops([stops[0] ?? '', e.target.value])}
              />
              <FanShape
                count={chosen.length}
                stops={ready ? numbers : []}
                shape={shape}
                onChange={setShape}
              />
            </div>
            <div className="mt-3 flex justify-end gap-2">
              <Button type="submit" kind="strong" disabled={!ready}>
                Spread {label}
              </Button>
            </div>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
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
