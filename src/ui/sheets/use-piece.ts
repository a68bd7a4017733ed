/** What a piece is at this moment, and what a press of it does. */
'use client';
import { membersOf } from '@/core/groups/members';
import { pointedAt, pointsAtNothing, unitsOf } from '@/core/sheets/pieces';
import { stateOf, type PieceState } from '@/core/sheets/state';
import type { PieceIs, PieceRow } from '@/core/sheets/rows';
import type { Show } from '@/core/show/show';
import { useShallow } from 'zustand/react/shallow';
import { perform, read } from '../state/command-line';
import { live, said, select, streamCommand, toggleSelected } from '../state/commands';
import { notice } from '../state/messages';
import { askArea, openSheet, useSheets } from '../state/sheets';
import { mayPlay, useScreen, useShow } from '../state/store';

/** Kinds that play by themselves: what they do is the player's, whoever presses. */
const PLAYS: ReadonlySet<PieceIs['kind']> = new Set([
  'list',
  'cue',
  'fader',
  'to',
  'master',
  'action',
  'release-all',
]);

/** The time that was chosen on the sheet, under the name that a command has for it. */
export const timed = <K extends string>(key: K): Partial<Record<K, number>> => {
  const { time_s } = useSheets.getState();
  return time_s === null ? {} : ({ [key]: time_s } as Partial<Record<K, number>>);
};

/** Given to what is selected; a look to all its units. */
function give(is: Extract<PieceIs, { kind: 'tile' }>, on: boolean): void {
  const fade = timed('fade_s');
  if (is.of === 'palette') void said({ command: 'palette', palette: is.id, ...fade });
  else if (is.of === 'look') void said({ command: 'look', look: is.id, ...fade });
  else void said({ command: 'effect', effect: is.id, on: !on, ...fade });
}

/** A line of the command line from elsewhere than the command line; what is wrong with it is said. */
export function typeLine(text: string): void {
  const line = read(text);
  if (line.ok) void perform(line.intent);
  else notice.error(`“${text}”: ${line.message}`, { id: 'piece-command' });
}

function choose(ids: readonly string[], add: boolean): void {
  const { selection } = useScreen.getState();
  if (!add) {
    const isAll = ids.length === selection.length && ids.every((id) => selection.includes(id));
    select(isAll ? [] : ids);
  } else if (ids.length === 1 && ids[0] !== undefined) toggleSelected(ids[0]);
  else select([...new Set([...selection, ...ids])]);
}

/** A press of a piece. @param add to the selection, instead of being it */
function press(show: Show, piece: PieceRow, state: PieceState, add: boolean): void {
  const { is } = piece;
  switch (is.kind) {
    case 'tile':
      if (is.press === 'play') void said({ command: 'touch', piece: piece.id, ...timed('time') });
      else give(is, state.on);
      return;
    case 'unit':
      choose([is.fixture], add);
      return;
    case 'group': {
      const group = show.groups.get(is.group);
      if (group) choose(membersOf(show, group), add);
      return;
    }
    case 'area': {
      const area = show.areas.get(is.area);
      if (area) askArea(area);
      return;
    }
    case 'time': {
      const { time_s } = useSheets.getState();
      useSheets.setState({ time_s: time_s === is.time_s ? null : is.time_s });
      return;
    }
    case 'command':
      typeLine(is.text);
      return;
    case 'sheet':
      openSheet(is.sheet);
      return;
    default:
      if (PLAYS.has(is.kind)) void said({ command: 'touch', piece: piece.id, ...timed('time') });
  }
}

/** How a piece stands. */
export interface Piece {
  state: PieceState;
  /** Why it can do nothing. */
  gone: string | undefined;
  may: boolean;
  press: (add?: boolean) => void;
  /** A key that holds. */
  hold: (on: boolean) => void;
  /** A fader's or a master's level. */
  setLevel: (level: number) => void;
}

/** What plays may be played by whoever is here by a page while remotes are on; the rest is a programmer's. */
function useMay(is: PieceIs): boolean {
  const { role } = useScreen((s) => s.you);
  const isLive = useScreen((s) => s.connection === 'live');
  const remotes = useScreen((s) => s.playback.remotes);
  const isPlayed = PLAYS.has(is.kind) || (is.kind === 'tile' && is.press === 'play');
  if (is.kind === 'sheet' || is.kind === 'time') return true;
  if (role === 'volunteer') return isLive && isPlayed && remotes;
  return isLive && mayPlay(role);
}

/** That of one piece, from what plays. */
export function usePiece(piece: PieceRow): Piece {
  const show = useShow();
  const { is } = piece;
  const role = useScreen((s) => s.you.role);
  const time_s = useSheets((s) => s.time_s);
  // Of five hundred pieces those are drawn anew whose state has changed.
  const state = useScreen(useShallow((s) => stateOf(show, is, s, time_s)));
  const may = useMay(is);
  // What a volunteer does not see may well be there.
  const isHidden =
    role === 'volunteer' && ['fixtures', 'sheets'].includes(pointedAt(is)?.table ?? '');
  return {
    state,
    gone: isHidden ? undefined : pointsAtNothing(show, is),
    may,
    press: (add = false) => press(show, piece, state, add),
    hold: (on) => holdPiece(piece, on),
    setLevel: (level) => levelPiece(piece, level),
  };
}

/** What a piece is now, for who does not draw it. */
function stateNow(piece: PieceRow): PieceState {
  const { show, playback, selection, values, you } = useScreen.getState();
  const { time_s } = useSheets.getState();
  return stateOf(show, piece.is, { playback, selection, values, you }, time_s);
}

/** A press of a piece by another hand than a pointer's. */
export const pressPiece = (piece: PieceRow): void =>
  press(useScreen.getState().show, piece, stateNow(piece), false);

/** A piece that is held goes down, or up. */
export const holdPiece = (piece: PieceRow, on: boolean): void =>
  void live({ command: 'touch', piece: piece.id, on });

/** A level for a piece that has one: a fader, a master, the level of a group or of what is selected. */
export function levelPiece(piece: PieceRow, level: number): void {
  const { is } = piece;
  if (is.kind !== 'level') {
    streamCommand(`touch/${piece.id}`, { command: 'touch', piece: piece.id, level });
    return;
  }
  const { show, selection } = useScreen.getState();
  const ids = unitsOf(show, is, selection);
  const fixtures = ids.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  if (fixtures.length > 0)
    streamCommand(`run/${piece.id}`, {
      command: 'set',
      fixtures,
      attribute: 'Dimmer',
      level,
      ...timed('fade_s'),
    });
}
