/** Two fingers on a track: apart they zoom, together they move it; what lies under them stays under them. */

export class Pinch {
  private readonly fingers = new Map<number, number>();

  /** @returns whether there are two of them now */
  down(id: number, x: number): boolean {
    if (this.fingers.size < 2) this.fingers.set(id, x);
    return this.fingers.size === 2;
  }

  get isTwo(): boolean {
    return this.fingers.size === 2;
  }

  private get spread(): { middle: number; apart: number } {
    const [a = 0, b = 0] = [...this.fingers.values()];
    return { middle: (a + b) / 2, apart: Math.max(LEAST_PX, Math.abs(a - b)) };
  }

  /** @returns how much wider apart they are, about which pixel, and how far their middle went; null for one finger */
  move(id: number, x: number): { by: number; at: number; across: number } | null {
    if (!this.fingers.has(id)) return null;
    const before = this.spread;
    this.fingers.set(id, x);
    if (!this.isTwo) return null;
    const now = this.spread;
    return { by: now.apart / before.apart, at: now.middle, across: now.middle - before.middle };
  }

  up(id: number): void {
    this.fingers.delete(id);
  }
}
/** Fingers that all but touch would zoom by leaps. */
const LEAST_PX = 12;

/** @param moved what two fingers did, in pixels from the left of the element @returns stops listening */
export function listenToPinch(
  el: HTMLElement,
  moved: (what: { by: number; at: number; across: number }) => void,
): () => void {
  const pinch = new Pinch();
  const first: { target: EventTarget | null; id: number } = { target: null, id: -1 };
  const xOf = (e: PointerEvent): number => e.clientX - el.getBoundingClientRect().left;
  const down = (e: PointerEvent): void => {
    if (e.pointerType !== 'touch') return;
    if (!pinch.down(e.pointerId, xOf(e))) {
      Object.assign(first, { target: e.target, id: e.pointerId });
      return;
    }
    // What the first finger had begun to drag is let go of as it was.
    e.stopPropagation();
    first.target?.dispatchEvent(
      new PointerEvent('pointercancel', { pointerId: first.id, bubbles: true }),
    );
  };
  const move = (e: PointerEvent): void => {
    if (e.pointerType !== 'touch') return;
    const did = pinch.move(e.pointerId, xOf(e));
    if (!did) return;
    e.stopPropagation();
    moved(did);
  };
  const up = (e: PointerEvent): void => {
    // The cancelling above is not the end of a finger.
    if (e.isTrusted) pinch.up(e.pointerId);
  };
  const listeners = [
    ['pointerdown', down],
    ['pointermove', move],
    ['pointerup', up],
    ['pointercancel', up],
  ] as const;
  for (const [name, act] of listeners) el.addEventListener(name, act, true);
  return () => {
    for (const [name, act] of listeners) el.removeEventListener(name, act, true);
  };
}
