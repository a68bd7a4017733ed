/** Hands in words: what a control is, and what it does. */
import { nameOf } from '../sheets/pieces.ts';
import type { PieceRow } from '../sheets/rows.ts';
import { firstList, type Show } from '../show/show.ts';
import type { ControlId, HandAct } from './rows.ts';

/** `note 60`, `control 7`, `Shift Q`; with its channel where that is not the first. */
export function sayControl(control: ControlId): string {
  const [kind, a = '', b = ''] = control.split('.');
  if (kind === 'slot') return `address ${a}`;
  if (kind === 'pad') return `${a === 'key' ? 'button' : 'stick'} ${Number(b) + 1}`;
  if (kind === 'key') return a.replaceAll('+', ' ').replace(/\b(?:Key|Digit)(?=[A-Z0-9]$)/, '');
  const word = { note: 'note', cc: 'control', program: 'program', bend: 'bend' }[kind ?? ''] ?? '?';
  const channel = a === '1' ? '' : `, channel ${a}`;
  return `${word}${b === '' ? '' : ` ${b}`}${channel}`;
}

const LIST_WORDS = { go: 'GO', back: 'Back', pause: 'Pause', release: 'Release' } as const;

/** On a sheet a key stands under its fader; elsewhere it has to say whose it is. */
function namePiece(show: Show, piece: PieceRow): string {
  const name = nameOf(show, piece) || piece.is.kind;
  const { is } = piece;
  const fader = is.kind === 'fader' && is.as === 'flash' && show.faders.get(is.fader)?.name;
  return fader && !name.includes(fader) ? `${name} ${fader}` : name;
}

/** What an act does; undefined where what it points at has been deleted. */
export function sayAct(show: Show, act: HandAct): string | undefined {
  switch (act.do) {
    case 'piece': {
      const piece = show.sheetpieces.get(act.piece);
      return piece && namePiece(show, piece);
    }
    case 'fader':
      return show.faders.get(act.fader)?.name;
    case 'flash': {
      const fader = show.faders.get(act.fader);
      return fader && `flash ${fader.name}`;
    }
    case 'list': {
      const list = act.list === undefined ? firstList(show) : show.lists.get(act.list);
      const of = act.list === undefined ? '' : ` ${list?.name ?? ''}`;
      return list && `${LIST_WORDS[act.what]}${of}`;
    }
    case 'master':
      return 'Grand master';
    case 'blackout':
      return 'Blackout';
    case 'line':
      return act.text;
    case 'page':
      return act.by === 1 ? 'next page' : 'page before';
  }
}
