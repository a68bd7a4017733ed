/** Where packets leave: destinations have numbers, so that a frame hands over bytes and nothing else. */

export interface Destination {
  /** Address of the card by which it leaves; null: as the machine decides. */
  from: string | null;
  host: string;
  port: number;
}

/** @param problem what the network says, or null when a packet left again */
export type Failed = (target: number, problem: string | null, times: number) => void;

/** Takes packets and brings them away. */
export interface Post {
  /** The number of a destination, the same for the same one. */
  target: (to: Destination) => number;
  /** The bytes are copied: they may be changed as soon as this returns. */
  put: (target: number, packet: Uint8Array) => void;
  /** The frame is complete. */
  flush: () => void;
  /** Cards have come or gone: sockets on them are opened anew. */
  renew: () => void;
  /** Ends when what was put has left. */
  close: () => Promise<void>;
}

const keyOf = ({ from, host, port }: Destination): string => `${from ?? ''}/${host}/${port}`;

/** Numbers destinations. @param added told of each new one */
export function numbered(
  added: (target: number, to: Destination) => void,
): (to: Destination) => number {
  const known = new Map<string, number>();
  return (to) => {
    const key = keyOf(to);
    const number = known.get(key);
    if (number !== undefined) return number;
    const next = known.size;
    known.set(key, next);
    added(next, to);
    return next;
  };
}
