/** A sheet in use: its pieces where they lie, as large as there is room for; on a narrow screen one under another. */
'use client';
import { useMemo, useRef } from 'react';
import { inReadingOrder, nameOf, piecesOf } from '@/core/sheets/pieces';
import type { PieceRow, SheetRow } from '@/core/sheets/rows';
import { useBox } from '../parts/use-box';
import { useHands } from '../state/hands';
import { useShow } from '../state/store';
import { PieceMenu } from './PieceMenu';
import { PieceView } from './pieces/PieceView';

/** A screen that is narrower than this share of the sheet's own shape has its pieces one under another. */
const NARROW = 0.62;
const STACK_COLUMNS = 2;
/** A fader needs this to be led by a finger, a plan this to be seen. */
const TALL_PX: Partial<Record<PieceRow['is']['kind'], number>> = {
  plan: 320,
  script: 160,
  field: 160,
  pad: 220,
  now: 96,
};
const BUTTON_PX = 92;
const UPRIGHT_PX = 260;

/** The pieces of a sheet, the same list while none of them changes. */
export function usePieces(sheetId: string): PieceRow[] {
  const show = useShow();
  const version = show.version('sheetpieces');
  return useMemo(() => {
    void version;
    return piecesOf(show, sheetId);
  }, [show, version, sheetId]);
}

/** Pixels that a step of the sheet takes where it fits as a whole. */
export const stepOf = (
  sheet: Pick<SheetRow, 'columns' | 'rows'>,
  size: { width: number; height: number },
): number => Math.max(4, Math.min(size.width / sheet.columns, size.height / sheet.rows));

/** Where a piece lies, as a style. */
export const placed = (
  { x, y, w, h, z }: Pick<PieceRow, 'x' | 'y' | 'w' | 'h' | 'z'>,
  step: number,
): React.CSSProperties => ({
  left: x * step,
  top: y * step,
  width: w * step,
  height: h * step,
  zIndex: z,
});

/** Drawn between the others, and nothing for a hand or a phone. */
const isDrawn = ({ is }: PieceRow): boolean => is.kind === 'frame' || is.kind === 'line';

const isUpright = ({ is }: PieceRow): boolean =>
  (is.kind === 'fader' || is.kind === 'master') && is.as === 'upright';
/** What needs the whole width of a phone. */
const isWide = ({ is }: PieceRow): boolean =>
  ['plan', 'script', 'now', 'level', 'colours', 'field', 'pad', 'words', 'notes'].includes(is.kind);

/** What is pressed first, then what is led: a fader is as tall as three keys. */
function stacked(pieces: readonly PieceRow[]): PieceRow[] {
  const shown = pieces.filter((p) => !isDrawn(p));
  return [...shown.filter((p) => !isUpright(p)), ...shown.filter(isUpright)];
}

function Stack({ pieces }: { pieces: readonly PieceRow[] }) {
  const show = useShow();
  return (
    <div
      className="grid content-start gap-3 p-1"
      style={{ gridTemplateColumns: `repeat(${STACK_COLUMNS}, minmax(0, 1fr))` }}
    >
      {stacked(pieces).map((piece) => (
        <div
          key={piece.id}
          data-piece={piece.id}
          data-piece-name={nameOf(show, piece)}
          className="[container-type:size]"
          style={{
            height: isUpright(piece) ? UPRIGHT_PX : (TALL_PX[piece.is.kind] ?? BUTTON_PX),
            gridColumn: isWide(piece) ? '1 / -1' : undefined,
          }}
        >
          <PieceMenu piece={piece}>
            <PieceView piece={piece} />
          </PieceMenu>
        </div>
      ))}
    </div>
  );
}

function Laid({ pieces, step }: { pieces: readonly PieceRow[]; step: number }) {
  const show = useShow();
  return pieces.map((piece) => (
    <div
      key={piece.id}
      data-piece={piece.id}
      data-piece-name={nameOf(show, piece)}
      data-kind={piece.is.kind}
      role="group"
      aria-label={nameOf(show, piece) || piece.is.kind}
      className={`[container-type:size] absolute ${isDrawn(piece) ? 'pointer-events-none' : ''}`}
      style={placed(piece, step)}
    >
      <PieceMenu piece={piece}>
        <PieceView piece={piece} />
      </PieceMenu>
    </div>
  ));
}

/** While a hand learns, a touch of a piece says what the hand shall do, and plays nothing. */
function useTeaching() {
  const learning = useHands((s) => s.learning);
  if (!learning) return {};
  const teach = (e: React.SyntheticEvent): void => {
    e.preventDefault();
    e.stopPropagation();
    const piece = (e.target as HTMLElement).closest<HTMLElement>('[data-piece]')?.dataset.piece;
    if (e.type === 'pointerdown' && piece !== undefined)
      useHands.setState({ learning: { ...learning, act: { do: 'piece', piece } } });
  };
  return { onPointerDownCapture: teach, onClickCapture: teach };
}

/** Nothing on it can be moved: it is locked. */
export function Surface({ sheet }: { sheet: SheetRow }) {
  const box = useRef<HTMLDivElement>(null);
  const size = useBox(box);
  const pieces = usePieces(sheet.id);
  const teaching = useTeaching();
  // Keys go through the pieces as they are read; what lies in front is said by their places.
  const read = useMemo(() => inReadingOrder(pieces), [pieces]);
  const step = stepOf(sheet, size);
  const isNarrow = size.width / Math.max(1, size.height) < NARROW * (sheet.columns / sheet.rows);
  return (
    <div
      ref={box}
      data-testid="sheet"
      data-step={step}
      className="size-full overflow-auto"
      {...teaching}
    >
      {pieces.length === 0 && (
        <p className="mx-auto mt-24 max-w-sm text-center text-muted">
          Nothing lies on this sheet yet. Press Arrange, and drag pieces onto it.
        </p>
      )}
      {size.width > 0 &&
        (isNarrow ? (
          <Stack pieces={read} />
        ) : (
          <div
            className="relative mx-auto"
            style={{ width: sheet.columns * step, height: sheet.rows * step }}
          >
            <Laid pieces={read} step={step} />
          </div>
        ))}
    </div>
  );
}
