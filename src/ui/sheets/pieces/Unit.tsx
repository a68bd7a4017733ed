/** A unit on a sheet: its number and name, its level and its colour as they are on stage, ten times a second. */
'use client';
import { useEffect, useMemo, useRef } from 'react';
import { nameOf } from '@/core/sheets/pieces';
import type { PieceRow } from '@/core/sheets/rows';
import { lampsOf, type Lamp } from '../../plan/light';
import { onLevels } from '../../state/levels';
import { shownLevels } from '../../state/shown';
import { useScreen, useShow, type ScreenState } from '../../state/store';
import { initials } from '../../parts/initials';
import type { Piece } from '../use-piece';
import { NAME, SMALL } from './look';
import { shownOf, type Shown } from './shown';

let made: { of: string; lamps: ReadonlyMap<string, Lamp> } | null = null;

/** The lamps of the rig by their units, made once for all pieces that show one. */
function useLamp(fixtureId: string): Lamp | undefined {
  const show = useShow();
  const index = useScreen((s) => s.index);
  const version = useScreen((s) => s.version);
  const of = `${show.version('fixtures')}/${show.version('types')}/${version}/${index.size}`;
  return useMemo(() => {
    if (made?.of !== of)
      made = { of, lamps: new Map(lampsOf(show, index).map((l) => [l.fixture.id, l])) };
    return made.lamps.get(fixtureId);
  }, [show, index, of, fixtureId]);
}

/** Writes level and light into the page ten times a second, past React: hundreds of units are one small loop. */
function useShine(lamp: Lamp | undefined, cell: number | undefined) {
  const glow = useRef<HTMLElement>(null);
  const number = useRef<HTMLSpanElement>(null);
  const turn = useRef<HTMLSpanElement>(null);
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    let last: Shown = { percent: -1, light: '', turn: '' };
    const paint = (): void => {
      const now = shownOf(lamp, cell, shownLevels());
      if (now.light !== last.light && glow.current) glow.current.style.background = now.light;
      if (now.percent !== last.percent) {
        if (number.current) number.current.textContent = String(now.percent);
        const name = button.current?.dataset.name ?? '';
        button.current?.setAttribute('aria-label', `${name}, ${now.percent} %`);
      }
      if (now.turn !== last.turn && turn.current) turn.current.textContent = now.turn;
      last = now;
    };
    paint();
    return onLevels(paint);
  }, [lamp, cell]);
  return { glow, number, turn, button };
}

/** From here on a piece has room for what its unit is called and where it looks. */
const LARGE_STEPS = 6;

/** The effect that whoever looks holds on a unit, by its name. */
function effectOn({ values, show }: ScreenState, fixtureId: string): string | undefined {
  for (const v of values.values())
    if (v.fixtureId === fixtureId && v.effect) return show.effects.get(v.effect.id)?.name;
  return undefined;
}

/** A unit as it shines. */
export function Unit({ piece, own }: { piece: PieceRow; own: Piece }) {
  const show = useShow();
  const { fixture: id, cell } =
    piece.is.kind === 'unit' ? piece.is : { fixture: '', cell: undefined };
  const unit = show.fixtures.get(id);
  const lamp = useLamp(id);
  const other = useScreen((s) => s.others.find((o) => o.selection.includes(id))?.name);
  const { glow, number, turn, button } = useShine(lamp, cell);
  const effect = useScreen((s) => effectOn(s, id));
  const isLarge = piece.h >= LARGE_STEPS;
  const name = nameOf(show, piece) || '?';
  const shownNumber = `${unit?.number ?? '?'}${cell === undefined ? '' : `·${cell}`}`;
  return (
    <button
      ref={button}
      type="button"
      disabled={!own.may || own.gone !== undefined}
      aria-pressed={own.state.on}
      data-name={name}
      aria-label={name}
      onClick={(e) => own.press(e.ctrlKey || e.metaKey || e.shiftKey)}
      className={`relative flex size-full touch-manipulation flex-col items-center justify-center overflow-hidden rounded-lg bg-well select-none ${own.state.on ? 'inset-ring-2 inset-ring-standby' : 'inset-ring inset-ring-line'}`}
    >
      <i ref={glow} aria-hidden="true" className="absolute inset-0" />
      <span className={`num relative rounded bg-stage/70 px-1 font-semibold text-light ${NAME}`}>
        {shownNumber}
      </span>
      <span className={`num relative mt-0.5 rounded bg-stage/70 px-1 text-light ${SMALL}`}>
        {own.gone === undefined ? <span ref={number} /> : 'deleted'}
      </span>
      {isLarge && (
        <span
          className={`relative mt-0.5 max-w-full truncate rounded bg-stage/70 px-1 text-soft ${SMALL}`}
        >
          {unit?.label}
        </span>
      )}
      {isLarge && lamp?.pan && lamp.tilt && (
        <span
          ref={turn}
          className={`num relative mt-0.5 rounded bg-stage/70 px-1 text-soft empty:hidden ${SMALL}`}
        />
      )}
      {effect !== undefined && (
        <span className="absolute bottom-0.5 left-0.5 max-w-full truncate rounded bg-ink/80 px-1 text-[11px] leading-4 text-soft">
          ~ {effect}
        </span>
      )}
      {other !== undefined && (
        <span className="absolute top-0.5 right-0.5 rounded bg-ink/80 px-1 text-[11px] leading-4 text-soft">
          {initials(other)}
        </span>
      )}
    </button>
  );
}
