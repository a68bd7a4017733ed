/** Makes cue sheets off the screen's thread. Keeps a copy of the show of its own. */
import { columnsOf, sheetOf, type Column, type Sheet } from '@/core/cues/sheet';
import { unpackShow, type PackedShow } from '@/core/formats/pack';
import type { Family } from '@/core/show/fields';
import type { MutableShow, RowChange } from '@/core/show/show';

/** What the worker that makes the sheet’s numbers is told. */
export type ToSheetWorker =
  | { do: 'open'; packed: PackedShow }
  | { do: 'change'; rows: RowChange[] }
  | { do: 'make'; id: number; listId: string; family: Family; unfolded: string[] };
/** What it made. */
export interface FromSheetWorker {
  id: number;
  columns: Column[];
  cueIds: string[];
  sheet: Sheet;
}

const scope = self as unknown as {
  onmessage: (event: MessageEvent<ToSheetWorker>) => void;
  postMessage: (message: FromSheetWorker, transfer: Transferable[]) => void;
};
let show: MutableShow | null = null;

scope.onmessage = ({ data }) => {
  if (data.do === 'open') show = unpackShow(data.packed);
  else if (data.do === 'change') show?.apply(data.rows);
  else if (show) {
    const cues = show.cuesOf(data.listId);
    const columns = columnsOf(show, data.family, new Set(data.unfolded));
    const sheet = sheetOf(show, cues, columns, data.family);
    const buffers = [
      sheet.flags,
      sheet.origin,
      sheet.level,
      sheet.label,
      sheet.swatch,
      sheet.complete,
    ].map((a) => a.buffer as ArrayBuffer);
    scope.postMessage({ id: data.id, columns, cueIds: cues.map((c) => c.id), sheet }, buffers);
  }
};
