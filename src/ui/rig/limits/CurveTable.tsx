/** A dimmer's own curve: a table of levels, joined by straight lines. */
'use client';
import { useRef } from 'react';
import { clamp } from '@/core/numbers';
import { useDrag } from '../../parts/use-drag';
import { useSettling } from '../../parts/use-settling';

const BOX = 96;
const EDGE = 4;
/** By a key. */
const STEPS: Readonly<Record<string, number>> = { ArrowUp: 0.02, ArrowDown: -0.02 };

/** A point of the curve, and how high it is. */
interface Place {
  i: number;
  level: number;
}
const hundredth = (level: number): number => Math.round(level * 100) / 100;

/** Every point from one place to another goes onto the line between them. */
function drawLine(table: number[], from: Place, to: Place): void {
  const way = to.i - from.i;
  const step = Math.sign(way) || 1;
  for (let i = from.i; i !== to.i + step; i += step) {
    const share = way === 0 ? 1 : (i - from.i) / way;
    table[i] = hundredth(from.level + (to.level - from.level) * share);
  }
}

/** A dimmer curve drawn by hand: the points go where the hand passes over them. */
export function CurveTable({
  table,
  disabled,
  onDone,
}: {
  table: readonly number[];
  disabled: boolean;
  onDone: (table: number[]) => unknown;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const settling = useSettling(table, (v) => onDone([...v]));
  const { shown } = settling;
  /** Which point is under the hand, and how high the hand is. */
  const under = (e: React.PointerEvent): Place | null => {
    const r = svg.current?.getBoundingClientRect();
    if (!r) return null;
    const share = (px: number, from: number, size: number): number =>
      clamp(((px - from) / size) * ((BOX + 2 * EDGE) / BOX) - EDGE / BOX);
    return {
      i: Math.round(share(e.clientX, r.left, r.width) * (table.length - 1)),
      level: hundredth(1 - share(e.clientY, r.top, r.height)),
    };
  };
  // The hand draws: every point that it passes goes to its height, also those it was too fast for.
  const drag = useDrag<{ last: Place; table: number[] }>({
    begin: (e) => {
      const at = disabled ? null : under(e);
      return at && { last: at, table: [...shown] };
    },
    move: (drawn, e) => {
      const at = under(e);
      if (!at) return;
      drawLine(drawn.table, drawn.last, at);
      drawn.last = at;
      settling.put([...drawn.table]);
    },
    end: (_, torn) => (torn ? settling.leave() : settling.settle()),
  });
  const x = (i: number): number => (i / (shown.length - 1)) * BOX;
  return (
    <svg
      ref={svg}
      viewBox={`${-EDGE} ${-EDGE} ${BOX + 2 * EDGE} ${BOX + 2 * EDGE}`}
      preserveAspectRatio="none"
      className="h-[104px] w-full cursor-crosshair touch-none rounded-md bg-ink"
      role="group"
      aria-label="Own curve"
      {...drag}
    >
      <title>Draw it: drag over the points</title>
      <path d={`M0 ${BOX}L${BOX} 0`} stroke="var(--color-line)" strokeDasharray="3 3" fill="none" />
      <path
        d={shown.map((v, i) => `${i === 0 ? 'M' : 'L'}${x(i)} ${(1 - v) * BOX}`).join('')}
        stroke="var(--color-soft)"
        strokeWidth="1.5"
        fill="none"
      />
      {shown.map((v, i) => (
        <circle
          key={i}
          cx={x(i)}
          cy={(1 - v) * BOX}
          r={3.4}
          fill="var(--color-text)"
          stroke="transparent"
          strokeWidth={10}
          role="slider"
          tabIndex={disabled ? -1 : 0}
          aria-label={`Curve at ${Math.round((i / (shown.length - 1)) * 100)} %`}
          aria-valuenow={Math.round(v * 100)}
          onKeyDown={(e) => {
            const by = STEPS[e.key];
            if (by === undefined || disabled) return;
            e.preventDefault();
            settling.steps(shown.map((t, k) => (k === i ? hundredth(clamp(t + by)) : t)));
          }}
        />
      ))}
    </svg>
  );
}
