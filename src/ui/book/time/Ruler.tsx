/** The ruler of a track: minutes, bars, marks; a press puts the cursor there, a drag draws a passage, two presses play. */
'use client';
import { formatMoment } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import { formatTimecode, FRAMES_A_SECOND, timecodeOf } from '@/core/timecode/rate';
import { barsWithin, beatsWithin } from '@/core/time/tempo';
import { useDrag } from '../../parts/use-drag';
import { useTrackView } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { barStep, fitting, rulerStep } from './lanes';
import { snapped } from './snap';

const DRAG_PX = 4;
/** What a letter of a mark takes, about. */
const LETTER_PX = 6.4;
/** Of the ruler itself, in pixels. */
const HEIGHT = 44;
/** Fewer pixels between two beats, and they are not drawn. */
const BEAT_PX = 9;

/** In the timecode that it follows or gives, else in minutes. */
function written({ timecode, gives }: ListTime, at_s: number, step: number): string {
  const code = timecode ?? gives;
  if (!code) return step < 1 ? formatMoment(at_s) : formatMoment(at_s).replace(/\.\d+$/, '');
  const rate = gives?.rate ?? '25';
  return formatTimecode(
    timecodeOf(Math.round((at_s + code.offset_s) * FRAMES_A_SECOND[rate]), rate),
  );
}

interface Drawn {
  x: (at_s: number) => number;
  /** Of the lines that go down over the track. */
  height: number;
}

function Beats({ beats, x, height }: Drawn & { beats: ReturnType<typeof beatsWithin> }) {
  return beats.map((b) => (
    <line
      key={b.at_s}
      x1={x(b.at_s)}
      x2={x(b.at_s)}
      y1={HEIGHT}
      y2={height}
      stroke="var(--color-line)"
      strokeOpacity={b.beat === 1 ? 0.9 : 0.35}
    />
  ));
}

function Passage({ from_s, to_s, x, height }: Drawn & { from_s: number; to_s: number }) {
  return (
    <rect
      x={x(from_s)}
      width={Math.max(1, x(to_s) - x(from_s))}
      y={0}
      height={height}
      fill="var(--color-standby)"
      fillOpacity={0.1}
      pointerEvents="none"
    />
  );
}

function Moment({ at_s, says, x, height }: Drawn & { at_s: number; says: string }) {
  return (
    <g pointerEvents="none">
      <line
        x1={x(at_s)}
        x2={x(at_s)}
        y1={4}
        y2={height}
        stroke="var(--color-line)"
        strokeOpacity={0.5}
      />
      <text x={x(at_s) + 4} y={15} fontSize={11.5} className="num" fill="var(--color-text)">
        {says}
      </text>
    </g>
  );
}

/** @param name as much of it as there is room for before the next */
function Mark({ at_s, name, x, height }: Drawn & { at_s: number; name: string }) {
  return (
    <g pointerEvents="none">
      <line
        x1={x(at_s)}
        x2={x(at_s)}
        y1={30}
        y2={height}
        stroke="var(--color-warning)"
        strokeDasharray="3 4"
        strokeOpacity={0.7}
      />
      <text x={x(at_s) + 4} y={42} fontSize={11} fill="var(--color-warning)">
        {name}
      </text>
    </g>
  );
}

/** A press puts the cursor there, a drag draws a passage, two presses play, arrow keys move the cursor. */
function useRulerHands(time: ListTime, step: number, onPlay: (at_s: number) => void) {
  const view = useParts(useTrackView, 'scale', 'from_s', 'snap', 'cursor_s');
  const { scale, from_s } = view;
  const at = (e: React.MouseEvent): number => {
    const r = e.currentTarget.getBoundingClientRect();
    return Math.max(0, from_s + (e.clientX - r.left) / scale);
  };
  const snap = (e: React.PointerEvent): number => snapped(at(e), { ...view, time, free: e.altKey });
  const drag = useDrag<{ x: number; from: number; far: boolean }>({
    begin: (e) => ({ x: e.clientX, from: snap(e), far: false }),
    move: (d, e) => {
      d.far ||= Math.abs(e.clientX - d.x) > DRAG_PX;
      if (!d.far) return;
      const to = snap(e);
      useTrackView.setState({
        passage: { from_s: Math.min(d.from, to), to_s: Math.max(d.from, to) },
      });
    },
    end: (d) => {
      if (!d.far) useTrackView.setState({ cursor_s: d.from, passage: null });
    },
  });
  return {
    ...drag,
    onKeyDown: (e: React.KeyboardEvent) => {
      const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
      if (by === undefined) return;
      e.preventDefault();
      e.stopPropagation();
      useTrackView.setState((s) => ({
        cursor_s: Math.max(0, s.cursor_s + by * (e.shiftKey ? 0.01 : step / 10)),
      }));
    },
    onDoubleClick: (e: React.MouseEvent) => onPlay(at(e)),
  };
}

/** Minutes, bars and marks; the cursor and a passage are put here. */
export function Ruler({
  time,
  x,
  width,
  height,
  onPlay,
}: Drawn & {
  time: ListTime;
  width: number;
  onPlay: (at_s: number) => void;
}) {
  const { scale, from_s, cursor_s, passage } = useParts(
    useTrackView,
    'scale',
    'from_s',
    'cursor_s',
    'passage',
  );
  const step = rulerStep(scale);
  const hands = useRulerHands(time, step, onPlay);
  const to_s = from_s + width / scale;
  const moments = Array.from(
    { length: Math.ceil((to_s - from_s) / step) + 2 },
    (_, i) => (Math.floor(from_s / step) + i) * step,
  );
  const marks = [...time.marks].sort((a, b) => a.at_s - b.at_s);
  const beats = beatsWithin(time.tempo, from_s, to_s, 600);
  const perBeat = beats[1] && beats[0] ? (beats[1].at_s - beats[0].at_s) * scale : 0;
  const bars = barsWithin(time.tempo, from_s, to_s, (bar_s) => barStep(bar_s, scale));
  return (
    <svg
      className="absolute inset-x-0 top-0 overflow-visible"
      style={{ height: HEIGHT, width: '100%' }}
      data-testid="track-ruler"
      role="slider"
      tabIndex={0}
      aria-label="Cursor on the track, seconds"
      aria-valuenow={Math.round(cursor_s * 100) / 100}
      {...hands}
    >
      <rect width="100%" height={HEIGHT} fill="transparent" />
      {perBeat >= BEAT_PX && <Beats beats={beats} x={x} height={height} />}
      {passage && <Passage {...passage} x={x} height={height} />}
      {moments.map((m) => (
        <Moment key={m} at_s={m} says={written(time, m, step)} x={x} height={height} />
      ))}
      {bars.map((b) => (
        <text
          key={b.at_s}
          x={x(b.at_s) + 4}
          y={30}
          fontSize={11}
          className="num"
          fill="var(--color-muted)"
          pointerEvents="none"
        >
          {`bar ${b.bar}`}
        </text>
      ))}
      {marks.map((m, i) => (
        <Mark
          key={`${m.at_s}/${m.name}`}
          at_s={m.at_s}
          name={fitting(m.name, x(marks[i + 1]?.at_s ?? Infinity) - x(m.at_s) - 6, LETTER_PX)}
          x={x}
          height={height}
        />
      ))}
    </svg>
  );
}
