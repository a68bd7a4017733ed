import { sql } from 'kysely';
import { server } from '@/app/server/context';
import { playerUrl } from '@/app/server/player';

export const dynamic = 'force-dynamic';

export async function GET(): Promise<Response> {
  const { db } = server();
  const database = await sql`select 1`.execute(db).then(
    () => true,
    () => false,
  );
  const playing: unknown = await fetch(`${await playerUrl()}/health`, {
    signal: AbortSignal.timeout(2000),
  }).then(
    (r) => r.json(),
    () => null,
  );
  const web = {
    pid: process.pid,
    uptime_s: Math.round(process.uptime()),
    memory_MB: Math.round(process.memoryUsage().rss / 1048576),
  };
  return Response.json(
    { web, database, player: playing },
    { status: database && playing ? 200 : 503, headers: { 'cache-control': 'no-store' } },
  );
}
