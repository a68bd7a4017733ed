/** A piece that is pressed: its icon, its name, what it is just now. Keys that hold end with the finger that began them. */
'use client';
import type { ReactNode } from 'react';
import { nameOf } from '@/core/sheets/pieces';
import type { PieceRow } from '@/core/sheets/rows';
import { useHold } from '../../parts/use-hold';
import { useShow } from '../../state/store';
import type { Piece } from '../use-piece';
import { edgeOf, ICONS, NAME, SMALL, STRIPES } from './look';

/** Kinds whose light is what is told of them, and not who is selected. */
const SHINES = new Set(['list', 'cue', 'fader', 'to', 'tile', 'master']);

function Words({ piece, own, picture }: { piece: PieceRow; own: Piece; picture?: ReactNode }) {
  const show = useShow();
  const { state, gone } = own;
  const Icon = piece.icon && ICONS[piece.icon];
  const isTime = piece.is.kind === 'time';
  const name = nameOf(show, piece) || (piece.is.kind === 'tile' ? piece.is.of : piece.is.kind);
  const tone = state.on && SHINES.has(piece.is.kind) ? 'text-lime-word' : 'text-muted';
  return (
    <>
      {picture && (
        <span className="h-full w-[22cqw] max-w-16 flex-none overflow-hidden">{picture}</span>
      )}
      <span
        className={`flex min-w-0 flex-1 flex-col justify-center gap-[2cqh] px-[6cqw] py-[4cqh] ${picture ? 'items-start text-left' : 'items-center text-center'}`}
      >
        {Icon && (
          <Icon aria-hidden="true" className="size-[min(30cqh,24cqw)] flex-none text-soft" />
        )}
        <span
          className={`line-clamp-3 max-w-full font-semibold [overflow-wrap:anywhere] ${isTime ? 'num text-[clamp(12px,min(40cqh,30cqw),34px)] leading-none whitespace-nowrap' : NAME} ${gone ? 'text-dim line-through' : ''}`}
        >
          {name}
        </span>
        {(gone ?? state.says) !== '' && (
          <span className={`max-w-full truncate ${SMALL} ${gone ? 'text-warning' : tone}`}>
            {gone ?? state.says}
          </span>
        )}
      </span>
      {state.by && (
        <span className="absolute top-1 right-1 max-w-[60cqw] truncate rounded bg-ink/70 px-1 text-[11px] leading-4 text-soft">
          {state.by}
        </span>
      )}
    </>
  );
}

/** A piece that is pressed. */
export function Press({
  piece,
  own,
  picture,
  small = false,
}: {
  piece: PieceRow;
  own: Piece;
  picture?: ReactNode;
  /** A place of the plan, rather than a key. */
  small?: boolean;
}) {
  const { state, gone, may } = own;
  const disabled = !may || gone !== undefined;
  const holds = piece.is.kind === 'fader' && piece.is.as === 'flash';
  const holding = useHold(disabled, own.hold);
  const stripe = STRIPES[piece.colour ?? 'plain'];
  return (
    <button
      type="button"
      disabled={disabled}
      aria-pressed={state.on}
      data-partly={state.partly ?? false}
      {...(holds ? holding : { onClick: (e) => own.press(e.ctrlKey || e.metaKey || e.shiftKey) })}
      className={`relative flex size-full touch-manipulation items-stretch overflow-hidden ${small ? 'rounded-full' : 'rounded-lg'} text-text select-none active:brightness-125 disabled:opacity-60 ${edgeOf(state, SHINES.has(piece.is.kind))}`}
    >
      {stripe && <i aria-hidden="true" className={`absolute inset-y-0 left-0 w-1 ${stripe}`} />}
      <Words piece={piece} own={own} picture={picture} />
    </button>
  );
}
