/** Levels as they arrive, outside of React: the stage reads them every frame, numbers on screen ten times a second. */
import { useSyncExternalStore } from 'react';
import { decodeLevels, decodeUniverse } from '@/core/live/messages';

const NUMBERS_EVERY_MS = 100;

/** Levels by slot as they are seen on stage, 0…1; written over with each frame. */
export const levels = { now: new Float32Array(0), frames: 0 };

const listeners = new Set<() => void>();
let tick = 0;
let pending = false;

function announce(): void {
  if (pending) return;
  pending = true;
  setTimeout(() => {
    pending = false;
    tick++;
    for (const listener of listeners) listener();
  }, NUMBERS_EVERY_MS);
}

/** Another rig: so many slots, all of them dark. */
export function resetLevels(size: number): void {
  levels.now = new Float32Array(size);
  levels.frames++;
  announce();
}

/** Writes a frame over them; one of another rig is passed over. */
export function takeFrame(data: ArrayBuffer, version: number): void {
  if (!decodeLevels(data, levels.now, version)) return;
  levels.frames++;
  announce();
}

/** Told when levels have changed, at most ten times a second. @returns to be told no more */
export function onLevels(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** Renders again when levels have changed, at most ten times a second. */
export const useLevelTick = (): number =>
  useSyncExternalStore(
    onLevels,
    () => tick,
    () => 0,
  );

/** Bytes of the universes that this screen watches, as they were last sent. */
export const universeBytes = new Map<number, Uint8Array>();

/** Takes bytes of a universe. @returns whether it was that */
export function takeUniverse(data: ArrayBuffer): boolean {
  const frame = decodeUniverse(data);
  if (!frame) return false;
  universeBytes.set(frame.universe, frame.bytes);
  announce();
  return true;
}
