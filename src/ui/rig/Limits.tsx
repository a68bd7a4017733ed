/** What lies between a level and the wire, for the selected fixtures: limits, invert, offset, curve, swapped pan and tilt. */
'use client';
import { useRef, useState } from 'react';
import { attributeInfo, attributesOf } from '@/core/rig/attributes';
import { modeOf } from '@/core/rig/addresses';
import { curveAt, isPlain } from '@/core/rig/transform';
import type { Channel, FixtureRow, Transform } from '@/core/show/rows';
import { Check, Choice, Scrub } from '../parts/controls';
import { edit } from '../state/actions';
import { useShow } from '../state/store';
import { having } from './grid';

/** Two handles on one line; reports when a handle is let go, so that one drag is one edit. */
function Span({ label, low, high, disabled, onDone }: { label: string; low: number; high: number; disabled: boolean; onDone: (low: number, high: number) => void }) {
  const track = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ end: 'low' | 'high'; low: number; high: number } | null>(null);
  const shown = drag ?? { low, high };
  const at = (e: React.PointerEvent): number => {
    const r = track.current?.getBoundingClientRect();
    return r ? Math.round(Math.min(1, Math.max(0, (e.clientX - r.left) / r.width)) * 200) / 200 : 0;
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
      onPointerDown={(e) => {
        if (disabled) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ end, low, high });
      }}
      onPointerMove={(e) => {
        if (!drag || drag.end !== end) return;
        const v = at(e);
        setDrag(end === 'low' ? { ...drag, low: Math.min(v, drag.high) } : { ...drag, high: Math.max(v, drag.low) });
      }}
      onPointerUp={() => {
        if (drag && (drag.low !== low || drag.high !== high)) onDone(drag.low, drag.high);
        setDrag(null);
      }}
      onKeyDown={(e) => {
        const by = e.key === 'ArrowRight' || e.key === 'ArrowUp' ? 0.01 : e.key === 'ArrowLeft' || e.key === 'ArrowDown' ? -0.01 : 0;
        if (by === 0 || disabled) return;
        e.preventDefault();
        const v = Math.round(Math.min(1, Math.max(0, (end === 'low' ? low : high) + by)) * 1000) / 1000;
        onDone(end === 'low' ? Math.min(v, high) : low, end === 'high' ? Math.max(v, low) : high);
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
      <i className="absolute top-3 h-1 rounded bg-muted" style={{ left: `${shown.low * 100}%`, width: `${(shown.high - shown.low) * 100}%` }} />
      {handle('low')}
      {handle('high')}
    </div>
  );
}

const POINTS = 9;
const BOX = 96;

