/** Listens for changes of shows. Reconnects by itself; after a gap it says so, and the listener catches up by number. */
import pg from 'pg';
import { AIR_CHANNEL, CHANNEL, MEMBERS_CHANNEL } from './channels.ts';

/** Hears the database for as long as the house is open. */
export interface Feed {
  stop: () => Promise<void>;
  connected: () => boolean;
}

/**
 * @param heard called with the channel and the notification's payload
 * @param reconnected called after every (re)connection: anything may have been missed
 */
export function listen(
  url: string,
  heard: (channel: string, payload: unknown) => void,
  reconnected: () => void,
): Feed {
  let stopped = false;
  let client: pg.Client | undefined;
  let up = false;
  let wait_ms = 100;

  const start = async (): Promise<void> => {
    if (stopped) return;
    const next = new pg.Client({
      connectionString: url,
      keepAlive: true,
      connectionTimeoutMillis: 5000,
    });
    let lost = false;
    const lose = (): void => {
      if (lost) return;
      lost = true;
      up = false;
      void next.end().catch(() => undefined);
      if (!stopped) setTimeout(() => void start(), wait_ms);
      wait_ms = Math.min(wait_ms * 2, 2000);
    };
    next.on('error', lose);
    next.on('end', lose);
    next.on('notification', (n) => {
      try {
        heard(n.channel, JSON.parse(n.payload ?? 'null'));
      } catch {
        // Not one of ours: another program may use the channel.
      }
    });
    try {
      await next.connect();
      for (const channel of [CHANNEL, MEMBERS_CHANNEL, AIR_CHANNEL])
        await next.query(`listen ${channel}`);
      client = next;
      up = true;
      wait_ms = 100;
      reconnected();
    } catch {
      lose();
    }
  };
  void start();
  return {
    stop: async () => {
      stopped = true;
      up = false;
      await client?.end().catch(() => undefined);
    },
    connected: () => up,
  };
}
