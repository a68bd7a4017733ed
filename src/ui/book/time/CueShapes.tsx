/** Cues as the shape of their fade along the track: the start is dragged, the end of the fade, several at once. */
'use client';
import { useMemo } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { timingOf } from '@/core/cues/times';
import { formatMoment } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import type { Show } from '@/core/show/show';
import type { TimedCue } from '@/core/time/timed';
import { useDrag } from '../../parts/use-drag';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import { fitting, laidOut, MOST_LANES, type Laid } from './lanes';
import { ledAs, useCueDrag, type Handle } from './use-cue-drag';

/** Height of a lane of cues. */
export const LANE_PX = 78;
const SHAPE_PX = 46;
const HANDLE_PX = 7;
/** Cues whose shape or name reaches into sight are drawn. */
const EDGE_PX = 20;
const NAME_PX = 120;
/** From the start of a cue to its words, and between them. */
const WORDS_X = 6;
const GAP_PX = 8;
/** What a digit and a letter of them take, about. */
const DIGIT_PX = 7.6;
const LETTER_PX = 6.8;

/** An eased rise from the foot to the top. */
const rise = (w: number): string =>
  `M0 ${SHAPE_PX} C${w * 0.5} ${SHAPE_PX} ${w * 0.5} 0 ${w} 0 L${w} ${SHAPE_PX} Z`;

interface Hands {
  may: boolean;
  begin: (id: string, what: Handle, add: boolean) => void;
  step: (px: number, free: boolean) => void;
  end: (torn: boolean) => void;
}

/** A handle of a cue: its start, or the end of its fade. */
const useHandle = (what: Handle, id: string, { may, begin, step, end }: Hands) =>
  useDrag<number>({
    begin: (e) => {
      e.stopPropagation();
      begin(id, what, e.ctrlKey || e.metaKey || e.shiftKey);
      return may ? e.clientX : null;
    },
    move: (x, e) => step(e.clientX - x, e.altKey),
    end: (_, torn) => end(torn),
  });

function Shape({
  laid,
  state,
  may,
  begin,
  step,
  end,
}: {
  laid: Laid;
  state: 'now' | 'chosen' | 'plain';
} & Hands) {
  const { cue } = laid;
  const number = formatCueNumber(cue.number);
  const colour = {
    now: 'var(--color-lime)',
    chosen: 'var(--color-standby)',
    plain: 'var(--color-muted)',
  }[state];
  const w = Math.max(1, laid.width);
  const start = useHandle('start', cue.id, { may, begin, step, end });
  const fade = useHandle('end', cue.id, { may, begin, step, end });
  const fade_s = Math.max(cue.up_s, cue.down_s);
  return (
    <g
      transform={`translate(${laid.x} ${laid.lane * LANE_PX + 6})`}
      data-track-cue={number}
      color={colour}
    >
      <path
        d={rise(w)}
        fill="currentColor"
        fillOpacity={state === 'plain' ? 0.1 : 0.16}
        stroke="currentColor"
        strokeWidth={1.4}
        pointerEvents="none"
      />
      <rect
        role="button"
        tabIndex={0}
        aria-label={`LX ${number}${cue.name && ` ${cue.name}`}, at ${formatMoment(cue.at_s)}`}
        aria-pressed={state === 'chosen'}
        x={-HANDLE_PX}
        y={SHAPE_PX - 30}
        width={HANDLE_PX * 2}
        height={32}
        fill="transparent"
        className="cursor-ew-resize touch-none outline-none focus-visible:stroke-standby"
        {...start}
        onKeyDown={(e) => {
          if (e.key === 'Enter') begin(cue.id, 'start', e.ctrlKey);
        }}
      />
      <rect
        x={-3}
        y={SHAPE_PX - 28}
        width={6}
        height={30}
        rx={3}
        fill="currentColor"
        pointerEvents="none"
      />
      <circle
        role="slider"
        aria-label={`Fade of LX ${number}, seconds`}
        aria-valuenow={fade_s}
        cx={w}
        cy={0}
        r={9}
        fill="transparent"
        className="cursor-ew-resize touch-none"
        {...fade}
      />
      <circle
        cx={w}
        cy={0}
        r={4.5}
        fill="var(--color-ink)"
        stroke="currentColor"
        strokeWidth={1.6}
        pointerEvents="none"
      />
      <Words laid={laid} number={number} fade_s={fade_s} />
    </g>
  );
}

