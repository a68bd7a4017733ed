/** What lies between a level and the wire, for the selected fixtures: limits, invert, offset, curve, swapped pan and tilt. */
'use client';
import { clamp } from '@/core/numbers';
import { useRef, useState } from 'react';
import { attributeInfo, attributesOf } from '@/core/rig/attributes';
import { modeOf } from '@/core/fixtures/points';
import { curveAt, isPlain } from '@/core/rig/transform';
import type { Channel } from '@/core/types/rows';
import type { FixtureRow, Transform } from '@/core/fixtures/rows';
import { Check, Choice, Scrub } from '../parts/controls';
import { useDrag } from '../parts/use-drag';
import { useSettling } from '../parts/use-settling';
import { edit } from '../state/actions';
import { useShow } from '../state/store';
import { having } from './grid';

/** Two handles on one line; reports when a handle is let go, so that one drag is one edit. */
function Span({
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
        const by =
          e.key === 'ArrowRight' || e.key === 'ArrowUp'
            ? 0.01
            : e.key === 'ArrowLeft' || e.key === 'ArrowDown'
              ? -0.01
              : 0;
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

const POINTS = 17;
const BOX = 96;
const EDGE = 4;

/** A dimmer curve drawn by hand: the points go where the hand passes over them. */
function CurveTable({
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
  const under = (e: React.PointerEvent): { i: number; level: number } | null => {
    const r = svg.current?.getBoundingClientRect();
    if (!r) return null;
    const share = (px: number, from: number, size: number): number =>
      clamp(((px - from) / size) * ((BOX + 2 * EDGE) / BOX) - EDGE / BOX);
    return {
      i: Math.round(share(e.clientX, r.left, r.width) * (table.length - 1)),
      level: Math.round((1 - share(e.clientY, r.top, r.height)) * 100) / 100,
    };
  };
  // The hand draws: every point that it passes goes to its height, also those it was too fast for.
  const drag = useDrag<{ last: { i: number; level: number }; table: number[] }>({
    begin: (e) => {
      const at = disabled ? null : under(e);
      return at && { last: at, table: [...shown] };
    },
    move: (drawn, e) => {
      const at = under(e);
      if (!at) return;
      const { last } = drawn;
      const step = Math.sign(at.i - last.i) || 1;
      for (let i = last.i; i !== at.i + step; i += step)
        drawn.table[i] =
          at.i === last.i
            ? at.level
            : Math.round(
                (last.level + ((at.level - last.level) * (i - last.i)) / (at.i - last.i)) * 100,
              ) / 100;
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
            const by = e.key === 'ArrowUp' ? 0.02 : e.key === 'ArrowDown' ? -0.02 : 0;
            if (by === 0 || disabled) return;
            e.preventDefault();
            settling.steps(
              shown.map((t, k) => (k === i ? Math.round(clamp(t + by) * 100) / 100 : t)),
            );
          }}
        />
      ))}
    </svg>
  );
}

const CURVES = [
  { value: 'linear', label: 'Linear' },
  { value: 'square', label: 'Square law' },
  { value: 's', label: 'S' },
  { value: 'table', label: 'Own table' },
];

/** A level as this attribute's people say it: degrees, or percent. */
function inUnit(attribute: string, channel: Channel | undefined, level: number): number {
  const { unit } = attributeInfo(attribute);
  if (!channel || unit === '%' || unit === 'slot') return Math.round(level * 100);
  return Math.round(channel.physicalFrom + (channel.physicalTo - channel.physicalFrom) * level);
}

