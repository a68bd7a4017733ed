/** The sound of a track as its shape, drawn as finely as it is looked at; what has been played is lighter. */
'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { SoundFile, SoundRow, TrackSound } from '@/core/sounds/rows';
import { stepOf, stepsAt, zoomFor } from '@/core/sounds/shape';
import { partOf } from '@/core/sounds/track-sound';
import { shapeOf } from '../../state/sounds';
import { useFrames, type Position } from './use-position';

/** Height of a drawn sound. */
export const SOUND_PX = 72;

function useShape(file: SoundFile, zoom: number): Uint8Array | null | 'none' {
  const [shape, setShape] = useState<Uint8Array | null | 'none'>(null);
  useEffect(() => {
    let isWanted = true;
    shapeOf(file, zoom).then(
      (s) => isWanted && setShape(s),
      () => isWanted && setShape('none'),
    );
    return () => void (isWanted = false);
  }, [file, zoom]);
  return shape;
}

interface View {
  scale: number;
  from_s: number;
  width: number;
}

interface Drawn extends View {
  sound: TrackSound;
  file: SoundFile;
  shape: Uint8Array;
  zoom: number;
  end_s: number;
}

/** One line a pixel: the widest of what it covers, and its loudness within. */
function draw(g: CanvasRenderingContext2D, d: Drawn, played_x: number, colours: string[]): void {
  const { from_s, to_s } = partOf(d.sound, d.file.length_s);
  const round_s = to_s - from_s;
  const middle = SOUND_PX / 2;
  const steps = stepsAt(d.zoom);
  const [dim = '', light = ''] = colours;
  g.clearRect(0, 0, d.width, SOUND_PX);
  for (let x = 0; x < d.width; x++) {
    const in_s = d.from_s + x / d.scale - d.sound.at_s;
    const isOver = d.sound.loop === true ? in_s + d.sound.at_s >= d.end_s : in_s >= round_s;
    if (in_s < 0 || isOver || round_s <= 0) continue;
    const at = (from_s + (in_s % round_s)) * steps;
    let [low, high] = [0, 0];
    const to = at + Math.max(1, steps / d.scale);
    for (let k = Math.floor(at); k < to; k++) {
      const step = stepOf(d.shape, k);
      low = Math.min(low, step.low);
      high = Math.max(high, step.high);
    }
    g.fillStyle = x <= played_x ? light : dim;
    const top = middle - high * (middle - 2);
    g.fillRect(x, top, 1, Math.max(1, (high - low) * (middle - 2)));
  }
}

/** A track’s sound as it is loud. */
export function SoundStrip({
  heard,
  end_s,
  view,
  position,
}: {
  heard: { sound: TrackSound; file: SoundFile; row: SoundRow };
  end_s: number;
  view: View;
  position: Position;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const zoom = zoomFor(view.scale);
  const shape = useShape(heard.file, zoom);
  const paint = useCallback(() => {
    const c = canvas.current;
    const g = c?.getContext('2d');
    if (!c || !g || shape === null || shape === 'none') return;
    const at = position.now();
    const css = getComputedStyle(c);
    const colours = ['--color-wave', '--color-wave-played'].map((v) => css.getPropertyValue(v));
    const { sound, file } = heard;
    const played_x = at === null ? -1 : (at - view.from_s) * view.scale;
    draw(g, { ...view, sound, file, shape, zoom, end_s }, played_x, colours);
  }, [shape, heard, view, zoom, end_s, position]);
  useFrames(position.runs, paint);
  return (
    <div className="absolute inset-0">
      <canvas
        ref={canvas}
        width={Math.max(1, Math.floor(view.width))}
        height={SOUND_PX}
        role="img"
        data-testid="track-sound"
        aria-label={`Sound: ${heard.row.name}`}
        className="absolute inset-0"
      />
      {shape === 'none' && (
        <p className="absolute inset-x-0 top-6 text-center text-[12px] text-muted">
          The shape of this sound cannot be had just now.
        </p>
      )}
    </div>
  );
}
