/**
 * Who sends: one player of an installation has the output, by an advisory lock of the database that ends with its
 * connection. Another waits for it with the show in memory, and goes on when the first one is gone or hands over.
 */
import pg from 'pg';
import type { Logger } from 'pino';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Database } from '../store/database.ts';
import { OUTPUT_LOCK } from '../store/players.ts';

/** So long the player that has lost its lock with the database is let have it again. */
const OTHERS_MS = 1000;
const PING_MS = 300;
/** Whoever sends already asks again at once; whoever waits lets it. */
const AGAIN_MS = { sending: 200, waiting: 1500 };
/** From the last word to the end: the answer must be on its way. */
const LEAVES_MS = 50;
const GONE_MS = 20;

/** The connection that holds the lock. */
export interface LockClient {
  connect: () => Promise<unknown>;
  query: (sql: string, values: unknown[]) => Promise<unknown>;
  end: () => Promise<void>;
  on: (event: 'error' | 'end', heard: () => void) => unknown;
}

/** What the right to send is held with. */
export interface OutputRightNeeds {
  readonly log: Pick<Logger, 'warn'>;
  connection: () => LockClient;
  isSending: () => boolean;
  /** Whether the player that was on air still plays: after the database was away its lock is gone, and it is not. */
  othersPlay: () => Promise<boolean>;
  /** The right has come: from here on this player sends. */
  take: () => Promise<void>;
  /** The right is held, for the first time or again: others may know. */
  held: () => Promise<void>;
  waiting: () => Promise<number>;
  /** Before the output is given away: what plays is kept, and where packets are. */
  keep: () => Promise<void>;
  exit: () => void;
}

/** The right to send, which one player of an installation has at a time. */
export interface OutputRight {
  /** Waits for the right to send, and for it again whenever it is lost. Ends with `stop`. */
  hold: () => Promise<void>;
  /** Gives the output to the player that waits, in the middle of whatever plays. The supervisor starts this one again, to wait. */
  handOver: () => Promise<{ ok: true } | Refusal>;
  /** It ends, or has handed over. */
  isStopping: () => boolean;
  stop: () => void;
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A killed player's connection ends with it, and its lock with the connection. */
export const lockConnection = (url: string): LockClient =>
  new pg.Client({ connectionString: url, keepAlive: true });

/** Whether another player than this one answers that it is on air. @param me who asks @throws what the database does */
export async function anotherPlays(
  db: Database,
  me: { id: string; address: string },
): Promise<boolean> {
  const row = await db
    .selectFrom('installation')
    .select(['player', 'player_id'])
    .where('id', '=', 1)
    .executeTakeFirst();
  if (!row?.player || row.player_id === me.id || row.player === me.address) return false;
  return fetch(`http://${row.player}/health`, { signal: AbortSignal.timeout(PING_MS) }).then(
    async (r) => ((await r.json()) as { onAir?: boolean }).onAir === true,
    () => false,
  );
}

/** Not held yet. */
export function makeOutputRight(needs: OutputRightNeeds): OutputRight {
  let stopping = false;
  let releasing: (() => void) | null = null;

  /** @returns false where another has it */
  async function holdOnce(client: LockClient, lost: Promise<void>): Promise<boolean> {
    await client.connect();
    await client.query('select pg_advisory_lock($1)', [OUTPUT_LOCK]);
    if (!needs.isSending() && (await needs.othersPlay())) {
      await client.end();
      return false;
    }
    if (!needs.isSending()) await needs.take();
    await needs.held();
    releasing = () => void client.end().catch(() => undefined);
    // When the database goes, sending goes on; the lock is taken again when it is back.
    await lost;
    releasing = null;
    return true;
  }

  async function hold(): Promise<void> {
    for (;;) {
      const client = needs.connection();
      const lost = new Promise<void>((resolve) => {
        client.on('error', () => resolve());
        client.on('end', () => resolve());
      });
      let wait_ms: number | null = null;
      try {
        if (!(await holdOnce(client, lost))) wait_ms = OTHERS_MS;
      } catch (error) {
        needs.log.warn({ error: String(error) }, 'no right to send yet');
        await client.end().catch(() => undefined);
      }
      if (stopping) return;
      await pause(wait_ms ?? (needs.isSending() ? AGAIN_MS.sending : AGAIN_MS.waiting));
    }
  }

  async function handOver(): Promise<{ ok: true } | Refusal> {
    if ((await needs.waiting()) === 0)
      return refuse('nothing', 'No other player is waiting; there is nobody to hand over to.');
    // What cannot be kept is not given away either: this one goes on then.
    await needs.keep();
    stopping = true;
    // Quietly: receivers hold the last look until the other goes on, and are not told that the stream has ended.
    setTimeout(() => {
      releasing?.();
      setTimeout(needs.exit, GONE_MS);
    }, LEAVES_MS);
    return { ok: true };
  }

  return { hold, handOver, isStopping: () => stopping, stop: () => void (stopping = true) };
}
