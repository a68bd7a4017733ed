/** `./wingman demo | start | test | bench`. */
import { startInstance } from './instance.ts';
import { readOptions } from './options.ts';
import { runTests } from './test.ts';
import { runBench } from './bench.ts';

// `wingman` stands in its own folder when it comes here.
const root = process.cwd();

async function main(): Promise<void> {
  const options = readOptions(process.argv.slice(2));
  if (options.command === 'test') process.exit(await runTests(root, options));
  if (options.command === 'bench') process.exit(await runBench(root, options));

  let stopping = false;
  const starting = startInstance(root, options, { demo: options.command === 'demo' });
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    console.log('\nStopping …');
    // What is half started is finished first, so that nothing is left over.
    const unsaved = await (await starting).stop();
    for (const text of unsaved) console.log(text);
    console.log(
      unsaved.length > 0 ? 'Wingman has stopped.' : 'Wingman has stopped; everything is kept.',
    );
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
    process.on(signal, () => void stop());
  const instance = await starting;
  if (stopping) return;
  console.log(`Wingman is ready at ${instance.url}`);
}

main().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : String(error));
  process.exit(1);
});
