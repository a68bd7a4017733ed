/** The track itself: ruler, storyboard, cues, what goes alongside, where it is; zoomed and moved by the wheel. */
'use client';
import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { scrollTrack, useTrackView, zoomTrack } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { CueShapes, LANE_PX } from './CueShapes';
import { MOST_LANES } from './lanes';
import { trackSoundOf } from '@/core/sounds/track-sound';
import { useSounds } from '../../state/sounds';
import { useShow } from '../../state/store';
import { listenToPinch } from './pinch';
import type { Ribbon } from './ribbon';
import { SOUND_PX, SoundStrip } from './SoundStrip';
import { Ruler } from './Ruler';
import { Alongside } from './Alongside';
import { Lines, STRIP_PX, Strips } from './strips';
import type { TrackHere } from './use-track-here';

const RULER_PX = 48;
const GAP_PX = 14;
const ALONGSIDE_PX = 52;
/** Pixels of a wheel in which the scale grows by e. */
const WHEEL_PX = 400;
/** Room behind the last cue for its words. */
const WORDS_PX = 104;
const LEAST_PX = 200;

/** How wide the track is; and the wheel over it, which zooms where the pointer is, and with Shift moves. */
function useBox(box: RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const size = new ResizeObserver(() => setWidth(el.clientWidth));
    size.observe(el);
    // The page is not to scroll under it: React’s own listener could not say so.
    const wheel = (e: WheelEvent): void => {
      e.preventDefault();
      const { scale } = useTrackView.getState();
      const isAcross = e.shiftKey || Math.abs(e.deltaX) > Math.abs(e.deltaY);
      if (isAcross) scrollTrack((e.deltaX || e.deltaY) / scale);
      else zoomTrack(Math.exp(-e.deltaY / WHEEL_PX), e.clientX - el.getBoundingClientRect().left);
    };
    el.addEventListener('wheel', wheel, { passive: false });
    const unpinch = listenToPinch(el, ({ by, at, across }) => {
      zoomTrack(by, at);
      scrollTrack(-across / useTrackView.getState().scale);
    });
    return () => {
      unpinch();
      size.disconnect();
      el.removeEventListener('wheel', wheel);
    };
  }, [box]);
  return width;
}

/** All of a track in sight: when its list comes into sight, and whenever somebody wants it. */
export function useFit(listId: string, end_s: number, width: number): () => void {
  const fit = useCallback((): void => {
    if (end_s > 0 && width > LEAST_PX)
      useTrackView.setState({ from_s: 0, scale: (width - WORDS_PX) / end_s });
  }, [end_s, width]);
  const fitted = useRef('');
  useEffect(() => {
    if (fitted.current === listId || end_s === 0 || width < LEAST_PX) return;
    fitted.current = listId;
    fit();
  }, [listId, end_s, width, fit]);
  return fit;
}

/** How well what is heard goes with the track: here, or at the player’s machine. */
function InStep({ listId }: { listId: string }) {
  const { here, player } = useSounds((s) => s);
  const off = here.off_ms[listId] ?? player.off_ms[listId];
  const problem = here.problem ?? (off === undefined ? player.problem : null);
  if (problem !== null)
    return (
      <p className="truncate text-warning" title={problem}>
        not heard
      </p>
    );
  if (off === undefined) return null;
  return (
    <p className="num" data-testid="sound-off" title="How far the sound is from the track">
      {Math.abs(off).toFixed(0)} ms off
    </p>
  );
}

function Names({
  ribbons,
  sound,
  listId,
}: {
  ribbons: readonly Ribbon[];
  sound: string | undefined;
  listId: string;
}) {
  return (
    <div className="w-28 flex-none pt-12 text-right text-[11.5px] leading-[18px] text-muted">
      {sound !== undefined && (
        <div className="px-2 pt-4" style={{ height: SOUND_PX }}>
          <p className="font-medium text-soft">Sound</p>
          <p className="truncate" title={sound}>
            {sound}
          </p>
          <InStep listId={listId} />
        </div>
      )}
      {ribbons.map((r) => (
        <p key={r.name} className="truncate pr-2">
          {r.name}
        </p>
      ))}
      <p className="mt-8 pr-2 font-medium text-soft">Cues</p>
      <p className="px-2 leading-4">drag a start, or the end of a fade</p>
    </div>
  );
}

/** The part of a track that is in sight. */
export function TrackBox({
  here,
  ribbons,
  onWidth,
}: {
  here: TrackHere;
  ribbons: readonly Ribbon[];
  onWidth: (width: number) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const width = useBox(box);
  useEffect(() => onWidth(width), [width, onWidth]);
  const { scale, from_s } = useParts(useTrackView, 'scale', 'from_s');
  const x = useCallback((s: number): number => (s - from_s) * scale, [from_s, scale]);
  const { time, cues, end_s, position, status } = here;
  const heard = trackSoundOf(useShow().sounds, time.sound);
  const stripsAt = RULER_PX + (heard ? SOUND_PX : 0);
  const strips = ribbons.length * STRIP_PX;
  const cuesAt = stripsAt + strips + GAP_PX;
  const view = useMemo(() => ({ scale, from_s, width }), [scale, from_s, width]);
  const height = cuesAt + MOST_LANES * LANE_PX + ALONGSIDE_PX;
  return (
    <div className="flex min-h-0 flex-1 overflow-x-hidden overflow-y-auto">
      <Names ribbons={ribbons} sound={heard?.row.name} listId={here.listId} />
      <div
        ref={box}
        data-testid="track"
        className="relative min-w-0 flex-1 touch-pan-y overflow-hidden border-l border-line"
        style={{ height }}
      >
        <Ruler
          time={time}
          x={x}
          width={width}
          height={height}
          onPlay={(at_s) => here.say({ do: 'play', at_s })}
        />
        {heard && (
          <div className="absolute inset-x-0" style={{ top: RULER_PX, height: SOUND_PX }}>
            <SoundStrip heard={heard} end_s={end_s} view={view} position={position} />
          </div>
        )}
        <div className="absolute inset-x-0" style={{ top: stripsAt, height: strips }}>
          <Strips ribbons={ribbons} x={x} width={width} to_s={end_s} />
        </div>
        <div className="absolute inset-x-0" style={{ top: cuesAt, height: MOST_LANES * LANE_PX }}>
          <CueShapes cues={cues} time={time} x={x} width={width} onStage={status?.cueId ?? null} />
        </div>
        <div className="absolute inset-x-0" style={{ top: height - ALONGSIDE_PX }}>
          <Alongside cues={cues} x={x} width={width} time={time} />
        </div>
        <Lines position={position} x={x} height={height} />
        {cues.length === 0 && (
          <p className="absolute inset-x-0 top-28 mx-auto max-w-md text-center text-[13px] text-muted">
            No cue of this list stands on its track yet. Play along and tap each as it comes: those
            that there are below, new ones above. While nothing plays they come at the cursor.
          </p>
        )}
      </div>
    </div>
  );
}
