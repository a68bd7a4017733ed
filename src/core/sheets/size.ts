/** How large a piece is when it is put on a sheet, in steps of its grid: what is pressed is as large as a thumb. */
import type { PieceIs, PieceRow } from './rows.ts';

type Size = Pick<PieceRow, 'w' | 'h'>;

const BUTTON: Size = { w: 7, h: 4 };
const SIZES: Partial<Record<PieceIs['kind'], Size>> = {
  plan: { w: 24, h: 20 },
  unit: { w: 4, h: 4 },
  fader: { w: 5, h: 15 },
  master: { w: 5, h: 15 },
  level: { w: 14, h: 4 },
  colours: { w: 14, h: 4 },
  field: { w: 14, h: 10 },
  pad: { w: 12, h: 10 },
  time: { w: 4, h: 4 },
  clock: { w: 10, h: 4 },
  now: { w: 16, h: 6 },
  script: { w: 14, h: 10 },
  notes: { w: 14, h: 8 },
  words: { w: 12, h: 2 },
  frame: { w: 16, h: 10 },
  line: { w: 16, h: 1 },
  picture: { w: 10, h: 8 },
};

/** How large a piece of this kind is made, in steps of the sheet. */
export const sizeOfPiece = (is: PieceIs): Size =>
  is.kind === 'fader' && is.as === 'flash' ? BUTTON : (SIZES[is.kind] ?? BUTTON);
