/** Whether somebody may give a live command at all: by their role, and by where they give it from. */
import { aRole } from '../core/roles.ts';

import { LIVE, type LiveCommand } from '../core/live/commands.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import type { Actor } from './actor.ts';

/** What remote controls are answered while they are switched off. */
export const REMOTES_OFF = refuse(
  'remotes',
  'Remotes are switched off for this show. Whoever is on the board switches them on in Run.',
);

/** Why not, in a sentence; null where it goes on to whoever carries it out. @param remotes whether phones and pages are switched on in this show */
export function mayNotCommand(
  actor: Actor,
  command: LiveCommand['command'],
  remotes: boolean,
): Refusal | null {
  if (!LIVE[command].roles.includes(actor.role))
    return refuse(
      'forbidden',
      actor.role === 'volunteer'
        ? 'A volunteer has the pages given to them, and plays nothing else.'
        : `${aRole(actor.role)} can look at this show, but not play or change it.`,
    );
  return actor.remote && !remotes && !LIVE[command].withoutRemotes ? REMOTES_OFF : null;
}
