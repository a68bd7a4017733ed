/** What a part of a hand does when it is moved: by the right of whoever is at this screen. */
import type { HandAct, HandRow } from '@/core/hands/rows';
import type { Moved } from '@/core/hands/midi';
import type { PieceRow } from '@/core/sheets/rows';
import { live, streamCommand } from '../state/actions';
import { turnPage } from '../state/hands';
import { useScreen } from '../state/store';
import { holdPiece, levelPiece, pressPiece, typeLine } from '../sheets/use-piece';

/** What is slid is pressed from here on. */
const PRESSED = 0.5;

/** Parts that were pressed last, by hand and control: a press is told once. */
const down = new Set<string>();

/** Whether a part has just been pressed or lifted; undefined where it stays as it was. */
function edgeOf(hand: HandRow, moved: Moved): boolean | undefined {
  const key = `${hand.id}/${moved.control}`;
  // A program has no lifting: each one is a press.
  if (moved.control.startsWith('program')) return true;
  const is = moved.isKey ? moved.on : moved.value >= PRESSED;
  if (is === down.has(key)) return undefined;
  if (is) down.add(key);
  else down.delete(key);
  return is;
}

const LEVELS = new Set(['level', 'fader', 'master']);

function playPiece(piece: PieceRow, moved: Moved, edge: boolean | undefined): void {
  const { is } = piece;
  const isKey = is.kind === 'fader' && is.as === 'flash';
  const isSwitch = is.kind === 'master' && is.as === 'blackout';
  if (isKey) {
    if (edge !== undefined) holdPiece(piece, edge);
  } else if (LEVELS.has(is.kind) && !isSwitch) levelPiece(piece, moved.value);
  else if (edge === true) pressPiece(piece);
}

/** @returns nothing is done by what points at nothing: its picture says so */
export function play(hand: HandRow, moved: Moved, act: HandAct): void {
  const { show, playback } = useScreen.getState();
  const edge = edgeOf(hand, moved);
  switch (act.do) {
    case 'piece': {
      const piece = show.sheetpieces.get(act.piece);
      if (piece) playPiece(piece, moved, edge);
      return;
    }
    case 'fader': {
      const fader = show.faders.get(act.fader)?.number;
      // A hand that is away from what the fader gives waits, as any other.
      const take = moved.isKey ? { take: true } : {};
      if (fader !== undefined && (!moved.isKey || moved.on))
        streamCommand(`hand/${act.fader}`, {
          command: 'fader',
          fader,
          level: moved.value,
          ...take,
        });
      return;
    }
    case 'flash': {
      const fader = show.faders.get(act.fader)?.number;
      if (fader !== undefined && edge !== undefined)
        void live({ command: 'flash', fader, on: edge });
      return;
    }
    case 'list': {
      const of = act.list === undefined ? {} : { list: act.list };
      if (edge === true) void live({ command: act.what, ...of });
      return;
    }
    case 'master':
      streamCommand('hand/master', { command: 'master', level: moved.value });
      return;
    case 'blackout':
      if (edge === true) void live({ command: 'blackout', on: !playback.blackout });
      return;
    case 'line':
      if (edge === true) typeLine(act.text);
      return;
    case 'page':
      if (edge === true) turnPage(hand, act.by);
  }
}
