/** How a fan goes: from where, along which curve, and what that makes of each unit, drawn while it is chosen. */
'use client';
import { CURVES, fanThrough, PIVOTS, type Curve, type Pivot } from '@/core/select/fan';
import { Choice, Field } from '../../parts/controls';

/** How values are spread over units. */
export interface Shape {
  pivot: Pivot;
  curve: Curve;
  /** So many neighbours take the same; the same again after so many. Empty: each by itself. */
  together?: number;
  again?: number;
}

/** As a command says it. */
export const shapeOf = ({ pivot, curve, together, again }: Shape) => ({
  pivot,
  curve,
  ...(together === undefined ? {} : { together }),
  ...(again === undefined ? {} : { again }),
});

/** From the first to the last, evenly. */
export const EVEN: Shape = { pivot: 'first', curve: 'even' };

const PIVOT_WORDS: Record<Pivot, string> = {
  middle: 'the middle',
  first: 'the first',
  last: 'the last',
  mirrored: 'the middle, both sides alike',
};
const CURVE_WORDS: Record<Curve, string> = {
  even: 'even',
  in: 'slow first',
  out: 'slow last',
  s: 'slow at both',
};

const [W, H, PAD] = [248, 44, 6];

/** Each unit as a dot at its value. */
export function Graph({ values }: { values: readonly number[] }) {
  const count = values.length;
  const low = Math.min(...values);
  const span = Math.max(...values) - low || 1;
  const at = (v: number, i: number): { x: number; y: number } => ({
    x: PAD + (count === 1 ? 0.5 : i / (count - 1)) * (W - 2 * PAD),
    y: H - PAD - ((v - low) / span) * (H - 2 * PAD),
  });
  const points = values.map(at);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="mt-2 block h-11 w-full rounded bg-ink"
      role="img"
      aria-label={`${values.map((v) => Math.round(v * 10) / 10).join(', ')}`}
    >
      <polyline
        points={points.map((p) => `${p.x},${p.y}`).join(' ')}
        fill="none"
        stroke="var(--color-edge)"
        strokeWidth={1.5}
      />
      {points.map((p, i) => (
        <circle key={i} cx={p.x} cy={p.y} r={3} fill="var(--color-standby)" />
      ))}
    </svg>
  );
}

/** @param least below it, and for what is no number, it is as if nothing was said */
function withNumber(shape: Shape, field: 'together' | 'again', text: string, least: number): Shape {
  const { [field]: was, ...others } = shape;
  void was;
  const n = Math.round(Number(text));
  return text.trim() === '' || !Number.isFinite(n) || n < least || n > 1000
    ? others
    : { ...others, [field]: n };
}

/** Chooses it. */
export function FanShape({
  count,
  stops,
  shape,
  onChange,
}: {
  count: number;
  stops: number[];
  shape: Shape;
  onChange: (shape: Shape) => void;
}) {
  return (
    <>
      <Choice
        label="Spread from"
        value={shape.pivot}
        onChange={(e) => onChange({ ...shape, pivot: e.target.value as Pivot })}
        options={PIVOTS.map((value) => ({ value, label: PIVOT_WORDS[value] }))}
      />
      <Choice
        label="Curve"
        value={shape.curve}
        onChange={(e) => onChange({ ...shape, curve: e.target.value as Curve })}
        options={CURVES.map((value) => ({ value, label: CURVE_WORDS[value] }))}
      />
      <Field
        label="Neighbours together"
        number
        placeholder="1"
        value={shape.together ?? ''}
        onChange={(e) => onChange(withNumber(shape, 'together', e.target.value, 1))}
      />
      <Field
        label="The same again after"
        number
        placeholder="never"
        value={shape.again ?? ''}
        onChange={(e) => onChange(withNumber(shape, 'again', e.target.value, 2))}
      />
      {stops.length > 1 && stops.every(Number.isFinite) && (
        <div className="col-span-full">
          <Graph
            values={fanThrough(count, stops, { ...shape, mirrored: shape.pivot === 'mirrored' })}
          />
        </div>
      )}
    </>
  );
}