export function Limits({ chosen, disabled }: { chosen: readonly FixtureRow[]; disabled: boolean }) {
  const show = useShow();
  const [more, setMore] = useState(false);
  const first = chosen.at(-1);
  const mode = first ? modeOf(show, first) : undefined;
  if (!first || !mode) return null;
  const attributes = attributesOf(mode).filter((a) => !a.includes('@'));
  const usual = attributes.filter(
    (a) => ['Dimmer', 'Pan', 'Tilt', 'Zoom'].includes(a) || !isPlain(first.transforms?.[a]),
  );
  const shown = more ? attributes : usual;

  /** Writes one attribute's transform to every chosen fixture that has it. */
  const put = (attribute: string, fields: Partial<Transform>): Promise<unknown> => {
    const able = having(show, chosen, attribute);
    return edit('change-fixtures', {
      fixtures: able.map((f) => {
        const next: Transform = { ...f.transforms?.[attribute], ...fields };
        for (const key of Object.keys(next) as (keyof Transform)[])
          if (next[key] === undefined || next[key] === false) delete next[key];
        const all = { ...f.transforms, [attribute]: next };
        if (isPlain(next)) delete all[attribute];
        return { id: f.id, set: { transforms: all } };
      }),
    });
  };
  return (
    <section aria-label="Limits" className="border-t border-line px-4 py-2.5">
      <div className="mb-1 flex items-baseline justify-between">
        <span className="cap">Limits</span>
        <button
          type="button"
          className="text-[12px] text-muted hover:text-soft"
          onClick={() => setMore(!more)}
          aria-expanded={more}
        >
          {more ? 'the usual ones' : `all ${attributes.length}`}
        </button>
      </div>
      {shown.map((attribute) => {
        const t = first.transforms?.[attribute];
        const channel = mode.channels.find((c) => c.attribute === attribute);
        const info = attributeInfo(attribute);
        const unit = info.unit === '°' ? '°' : '%';
        const limit = (min: number, max: number): Promise<unknown> =>
          put(attribute, { min: min === 0 ? undefined : min, max: max === 1 ? undefined : max });
        const [low, high, from, to] = [t?.min ?? 0, t?.max ?? 1, 0, 1].map((level) =>
          inUnit(attribute, channel, level),
        ) as [number, number, number, number];
        const [floor, ceiling] = [Math.min(from, to), Math.max(from, to)];
        const levelAt = (value: number): number =>
          to === from ? 0 : Math.round(((value - from) / (to - from)) * 10_000) / 10_000;
        return (
          <div key={attribute} className="py-0.5">
            <div className="flex items-center gap-2">
              <span className="w-[56px] flex-none truncate text-soft" title={info.label}>
                {info.label}
              </span>
              <Span
                label={info.label}
                low={t?.min ?? 0}
                high={t?.max ?? 1}
                disabled={disabled}
                onDone={limit}
              />
              <span className="-mr-1.5 flex flex-none items-center text-[12px] text-muted">
                <Scrub
                  label={`${info.label} from, typed`}
                  value={low}
                  unit="–"
                  min={floor}
                  max={ceiling}
                  disabled={disabled}
                  onSettled={(v) => limit(Math.min(levelAt(v), t?.max ?? 1), t?.max ?? 1)}
                />
                <Scrub
                  label={`${info.label} to, typed`}
                  value={high}
                  unit={unit}
                  min={floor}
                  max={ceiling}
                  disabled={disabled}
                  onSettled={(v) => limit(t?.min ?? 0, Math.max(levelAt(v), t?.min ?? 0))}
                />
              </span>
            </div>
            {attribute !== 'Dimmer' && (info.unit === '°' || more) && (
              <div className="flex items-center justify-between pl-[64px]">
                <Check
                  label={`Invert ${info.label}`}
                  checked={t?.invert ?? false}
                  disabled={disabled}
                  onChange={(invert) => void put(attribute, { invert })}
                >
                  invert
                </Check>
                <span className="flex items-center text-[12px] text-muted">
                  offset
                  <Scrub
                    label={`Offset of ${info.label}`}
                    value={Math.round((t?.offset ?? 0) * 1000) / 10}
                    unit="%"
                    min={-100}
                    max={100}
                    digits={1}
                    disabled={disabled}
                    onSettled={(v) => put(attribute, { offset: v === 0 ? undefined : v / 100 })}
                  />
                </span>
              </div>
            )}
            {attribute === 'Dimmer' && (
              <div className="pt-0.5 pb-1 pl-[64px]">
                <Choice
                  label="Curve"
                  disabled={disabled}
                  value={Array.isArray(t?.curve) ? 'table' : (t?.curve ?? 'linear')}
                  onChange={(e) => {
                    const value = e.target.value;
                    void put(attribute, {
                      curve:
                        value === 'linear'
                          ? undefined
                          : value === 'table'
                            ? Array.from(
                                { length: POINTS },
                                (_, i) =>
                                  Math.round(curveAt(t?.curve, i / (POINTS - 1)) * 100) / 100,
                              )
                            : (value as 'square' | 's'),
                    });
                  }}
                  options={CURVES}
                />
                {Array.isArray(t?.curve) && (
                  <div className="pt-2">
                    <CurveTable
                      table={t.curve}
                      disabled={disabled}
                      onDone={(curve) => put(attribute, { curve })}
                    />
                  </div>
                )}
              </div>
            )}
          </div>
        );
      })}
      {attributes.includes('Pan') && attributes.includes('Tilt') && (
        <Check
          checked={first.swapPanTilt ?? false}
          disabled={disabled}
          onChange={(swapPanTilt) =>
            void edit('change-fixtures', {
              fixtures: having(show, chosen, 'Pan').map((f) => ({
                id: f.id,
                set: { swapPanTilt },
              })),
            })
          }
        >
          Swap pan and tilt
        </Check>
      )}
    </section>
  );
}
