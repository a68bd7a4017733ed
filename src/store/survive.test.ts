/** What keeps a process going: real processes whose output goes nowhere, and errors that end something or nothing. */
import { spawn } from 'node:child_process';
import { openSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { resolve } from 'node:path';
import { isFull, saysFull } from './survive.ts';

const HERE = pathToFileURL(resolve(__dirname, 'survive.ts')).href;
/** A process that has this module and does something with it. @returns how it ended, what it said, and how long it computed */
function child(
  code: string,
  output: 'pipe' | 'full' | 'closed' = 'pipe',
): Promise<{ code: number | null; said: string; cpu_s: number }> {
  const out = output === 'full' ? openSync('/dev/full', 'w') : 'pipe';
  const c = spawn(
    process.execPath,
    [
      '--import',
      'tsx',
      '--input-type=module',
      '-e',
      `import { makeLog, guardConsole, surviveDatabase } from ${JSON.stringify(fileURLToPath(HERE))};\n${code}`,
    ],
    {
      cwd: resolve(__dirname, '../..'),
      stdio: ['ignore', out, out, 'ipc'],
      timeout: 20_000,
      killSignal: 'SIGKILL',
    },
  );
  let [said, cpu_s] = ['', NaN];
  if (output === 'closed') c.stdout?.destroy();
  else c.stdout?.on('data', (d: Buffer) => (said += d.toString()));
  c.on('message', (m: { cpu_s?: number }) => (cpu_s = m.cpu_s ?? cpu_s));
  return new Promise((done) => c.once('exit', (exit) => done({ code: exit, said, cpu_s })));
}
const WORKS = `
const log = makeLog('test'); guardConsole(); surviveDatabase(log);
for (let i = 0; i < 2000; i++) { log.warn({ i }, 'a line'); console.log('a line', i); console.error('another'); }
process.stdout.write('more', () => undefined);
const before = process.cpuUsage();
setTimeout(() => { const { user, system } = process.cpuUsage(before); process.send({ cpu_s: (user + system) / 1e6 }, () => process.exit(7)); }, 600);
`;

test.each(['pipe', 'full', 'closed'] as const)(
  'a process logs and goes on, and computes nothing over it: its output is %s',
  async (output) => {
    const { code, cpu_s } = await child(WORKS, output);
    expect(code).toBe(7);
    expect(cpu_s).toBeLessThan(0.3);
  },
  30_000,
);

test('a lost database under something ends nothing; a mistake of ours ends the process, with its words', async () => {
  const lost = await child(
    `surviveDatabase(makeLog('test')); setTimeout(() => process.exit(7), 300); void Promise.reject(Object.assign(new Error('terminating connection'), { code: '57P01' })); setTimeout(() => { throw new Error('Connection terminated unexpectedly'); }, 20);`,
  );
  expect(lost.code).toBe(7);
  const mistake = await child(
    `surviveDatabase(makeLog('test')); setTimeout(() => process.exit(7), 300); setTimeout(() => { throw new TypeError('oops'); }, 20);`,
  );
  expect(mistake.code).toBe(1);
  expect(mistake.said).toContain('oops');
});

test('a disk without room is known by what the database and the system say; a folder that is not there is not full', async () => {
  for (const code of ['53100', 'ENOSPC', 'EDQUOT'])
    expect(saysFull(Object.assign(new Error('x'), { code }))).toBe(true);
  for (const error of [
    null,
    undefined,
    new Error('disk full'),
    Object.assign(new Error('x'), { code: '57P01' }),
  ])
    expect(saysFull(error)).toBe(false);
  expect(await isFull('/nowhere/at/all')).toBe(false);
  expect(await isFull('/dev')).toBe(await isFull('/dev/'));
});
