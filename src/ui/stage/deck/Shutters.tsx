/** Four shutters drawn as the frame that they make: drag an edge in, its ends to turn it, the ring to turn all. */
'use client';
import { clamp } from '@/core/numbers';
import { useRef } from 'react';
import { useDrag } from '../../parts/use-drag';
import { streamCommand } from '../../state/commands';
import { useRange, type Chosen } from './chosen';
import { Line } from './Line';

const SIZE = 132;
const RADIUS = 56;
const HALF = SIZE / 2;
/** In at full a blade reaches the middle. */
const REACH = RADIUS;
/** So far a blade turns either way, in degrees. */
const MOST_DEG = 30;
/** Nearer to the middle of its edge a hand would turn it wildly. */
const LEAST_ACROSS = 8;
/** A key's step, of a blade's way in. */
const STEP = 0.02;

interface Blade {
  n: number;
  /** Degrees from the top, clockwise. */
  side: number;
  in: number;
  turn_deg: number;
  turns: boolean;
}

function useBlade(chosen: readonly Chosen[], n: number): Blade | undefined {
  const a = useRange(chosen, `Blade${n}A`);
  const rot = useRange(chosen, `Blade${n}Rot`);
  return a.able.length === 0
    ? undefined
    : {
        n,
        side: (n - 1) * 90,
        in: a.level,
        turn_deg: rot.able.length > 0 ? rot.high : 0,
        turns: rot.able.length > 0,
      };
}

const setIn = (n: number, level: number): void => {
  const attribute = `Blade${n}A`;
  streamCommand(attribute, { command: 'set', attribute, level: clamp(level) });
};
const setTurn = (n: number, turn_deg: number): void => {
  const attribute = `Blade${n}Rot`;
  const physical = clamp(turn_deg, -MOST_DEG, MOST_DEG);
  streamCommand(attribute, { command: 'set', attribute, physical });
};

interface Point {
  x: number;
  y: number;
}
const rotated = ({ x, y }: Point, by_deg: number): Point => {
  const t = (by_deg * Math.PI) / 180;
  return { x: x * Math.cos(t) - y * Math.sin(t), y: x * Math.sin(t) + y * Math.cos(t) };
};

/** What a grip that is led to a point of the frame makes of its blade. */
function lead(blade: Blade, what: string, at: Point): void {
  // Along the blade's way in: from its edge of the circle to the middle.
  const { x: across, y: along } = rotated(at, -blade.side);
  if (what === 'in') {
    setIn(blade.n, (along + RADIUS) / REACH);
    return;
  }
  const rise = along + RADIUS - blade.in * REACH;
  const slope = Math.atan2(rise, Math.max(LEAST_ACROSS, Math.abs(across)));
  setTurn(blade.n, ((slope * 180) / Math.PI) * Math.sign(across || 1));
}

/** Four blades in their gate, dragged by their edges. */
export function Shutters({ chosen, disabled }: { chosen: readonly Chosen[]; disabled: boolean }) {
  const svg = useRef<SVGSVGElement>(null);
  const blades = [
    useBlade(chosen, 1),
    useBlade(chosen, 2),
    useBlade(chosen, 3),
    useBlade(chosen, 4),
  ].filter((b) => b !== undefined);
  const ring = useRange(chosen, 'ShaperRot');
  const turned = ring.able.length > 0 ? ring.high : 0;
  /** Where a pointer is in the frame's own turn, from its middle. */
  const point = (e: React.PointerEvent): Point => {
    const r = svg.current?.getBoundingClientRect();
    if (!r) return { x: 0, y: 0 };
    const x = ((e.clientX - r.left) / r.width) * SIZE - HALF;
    const y = ((e.clientY - r.top) / r.height) * SIZE - HALF;
    return rotated({ x, y }, -turned);
  };
  const drag = useDrag<{ n: number; what: string }>({
    begin: (e) => {
      const grip = e.target instanceof Element ? e.target.closest('[data-grip]') : null;
      if (disabled || !grip) return null;
      return {
        n: Number(grip.getAttribute('data-blade')),
        what: grip.getAttribute('data-grip') ?? '',
      };
    },
    move: ({ n, what }, e) => {
      const blade = blades.find((b) => b.n === n);
      if (blade && !disabled) lead(blade, what, point(e));
    },
  });
  const allOut = (): void => {
    for (const b of blades) {
      setIn(b.n, 0);
      if (b.turns) setTurn(b.n, 0);
    }
  };
  return (
    <div className="mt-1 flex gap-3">
      <svg
        ref={svg}
        viewBox={`0 0 ${SIZE} ${SIZE}`}
        width={SIZE}
        height={SIZE}
        role="group"
        aria-label="Shutters"
        className="flex-none touch-none rounded-lg bg-ink shadow-[inset_0_0_0_1px_var(--color-line)]"
        {...drag}
      >
        <g transform={`translate(${HALF} ${HALF}) rotate(${turned})`}>
          <Gate blades={blades} />
          {blades.map((b) => (
            <Grips key={b.n} blade={b} />
          ))}
        </g>
      </svg>
      <div className="min-w-0 flex-1">
        <p className="text-[12px] leading-4 text-muted">
          Drag an edge in, its side handle to turn it.
        </p>
        {ring.able.length > 0 && (
          <Line
            chosen={chosen}
            attribute="ShaperRot"
            disabled={disabled}
            labelled={false}
            slider={false}
            fan={false}
          />
        )}
        <button
          type="button"
          disabled={disabled}
          onClick={allOut}
          className="mt-1 h-7 rounded-md bg-raised px-2.5 text-[12px] text-soft hover:bg-lift disabled:opacity-45"
        >
          All out
        </button>
      </div>
    </div>
  );
}