/** What stands at a cue, as far as the next one in its lane leaves room. */
function Words({ laid, number, fade_s }: { laid: Laid; number: string; fade_s: number }) {
  const { cue, room } = laid;
  const w = Math.max(1, laid.width);
  const takes = `${formatTime(fade_s)} s`;
  const name_px = Math.min(room - WORDS_X - number.length * DIGIT_PX - GAP_PX * 2, NAME_PX);
  return (
    <>
      <text
        x={w + 9}
        y={6}
        fontSize={11}
        className="num"
        fill="var(--color-muted)"
        pointerEvents="none"
      >
        {fitting(takes, room - w - 9, DIGIT_PX) === takes ? takes : ''}
      </text>
      <text x={WORDS_X} y={SHAPE_PX + 16} fontSize={12.5} pointerEvents="none">
        <tspan className="num" fontWeight={600} fill="currentColor">
          {room > WORDS_X + number.length * DIGIT_PX ? number : ''}
        </tspan>
        <tspan dx={GAP_PX} fill="var(--color-text)">
          {fitting(cue.name, name_px, LETTER_PX)}
        </tspan>
      </text>
    </>
  );
}

/** Seconds that each cue takes with all its parts and delays; not with every step of the wheel. */
function useTotals(show: Show, cues: readonly TimedCue[]): ReadonlyMap<string, number> {
  const version = `${show.version('values')}/${show.version('cues')}`;
  return useMemo(() => {
    void version;
    return new Map(cues.map((cue) => [cue.id, timingOf(show, cue).total_s]));
  }, [show, cues, version]);
}

/** Cues in sight of which each has a handle and words. */
const MOST_HELD = 150;

/** Hundreds of cues as one drawing, each in its lane; nearer, each is one to take hold of. */
function Crowd({ laid }: { laid: readonly Laid[] }) {
  const d = laid
    .map(({ x, lane, width }) => {
      const [top, w] = [lane * LANE_PX + 6, Math.max(1, width)];
      const px = (v: number): string => v.toFixed(1);
      return `M${px(x)} ${top + SHAPE_PX}L${px(x + w)} ${top}V${top + SHAPE_PX}Z`;
    })
    .join('');
  return (
    <>
      <path
        data-testid="track-crowd"
        d={d}
        fill="var(--color-muted)"
        fillOpacity={0.14}
        stroke="var(--color-muted)"
        strokeWidth={1}
        pointerEvents="none"
      />
      <text x={8} y={MOST_LANES * LANE_PX - 6} fontSize={12} fill="var(--color-muted)">
        {laid.length} cues in sight: zoom in to take hold of one
      </text>
    </>
  );
}

/** Cues on their track, as long as they take. */
export function CueShapes({
  cues,
  time,
  x,
  width,
  onStage,
}: {
  cues: readonly TimedCue[];
  time: ListTime;
  x: (at_s: number) => number;
  width: number;
  onStage: string | null;
}) {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const chosen = useTrackView((s) => s.chosen);
  const { led, begin, step, end } = useCueDrag(cues, time);
  const totals = useTotals(show, cues);
  const fadeOf = (cue: TimedCue): number => {
    const own = Math.max(cue.up_s, cue.down_s);
    return led?.what === 'end' && led.id === cue.id ? own : totals.get(cue.id) || own;
  };
  const seen = cues.map((cue) => ledAs(cue, led, chosen));
  const laid = laidOut(seen, fadeOf, x).filter(
    (l) => l.x < width + EDGE_PX && l.x + Math.max(l.width, NAME_PX) > -EDGE_PX,
  );
  // So many lie over each other: their shapes are seen, and what is chosen is taken hold of.
  const isCrowd = laid.length > MOST_HELD;
  const held = isCrowd
    ? laid.filter((l) => l.cue.id === onStage || chosen.includes(l.cue.id)).slice(0, MOST_HELD)
    : laid;
  const stateOf = (id: string): 'now' | 'chosen' | 'plain' => {
    if (id === onStage) return 'now';
    return chosen.includes(id) ? 'chosen' : 'plain';
  };
  return (
    <svg
      className="absolute inset-0 size-full overflow-visible"
      data-testid="track-cues"
      style={{ height: MOST_LANES * LANE_PX }}
    >
      {isCrowd && <Crowd laid={laid} />}
      {held.map((l) => (
        <Shape
          key={l.cue.id}
          laid={l}
          state={stateOf(l.cue.id)}
          may={may}
          begin={begin}
          step={step}
          end={end}
        />
      ))}
    </svg>
  );
}
