/** A hand on a sheet: what a touched piece plays, by whose right, and over whose board. */
import type { CommandOf } from '../core/live/commands.ts';
import { thingOf } from '../core/live/boards.ts';
import { isRefusal, refuse } from '../core/refusal.ts';
import { hasSheet } from '../core/sheets/given.ts';
import type { PieceRow } from '../core/sheets/rows.ts';
import { nameOf } from '../core/sheets/pieces.ts';
import { playedBy, type Playing as Touched } from '../core/sheets/touch.ts';
import type { Actor } from './actor.ts';
import { REMOTES_OFF } from './may.ts';
import { isPlayed } from './played.ts';
import type { Answer } from './answer.ts';
import type { Playing as Playing } from './playing.ts';

const NOT_YOURS = refuse('not-found', 'This piece is not on a sheet of yours.');

const playingIn = (live: Playing): Touched => ({
  faderLevel: (id) => live.faders.statuses().find((f) => f.id === id)?.level ?? 0,
  isPlayed: (thing) => isPlayed(live.played, thing),
  cueOn: (list) => live.lists.state(list).cueId,
  isBlackout: () => live.blackout,
});

/** Whoever comes by a page plays as remote controls do: over whoever is on the board, while remotes are on, and both are told. */
function fromPage(
  live: Playing,
  actor: Actor,
  piece: PieceRow,
  command: CommandOf<'touch'>,
  played: Parameters<Playing['whoever']>[0],
): Answer {
  if (!live.remotes) return REMOTES_OFF;
  const sheet = live.show.sheets.get(piece.sheet);
  const by: Actor = { ...actor, via: `sheet “${sheet?.name ?? '?'}”`, atPage: true };
  const board = live.together.boards.over(thingOf(live.show, played));
  const answer = live.whoever(played, by);
  // A fader's every step is not told; what is pressed is, to both.
  const isTold = board && board.userId !== actor.userId && command.level === undefined;
  if (isRefusal(answer) || !isTold) return answer;
  live.tellWord(board.userId, {
    type: 'word',
    kind: 'over',
    from: { userId: actor.userId, name: actor.name },
    text: `${actor.name} pressed “${nameOf(live.show, piece)}” on sheet “${sheet?.name ?? '?'}”, over ${live.together.boards.words(board.thing)}, which is yours.`,
  });
  return {
    ...answer,
    message: `${answer.message ? `${answer.message}. ` : ''}Played over ${board.name}, who is on ${live.together.boards.words(board.thing)}`,
  };
}

/** A volunteer has the sheets that were given to them; whoever else is at a screen plays by their own right and board. */
export function touch(live: Playing, actor: Actor, command: CommandOf<'touch'>): Answer {
  const piece = live.show.sheetpieces.get(command.piece);
  const isVolunteer = actor.role === 'volunteer';
  const who = { role: actor.role, pages: actor.pages ?? [] };
  if (!piece || !hasSheet(live.show, who, piece.sheet)) return NOT_YOURS;
  const played = playedBy(live.show, piece, playingIn(live), command);
  if ('refused' in played) return played;
  return isVolunteer || actor.remote === true
    ? fromPage(live, actor, piece, command, played)
    : live.command(actor, played);
}

/** What a piece is that is an action: done once, as a cue would do it. */
export function act({ show, actions }: Playing, { piece: id }: CommandOf<'act'>): Answer {
  const piece = show.sheetpieces.get(id);
  return piece?.is.kind === 'action'
    ? actions.press(nameOf(show, piece), piece.is.action)
    : refuse('not-found', 'This piece has been deleted meanwhile, or is no action.');
}
