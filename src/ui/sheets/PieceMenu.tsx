/** What a piece is and where it comes from: at a long touch, the right mouse button or the menu key. */
'use client';
import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { formatPoint } from '@/core/fixtures/points';
import { addressesOf } from '@/core/sheets/osc';
import { nameOf, pointsAtNothing, unitsOf } from '@/core/sheets/pieces';
import type { PieceRow } from '@/core/sheets/rows';
import { plural } from '@/core/words';
import { MENU, MENU_ITEM } from '../parts/menu';
import { levelOfUnit, select, useWatch } from '../state/actions';
import { openSheet, useSheets } from '../state/sheets';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { KIND_WORDS } from './words';

/** A unit's level, and which of all that plays it has that from. */
function UnitSource({ fixtureId }: { fixtureId: string }) {
  const unit = useShow().fixtures.get(fixtureId);
  const [point] = unit?.patch ?? [];
  useWatch(point ? [point.universe] : [], { sources: true });
  const runs = useScreen((s) => s.sources.get(point?.universe ?? 0));
  if (!unit) return null;
  if (!point) return <p>off the rig</p>;
  const run = runs?.find((r) => r.from <= point.address && point.address <= r.to);
  const level = levelOfUnit(fixtureId, 'Dimmer');
  return (
    <p>
      {level === undefined ? '' : `${Math.round(level * 100)} % `}
      from {run?.text ?? 'nothing that plays'}, at {formatPoint(point)}
    </p>
  );
}

function About({ piece }: { piece: PieceRow }) {
  const show = useShow();
  const { is } = piece;
  const gone = pointsAtNothing(show, is);
  const units = unitsOf(show, piece.is, []);
  const address = addressesOf(show, piece.sheet).find((a) => a.piece.id === piece.id)?.address;
  return (
    <div className="max-w-72 px-2.5 py-1.5 text-[12px] leading-[17px] text-muted">
      <p className="text-[13px] font-semibold text-text">
        {nameOf(show, piece) || KIND_WORDS[is.kind]}
      </p>
      <p>
        {KIND_WORDS[is.kind]}
        {units.length > 1 ? ` · ${plural(units.length, 'unit')}` : ''}
      </p>
      {is.kind === 'unit' && <UnitSource fixtureId={is.fixture} />}
      {is.kind === 'command' && <p className="num">{is.text}</p>}
      {address !== undefined && <p className="num break-all">OSC {address}</p>}
      {gone && <p className="text-warning">It can do nothing: {gone}.</p>}
    </div>
  );
}

export function PieceMenu({ piece, children }: { piece: PieceRow; children: ReactNode }) {
  const show = useShow();
  const { role } = useScreen((s) => s.you);
  const units = unitsOf(show, piece.is, []);
  const arrange = (): void => {
    openSheet(piece.sheet);
    useSheets.setState({ arranging: true, chosen: [piece.id] });
  };
  return (
    <ContextMenu.Root>
      <ContextMenu.Trigger asChild>
        <div className="size-full">{children}</div>
      </ContextMenu.Trigger>
      <ContextMenu.Portal>
        <ContextMenu.Content className={MENU} aria-label="About this piece">
          <About piece={piece} />
          {mayPlay(role) && units.length > 0 && (
            <ContextMenu.Item className={MENU_ITEM} onSelect={() => select(units)}>
              Select {units.length === 1 ? 'it' : `these ${units.length}`}
            </ContextMenu.Item>
          )}
          {mayEdit(role) && (
            <ContextMenu.Item className={MENU_ITEM} onSelect={() => setTimeout(arrange)}>
              Arrange this piece
            </ContextMenu.Item>
          )}
        </ContextMenu.Content>
      </ContextMenu.Portal>
    </ContextMenu.Root>
  );
}
