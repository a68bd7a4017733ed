/** The way of packets to the simulated node, with its faults. */
import type { Faults } from '../core/wires/faults.ts';

/** Where packets go that got through. */
export type Deliver<From> = (packet: Uint8Array, from: From) => void;

/** The way of packets to the node, with its faults. @param random 0…1 */
export function faultyWay<From>(
  faults: () => Faults,
  deliver: Deliver<From>,
  random: () => number = Math.random,
): Deliver<From> {
  let late: [Uint8Array, From] | null = null;
  return (packet, from) => {
    const { pulled, loss, reorder } = faults();
    if (pulled || random() < loss) return;
    if (reorder && late === null) {
      late = [Uint8Array.from(packet), from];
      return;
    }
    deliver(packet, from);
    if (late === null) return;
    const [before, of] = late;
    late = null;
    deliver(before, of);
  };
}
