/** Sheets over OSC: each piece that plays has an address made of its sheet’s number and its name, and tells how it stands there. */
import { clamp } from '../numbers.ts';
import type { CommandOf } from '../live/commands.ts';
import type { PlaybackState } from '../live/messages.ts';
import type { Show } from '../show/show.ts';
import { inReadingOrder, nameOf, piecesOf } from './pieces.ts';
import type { PieceRow } from './rows.ts';
import { byItself, stateOf } from './state.ts';
import { touchedAs, type TouchedAs } from './touch.ts';

/** A name as a part of an OSC address: ASCII letters, digits and dashes (OSC 1.0, “OSC address spaces”). */
export const asPart = (name: string): string =>
  name
    .normalize('NFKD')
    .replaceAll(/\p{M}/gu, '')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-+|-+$/g, '')
    .slice(0, 40) || 'piece';

/** A piece that remote controls reach, and where. */
export interface PieceAddress {
  piece: PieceRow;
  played: TouchedAs;
  /** `/wingman/sheet/1/warm-wash`; a second of the same name on its sheet is `…/warm-wash-2`, as they are read. */
  address: string;
}

/** Addresses of all pieces of a sheet that a remote control can play, as they are read. */
export function addressesOf(show: Show, sheetId: string): PieceAddress[] {
  const sheet = show.sheets.get(sheetId);
  if (!sheet) return [];
  const used = new Map<string, number>();
  return inReadingOrder(piecesOf(show, sheetId)).flatMap((piece): PieceAddress[] => {
    const played = touchedAs(piece.is);
    if (!played) return [];
    const part = asPart(nameOf(show, piece));
    const nth = (used.get(part) ?? 0) + 1;
    used.set(part, nth);
    return [
      {
        piece,
        played,
        address: `/wingman/sheet/${sheet.number}/${part}${nth > 1 ? `-${nth}` : ''}`,
      },
    ];
  });
}

const SHEET = /^\/wingman\/sheet\/(\d+)\/[a-z0-9-]+$/;

/**
 * A message to a piece: level 0…1, or pressed (nothing said, or above 0); a second number is a time in seconds.
 * @returns undefined for what is no piece, or not understood; null for the lifting of a key, which says nothing
 */
export function oscTouch(
  show: Show,
  address: string,
  args: readonly (number | string)[],
): CommandOf<'touch'> | null | undefined {
  const number = SHEET.exec(address)?.[1];
  if (number === undefined) return undefined;
  const sheet = [...show.sheets.values()].find((s) => String(s.number) === number);
  const at = sheet && addressesOf(show, sheet.id).find((a) => a.address === address);
  if (!at) return undefined;
  const [value = 1, time] = args;
  if (typeof value !== 'number' || !Number.isFinite(value)) return undefined;
  const touch = { command: 'touch' as const, piece: at.piece.id };
  const timed = typeof time === 'number' && time >= 0 && time <= 3600 ? { time } : {};
  if (at.played === 'level')
    return args.length === 0 ? undefined : { ...touch, level: clamp(value), ...timed };
  if (at.played === 'hold') return { ...touch, on: value > 0 };
  return value > 0 ? { ...touch, ...timed } : null;
}

/** How every piece stands that a remote control can play: its level, or 1 while it is on and 0 while it is not. */
export function pieceStates(show: Show, playback: PlaybackState): Map<string, number[]> {
  const told = new Map<string, number[]>();
  const now = byItself(playback);
  for (const sheet of show.sheets.values())
    for (const { piece, played, address } of addressesOf(show, sheet.id)) {
      const { is } = piece;
      if (played !== 'level') told.set(address, [Number(stateOf(show, is, now, null).on)]);
      else if (is.kind === 'fader')
        told.set(address, [playback.faders.find((f) => f.id === is.fader)?.level ?? 0]);
      else told.set(address, [playback.master]);
    }
  return told;
}
