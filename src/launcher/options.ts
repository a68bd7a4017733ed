/** What was asked of the launcher: command, port, host, data folder. */
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';

const COMMANDS = ['demo', 'start', 'test', 'bench'] as const;
type Command = (typeof COMMANDS)[number];

/** A command of `wingman`, parsed. */
export interface Options {
  command: Command;
  port: number;
  host: string;
  data: string;
  /** This server instead of the built-in one. */
  databaseUrl: string | undefined;
  /** A second player waits on this machine for the first. */
  standby: boolean;
  /** Files to use instead of the house’s own certificate. */
  certificate: { cert: string; key: string } | undefined;
  /** No TLS also for other machines: something in front of Wingman sees to that. */
  plain: boolean;
  rest: string[];
}

const USAGE = `Usage: ./wingman demo | start | test [unit | browser | PATH] | bench [PART …]
  --port N     where to listen (default 4600, or WINGMAN_PORT)
  --host H     on which address (default 127.0.0.1, or WINGMAN_HOST)
  --data DIR   where shows and settings are kept (or WINGMAN_DATA)
  --cert FILE --key FILE  certificate and key for other machines, instead of the house's own
  --plain-http no TLS for other machines: something in front of Wingman sees to it
  --no-standby no second player that waits for the first (or WINGMAN_STANDBY=0)
DATABASE_URL names a PostgreSQL server to use instead of the built-in one.`;

const isRoot = (): boolean => process.getuid?.() === 0;
const defaultData = (): string =>
  isRoot()
    ? '/var/lib/wingman'
    : join(process.env.XDG_DATA_HOME ?? join(homedir(), '.local', 'share'), 'wingman');

/** @throws Error with a sentence for people */
export function readOptions(
  argv: readonly string[],
  env: Readonly<Record<string, string | undefined>> = process.env,
): Options {
  const [command, ...args] = argv;
  if (!COMMANDS.includes(command as Command))
    throw new Error(
      command === undefined ? USAGE : `“${command}” is not a command of Wingman.\n${USAGE}`,
    );
  const given: Record<string, string> = {};
  const rest: string[] = [];
  let standby = env.WINGMAN_STANDBY !== '0';
  let plain = env.WINGMAN_PLAIN_HTTP === '1';
  for (let i = 0; i < args.length; i++) {
    if (args[i] === '--no-standby') {
      standby = false;
      continue;
    }
    if (args[i] === '--plain-http') {
      plain = true;
      continue;
    }
    const [, name, inline] = /^--(port|host|data|cert|key)(?:=(.*))?$/.exec(args[i] ?? '') ?? [];
    if (!name) {
      if ((args[i] ?? '').startsWith('--') && command !== 'test')
        throw new Error(`“${args[i]}” is not an option of Wingman.\n${USAGE}`);
      rest.push(args[i] ?? '');
      continue;
    }
    const value = inline ?? args[++i];
    if (value === undefined) throw new Error(`--${name} needs a value.\n${USAGE}`);
    given[name] = value;
  }
  const port = Number(given.port ?? env.WINGMAN_PORT ?? 4600);
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Error(`“${given.port ?? env.WINGMAN_PORT}” is not a port; ports go from 1 to 65535.`);
  const { cert, key } = given;
  if ((cert === undefined) !== (key === undefined))
    throw new Error(`--cert and --key come together.\n${USAGE}`);
  return {
    command: command as Command,
    port,
    host: given.host ?? env.WINGMAN_HOST ?? '127.0.0.1',
    data: resolve(given.data ?? env.WINGMAN_DATA ?? defaultData()),
    databaseUrl: env.DATABASE_URL || undefined,
    standby,
    certificate:
      cert !== undefined && key !== undefined
        ? { cert: resolve(cert), key: resolve(key) }
        : undefined,
    plain,
    rest,
  };
}
