/** The lanes of an effect along one round: waves as curves, steps as dots that are dragged anywhere; marks show where units are. */
'use client';
import { firstSo } from '@/core/first-so';
import { clamp } from '@/core/numbers';
import { useCallback, useRef } from 'react';
import { isFamilyLane } from '@/core/effects/lanes';
import type { EffectStep, EffectTrack } from '@/core/effects/rows';
import { placesOfSteps, withArrival, withEnd, withoutStep, withStepAt } from '@/core/effects/shape';
import { phaseOf, hertz, waveAt } from '@/core/effects/wave';
import { useBox } from '../../parts/use-box';
import { useDrag } from '../../parts/use-drag';
import { useScreen, useShow } from '../../state/store';
import { change, choose, type Trying } from '../../state/trying';
import type { Chosen } from '../deck/chosen';
import { channelFor, laneManner, laneName, sayStep } from './words';
import { usePhases } from './use-phases';
import { useRounds } from './use-rounds';

const LABELS = 104;
const RIGHT = 20;
const RULER = 26;
const LANE_H = 84;
const TOP = 14;
const BOTTOM = 70;
const SAMPLES = 200;
const TENTHS = Array.from({ length: 11 }, (_, i) => i / 10);

const partOf = (v: number): number => v - Math.floor(v);
const yOf = (level: number): number => BOTTOM - level * (BOTTOM - TOP);
const levelAt = (y: number): number => clamp((BOTTOM - y) / (BOTTOM - TOP));
const round2 = (v: number): number => Math.round(v * 100) / 100;

/** Where a place of a lane's steps stands in the round, and the way back. */
const shown = (track: EffectTrack, at: number): number => {
  const place = at * track.width - track.offset;
  return place === 1 ? 1 : partOf(place);
};
const hidden = (track: EffectTrack, place: number): number =>
  Math.min(1, partOf(place + track.offset) / track.width);

interface Grip {
  lane: number;
  step: number;
  what: 'step' | 'end';
}

function gripAt(target: EventTarget): Grip | null {
  const part = target instanceof Element ? target.closest('[data-grip]') : null;
  if (!part) return null;
  const [what, lane, step] = (part.getAttribute('data-grip') ?? '').split('/');
  return { what: what === 'end' ? 'end' : 'step', lane: Number(lane), step: Number(step) };
}

/** A step's level by hand; where a palette or held values say it, they go on saying it. */
const moved = (steps: readonly EffectStep[], i: number, level: number): EffectStep[] =>
  steps.map((s, k) =>
    k === i && s.palette === undefined && s.units === undefined ? { ...s, level } : s,
  );

interface Pointed {
  /** Along the round, 0 to 1. */
  place: number;
  /** Below the ruler, in pixels. */
  y: number;
}

/** What hands do on the lanes: steps are carried along and up and down, and added by two clicks. */
function useLaneHands(
  tracks: readonly EffectTrack[],
  span: number,
  pointed: (e: { clientX: number; clientY: number }) => Pointed,
) {
  const setSteps = (lane: number, steps: EffectStep[]): void =>
    change({ tracks: tracks.map((t, i) => (i === lane ? { ...t, steps } : t)) });
  const drag = useDrag<Grip & { first: EffectStep[]; began: Pointed }>({
    begin: (e) => {
      const grip = gripAt(e.target);
      const steps = grip && tracks[grip.lane]?.steps;
      if (!grip || !steps) return null;
      choose(grip.lane, grip.step);
      return { ...grip, first: steps, began: pointed(e) };
    },
    move: ({ lane, step, what, first, began }, e) => {
      const track = tracks[lane];
      if (!track) return;
      const { place, y } = pointed(e);
      // Along or up and down: a small tremble in the other direction changes nothing.
      const along = Math.abs(place - began.place) * span > 3;
      const up = Math.abs(y - began.y) > 3;
      const at = place >= 1 ? hidden(track, 0.9999) : hidden(track, place);
      let steps = first;
      if (along) steps = what === 'end' ? withEnd(first, step, at) : withArrival(first, step, at);
      if (up && what === 'step') steps = moved(steps, step, round2(levelAt(y - lane * LANE_H)));
      if (steps !== first) setSteps(lane, steps);
    },
  });
  const add = (e: React.MouseEvent): void => {
    const { place, y } = pointed(e);
    const lane = Math.floor(y / LANE_H);
    const track = tracks[lane];
    if (track?.wave !== 'steps' || !track.steps || gripAt(e.target)) return;
    const steps = withStepAt(track.steps, hidden(track, place), {
      level: round2(levelAt(y - lane * LANE_H)),
    });
    setSteps(lane, steps);
  };
  return { drag, add, setSteps };
}

