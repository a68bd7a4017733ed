/** A cue list laid along time: the ruler, the storyboard of light, cues as the shape of their fades, what goes alongside. */
'use client';
import { Pause, Play, Repeat, X } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { actionWords } from '@/core/cues/action-words';
import { formatCueNumber } from '@/core/cues/number';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import { NO_TIME } from '@/core/time/rows';
import { endOf, timedCues, type TimedCue } from '@/core/time/timed';
import { plural } from '@/core/words';
import { Button, IconButton } from '../../parts/controls';
import { edit, said } from '../../state/actions';
import { useBookList } from '../../state/book';
import { mayEdit, mayPlay, useScreen, useShow } from '../../state/store';
import { SNAPS, scrollTrack, useTrackView, zoomTrack, type Snap } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { BeatDialog } from './BeatDialog';
import { CueShapes, LANE_PX } from './CueShapes';
import { MOST_LANES } from './lanes';
import type { Ribbon } from './ribbon';
import { Ruler } from './Ruler';
import { snapped } from './snap';
import { TimeFoot } from './TimeFoot';
import { useFrames, usePosition, type Position } from './use-position';
import { useRibbons } from './use-ribbons';

const SNAP_WORDS: Record<Snap, string> = {
  beat: 'to the beat',
  mark: 'to marks',
  cursor: 'to the cursor',
  free: 'to nothing',
};
const RATES = [0.5, 0.75, 1] as const;
const SAMPLES = 900;
const STRIP_PX = 18;
const RULER_PX = 48;

/** One strip a part of the rig, stretched over what of the track is in sight. */
function Strips({
  ribbons,
  x,
  to_s,
}: {
  ribbons: readonly Ribbon[];
  x: (s: number) => number;
  to_s: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current;
    const g = c?.getContext('2d');
    if (!c || !g) return;
    c.width = SAMPLES;
    c.height = Math.max(1, ribbons.length * STRIP_PX);
    ribbons.forEach(({ rgb }, row) => {
      for (let i = 0; i < SAMPLES; i++) {
        g.fillStyle = `rgb(${rgb[i * 3] ?? 0} ${rgb[i * 3 + 1] ?? 0} ${rgb[i * 3 + 2] ?? 0})`;
        g.fillRect(i, row * STRIP_PX + 1, 1, STRIP_PX - 2);
      }
    });
  }, [ribbons]);
  return (
    <canvas
      ref={canvas}
      data-testid="track-ribbon"
      aria-label={`What the light does along the track: ${ribbons.map((r) => r.name).join(', ')}`}
      role="img"
      className="absolute top-0 max-w-none"
      style={{ left: x(0), width: Math.max(1, x(to_s) - x(0)), height: ribbons.length * STRIP_PX }}
    />
  );
}

/** Where the list is, and where the cursor stands. */
function Lines({
  position,
  x,
  height,
}: {
  position: Position;
  x: (s: number) => number;
  height: number;
}) {
  const head = useRef<HTMLDivElement>(null);
  const cursor_s = useTrackView((s) => s.cursor_s);
  const draw = useCallback(() => {
    const at = position.now();
    if (!head.current) return;
    head.current.style.display = at === null ? 'none' : 'block';
    if (at !== null) head.current.style.transform = `translateX(${x(at)}px)`;
  }, [position, x]);
  useFrames(position.runs, draw);
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" style={{ height }}>
      <div className="absolute inset-y-0 w-px bg-standby" style={{ left: x(cursor_s) }} />
      <div ref={head} data-testid="track-head" className="absolute inset-y-0 left-0 w-0.5 bg-lime">
        <i className="absolute top-0 left-1/2 -translate-x-1/2 border-x-[6px] border-t-8 border-x-transparent border-t-lime" />
      </div>
    </div>
  );
}

function Clock({ position, end_s }: { position: Position; end_s: number }) {
  const text = useRef<HTMLSpanElement>(null);
  const draw = useCallback(() => {
    const at = position.now();
    if (text.current)
      text.current.textContent = at === null ? '–:––' : formatMoment(Math.min(at, end_s));
  }, [position, end_s]);
  useFrames(position.runs, draw);
  return (
    <span className="flex flex-none items-baseline gap-2">
      <span
        ref={text}
        data-testid="track-clock"
        className="num text-[19px] font-semibold text-lime-word"
      />
      <span className="num text-[12px] text-muted">of {formatMoment(end_s)}</span>
    </span>
  );
}

