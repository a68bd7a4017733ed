/** Gamepads at this browser (W3C Gamepad): their buttons and sticks as parts of a hand. */
import { clamp } from '@/core/numbers';
import type { Moved } from '@/core/hands/midi';

/** Names of gamepads as ports: browsers give an id of maker and model. */
export const PAD_PORT = 'Gamepad: ';
/** A stick that lies still trembles by less than this. */
const STILL = 0.012;
const PRESSED = 0.5;
/** How often it is looked whether there is one, while none is held here. */
const LOOK_MS = 1000;

interface Known {
  keys: number[];
  axes: number[];
}

const padPort = (pad: Pick<Gamepad, 'id'>): string => `${PAD_PORT}${pad.id}`.slice(0, 120);

/** A stick goes from -1 to 1; a part of a hand from 0 to 1. */
const ofAxis = (value: number): number => clamp((value + 1) / 2);

/** What has moved since the last look. @param known what it was, and is from now on */
export function padMoved(known: Known, pad: Pick<Gamepad, 'buttons' | 'axes'>): Moved[] {
  const all: Moved[] = [];
  pad.buttons.slice(0, 60).forEach(({ value, pressed }, i) => {
    const was = known.keys[i] ?? 0;
    const now = pressed && value < PRESSED ? 1 : value;
    if (Math.abs(now - was) < STILL && now >= PRESSED === was >= PRESSED) return;
    known.keys[i] = now;
    all.push({ control: `pad.key.${i}`, value: now, on: now >= PRESSED, isKey: true });
  });
  pad.axes.slice(0, 60).forEach((value, i) => {
    const now = ofAxis(value);
    const was = known.axes[i];
    if (was !== undefined && Math.abs(now - was) < STILL) return;
    known.axes[i] = now;
    // Where a stick lies when it is first seen, nobody has moved it.
    if (was !== undefined)
      all.push({ control: `pad.axis.${i}`, value: now, on: now > 0, isKey: false });
  });
  return all;
}

/** Gamepads of this browser. */
export class Pads {
  private readonly known = new Map<string, Known>();
  private next: number | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly wanted: () => boolean,
    private readonly heard: (port: string, moved: readonly Moved[]) => void,
  ) {
    if ('getGamepads' in navigator) this.look();
  }

  private readonly look = (): void => {
    const isWanted = this.wanted();
    if (isWanted) this.ask();
    // With every frame while one is held here: a key is not to wait.
    if (isWanted) this.next = requestAnimationFrame(this.look);
    else this.timer = setTimeout(this.look, LOOK_MS);
  };

  private ask(): void {
    const here = new Set<string>();
    for (const pad of navigator.getGamepads()) {
      if (!pad?.connected) continue;
      const port = padPort(pad);
      here.add(port);
      const known = this.known.get(port) ?? { keys: [], axes: [] };
      this.known.set(port, known);
      const moved = padMoved(known, pad);
      if (moved.length > 0) this.heard(port, moved);
    }
    for (const [port, { keys }] of this.known) {
      if (here.has(port)) continue;
      this.known.delete(port);
      // Pulled out while something was down: that is lifted.
      const lifted = keys.flatMap((value, i): Moved[] =>
        value >= PRESSED ? [{ control: `pad.key.${i}`, value: 0, on: false, isKey: true }] : [],
      );
      if (lifted.length > 0) this.heard(port, lifted);
    }
  }

  close(): void {
    if (this.next !== undefined) cancelAnimationFrame(this.next);
    clearTimeout(this.timer);
  }
}
