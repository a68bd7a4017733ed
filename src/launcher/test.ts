/** `./wingman test`: everything that must hold, narrowed by an argument; closes with `N passed, N failed`. */
import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, mkdtempSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
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

function check(root: string): Tally {
  const tally = { passed: 0, failed: 0 };
  for (const [name, args] of CHECKS) {
    const result = spawnSync(process.execPath, args, { cwd: root, encoding: 'utf8' });
    if (result.status === 0) tally.passed++;
    else {
      tally.failed++;
      console.log(`${result.stdout}${result.stderr}`);
    }
    console.log(`${result.status === 0 ? '✓' : '✗'} ${name}`);
  }
  return tally;
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
    if (all) {
      // The pages' type declarations come from a build.
      await ensureBuilt(root);
      tallies.push(check(root));
    }
    if (unit) {
      const data = join(scratch, 'database');
      mkdirSync(data, { recursive: true, mode: 0o711 });
      const cluster = await startCluster(bin, data, openSync(join(scratch, 'postgres.log'), 'a'));
      try {
        tallies.push(
          await jest(
            root,
            ['--selectProjects=unit', ...narrowed],
            { WINGMAN_TEST_DATABASE: cluster.url },
            join(scratch, 'unit.json'),
          ),
        );
      } finally {
        await cluster.stop();
      }
    }
    if (browser) {
      await ensureBuilt(root);
      tallies.push(
        await jest(
          root,
          ['--selectProjects=browser', '--runInBand', ...narrowed],
          { WINGMAN_SCRATCH: scratch },
          join(scratch, 'browser.json'),
        ),
      );
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
