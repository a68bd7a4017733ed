/** Where a list is on its track just now: as the player said last, and on from there at its pace. */
'use client';
import { useEffect, useRef } from 'react';
import type { ListStatus } from '@/core/live/messages';
import { playerNow, positionAt } from '../../state/player-clock';

/** Where a track is. */
export interface Position {
  /** Seconds; null where the list is not on its track. */
  now: () => number | null;
  runs: boolean;
}

/** That of a list, counted on here between what the player says. */
export function usePosition(status: ListStatus | undefined): Position {
  const heard = useRef({ track: status?.track ?? null, rate: 1 });
  const track = status?.track ?? null;
  if (heard.current.track !== track) heard.current = { track, rate: status?.rate ?? 1 };
  return {
    now: () => {
      const { track: told, rate } = heard.current;
      return told && Math.max(0, positionAt(told, rate, playerNow()));
    },
    runs: track?.runs ?? false,
  };
}

/** Draws with every frame of the screen while something runs, once otherwise, and again when `draw` is another. */
export function useFrames(runs: boolean, draw: () => void): void {
  useEffect(() => {
    let frame = 0;
    const step = (): void => {
      draw();
      if (runs) frame = requestAnimationFrame(step);
    };
    step();
    return () => cancelAnimationFrame(frame);
  }, [runs, draw]);
}