/** Shapes of an effect, one under the other, drawn by hand. */
export function Lanes({ trying, chosen }: { trying: Trying; chosen: readonly Chosen[] }) {
  const box = useRef<HTMLDivElement>(null);
  const svg = useRef<SVGSVGElement>(null);
  const { width } = useBox(box);
  const tempo = useScreen((s) => s.playback.tempo_bpm);
  const { tracks, speed } = trying.draft;
  const span = Math.max(160, width - LABELS - RIGHT);
  const height = RULER + tracks.length * LANE_H + 4;
  const x = useCallback((place: number): number => LABELS + place * span, [span]);
  const { drag, add, setSteps } = useLaneHands(tracks, span, (e) => {
    const r = svg.current?.getBoundingClientRect();
    return {
      place: clamp((e.clientX - (r?.left ?? 0) - LABELS) / span),
      y: e.clientY - (r?.top ?? 0) - RULER,
    };
  });
  return (
    <div ref={box} className="relative min-h-0 flex-1 overflow-y-auto">
      <svg
        ref={svg}
        width={Math.max(width, LABELS + RIGHT + 160)}
        height={height}
        className="block touch-none select-none"
        role="group"
        aria-label="Lanes over one round"
        onDoubleClick={add}
        {...drag}
      >
        <RoundRuler round_s={1 / hertz(speed, tempo)} height={height} x={x} />
        <UnitMarks trying={trying} x={x} />
        {tracks.map((track, i) => (
          <Lane
            key={track.attribute}
            track={track}
            at={i}
            trying={trying}
            chosen={chosen}
            x={x}
            span={span}
            onSteps={(steps) => setSteps(i, steps)}
          />
        ))}
      </svg>
    </div>
  );
}

/** Tenths of a round, with seconds at its beginning, its half and its end. */
function RoundRuler({
  round_s,
  height,
  x,
}: {
  round_s: number;
  height: number;
  x: (place: number) => number;
}) {
  return TENTHS.map((at, i) => (
    <g key={at}>
      <line
        x1={x(at)}
        x2={x(at)}
        y1={RULER}
        y2={height}
        stroke={i % 5 === 0 ? 'var(--color-edge)' : 'var(--color-line)'}
      />
      {i % 5 === 0 && (
        <text
          x={x(at)}
          y={14}
          textAnchor={firstSo(
            [
              [i === 10, 'end'],
              [i === 0, 'start'],
            ],
            'middle',
          )}
          className="num fill-muted text-[11px]"
        >
          {(at * round_s).toFixed(round_s < 10 ? 2 : 1)} s
        </text>
      )}
    </g>
  ));
}

/** Where in the round each unit is now. */
function UnitMarks({ trying, x }: { trying: Trying; x: (place: number) => number }) {
  const where = usePhases(trying.draft);
  const marks = useRef<(SVGLineElement | null)[]>([]);
  const { speed, direction } = trying.draft;
  const draw = useCallback(
    (rounds: number) =>
      where.forEach((phase, i) => {
        const place = String(x(phaseOf(direction, rounds, phase)));
        marks.current[i]?.setAttribute('x1', place);
        marks.current[i]?.setAttribute('x2', place);
      }),
    [where, direction, x],
  );
  useRounds(speed, draw);
  return where.map((_, i) => (
    <line
      key={i}
      ref={(line) => void (marks.current[i] = line)}
      y1={RULER - 7}
      y2={RULER}
      stroke="var(--color-lime)"
      strokeWidth={2}
    />
  ));
}