/** What cues start beside their light, at their moments. */
function Alongside({
  cues,
  x,
  width,
}: {
  cues: readonly TimedCue[];
  x: (s: number) => number;
  width: number;
}) {
  const show = useShow();
  const items = cues.flatMap((cue) => {
    const effects = new Set(
      [...show.valuesOf(cue.id).values()].flatMap((v) =>
        v.effect ? [show.effects.get(v.effect.id)?.name ?? ''] : [],
      ),
    );
    const words = [
      ...[...effects].filter(Boolean).map((e) => `~ ${e}`),
      ...(cue.actions ?? []).map((a) => actionWords(show, a)),
    ];
    return words.map((text, i) => ({ id: `${cue.id}/${i}`, at_s: cue.at_s, text, row: i }));
  });
  return (
    <div className="relative h-12 overflow-hidden" aria-label="Alongside">
      {items
        .filter((i) => i.row < 2 && x(i.at_s) < width && x(i.at_s) > -200)
        .map((i) => (
          <span
            key={i.id}
            title={i.text}
            className="absolute max-w-44 truncate rounded bg-raised px-2 text-[11.5px] leading-5 text-soft inset-ring inset-ring-edge"
            style={{ left: x(i.at_s), top: i.row * 24 }}
          >
            {i.text}
          </span>
        ))}
    </div>
  );
}

