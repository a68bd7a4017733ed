/** `./wingman demo | start | test | bench`. */
import { fileURLToPath } from 'node:url';
import { startInstance, type Instance } from './instance.ts';
import { readOptions } from './options.ts';
import { runTests } from './test.ts';
import { runBench } from './bench.ts';

const root = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');

async function main(): Promise<void> {
  const options = readOptions(process.argv.slice(2));
  if (options.command === 'test') process.exit(await runTests(root, options));
  if (options.command === 'bench') process.exit(await runBench(root, options));

  let instance: Instance | undefined;
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    if (!instance) return;
    console.log('\nStopping …');
    await instance.stop();
    console.log('Wingman has stopped; everything is kept.');
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stop());
  instance = await startInstance(root, options, { demo: options.command === 'demo' });
  if (stopping) {
    stopping = false;
    await stop();
  }
  console.log(`Wingman is ready at ${instance.url}`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