function Lane({
  track,
  at,
  trying,
  chosen,
  x,
  span,
  onSteps,
}: {
  track: EffectTrack;
  at: number;
  trying: Trying;
  chosen: readonly Chosen[];
  x: (place: number) => number;
  span: number;
  onSteps: (steps: EffectStep[]) => void;
}) {
  const on = trying.lane === at;
  const family = isFamilyLane(track);
  const points = Array.from({ length: SAMPLES + 1 }, (_, k) => {
    const place = k / SAMPLES;
    return `${x(place)},${yOf(waveAt(track, Math.min(0.99999, place)))}`;
  }).join(' ');
  return (
    <g transform={`translate(0 ${RULER + at * LANE_H})`}>
      <rect
        x={0}
        y={0}
        width={LABELS + span + RIGHT}
        height={LANE_H}
        fill={on ? 'var(--color-raised)' : 'transparent'}
        fillOpacity={0.35}
        onPointerDown={() => choose(at, null)}
      />
      <line x1={0} x2={LABELS + span + RIGHT} y1={LANE_H} y2={LANE_H} stroke="var(--color-line)" />
      <foreignObject x={0} y={0} width={LABELS - 8} height={LANE_H}>
        <button
          type="button"
          aria-pressed={on}
          onClick={() => choose(at, null)}
          className="h-full w-full px-4 text-left"
        >
          <span
            className={`block truncate text-[13px] font-semibold ${on ? 'text-text' : 'text-soft'}`}
          >
            {laneName(track.attribute)}
          </span>
          <span className="block truncate text-[11.5px] text-muted">{laneManner(track)}</span>
        </button>
      </foreignObject>
      {family ? (
        <FamilyBar track={track} x={x} span={span} />
      ) : (
        <polyline
          points={points}
          fill="none"
          stroke={on ? 'var(--color-text)' : 'var(--color-muted)'}
          strokeWidth={on ? 2 : 1.5}
        />
      )}
      {track.wave === 'steps' && (
        <Steps
          track={track}
          lane={at}
          chosenStep={on ? trying.step : null}
          chosen={chosen}
          x={x}
          onSteps={onSteps}
        />
      )}
    </g>
  );
}

const PALETTE_BAR_H = 18;

/** A family’s way from palette to palette: what each step takes, and within it the way there. */
function FamilyBar({
  track,
  x,
  span,
}: {
  track: EffectTrack;
  x: (place: number) => number;
  span: number;
}) {
  const places = placesOfSteps(track.steps ?? []);
  return (
    <g>
      <rect
        x={x(0)}
        y={yOf(0.5) - PALETTE_BAR_H / 2}
        width={span}
        height={PALETTE_BAR_H}
        rx={5}
        fill="var(--color-lift)"
      />
      {places.map((p, i) => {
        const from = shown(track, p.from);
        const width = Math.min(1 - from, (p.arrives - p.from) * track.width);
        return (
          <rect
            key={i}
            x={x(from)}
            y={yOf(0.5) - PALETTE_BAR_H / 2}
            width={width * span}
            height={PALETTE_BAR_H}
            fill="var(--color-edge)"
          />
        );
      })}
    </g>
  );
}

const KEY_STEP = 0.01;

