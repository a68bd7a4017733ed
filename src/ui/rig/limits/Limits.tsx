/** What lies between a level and the wire, for the selected fixtures: limits, invert, offset, curve, swapped pan and tilt. */
'use client';
import { useState } from 'react';
import { attributeInfo, attributesOf } from '@/core/rig/attributes';
import { modeOf } from '@/core/fixtures/points';
import { curveAt, isPlain } from '@/core/rig/transform';
import type { Channel } from '@/core/types/rows';
import type { FixtureRow, Transform } from '@/core/fixtures/rows';
import { Check, Choice, Scrub } from '../../parts/controls';
import { edit } from '../../state/edits';
import { useShow } from '../../state/store';
import { having } from '../grid';
import { CurveTable } from './CurveTable';
import { Span } from './Span';

/** So many levels has a curve of one's own, before more are read from a file. */
const POINTS = 17;
const USUAL = ['Dimmer', 'Pan', 'Tilt', 'Zoom'];
const CURVES = [
  { value: 'linear', label: 'Linear' },
  { value: 'square', label: 'Square law' },
  { value: 's', label: 'S' },
  { value: 'table', label: 'Own table' },
];

/** The whole way of an attribute as its people say it: degrees, hertz, kelvin, or percent. */
interface Scale {
  from: number;
  to: number;
  unit: string;
}
function scaleOf(attribute: string, channel: Channel | undefined): Scale {
  const { unit } = attributeInfo(attribute);
  return !channel || unit === '%' || unit === 'slot'
    ? { from: 0, to: 100, unit: '%' }
    : { from: channel.physicalFrom, to: channel.physicalTo, unit };
}
const said = ({ from, to }: Scale, level: number): number => Math.round(from + (to - from) * level);
const levelAt = ({ from, to }: Scale, value: number): number =>
  to === from ? 0 : Math.round(((value - from) / (to - from)) * 10_000) / 10_000;

/** A transform with other fields; those that change nothing are left out. */
function withFields(was: Transform | undefined, fields: Partial<Transform>): Transform {
  const next: Transform = { ...was, ...fields };
  for (const key of Object.keys(next) as (keyof Transform)[])
    if (next[key] === undefined || next[key] === false) delete next[key];
  return next;
}

/** One attribute: how it stands for the last of the chosen, and what writes it for all that have it. */
interface Of {
  attribute: string;
  is: Transform;
  channel: Channel | undefined;
  disabled: boolean;
  put: (fields: Partial<Transform>) => Promise<unknown>;
}

function Bounds({ attribute, is, channel, disabled, put }: Of) {
  const { label } = attributeInfo(attribute);
  const [min, max] = [is.min ?? 0, is.max ?? 1];
  const scale = scaleOf(attribute, channel);
  const ends = { min: Math.min(scale.from, scale.to), max: Math.max(scale.from, scale.to) };
  const limit = (low: number, high: number): Promise<unknown> =>
    put({ min: low === 0 ? undefined : low, max: high === 1 ? undefined : high });
  return (
    <div className="flex items-center gap-2">
      <span className="w-[56px] flex-none truncate text-soft" title={label}>
        {label}
      </span>
      <Span label={label} low={min} high={max} disabled={disabled} onDone={limit} />
      <span className="-mr-1.5 flex flex-none items-center text-[12px] text-muted">
        <Scrub
          label={`${label} from, typed`}
          value={said(scale, min)}
          unit="–"
          {...ends}
          disabled={disabled}
          onSettled={(v) => limit(Math.min(levelAt(scale, v), max), max)}
        />
        <Scrub
          label={`${label} to, typed`}
          value={said(scale, max)}
          unit={scale.unit}
          {...ends}
          disabled={disabled}
          onSettled={(v) => limit(min, Math.max(levelAt(scale, v), min))}
        />
      </span>
    </div>
  );
}

