/** Cues as the shape of their fade along the track: the start is dragged, the end of the fade, several at once. */
'use client';
import { useState } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { timingOf } from '@/core/cues/times';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import type { TimedCue } from '@/core/time/timed';
import { useDrag } from '../../parts/use-drag';
import { edit } from '../../state/actions';
import { lookAt } from '../../state/book';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { laidOut, MOST_LANES, type Laid } from './lanes';
import { snapped } from './snap';

export const LANE_PX = 78;
const SHAPE_PX = 46;
const HANDLE_PX = 7;

/** What a drag would do, drawn before it is done. */
type Moving = { what: 'start'; by_s: number } | { what: 'end'; id: string; by_s: number } | null;

/** An eased rise from the foot to the top. */
const rise = (w: number): string =>
  `M0 ${SHAPE_PX} C${w * 0.5} ${SHAPE_PX} ${w * 0.5} 0 ${w} 0 L${w} ${SHAPE_PX} Z`;

interface Hands {
  may: boolean;
  begin: (id: string, what: 'start' | 'end', add: boolean) => void;
  step: (px: number, free: boolean) => void;
  end: (torn: boolean) => void;
}

/** A handle of a cue: its start, or the end of its fade. */
const useHandle = (what: 'start' | 'end', id: string, { may, begin, step, end }: Hands) =>
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
        aria-label={`LX ${number} ${cue.name}, at ${formatMoment(cue.at_s)}`}
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
      <text
        x={w + 9}
        y={6}
        fontSize={11}
        className="num"
        fill="var(--color-muted)"
        pointerEvents="none"
      >
        {formatTime(fade_s)} s
      </text>
      <text x={6} y={SHAPE_PX + 16} fontSize={12.5} pointerEvents="none">
        <tspan className="num" fontWeight={600} fill="currentColor">
          {number}
        </tspan>
        <tspan dx={8} fill="var(--color-text)">
          {cue.name.length > 18 ? `${cue.name.slice(0, 17)}…` : cue.name}
        </tspan>
      </text>
    </g>
  );
}

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
  const { chosen, snap, cursor_s, scale } = useParts(
    useTrackView,
    'chosen',
    'snap',
    'cursor_s',
    'scale',
  );
  const [moving, setMoving] = useState<Moving>(null);
  const [under, setUnder] = useState<{ id: string; what: 'start' | 'end' } | null>(null);
  const cueOf = (id: string): TimedCue | undefined => cues.find((c) => c.id === id);
  const seen = cues.map((cue): TimedCue => {
    if (moving?.what === 'start' && chosen.includes(cue.id))
      return { ...cue, at_s: Math.max(0, cue.at_s + moving.by_s) };
    if (moving?.what === 'end' && moving.id === cue.id)
      return {
        ...cue,
        up_s: Math.max(0, cue.up_s + moving.by_s),
        down_s: Math.max(0, cue.down_s + moving.by_s),
      };
    return cue;
  });
  const fadeOf = (cue: TimedCue): number =>
    moving?.what === 'end' && moving.id === cue.id
      ? Math.max(cue.up_s, cue.down_s)
      : timingOf(show, cue).total_s || Math.max(cue.up_s, cue.down_s);

  const begin = (id: string, what: 'start' | 'end', add: boolean): void => {
    lookAt(id);
    setUnder({ id, what });
    useTrackView.setState((s) => ({
      chosen: add
        ? s.chosen.includes(id)
          ? s.chosen.filter((c) => c !== id)
          : [...s.chosen, id]
        : s.chosen.includes(id)
          ? s.chosen
          : [id],
    }));
  };
  const step = (px: number, free: boolean): void => {
    const cue = under && cueOf(under.id);
    if (!under || !cue || Math.abs(px) < 2) return;
    const snapping = { snap, free, time, cursor_s, scale };
    if (under.what === 'start') {
      const first = Math.min(...chosen.map((id) => cueOf(id)?.at_s ?? Infinity));
      const by_s = snapped(cue.at_s + px / scale, snapping) - cue.at_s;
      // All of them keep their distances: the first does not leave the track.
      setMoving({ what: 'start', by_s: Math.max(-first, by_s) });
    } else {
      const fade = Math.max(cue.up_s, cue.down_s);
      const ends = snapped(cue.at_s + fade + px / scale, snapping);
      setMoving({ what: 'end', id: cue.id, by_s: Math.max(-fade, ends - cue.at_s - fade) });
    }
  };
  const end = async (torn: boolean): Promise<void> => {
    const done = moving;
    setUnder(null);
    if (!done || torn) {
      setMoving(null);
      return;
    }
    if (done.what === 'start') {
      const at = Object.fromEntries(
        chosen.flatMap((id) => {
          const cue = cueOf(id);
          return cue ? [[id, toMillisecond(Math.max(0, cue.at_s + done.by_s))]] : [];
        }),
      );
      await edit('place-cues', { list: cues[0]?.listId, at });
    } else {
      const cue = cueOf(done.id);
      const time_s = (t: number): number => toMillisecond(Math.max(0, t + done.by_s));
      if (cue)
        await edit('change-cue', {
          id: cue.id,
          set: { up_s: time_s(cue.up_s), down_s: time_s(cue.down_s) },
        });
    }
    setMoving(null);
  };
  const laid = laidOut(seen, fadeOf, x).filter(
    (l) => l.x < width + 20 && l.x + Math.max(l.width, 120) > -20,
  );
  return (
    <svg
      className="absolute inset-0 size-full overflow-visible"
      data-testid="track-cues"
      style={{ height: MOST_LANES * LANE_PX }}
    >
      {laid.map((l) => (
        <Shape
          key={l.cue.id}
          laid={l}
          state={l.cue.id === onStage ? 'now' : chosen.includes(l.cue.id) ? 'chosen' : 'plain'}
          may={may}
          begin={begin}
          step={step}
          end={(torn) => void end(torn)}
        />
      ))}
    </svg>
  );
}
