/** Debian packages that Wingman runs on: found, or installed with a word about it, or missed with a clear sentence. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';

const onPath = (program: string): string | undefined =>
  (process.env.PATH ?? '')
    .split(delimiter)
    .map((dir) => join(dir, program))
    .find((file) => existsSync(file));

/** Folder of the newest PostgreSQL programs on this machine. */
function postgresBin(): string | undefined {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root)
    ? readdirSync(root).filter((v) => existsSync(join(root, v, 'bin', 'postgres')))
    : [];
  const newest = versions.sort((a, b) => Number(b) - Number(a))[0];
  if (newest) return join(root, newest, 'bin');
  const postgres = onPath('postgres');
  return postgres && onPath('initdb') ? join(postgres, '..') : undefined;
}

function install(what: string, packages: readonly string[]): void {
  const apt = onPath('apt-get');
  const byHand = `Install it by hand (on Debian: apt-get install ${packages.join(' ')}) and start again.`;
  if (!apt)
    throw new Error(
      `${what} is missing, and this machine has no apt-get to install it with. ${byHand}`,
    );
  const root = process.getuid?.() === 0;
  if (!root && (!onPath('sudo') || spawnSync('sudo', ['-n', 'true']).status !== 0)) {
    throw new Error(`${what} is missing, and an ordinary user cannot install it here. ${byHand}`);
  }
  console.log(`Installing ${what} from Debian's packages (${packages.join(', ')}) …`);
  const run = (args: string[]): boolean => {
    const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
    const result = root
      ? spawnSync('apt-get', args, { stdio: ['ignore', 'ignore', 'inherit'], env })
      : spawnSync('sudo', ['-n', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', ...args], {
          stdio: ['ignore', 'ignore', 'inherit'],
        });
    return result.status === 0;
  };
  if (!run(['-q', 'update']))
    throw new Error(
      `Debian's package lists could not be read, so ${what} could not be installed. ${byHand}`,
    );
  if (
    !run([
      '-q',
      '-y',
      '--no-install-recommends',
      '-o',
      'Dpkg::Options::=--force-confold',
      'install',
      ...packages,
    ])
  )
    throw new Error(`${what} could not be installed. ${byHand}`);
}

/** @returns the folder of PostgreSQL's programs */
export function ensurePostgres(): string {
  const found = postgresBin();
  if (found) return found;
  // Debian would make and start a cluster of its own; Wingman makes one in its data folder instead.
  if (process.getuid?.() === 0 && !existsSync('/etc/postgresql-common/createcluster.conf')) {
    mkdirSync('/etc/postgresql-common', { recursive: true });
    writeFileSync('/etc/postgresql-common/createcluster.conf', 'create_main_cluster = false\n');
  }
  install('PostgreSQL', ['postgresql']);
  const now = postgresBin();
  if (!now)
    throw new Error(
      'PostgreSQL was installed, but its programs are not where Debian puts them (/usr/lib/postgresql).',
    );
  return now;
}

/** Chromium and its driver, for the browser tests. */
export function ensureChromium(): void {
  if (onPath('chromium') && onPath('chromedriver')) return;
  install('Chromium and ChromeDriver', ['chromium', 'chromium-driver', 'fonts-dejavu-core']);
  if (!onPath('chromium') || !onPath('chromedriver'))
    throw new Error('Chromium was installed, but chromium or chromedriver is not on the path.');
}
