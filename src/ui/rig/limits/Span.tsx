/** Two handles on one line: the lowest and the highest level that an attribute may have. */
'use client';
import { useRef } from 'react';
import { clamp } from '@/core/numbers';
import { arrowStep } from '../../parts/arrow-step';
import { useDrag } from '../../parts/use-drag';
import { useSettling } from '../../parts/use-settling';

/** By a key. */
const STEP = 0.01;

/** Reports when a handle is let go, so that one drag is one edit. */
export function Span({
  label,
  low,
  high,
  disabled,
  onDone,
}: {
  label: string;
  low: number;
  high: number;
  disabled: boolean;
  onDone: (low: number, high: number) => unknown;
}) {
  const track = useRef<HTMLDivElement>(null);
  const settling = useSettling(
    { low, high },
    (v) => (v.low !== low || v.high !== high) && onDone(v.low, v.high),
  );
  const { shown } = settling;
  const at = (e: React.PointerEvent): number => {
    const r = track.current?.getBoundingClientRect();
    return r ? Math.round(clamp((e.clientX - r.left) / r.width) * 200) / 200 : 0;
  };
  const move = (end: 'low' | 'high', v: number): { low: number; high: number } =>
    end === 'low'
      ? { ...shown, low: Math.min(v, shown.high) }
      : { ...shown, high: Math.max(v, shown.low) };
  const drags = {
    low: useDrag<true>({
      begin: () => (disabled ? null : true),
      move: (_, e) => settling.put(move('low', at(e))),
      end: (_, torn) => (torn ? settling.leave() : settling.settle()),
    }),
    high: useDrag<true>({
      begin: () => (disabled ? null : true),
      move: (_, e) => settling.put(move('high', at(e))),
      end: (_, torn) => (torn ? settling.leave() : settling.settle()),
    }),
  };
  const handle = (end: 'low' | 'high'): React.ReactNode => (
    <span
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={`${label}, ${end === 'low' ? 'lowest' : 'highest'}`}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(shown[end] * 100)}
      aria-disabled={disabled}
      {...drags[end]}
      onKeyDown={(e) => {
        const by = STEP * arrowStep(e.key);
        if (by === 0 || disabled) return;
        e.preventDefault();
        settling.steps(move(end, Math.round(clamp(shown[end] + by) * 1000) / 1000));
      }}
      className="absolute top-0 grid h-7 w-6 -translate-x-1/2 cursor-ew-resize touch-none place-items-center"
      style={{ left: `${shown[end] * 100}%` }}
    >
      <i className="h-4 w-1.5 rounded-sm bg-text" />
    </span>
  );
  return (
    <div ref={track} className="relative h-7 flex-1">
      <i className="absolute inset-x-0 top-3 h-1 rounded bg-lift" />
      <i
        className="absolute top-3 h-1 rounded bg-muted"
        style={{ left: `${shown.low * 100}%`, width: `${(shown.high - shown.low) * 100}%` }}
      />
      {handle('low')}
      {handle('high')}
    </div>
  );
}
