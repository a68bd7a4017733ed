/**
 * The last stage before bytes: slots that stay at a level whatever plays (docs/playback.md, What lies over everything):
 * parked, held for focus, highlit, or in the hands of a control macro.
 */
import { PARKED } from './winner.ts';

/** What lies over everything: slots that stay where they are, and raw bytes. */
export interface Overrides {
  slots: Uint32Array;
  levels: Float32Array;
  /** PARKED, COMMANDED, HIGHLIT or FOCUS by slot. */
  kinds: Int16Array;
  /** Positions in the slot buffer, and their bytes. */
  raw: Uint32Array;
  bytes: Uint8Array;
}

/** Slots that stay at a level whatever plays. */
export class FixedSlots {
  /** By slot: 0, or why it is fixed, with the level beside it. */
  readonly kind: Int16Array;
  readonly level: Float32Array;

  constructor(size: number) {
    this.kind = new Int16Array(size);
    this.level = new Float32Array(size);
  }

  /** Fixes these; what was fixed and is not named is let off. @param mark is told of every slot that changes */
  set({ slots, levels, kinds }: Overrides, mark: (slot: number) => void): void {
    for (let slot = 0; slot < this.kind.length; slot++) {
      if (this.kind[slot] === 0) continue;
      this.kind[slot] = 0;
      mark(slot);
    }
    slots.forEach((slot, i) => {
      if (slot >= this.kind.length) return;
      this.kind[slot] = kinds[i] ?? PARKED;
      this.level[slot] = levels[i] ?? 0;
      mark(slot);
    });
  }
}