export function TimePanel() {
  const show = useShow();
  const { list, listId, status, cue } = useBookList();
  const role = useScreen((s) => s.you.role);
  const view = useParts(useTrackView, 'scale', 'from_s', 'cursor_s', 'snap', 'passage', 'chosen');
  const [beat, setBeat] = useState(false);
  const [mark, setMark] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  const position = usePosition(status);
  const cues = timedCues(show, listId);
  const others = show.cuesOf(listId).filter((c) => c.at_s === undefined);
  const time = list?.time ?? NO_TIME;
  const end_s = endOf(show, listId);
  const ribbons = useRibbons(listId, SAMPLES, end_s);
  const x = useCallback(
    (s: number): number => (s - view.from_s) * view.scale,
    [view.from_s, view.scale],
  );
  const may = mayEdit(role);
  const plays = mayPlay(role) && cues.length > 0;

  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const size = new ResizeObserver(() => setWidth(el.clientWidth));
    size.observe(el);
    // The page is not to scroll under it: React’s own listener could not say so.
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      const r = el.getBoundingClientRect();
      const { scale } = useTrackView.getState();
      if (e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY))
        scrollTrack((e.deltaX || e.deltaY) / scale);
      else zoomTrack(Math.exp(-e.deltaY / 400), e.clientX - r.left);
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => {
      size.disconnect();
      el.removeEventListener('wheel', wheel);
    };
  }, []);
  const fit = useCallback((): void => {
    if (end_s > 0 && width > 200) useTrackView.setState({ from_s: 0, scale: (width - 60) / end_s });
  }, [end_s, width]);
  const fitted = useRef('');
  useEffect(() => {
    if (fitted.current === listId || end_s === 0 || width < 200) return;
    fitted.current = listId;
    fit();
  }, [listId, end_s, width, fit]);

  const onto = { list: listId };
  const playFrom = (at_s: number): void =>
    void said({ command: 'track', do: 'play', at_s, ...onto });
  const placeAt = (id: string): void =>
    void edit('place-cues', {
      list: listId,
      at: {
        [id]: toMillisecond(
          snapped(position.now() ?? view.cursor_s, { ...view, time, free: position.runs }),
        ),
      },
    });
  const put = (set: Partial<typeof time>): void =>
    void edit('change-list', { id: listId, set: { time: { ...time, ...set } } });
  const height = RULER_PX + ribbons.length * STRIP_PX + 14 + MOST_LANES * LANE_PX + 52;
  const loop = status?.track?.loop ?? null;
  return (
    <div className="flex h-full flex-col" data-testid="time-panel">
      <div className="flex min-h-11 flex-none flex-wrap items-center gap-2 border-b border-line px-3 py-1 text-[12.5px]">
        <Clock position={position} end_s={end_s} />
        <IconButton
          label={position.runs ? 'Stand still here' : 'Play along time'}
          disabled={!plays}
          onClick={() =>
            void said({ command: 'track', do: position.runs ? 'pause' : 'play', ...onto })
          }
        >
          {position.runs ? <Pause size={15} /> : <Play size={15} />}
        </IconButton>
        <Button disabled={!plays} onClick={() => playFrom(view.cursor_s)}>
          Play from the cursor
        </Button>
        <Button
          disabled={!plays}
          onClick={() => void said({ command: 'track', do: 'pause', at_s: view.cursor_s, ...onto })}
        >
          Stand there
        </Button>
        {status?.track && (
          <Button
            disabled={!plays}
            onClick={() => void said({ command: 'track', do: 'leave', ...onto })}
          >
            Leave time
          </Button>
        )}
        {(view.passage ?? loop) && (
          <Button
            disabled={!plays}
            onClick={() =>
              void said(
                loop
                  ? { command: 'track', do: position.runs ? 'play' : 'pause', loop: null, ...onto }
                  : {
                      command: 'track',
                      do: 'play',
                      at_s: view.passage?.from_s ?? 0,
                      loop: view.passage,
                      ...onto,
                    },
              )
            }
          >
            <Repeat size={13} /> {loop ? 'Loop no more' : 'Loop the passage'}
          </Button>
        )}
        <select
          aria-label="Pace"
          value={String(status?.rate ?? 1)}
          disabled={!plays}
          onChange={(e) => void said({ command: 'rate', rate: Number(e.target.value), ...onto })}
          className="h-7 rounded-md bg-raised px-1"
        >
          {[...new Set([...RATES, status?.rate ?? 1])].map((r) => (
            <option key={r} value={r}>
              {Math.round(r * 100)} %
            </option>
          ))}
        </select>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <Button disabled={!may} onClick={() => setBeat(true)}>
            {time.tempo[0]
              ? `Beat ${Math.round(time.tempo[0].bpm)}, ${time.tempo[0].beats} to a bar`
              : 'Set the beat'}
          </Button>
          {mark === null ? (
            <Button disabled={!may} onClick={() => setMark('')}>
              Mark here
            </Button>
          ) : (
            <input
              autoFocus
              aria-label="Name of the mark"
              placeholder="name of the mark"
              value={mark}
              onChange={(e) => setMark(e.target.value)}
              onBlur={() => setMark(null)}
              onKeyDown={(e) => {
                if (e.key === 'Escape') setMark(null);
                if (e.key !== 'Enter' || mark.trim() === '') return;
                const at_s = toMillisecond(position.runs ? (position.now() ?? 0) : view.cursor_s);
                put({
                  marks: [...time.marks, { at_s, name: mark.trim().slice(0, 60) }].sort(
                    (a, b) => a.at_s - b.at_s,
                  ),
                });
                setMark(null);
              }}
              className="h-7 w-36 rounded-md bg-ink px-2 inset-ring inset-ring-standby"
            />
          )}
          <select
            aria-label="What is dragged comes to rest"
            value={view.snap}
            onChange={(e) =>
              useTrackView.setState({ snap: SNAPS.find((s) => s === e.target.value) ?? 'free' })
            }
            className="h-7 rounded-md bg-raised px-1"
          >
            {SNAPS.map((s) => (
              <option key={s} value={s}>
                {SNAP_WORDS[s]}
              </option>
            ))}
          </select>
          <select
            aria-label="The list goes"
            disabled={!may}
            value={time.on ? 'time' : 'hand'}
            onChange={(e) => put({ on: e.target.value === 'time' })}
            className="h-7 rounded-md bg-raised px-1"
          >
            <option value="hand">goes by hand</option>
            <option value="time">goes by time</option>
          </select>
          <Button onClick={fit}>All of it</Button>
        </span>
      </div>
      <div className="flex min-h-0 flex-1 overflow-x-hidden overflow-y-auto">
        <div className="w-28 flex-none pt-12 text-right text-[11.5px] leading-[18px] text-muted">
          {ribbons.map((r) => (
            <p key={r.name} className="truncate pr-2">
              {r.name}
            </p>
          ))}
          <p className="mt-8 pr-2 font-medium text-soft">Cues</p>
          <p className="pr-2 pl-2 leading-4">drag a start, or the end of a fade</p>
        </div>
        <div
          ref={box}
          className="relative min-w-0 flex-1 overflow-hidden border-l border-line"
          style={{ height }}
        >
          <Ruler time={time} x={x} width={width} height={height} onPlay={playFrom} />
          <div
            className="absolute inset-x-0"
            style={{ top: RULER_PX, height: ribbons.length * STRIP_PX }}
          >
            <Strips ribbons={ribbons} x={x} to_s={end_s} />
          </div>
          <div
            className="absolute inset-x-0"
            style={{ top: RULER_PX + ribbons.length * STRIP_PX + 14, height: MOST_LANES * LANE_PX }}
          >
            <CueShapes
              cues={cues}
              time={time}
              x={x}
              width={width}
              onStage={status?.cueId ?? null}
            />
          </div>
          <div className="absolute inset-x-0" style={{ top: height - 52 }}>
            <Alongside cues={cues} x={x} width={width} />
          </div>
          <Lines position={position} x={x} height={height} />
          {cues.length === 0 && (
            <p className="absolute inset-x-0 top-28 mx-auto max-w-md text-center text-[13px] text-muted">
              No cue of this list stands on its track yet. Put the cursor where the first one comes,
              and press it below; or play along and tap each as it comes.
            </p>
          )}
        </div>
      </div>
      {others.length > 0 && (
        <div
          className="flex flex-none items-center gap-1.5 overflow-x-auto border-t border-line px-3 py-1.5 text-[12.5px]"
          aria-label="Not on the track"
        >
          <span className="flex-none text-muted">
            {plural(others.length, 'cue')} not on the track:
          </span>
          {others[0] && (
            <Button kind="strong" disabled={!may} onClick={() => placeAt(others[0]?.id ?? '')}>
              Tap {formatCueNumber(others[0].number)} here
            </Button>
          )}
          {others.slice(1, 30).map((c) => (
            <button
              key={c.id}
              type="button"
              disabled={!may}
              title={`Put LX ${formatCueNumber(c.number)} ${c.name} at the cursor`}
              onClick={() => placeAt(c.id)}
              className="num h-7 flex-none rounded-md bg-raised px-2 text-soft hover:bg-lift"
            >
              {formatCueNumber(c.number)}
            </button>
          ))}
        </div>
      )}
      {time.marks.length > 0 && (
        <div
          className="flex flex-none items-center gap-1.5 overflow-x-auto border-t border-line px-3 py-1 text-[12px]"
          aria-label="Marks"
        >
          <span className="flex-none text-muted">Marks</span>
          {time.marks.map((m) => (
            <span
              key={`${m.at_s}/${m.name}`}
              className="flex flex-none items-center rounded-md bg-raised pl-2"
            >
              <button
                type="button"
                className="h-7 text-warning"
                onClick={() => useTrackView.setState({ cursor_s: m.at_s })}
              >
                {m.name} <span className="num text-muted">{formatMoment(m.at_s)}</span>
              </button>
              <IconButton
                label={`Take mark ${m.name} off`}
                className="!size-7"
                disabled={!may}
                onClick={() => put({ marks: time.marks.filter((o) => o !== m) })}
              >
                <X size={12} />
              </IconButton>
            </span>
          ))}
        </div>
      )}
      <div className="flex-none border-t border-line bg-panel">
        <TimeFoot
          cue={show.cues.get(view.chosen.at(-1) ?? '') ?? cue}
          time={time}
          onPlay={playFrom}
        />
      </div>
      {beat && list && (
        <BeatDialog
          list={list}
          nowOn={() => (position.runs ? position.now() : null)}
          onClose={() => setBeat(false)}
        />
      )}
    </div>
  );
}
