/** `./wingman test`: everything that must hold, narrowed by an argument; closes with `N passed, N failed`. */
import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensureBuilt } from './build.ts';
import type { Options } from './options.ts';
import { ensureChromium, ensurePostgres } from './packages.ts';
import { startCluster } from './postgres.ts';

interface Tally {
  passed: number;
  failed: number;
}

const CHECKS: [string, string[]][] = [
  ['format', ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']],
  ['types', ['node_modules/typescript/bin/tsc', '--noEmit']],
  ['lint', ['node_modules/eslint/bin/eslint.js', '--max-warnings', '0', '.']],
  [
    'dependency direction',
    [
      'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
      'src',
      '--config',
      '.dependency-cruiser.cjs',
      '--output-type',
      'err',
    ],
  ],
  ['unused code', ['node_modules/knip/bin/knip.js', '--no-progress']],
];

/** One check; what it says is shown where it fails. */
function passes(root: string, name: string, args: string[]): Promise<boolean> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    child.stdout.on('data', (d: Buffer) => (said += d.toString()));
    child.stderr.on('data', (d: Buffer) => (said += d.toString()));
    child.on('close', (code) => {
      console.log(`${code === 0 ? '' : `${said}\n`}${code === 0 ? '✓' : '✗'} ${name}`);
      resolve(code === 0);
    });
  });
}

/** Lint takes as long as all the others: two at once. */
async function check(root: string): Promise<Tally> {
  const tally = { passed: 0, failed: 0 };
  const inTurn = async (checks: typeof CHECKS): Promise<void> => {
    for (const [name, args] of checks)
      tally[(await passes(root, name, args)) ? 'passed' : 'failed']++;
  };
  await Promise.all([
    inTurn(CHECKS.filter(([name]) => name === 'lint')),
    inTurn(CHECKS.filter(([name]) => name !== 'lint')),
  ]);
  return tally;
}

/** The units, with a database of their own. */
async function units(
  root: string,
  bin: string,
  narrowed: string[],
  scratch: string,
): Promise<Tally> {
  const data = join(scratch, 'database');
  mkdirSync(data, { recursive: true, mode: 0o711 });
  const log = openSync(join(scratch, 'postgres.log'), 'a');
  const cluster = await startCluster(bin, data, log);
  try {
    return await jest(
      root,
      ['--selectProjects=unit', `--maxWorkers=${availableParallelism()}`, ...narrowed],
      { WINGMAN_TEST_DATABASE: cluster.url },
      join(scratch, 'unit.json'),
    );
  } finally {
    await cluster.stop();
  }
}

function jest(
  root: string,
  args: string[],
  env: Record<string, string>,
  report: string,
): Promise<Tally> {
  return new Promise((resolve) => {
    const child = spawn(
      process.execPath,
      [
        '--experimental-vm-modules',
        '--no-warnings',
        'node_modules/jest/bin/jest.js',
        '--json',
        '--forceExit',
        `--outputFile=${report}`,
        ...args,
      ],
      {
        cwd: root,
        stdio: ['ignore', 'inherit', 'inherit'],
        env: { ...process.env, ...env, NODE_ENV: 'test' },
      },
    );
    child.on('exit', (code) => {
      try {
        const result = JSON.parse(readFileSync(report, 'utf8')) as {
          numPassedTests: number;
          numFailedTests: number;
          numFailedTestSuites: number;
        };
        const failed = Math.max(
          result.numFailedTests,
          result.numFailedTestSuites,
          code === 0 ? 0 : 1,
        );
        resolve({ passed: result.numPassedTests, failed });
      } catch {
        resolve({ passed: 0, failed: 1 });
      }
    });
  });
}

/**
 * The journeys: as many at once as the machine has pairs of cores, one for a house and one for its browser; those that
 * measure when something comes have it to themselves.
 */
async function journeys(root: string, narrowed: string[], scratch: string): Promise<Tally[]> {
  const run = (project: string, ...how: string[]): Promise<Tally> =>
    jest(
      root,
      [`--selectProjects=${project}`, '--passWithNoTests', ...how, ...narrowed],
      { WINGMAN_SCRATCH: scratch },
      join(scratch, `${project}.json`),
    );
  const atOnce = Math.max(1, Math.floor(availableParallelism() / 2));
  return [await run('browser', `--maxWorkers=${atOnce}`), await run('moments', '--runInBand')];
}

/** @returns the exit code */
export async function runTests(root: string, options: Options): Promise<number> {
  const [what, ...more] = options.rest;
  const paths =
    what === undefined || what === 'unit' || what === 'browser' ? more : [what, ...more];
  const narrowed = paths.map((p) => `--testPathPatterns=${p}`);
  const all = what === undefined;
  const unit =
    all || what === 'unit' || (paths.length > 0 && !paths.some((p) => p.includes('tests/browser')));
  const browser = all || what === 'browser' || paths.some((p) => p.includes('tests/browser'));
  const scratch = mkdtempSync(join(tmpdir(), 'wingman-test-'));
  // The database's user must be able to pass through.
  chmodSync(scratch, 0o711);
  const tallies: Tally[] = [];
  const bin = ensurePostgres();
  if (browser) ensureChromium();
  try {
    // The pages' type declarations, which checks need, come from a build.
    if (all) await ensureBuilt(root);
    if (all) tallies.push(await check(root));
    if (unit) tallies.push(await units(root, bin, narrowed, scratch));
    if (browser) {
      await ensureBuilt(root);
      tallies.push(...(await journeys(root, narrowed, scratch)));
    }
  } finally {
    // A browser that is just ending may still write to its profile.
    rmSync(scratch, { recursive: true, force: true, maxRetries: 20, retryDelay: 250 });
  }
  const passed = tallies.reduce((sum, t) => sum + t.passed, 0);
  const failed = tallies.reduce((sum, t) => sum + t.failed, 0);
  console.log(`${passed} passed, ${failed} failed`);
  return failed === 0 && passed > 0 ? 0 : 1;
}