/** A dimmer curve drawn by hand: nine points, dragged up and down. */
function CurveTable({ table, disabled, onDone }: { table: readonly number[]; disabled: boolean; onDone: (table: number[]) => void }) {
  const svg = useRef<SVGSVGElement>(null);
  const [drag, setDrag] = useState<{ i: number; table: number[] } | null>(null);
  const shown = drag?.table ?? table;
  const x = (i: number): number => (i / (shown.length - 1)) * BOX;
  return (
    <svg ref={svg} viewBox={`-4 -4 ${BOX + 8} ${BOX + 8}`} className="h-[104px] w-full touch-none rounded-md bg-ink" role="group" aria-label="Own curve">
      <path d={`M0 ${BOX}L${BOX} 0`} stroke="var(--color-line)" strokeDasharray="3 3" fill="none" />
      <path d={shown.map((v, i) => `${i === 0 ? 'M' : 'L'}${x(i)} ${(1 - v) * BOX}`).join('')} stroke="var(--color-soft)" strokeWidth="1.5" fill="none" />
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
          className="cursor-ns-resize"
          onPointerDown={(e) => {
            if (disabled) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            setDrag({ i, table: [...table] });
          }}
          onPointerMove={(e) => {
            const r = svg.current?.getBoundingClientRect();
            if (drag?.i !== i || !r) return;
            const level = Math.min(1, Math.max(0, 1 - ((e.clientY - r.top) / r.height) * ((BOX + 8) / BOX) + 4 / BOX));
            setDrag({ i, table: drag.table.map((t, k) => (k === i ? Math.round(level * 100) / 100 : t)) });
          }}
          onPointerUp={() => {
            if (drag) onDone(drag.table);
            setDrag(null);
          }}
          onKeyDown={(e) => {
            const by = e.key === 'ArrowUp' ? 0.02 : e.key === 'ArrowDown' ? -0.02 : 0;
            if (by === 0 || disabled) return;
            e.preventDefault();
            onDone(table.map((t, k) => (k === i ? Math.round(Math.min(1, Math.max(0, t + by)) * 100) / 100 : t)));
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
function say(attribute: string, channel: Channel | undefined, level: number): string {
  const { unit } = attributeInfo(attribute);
  if (!channel || unit === '%' || unit === 'slot') return `${Math.round(level * 100)}`;
  return `${Math.round(channel.physicalFrom + (channel.physicalTo - channel.physicalFrom) * level)}`;
}

export function Limits({ chosen, disabled }: { chosen: readonly FixtureRow[]; disabled: boolean }) {
  const show = useShow();
  const [more, setMore] = useState(false);
  const first = chosen.at(-1);
  const mode = first ? modeOf(show, first) : undefined;
  if (!first || !mode) return null;
  const attributes = attributesOf(mode).filter((a) => !a.includes('@'));
  const usual = attributes.filter((a) => ['Dimmer', 'Pan', 'Tilt', 'Zoom'].includes(a) || !isPlain(first.transforms?.[a]));
  const shown = more ? attributes : usual;

  /** Writes one attribute's transform to every chosen fixture that has it. */
  const put = (attribute: string, fields: Partial<Transform>): void => {
    const able = having(show, chosen, attribute);
    void edit('change-fixtures', {
      fixtures: able.map((f) => {
        const next: Transform = { ...f.transforms?.[attribute], ...fields };
        for (const key of Object.keys(next) as (keyof Transform)[]) if (next[key] === undefined || next[key] === false) delete next[key];
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
        <button type="button" className="text-[12px] text-muted hover:text-soft" onClick={() => setMore(!more)} aria-expanded={more}>
          {more ? 'the usual ones' : `all ${attributes.length}`}
        </button>
      </div>
      {shown.map((attribute) => {
        const t = first.transforms?.[attribute];
        const channel = mode.channels.find((c) => c.attribute === attribute);
        const info = attributeInfo(attribute);
        const unit = info.unit === '°' ? '°' : '%';
        return (
          <div key={attribute} className="py-0.5">
            <div className="flex items-center gap-2">
              <span className="w-[56px] flex-none truncate text-soft" title={info.label}>
                {info.label}
              </span>
              <Span label={info.label} low={t?.min ?? 0} high={t?.max ?? 1} disabled={disabled} onDone={(min, max) => put(attribute, { min: min === 0 ? undefined : min, max: max === 1 ? undefined : max })} />
              <span className="num w-[76px] flex-none whitespace-nowrap text-right text-[12px] text-muted">
                {say(attribute, channel, t?.min ?? 0)}–{say(attribute, channel, t?.max ?? 1)}
                {unit}
              </span>
            </div>
            {attribute !== 'Dimmer' && (info.unit === '°' || more) && (
              <div className="flex items-center justify-between pl-[64px]">
                <Check label={`Invert ${info.label}`} checked={t?.invert ?? false} disabled={disabled} onChange={(invert) => put(attribute, { invert })}>
                  invert
                </Check>
                <span className="flex items-center text-[12px] text-muted">
                  offset
                  <Scrub label={`Offset of ${info.label}`} value={Math.round((t?.offset ?? 0) * 1000) / 10} unit="%" min={-100} max={100} digits={1} disabled={disabled} onChange={(v) => put(attribute, { offset: v === 0 ? undefined : v / 100 })} />
                </span>
              </div>
            )}
            {attribute === 'Dimmer' && (
              <div className="pb-1 pl-[64px] pt-0.5">
                <Choice
                  label="Curve"
                  disabled={disabled}
                  value={Array.isArray(t?.curve) ? 'table' : (t?.curve ?? 'linear')}
                  onChange={(e) => {
                    const value = e.target.value;
                    put(attribute, { curve: value === 'linear' ? undefined : value === 'table' ? Array.from({ length: POINTS }, (_, i) => Math.round(curveAt(t?.curve, i / (POINTS - 1)) * 100) / 100) : (value as 'square' | 's') });
                  }}
                  options={CURVES}
                />
                {Array.isArray(t?.curve) && (
                  <div className="pt-2">
                    <CurveTable table={t.curve} disabled={disabled} onDone={(curve) => put(attribute, { curve })} />
                  </div>
                )}
              </div>
            )}
          </div>
        );
      })}
      {attributes.includes('Pan') && attributes.includes('Tilt') && (
        <Check checked={first.swapPanTilt ?? false} disabled={disabled} onChange={(swapPanTilt) => void edit('change-fixtures', { fixtures: having(show, chosen, 'Pan').map((f) => ({ id: f.id, set: { swapPanTilt } })) })}>
          Swap pan and tilt
        </Check>
      )}
    </section>
  );
}
