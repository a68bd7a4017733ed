/** What a part of a hand does when it is moved: by the right of whoever is at this screen. */
import { doesOf, pressOf, showControlDoes, type Pressed } from '@/core/hands/does';
import type { Moved } from '@/core/hands/midi';
import type { HandAct, HandRow } from '@/core/hands/rows';
import type { ShowControl } from '@/core/output/show-control';
import type { PieceRow } from '@/core/sheets/rows';
import { touchedAs } from '@/core/sheets/touch';
import { live, streamCommand } from '../state/commands';
import { turnPage } from '../state/hands';
import { useScreen } from '../state/store';
import { holdPiece, levelPiece, pressPiece, typeLine } from '../sheets/use-piece';

/** Parts that were pressed last: a press is told once. */
const down: Pressed = new Map();

function playPiece(piece: PieceRow, moved: Moved, edge: boolean | undefined): void {
  const as = touchedAs(piece.is);
  if (as === 'hold') {
    if (edge !== undefined) holdPiece(piece, edge);
  } else if (as === 'level' || piece.is.kind === 'level') levelPiece(piece, moved.value);
  else if (edge === true) pressPiece(piece);
}

/** What points at nothing does nothing: its picture says so. @param now what the part does now; undefined where it may not, or does nothing */
export function play(hand: HandRow, moved: Moved, now: HandAct | undefined): void {
  const { show, playback } = useScreen.getState();
  const { act, edge } = pressOf(show, down, hand, moved, now);
  if (!act) return;
  if (act.do === 'piece') {
    const piece = show.sheetpieces.get(act.piece);
    if (piece) playPiece(piece, moved, edge);
  } else if (act.do === 'line') {
    if (edge === true) typeLine(act.text);
  } else if (act.do === 'page') {
    if (edge === true) turnPage(hand, act.by);
  } else {
    const does = doesOf(show, playback.blackout, act, moved, edge);
    if (does?.streams !== undefined) streamCommand(does.streams, does.command);
    else if (does) void live(does.command);
  }
}

/** What show control asks of this show, where a hand here takes it. */
export function playShowControl(hand: HandRow, message: ShowControl): void {
  const { show, playback } = useScreen.getState();
  if (hand.showControl === undefined) return;
  const command = showControlDoes(
    show,
    hand.showControl,
    message,
    (list) => playback.lists.find((l) => l.id === list)?.nextId,
  );
  if (command) void live(command);
}
