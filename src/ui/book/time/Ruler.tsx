/** The ruler of a track: minutes, bars, marks; a press puts the cursor there, a drag draws a passage, two presses play. */
'use client';
import { formatMoment } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import { formatTimecode, FRAMES_A_SECOND, timecodeOf } from '@/core/timecode/rate';
import { barBeatAt, beatsWithin } from '@/core/time/tempo';
import { useDrag } from '../../parts/use-drag';
import { useTrackView } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { barStep, rulerStep } from './lanes';
import { snapped } from './snap';

const DRAG_PX = 4;
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

export function Ruler({
  time,
  x,
  width,
  height,
  onPlay,
}: {
  time: ListTime;
  x: (at_s: number) => number;
  width: number;
  /** Of the lines that go down over the track. */
  height: number;
  onPlay: (at_s: number) => void;
}) {
  const view = useParts(useTrackView, 'scale', 'from_s', 'snap', 'cursor_s', 'passage');
  const { scale, from_s, passage } = view;
  const to_s = from_s + width / scale;
  const step = rulerStep(scale);
  const moments = Array.from(
    { length: Math.ceil((to_s - from_s) / step) + 2 },
    (_, i) => (Math.floor(from_s / step) + i) * step,
  );
  const beats = beatsWithin(time.tempo, from_s, to_s, 600);
  const perBeat = beats[1] && beats[0] ? (beats[1].at_s - beats[0].at_s) * scale : 0;
  const bars = beats.filter((b) => b.beat === 1);
  const every = bars[1] && bars[0] ? barStep(bars[1].at_s - bars[0].at_s, scale) : 1;
  const at = (e: React.PointerEvent): number => {
    const r = e.currentTarget.getBoundingClientRect();
    return Math.max(0, from_s + (e.clientX - r.left) / scale);
  };
  const snap = (at_s: number, free: boolean): number => snapped(at_s, { ...view, time, free });
  const drag = useDrag<{ x: number; from: number; far: boolean }>({
    begin: (e) => ({ x: e.clientX, from: snap(at(e), e.altKey), far: false }),
    move: (d, e) => {
      d.far ||= Math.abs(e.clientX - d.x) > DRAG_PX;
      if (!d.far) return;
      const to = snap(at(e), e.altKey);
      useTrackView.setState({
        passage: { from_s: Math.min(d.from, to), to_s: Math.max(d.from, to) },
      });
    },
    end: (d) => {
      if (!d.far) useTrackView.setState({ cursor_s: d.from, passage: null });
    },
  });
  return (
    <svg
      className="absolute inset-x-0 top-0 overflow-visible"
      style={{ height: 44, width: '100%' }}
      data-testid="track-ruler"
      role="slider"
      tabIndex={0}
      aria-label="Cursor on the track, seconds"
      aria-valuenow={Math.round(view.cursor_s * 100) / 100}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        e.stopPropagation();
        useTrackView.setState((s) => ({
          cursor_s: Math.max(0, s.cursor_s + by * (e.shiftKey ? 0.01 : step / 10)),
        }));
      }}
      {...drag}
      onDoubleClick={(e) => {
        const r = e.currentTarget.getBoundingClientRect();
        onPlay(Math.max(0, from_s + (e.clientX - r.left) / scale));
      }}
    >
      <rect width="100%" height={44} fill="transparent" />
      {perBeat >= BEAT_PX &&
        beats.map((b) => (
          <line
            key={b.at_s}
            x1={x(b.at_s)}
            x2={x(b.at_s)}
            y1={44}
            y2={height}
            stroke="var(--color-line)"
            strokeOpacity={b.beat === 1 ? 0.9 : 0.35}
          />
        ))}
      {passage && (
        <rect
          x={x(passage.from_s)}
          width={Math.max(1, (passage.to_s - passage.from_s) * scale)}
          y={0}
          height={height}
          fill="var(--color-standby)"
          fillOpacity={0.1}
          pointerEvents="none"
        />
      )}
      {moments.map((m) => (
        <g key={m} pointerEvents="none">
          <line
            x1={x(m)}
            x2={x(m)}
            y1={4}
            y2={height}
            stroke="var(--color-line)"
            strokeOpacity={0.5}
          />
          <text x={x(m) + 4} y={15} fontSize={11.5} className="num" fill="var(--color-text)">
            {written(time, m, step)}
          </text>
        </g>
      ))}
      {bars.map((b) =>
        (b.bar - 1) % every === 0 ? (
          <text
            key={b.at_s}
            x={x(b.at_s) + 4}
            y={30}
            fontSize={11}
            className="num"
            fill="var(--color-muted)"
            pointerEvents="none"
          >
            {`bar ${barBeatAt(time.tempo, b.at_s)?.bar ?? b.bar}`}
          </text>
        ) : null,
      )}
      {time.marks.map((m) => (
        <g key={`${m.at_s}/${m.name}`} pointerEvents="none">
          <line
            x1={x(m.at_s)}
            x2={x(m.at_s)}
            y1={30}
            y2={height}
            stroke="var(--color-warning)"
            strokeDasharray="3 4"
            strokeOpacity={0.7}
          />
          <text x={x(m.at_s) + 4} y={42} fontSize={11} fill="var(--color-warning)">
            {m.name}
          </text>
        </g>
      ))}
    </svg>
  );
}
