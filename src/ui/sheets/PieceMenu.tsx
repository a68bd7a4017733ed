/** What a piece is and where it comes from: at a long touch, the right mouse button or the menu key. */
'use client';
import { ContextMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { formatPoint } from '@/core/fixtures/points';
import { addressesOf } from '@/core/sheets/osc';
import { nameOf, pointsAtNothing, pointsTo, unitsOf } from '@/core/sheets/pieces';
import type { PieceIs, PieceRow } from '@/core/sheets/rows';
import type { Show } from '@/core/show/show';
import { capital, plural } from '@/core/words';
import { MENU, MENU_ITEM } from '../parts/menu';
import { select } from '../state/commands';
import { useWatch } from '../state/link';
import { levelOfUnit } from '../state/recording';
import { openSheet, useSheets } from '../state/sheets';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { usePiece } from './use-piece';
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

/** Who has it chosen, holds it for focus or has it guarded. */
function UnitHolders({ fixtureId }: { fixtureId: string }) {
  const { over, others } = useParts(useScreen, 'over', 'others');
  const focus = over.focus.find((f) => f.fixtureId === fixtureId);
  const guard = over.guarded.find((g) => g.fixtureId === fixtureId);
  const chosen = others.filter((o) => o.selection.includes(fixtureId)).map((o) => o.name);
  const said = [
    focus && `held for focus by ${focus.by}`,
    guard && `guarded by ${guard.by}`,
    chosen.length > 0 && `chosen by ${chosen.join(', ')}`,
  ].filter((w) => typeof w === 'string');
  return said.length > 0 ? <p>{said.join(' · ')}</p> : null;
}

/** Runs and fields say whom they set behind what they are. */
function sayWhat(show: Show, is: PieceIs): string {
  const at = pointsTo(show, is);
  if (at === undefined) return KIND_WORDS[is.kind];
  return at.startsWith('of ') ? `${KIND_WORDS[is.kind]}, ${at}` : capital(at);
}

/** A unit of the plan that the hand is on. */
function OnPlan({ fixtureId }: { fixtureId: string }) {
  const show = useShow();
  const unit = show.fixtures.get(fixtureId);
  if (!unit) return null;
  return (
    <>
      <p className="text-[13px] font-semibold text-text">
        {unit.number} {unit.label}
      </p>
      <p>{show.types.get(unit.typeId)?.name}</p>
      <UnitSource fixtureId={fixtureId} />
      <UnitHolders fixtureId={fixtureId} />
    </>
  );
}

function About({ piece }: { piece: PieceRow }) {
  const show = useShow();
  const { is } = piece;
  const { state } = usePiece(piece);
  const under = useSheets((s) => s.under);
  const gone = pointsAtNothing(show, is);
  const units = unitsOf(show, piece.is, []);
  const now = [state.says, state.by && `by ${state.by}`].filter(Boolean).join(', ');
  const address = addressesOf(show, piece.sheet).find((a) => a.piece.id === piece.id)?.address;
  return (
    <div className="max-w-72 px-2.5 py-1.5 text-[12px] leading-[17px] text-muted">
      {is.kind === 'plan' && under !== null && <OnPlan fixtureId={under} />}
      <p className="text-[13px] font-semibold text-text">
        {nameOf(show, piece) || KIND_WORDS[is.kind]}
      </p>
      <p>
        {sayWhat(show, is)}
        {units.length > 1 ? ` · ${plural(units.length, 'unit')}` : ''}
      </p>
      {now !== '' && <p>{capital(now)}</p>}
      {is.kind === 'unit' && (
        <>
          <UnitSource fixtureId={is.fixture} />
          <UnitHolders fixtureId={is.fixture} />
        </>
      )}
      {is.kind === 'command' && <p className="num">{is.text}</p>}
      {address !== undefined && <p className="num break-all">OSC {address}</p>}
      {gone && <p className="text-warning">It can do nothing: {gone}.</p>}
    </div>
  );
}

/** What can be done with a piece while it plays. */
export function PieceMenu({ piece, children }: { piece: PieceRow; children: ReactNode }) {
  const show = useShow();
  const { role } = useScreen((s) => s.you);
  const under = useSheets((s) => s.under);
  const units = piece.is.kind === 'plan' && under !== null ? [under] : unitsOf(show, piece.is, []);
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
