/** Another desk over the network: a universe of DMX as faders and keys. Address 17 is `slot.17`. */
import type { Moved } from './midi.ts';

const TOP = 255;
/** A slot from here on is a key that is down, for what is pressed. */
const PRESSED = 128;

/** What a universe was last; null: nothing was heard of it yet, or it was lost. */
export type DeskState = Uint8Array | null;

const moved = (address: number, value: number): Moved => ({
  control: `slot.${address}`,
  value: value / TOP,
  on: value >= PRESSED,
  isKey: false,
});

/**
 * What has moved since the last packet. Where everything stood when it was first heard moves nothing: nobody moved it.
 * @param slots 1 to 512 bytes
 */
export function deskMoved(before: DeskState, slots: Uint8Array): Moved[] {
  if (!before) return [];
  const all: Moved[] = [];
  for (let i = 0; i < slots.length; i++)
    if (slots[i] !== (before[i] ?? 0)) all.push(moved(i + 1, slots[i] ?? 0));
  return all;
}

/** Keys of a desk that is lost are lifted; what is slid stays where it is. */
export const deskLifted = (before: DeskState): Moved[] =>
  before === null
    ? []
    : [...before].flatMap((value, i) =>
        value >= PRESSED ? [{ ...moved(i + 1, 0), isKey: true }] : [],
      );