/** Where a blade stands in its own turn: its edge, and what lies behind that. */
const edgeOf = (b: Blade): string => `translate(0 ${-RADIUS + b.in * REACH}) rotate(${b.turn_deg})`;

/** The beam, and what the blades leave of it. */
function Gate({ blades }: { blades: readonly Blade[] }) {
  return (
    <>
      <clipPath id="shutter-gate">
        <circle r={RADIUS} />
      </clipPath>
      <circle r={RADIUS} fill="var(--color-text)" fillOpacity="0.16" stroke="var(--color-edge)" />
      <g clipPath="url(#shutter-gate)">
        {blades.map((b) => (
          <g key={b.n} transform={`rotate(${b.side}) ${edgeOf(b)}`}>
            <rect
              x={-SIZE}
              y={-SIZE}
              width={SIZE * 2}
              height={SIZE}
              fill="var(--color-ink)"
              fillOpacity="0.92"
            />
            <line x1={-SIZE} x2={SIZE} stroke="var(--color-soft)" strokeWidth="1.2" />
          </g>
        ))}
      </g>
    </>
  );
}

function Grips({ blade: b }: { blade: Blade }) {
  return (
    <g transform={`rotate(${b.side}) ${edgeOf(b)}`}>
      <Handle
        x={0}
        label={`Shutter ${b.n} in`}
        value={b.in}
        grip="in"
        blade={b.n}
        onStep={(d) => setIn(b.n, b.in + d * STEP)}
      />
      {b.turns && (
        <Handle
          x={30}
          small
          label={`Shutter ${b.n} turn`}
          value={(b.turn_deg + MOST_DEG) / (2 * MOST_DEG)}
          grip="turn"
          blade={b.n}
          onStep={(d) => setTurn(b.n, b.turn_deg + d)}
        />
      )}
    </g>
  );
}

const STEPS: Readonly<Record<string, 1 | -1>> = {
  ArrowDown: 1,
  ArrowRight: 1,
  ArrowUp: -1,
  ArrowLeft: -1,
};

function Handle({
  x,
  small = false,
  label,
  value,
  grip,
  blade,
  onStep,
}: {
  x: number;
  small?: boolean;
  label: string;
  value: number;
  grip: 'in' | 'turn';
  blade: number;
  onStep: (by: number) => void;
}) {
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Math.round(value * 100)}
      aria-valuemin={0}
      aria-valuemax={100}
      className="cursor-grab outline-offset-4"
      data-grip={grip}
      data-blade={blade}
      onKeyDown={(e) => {
        const by = STEPS[e.key];
        if (by === undefined) return;
        e.preventDefault();
        onStep(by);
      }}
    >
      <circle cx={x} r={13} fill="transparent" />
      <circle
        cx={x}
        r={small ? 4 : 5.5}
        fill={small ? 'var(--color-ink)' : 'var(--color-text)'}
        stroke="var(--color-text)"
        strokeWidth="1.5"
      />
    </g>
  );
}
