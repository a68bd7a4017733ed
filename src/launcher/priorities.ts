/** Who has the processor first where a machine has too little of it: light, before pages, files and rows. */
import { setPriority } from 'node:os';

/** Where a process of ours may have more than others: it is asked for, and done without. */
const PLAYS = -5;
const WAITS = 4;

/** @param pid of a process that has just begun: what it starts itself has the same */
export function rank(pid: number | undefined, name: string): void {
  if (pid === undefined) return;
  try {
    setPriority(pid, name === 'player' || name === 'standby' ? PLAYS : WAITS);
  } catch {
    // It may not be raised here, or has ended already: then it runs as others do.
  }
}
