/** A unit on a sheet: its number and name, its level and its colour as they are on stage, ten times a second. */
'use client';
import { useMemo } from 'react';
import type { PieceRow } from '@/core/sheets/rows';
import { lampsOf, shineOf, type Lamp } from '../../plan/light';
import { useLevelTick } from '../../state/levels';
import { shownLevels } from '../../state/shown';
import { useScreen, useShow } from '../../state/store';
import { initials } from '../../parts/initials';
import type { Piece } from '../use-piece';
import { NAME, SMALL } from './look';

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

export function Unit({ piece, own }: { piece: PieceRow; own: Piece }) {
  const show = useShow();
  useLevelTick();
  const id = piece.is.kind === 'unit' ? piece.is.fixture : '';
  const unit = show.fixtures.get(id);
  const lamp = useLamp(id);
  const others = useScreen((s) => s.others).filter((o) => o.selection.includes(id));
  const faces = lamp ? shineOf(lamp, shownLevels()) : [];
  const level = faces.reduce((sum, f) => sum + f.level, 0) / Math.max(1, faces.length);
  const [r = 0, g = 0, b = 0] = [0, 1, 2].map((k) =>
    faces.reduce((sum, f) => sum + (f.rgb[k] ?? 0) / Math.max(1, faces.length), 0),
  );
  const percent = Math.round(level * 100);
  return (
    <button
      type="button"
      disabled={!own.may || own.gone !== undefined}
      aria-pressed={own.state.on}
      aria-label={`${unit?.number ?? '?'} ${unit?.label ?? ''}, ${percent} %`}
      onClick={(e) => own.press(e.ctrlKey || e.metaKey || e.shiftKey)}
      className={`relative flex size-full touch-manipulation flex-col items-center justify-center overflow-hidden rounded-lg bg-well select-none ${own.state.on ? 'inset-ring-2 inset-ring-standby' : 'inset-ring inset-ring-line'}`}
    >
      <i
        aria-hidden="true"
        className="absolute inset-0"
        style={{
          background: `radial-gradient(70% 70% at 50% 45%, rgb(${r} ${g} ${b} / ${0.12 + level * 0.75}), transparent)`,
          opacity: level > 0.004 ? 1 : 0,
        }}
      />
      <span className={`num relative rounded bg-stage/70 px-1 font-semibold text-light ${NAME}`}>
        {unit?.number ?? '?'}
      </span>
      <span className={`num relative mt-0.5 rounded bg-stage/70 px-1 text-light ${SMALL}`}>
        {own.gone === undefined ? percent : 'deleted'}
      </span>
      {others[0] && (
        <span className="absolute top-0.5 right-0.5 rounded bg-ink/80 px-1 text-[11px] leading-4 text-soft">
          {initials(others[0].name)}
        </span>
      )}
    </button>
  );
}
