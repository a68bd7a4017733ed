/** The clock's side of sending: packets go into a ring, and a thread of its own puts them on the network. */
import { Worker } from 'node:worker_threads';
import { numbered, type Destination, type Failed, type Post } from './post.ts';
import { ringMemory, ringOn } from './ring.ts';

/** What the thread that sends is told. */
export type ToSender =
  | { do: 'target'; number: number; to: Destination }
  /** All that was written up to here. */
  | { do: 'send'; upTo: number }
  | { do: 'renew' }
  | { do: 'close' };
/** What it says. */
export type FromSender =
  { is: 'failed'; target: number; problem: string | null; times: number } | { is: 'closed' };

const BEHIND = 'This machine does not get its packets out in time.';

/** Starts that thread, with a ring of memory between it and the clock. */
export function mailbox(file: URL, failed: Failed): Post {
  const memory = ringMemory();
  const ring = ringOn(memory);
  const worker = new Worker(file, { workerData: memory });
  let sent = ring.written();
  let closed = (): void => undefined;
  const tell = (message: ToSender): void => worker.postMessage(message);
  worker.on('message', (message: FromSender) => {
    if (message.is === 'failed') failed(message.target, message.problem, message.times);
    else closed();
  });
  // The clock ends with it, and the player with the clock: all of them are started again.
  worker.on('error', (error) => {
    throw error;
  });
  const flush = (): void => {
    const upTo = ring.written();
    if (upTo === sent) return;
    sent = upTo;
    tell({ do: 'send', upTo });
  };
  return {
    target: numbered((number, to) => tell({ do: 'target', number, to })),
    put: (target, packet) => {
      if (!ring.write(target, packet)) failed(target, BEHIND, 1);
    },
    flush,
    renew: () => {
      flush();
      tell({ do: 'renew' });
    },
    close: async () => {
      flush();
      const done = new Promise<void>((resolve) => (closed = resolve));
      tell({ do: 'close' });
      await done;
      await worker.terminate();
    },
  };
}
