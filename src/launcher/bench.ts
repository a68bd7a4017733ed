/** `./wingman bench`: measures, prints a table, writes bench.json to the data folder. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { startInstance } from './instance.ts';
import type { Options } from './options.ts';
import { freePort } from './ports.ts';

/** A Wingman of its own in a folder beside the data, so that measuring touches nobody's shows. */
export async function runBench(root: string, options: Options): Promise<number> {
  const data = join(options.data, 'bench');
  const instance = await startInstance(
    root,
    { ...options, data, host: '127.0.0.1', port: await freePort(), databaseUrl: undefined },
    { demo: true, quiet: true },
  );
  let ended = false;
  const stop = async (): Promise<void> => {
    if (!ended) await instance.stop();
    ended = true;
  };
  process.on('SIGINT', () => void stop().then(() => process.exit(130)));
  const code = await new Promise<number>((resolve) => {
    const child = spawn(
      process.execPath,
      ['--enable-source-maps', join(root, '.build', 'bench.mjs'), ...options.rest],
      {
        cwd: root,
        stdio: 'inherit',
        env: {
          ...process.env,
          DATABASE_URL: instance.databaseUrl,
          WINGMAN_URL: instance.url,
          WINGMAN_SECRET: instance.secret,
          WINGMAN_DATA: data,
          WINGMAN_PLAYER_PORT: String(instance.playerPort),
          WINGMAN_BENCH_OUT: join(options.data, 'bench.json'),
        },
      },
    );
    child.on('exit', (status) => resolve(status ?? 1));
  });
  await stop();
  return code;
}