function InvertAndOffset({ attribute, is, disabled, put }: Of) {
  const { label } = attributeInfo(attribute);
  return (
    <div className="flex items-center justify-between pl-[64px]">
      <Check
        label={`Invert ${label}`}
        checked={is.invert ?? false}
        disabled={disabled}
        onChange={(invert) => void put({ invert })}
      >
        invert
      </Check>
      <span className="flex items-center text-[12px] text-muted">
        offset
        <Scrub
          label={`Offset of ${label}`}
          value={Math.round((is.offset ?? 0) * 1000) / 10}
          unit="%"
          min={-100}
          max={100}
          digits={1}
          disabled={disabled}
          onSettled={(v) => put({ offset: v === 0 ? undefined : v / 100 })}
        />
      </span>
    </div>
  );
}

/** A curve of one's own begins as the one that was there. */
const tableLike = (curve: Transform['curve']): number[] =>
  Array.from(
    { length: POINTS },
    (_, i) => Math.round(curveAt(curve, i / (POINTS - 1)) * 100) / 100,
  );

function Curve({ is: { curve }, disabled, put }: Of) {
  const isOwn = Array.isArray(curve);
  const choose = (value: string): void => {
    if (value === 'linear') void put({ curve: undefined });
    else if (value === 'table') void put({ curve: tableLike(curve) });
    else void put({ curve: value as 'square' | 's' });
  };
  return (
    <div className="pt-0.5 pb-1 pl-[64px]">
      <Choice
        label="Curve"
        disabled={disabled}
        value={isOwn ? 'table' : (curve ?? 'linear')}
        onChange={(e) => choose(e.target.value)}
        options={CURVES}
      />
      {isOwn && (
        <div className="pt-2">
          <CurveTable table={curve} disabled={disabled} onDone={(table) => put({ curve: table })} />
        </div>
      )}
    </div>
  );
}

/** How a unit’s attributes are turned round, narrowed and bent. */
export function Limits({ chosen, disabled }: { chosen: readonly FixtureRow[]; disabled: boolean }) {
  const show = useShow();
  const [more, setMore] = useState(false);
  const last = chosen.at(-1);
  const mode = last ? modeOf(show, last) : undefined;
  if (!last || !mode) return null;
  const attributes = attributesOf(mode).filter((a) => !a.includes('@'));
  const shown = more
    ? attributes
    : attributes.filter((a) => USUAL.includes(a) || !isPlain(last.transforms?.[a]));
  const write = (attribute: string, fields: Partial<Transform>): Promise<unknown> =>
    edit('change-fixtures', {
      fixtures: having(show, chosen, attribute).map((f) => {
        const next = withFields(f.transforms?.[attribute], fields);
        const { [attribute]: was, ...others } = f.transforms ?? {};
        void was;
        const transforms = isPlain(next) ? others : { ...others, [attribute]: next };
        return { id: f.id, set: { transforms } };
      }),
    });
  const swap = (swapPanTilt: boolean): void =>
    void edit('change-fixtures', {
      fixtures: having(show, chosen, 'Pan').map((f) => ({ id: f.id, set: { swapPanTilt } })),
    });
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
        const of: Of = {
          attribute,
          is: last.transforms?.[attribute] ?? {},
          channel: mode.channels.find((c) => c.attribute === attribute),
          disabled,
          put: (fields) => write(attribute, fields),
        };
        const isTurned = attributeInfo(attribute).unit === '°';
        return (
          <div key={attribute} className="py-0.5">
            <Bounds {...of} />
            {attribute !== 'Dimmer' && (isTurned || more) && <InvertAndOffset {...of} />}
            {attribute === 'Dimmer' && <Curve {...of} />}
          </div>
        );
      })}
      {attributes.includes('Pan') && attributes.includes('Tilt') && (
        <Check checked={last.swapPanTilt ?? false} disabled={disabled} onChange={swap}>
          Swap pan and tilt
        </Check>
      )}
    </section>
  );
}
