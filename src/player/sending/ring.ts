/**
 * Packets on their way from the thread that makes them to the one that sends them: a ring in shared memory. One writes,
 * one reads; neither ever waits for the other.
 */

const PLACES = 2048;
/** The largest packet of both protocols, with room. */
const PLACE_BYTES = 648;
const HEAD_BYTES = 8;
const COUNTERS_BYTES = 8;

/** How many were written and read since the beginning, as 32-bit counters that wrap. */
const WRITTEN = 0;
const READ = 1;

/** Memory for one ring. */
export const ringMemory = (): SharedArrayBuffer =>
  new SharedArrayBuffer(COUNTERS_BYTES + PLACES * (HEAD_BYTES + PLACE_BYTES));

/** Packets from one thread to another, without a lock. */
export interface Ring {
  /** @returns false where there is no room: the reader is PLACES packets behind */
  write: (target: number, packet: Uint8Array) => boolean;
  written: () => number;
  /** Takes all packets up to a count, oldest first. The bytes are gone after `each` returns. */
  readTo: (count: number, each: (target: number, packet: Uint8Array) => void) => void;
}

/** A ring on memory that both threads have. */
export function ringOn(memory: SharedArrayBuffer): Ring {
  const counters = new Int32Array(memory, 0, 2);
  const words = new Int32Array(memory);
  const bytes = new Uint8Array(memory);
  const wordOf = (count: number): number =>
    COUNTERS_BYTES / 4 + ((count >>> 0) % PLACES) * ((HEAD_BYTES + PLACE_BYTES) / 4);
  return {
    write: (target, packet) => {
      const at = Atomics.load(counters, WRITTEN);
      if (((at - Atomics.load(counters, READ)) | 0) >= PLACES || packet.length > PLACE_BYTES)
        return false;
      const word = wordOf(at);
      words[word] = target;
      words[word + 1] = packet.length;
      bytes.set(packet, word * 4 + HEAD_BYTES);
      Atomics.store(counters, WRITTEN, (at + 1) | 0);
      return true;
    },
    written: () => Atomics.load(counters, WRITTEN),
    readTo: (count, each) => {
      for (let at = Atomics.load(counters, READ); ((count - at) | 0) > 0; at = (at + 1) | 0) {
        const word = wordOf(at);
        const from = word * 4 + HEAD_BYTES;
        each(words[word] as number, bytes.subarray(from, from + (words[word + 1] as number)));
        Atomics.store(counters, READ, (at + 1) | 0);
      }
    },
  };
}
