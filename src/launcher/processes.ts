/** Processes by their numbers: alive, stopped, ours, gone. */
import { existsSync, readFileSync } from 'node:fs';

/** One letter of /proc: `T` is stopped by a signal, `Z` has ended; undefined when there is none. */
export function stateOf(pid: number): string | undefined {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    // The name in brackets may have spaces and brackets of its own.
    return stat.slice(stat.lastIndexOf(')') + 2).charAt(0);
  } catch {
    return undefined;
  }
}

/** Whether a process runs; one that ended and was not collected does not. */
export const isAlive = (pid: number): boolean => {
  const state = stateOf(pid);
  return state !== undefined && state !== 'Z' && state !== 'X';
};

/** A process's environment as the system has it, each entry ended by a zero; empty where it cannot be read. */
export function environOf(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/environ`, 'utf8');
  } catch {
    return '';
  }
}

/** Whether a process belongs to this data folder: by its environment, or by a word of its command line. */
export function isOurs(pid: number, data: string, word?: string): boolean {
  if (environOf(pid).includes(`WINGMAN_DATA=${data}\0`)) return true;
  try {
    return word !== undefined && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word);
  } catch {
    return false;
  }
}

/** Sends a signal; whoever is gone already needs none. */
export function signal(pid: number, name: NodeJS.Signals): void {
  try {
    process.kill(pid, name);
  } catch {
    // Gone.
  }
}

const LOOK_MS = 30;
/** Waits until a process has gone. @returns whether it has */
export async function gone(pid: number, patience_ms: number): Promise<boolean> {
  for (const until = Date.now() + patience_ms; Date.now() < until;) {
    if (!existsSync(`/proc/${pid}`) || !isAlive(pid)) return true;
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
  }
  return !isAlive(pid);
}

/** Asks a process to end, and ends it when it does not. */
export async function end(pid: number, how: NodeJS.Signals, patience_ms: number): Promise<void> {
  signal(pid, how);
  if (await gone(pid, patience_ms)) return;
  signal(pid, 'SIGKILL');
  await gone(pid, 1000);
}
