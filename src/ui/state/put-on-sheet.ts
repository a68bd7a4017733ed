/** What stands on the stage is put on a sheet from where it stands, in the first free place. */
import { create } from 'zustand';
import { freePlace, type Box } from '@/core/sheets/arrange';
import { piecesOf } from '@/core/sheets/pieces';
import type { PieceIs, SheetRow } from '@/core/sheets/rows';
import { sizeOfPiece } from '@/core/sheets/size';
import { edit } from './edits';
import { useScreen } from './store';

/** What the line of a menu is called. */
export const PUT_ON_SHEET = 'Put on a sheet …';

interface Putting {
  /** How it is called, and what it becomes. */
  name: string;
  pieces: readonly PieceIs[];
}
/** What is about to be put on a sheet, while it is asked on which. */
export const usePutting = create<{ putting: Putting | null }>(() => ({ putting: null }));

/** Asks for the sheet that these pieces go on. */
export const putOnSheet = (name: string, ...pieces: readonly PieceIs[]): void =>
  usePutting.setState({ putting: { name, pieces } });

/** @returns whether they are on it now */
export async function putPieces(sheet: SheetRow, pieces: readonly PieceIs[]): Promise<boolean> {
  const { show } = useScreen.getState();
  const lying = piecesOf(show, sheet.id);
  const taken: Box[] = [...lying];
  const front = Math.max(-1, ...lying.map((p) => p.z)) + 1;
  const placed = pieces.map((is, i) => {
    const size = sizeOfPiece(is);
    const box = { ...size, ...freePlace(taken, size, sheet) };
    taken.push(box);
    return { ...box, z: front + i, is };
  });
  return 'changes' in (await edit('put-pieces', { sheet: sheet.id, pieces: placed }));
}