/** What keys do with a step. @returns whether the key did anything */
function steppedBy(
  e: React.KeyboardEvent,
  steps: EffectStep[],
  i: number,
  onSteps: (steps: EffectStep[]) => void,
): boolean {
  const by = e.shiftKey ? 10 * KEY_STEP : KEY_STEP;
  const place = placesOfSteps(steps)[i];
  const step = steps[i];
  if (!place || !step) return false;
  const up = { ArrowUp: by, ArrowDown: -by }[e.key];
  const along = { ArrowRight: by, ArrowLeft: -by }[e.key];
  if (up !== undefined) onSteps(moved(steps, i, clamp(round2(step.level + up))));
  else if (along !== undefined) onSteps(withArrival(steps, i, place.arrives + along));
  else if (e.key === 'Delete') onSteps(withoutStep(steps, i));
  else return false;
  return true;
}

interface StepsOf {
  track: EffectTrack;
  lane: number;
  chosenStep: number | null;
  chosen: readonly Chosen[];
  x: (place: number) => number;
  onSteps: (steps: EffectStep[]) => void;
}

function Steps(of: StepsOf) {
  const { track, lane, x } = of;
  const steps = track.steps ?? [];
  const places = placesOfSteps(steps);
  return steps.map((step, i) => {
    const place = places[i];
    if (!place) return null;
    const hasEnd = i < steps.length - 1 && place.to > place.arrives;
    return (
      <g key={i}>
        {hasEnd && <EndGrip grip={`end/${lane}/${i}`} x={x(shown(track, place.to))} />}
        <StepGrip of={of} step={step} i={i} x={x(shown(track, place.arrives))} />
      </g>
    );
  });
}

/** Where a step is left for the next one. */
function EndGrip({ grip, x }: { grip: string; x: number }) {
  return (
    <g data-grip={grip} className="cursor-ew-resize">
      <rect x={x - 6} y={0} width={12} height={LANE_H} fill="transparent" />
      <line
        x1={x}
        x2={x}
        y1={LANE_H - 12}
        y2={LANE_H - 2}
        stroke="var(--color-muted)"
        strokeWidth={2}
      />
    </g>
  );
}

/** Where a step is reached, with what it has in words beside it. */
function StepGrip({
  of: { track, lane, chosenStep, chosen, x: along, onSteps },
  step,
  i,
  x,
}: {
  of: StepsOf;
  step: EffectStep;
  i: number;
  x: number;
}) {
  const show = useShow();
  const family = isFamilyLane(track);
  const y = family ? yOf(0.5) : yOf(step.level);
  const on = chosenStep === i;
  const words = sayStep(show, track, step, channelFor(chosen, track.attribute));
  const isLeft = x > along(0.82);
  const beside = step.level > 0.5 ? y + 15 : y - 9;
  const keyed = (e: React.KeyboardEvent): void => {
    if (!steppedBy(e, track.steps ?? [], i, onSteps)) return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <>
      {on && (
        <line
          x1={x}
          x2={x}
          y1={0}
          y2={LANE_H}
          stroke="var(--color-standby)"
          strokeDasharray="3 4"
        />
      )}
      <g
        data-grip={`step/${lane}/${i}`}
        role="slider"
        tabIndex={0}
        aria-label={`Step ${i + 1} of ${laneName(track.attribute)}`}
        aria-valuenow={Math.round(step.level * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuetext={words}
        onKeyDown={keyed}
        onFocus={() => choose(lane, i)}
        className="cursor-move outline-none focus-visible:[&>circle:last-of-type]:stroke-standby"
      >
        <circle cx={x} cy={y} r={14} fill="transparent" />
        <circle
          cx={x}
          cy={y}
          r={5.5}
          fill={on ? 'var(--color-standby)' : 'var(--color-panel)'}
          stroke={on ? 'var(--color-standby)' : 'var(--color-text)'}
          strokeWidth={2}
        />
      </g>
      <text
        x={isLeft ? x - 9 : x + 9}
        y={family ? yOf(0.5) + 22 : beside}
        textAnchor={isLeft ? 'end' : 'start'}
        stroke="var(--color-panel)"
        strokeWidth={4}
        paintOrder="stroke"
        className={`num pointer-events-none text-[11px] ${on ? 'fill-standby' : 'fill-soft'}`}
      >
        {words}
      </text>
    </>
  );
}
