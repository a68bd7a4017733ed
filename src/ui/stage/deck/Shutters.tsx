/** Four shutters drawn as the frame that they make: drag an edge in, its ends to turn it, the ring to turn all. */
'use client';
import { useRef } from 'react';
import { useDrag } from '../../parts/use-drag';
import { streamCommand } from '../../state/actions';
import { useRange, type Chosen } from './chosen';
import { Line } from './Line';

const SIZE = 132;
const RADIUS = 56;
const HALF = SIZE / 2;
/** In at full a blade reaches the middle. */
const REACH = RADIUS;

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

const rad = (d: number): number => (d * Math.PI) / 180;

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
  const point = (e: React.PointerEvent): { x: number; y: number } => {
    const r = svg.current?.getBoundingClientRect();
    const [x, y] = r
      ? [
          ((e.clientX - r.left) / r.width) * SIZE - HALF,
          ((e.clientY - r.top) / r.height) * SIZE - HALF,
        ]
      : [0, 0];
    // Into the frame's own turn.
    const t = rad(-turned);
    return { x: x * Math.cos(t) - y * Math.sin(t), y: x * Math.sin(t) + y * Math.cos(t) };
  };
  const move = (now: { n: number; what: string }, e: React.PointerEvent): void => {
    const blade = blades.find((b) => b.n === now.n);
    if (!blade || disabled) return;
    const p = point(e);
    const t = rad(-blade.side);
    // Along the blade's way in: from its edge of the circle to the middle.
    const [across, along] = [
      p.x * Math.cos(t) - p.y * Math.sin(t),
      p.x * Math.sin(t) + p.y * Math.cos(t),
    ];
    if (now.what === 'in')
      streamCommand(`Blade${blade.n}A`, {
        command: 'set',
        attribute: `Blade${blade.n}A`,
        level: Math.min(1, Math.max(0, (along + RADIUS) / REACH)),
      });
    else
      streamCommand(`Blade${blade.n}Rot`, {
        command: 'set',
        attribute: `Blade${blade.n}Rot`,
        physical: Math.max(
          -30,
          Math.min(
            30,
            ((Math.atan2(along + RADIUS - blade.in * REACH, Math.max(8, Math.abs(across))) * 180) /
              Math.PI) *
              Math.sign(across || 1),
          ),
        ),
      });
  };
  const drag = useDrag<{ n: number; what: string }>({
    begin: (e) => {
      const grip = e.target instanceof Element ? e.target.closest('[data-grip]') : null;
      return disabled || !grip
        ? null
        : {
            n: Number(grip.getAttribute('data-blade')),
            what: grip.getAttribute('data-grip') ?? '',
          };
    },
    move,
  });
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
          <clipPath id="shutter-gate">
            <circle r={RADIUS} />
          </clipPath>
          <circle
            r={RADIUS}
            fill="var(--color-text)"
            fillOpacity="0.16"
            stroke="var(--color-edge)"
          />
          <g clipPath="url(#shutter-gate)">
            {blades.map((b) => (
              <g key={b.n} transform={`rotate(${b.side})`}>
                <g transform={`translate(0 ${-RADIUS + b.in * REACH}) rotate(${b.turn_deg})`}>
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
              </g>
            ))}
          </g>
          {blades.map((b) => (
            <g
              key={b.n}
              transform={`rotate(${b.side}) translate(0 ${-RADIUS + b.in * REACH}) rotate(${b.turn_deg})`}
            >
              <Handle
                x={0}
                label={`Shutter ${b.n} in`}
                value={b.in}
                grip="in"
                blade={b.n}
                onStep={(d) =>
                  streamCommand(`Blade${b.n}A`, {
                    command: 'set',
                    attribute: `Blade${b.n}A`,
                    level: Math.min(1, Math.max(0, b.in + d * 0.02)),
                  })
                }
              />
              {b.turns && (
                <Handle
                  x={30}
                  small
                  label={`Shutter ${b.n} turn`}
                  value={(b.turn_deg + 30) / 60}
                  grip="turn"
                  blade={b.n}
                  onStep={(d) =>
                    streamCommand(`Blade${b.n}Rot`, {
                      command: 'set',
                      attribute: `Blade${b.n}Rot`,
                      physical: Math.min(30, Math.max(-30, b.turn_deg + d)),
                    })
                  }
                />
              )}
            </g>
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
          onClick={() => {
            for (const b of blades) {
              streamCommand(`Blade${b.n}A`, {
                command: 'set',
                attribute: `Blade${b.n}A`,
                level: 0,
              });
              if (b.turns)
                streamCommand(`Blade${b.n}Rot`, {
                  command: 'set',
                  attribute: `Blade${b.n}Rot`,
                  physical: 0,
                });
            }
          }}
          className="mt-1 h-7 rounded-md bg-raised px-2.5 text-[12px] text-soft hover:bg-lift disabled:opacity-45"
        >
          All out
        </button>
      </div>
    </div>
  );
}

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
        const by =
          e.key === 'ArrowDown' || e.key === 'ArrowRight'
            ? 1
            : e.key === 'ArrowUp' || e.key === 'ArrowLeft'
              ? -1
              : 0;
        if (by === 0) return;
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
