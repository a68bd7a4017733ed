/** Making, arranging and deleting sheets and their pieces. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import type { RowChange, Show } from '../show/show.ts';
import { plural } from '../words.ts';
import { nameOf, piecesOf, pointsAtNothing } from './pieces.ts';
import { MOST_PIECES, PutPiece, SheetRow, type PieceIs, type PieceRow } from './rows.ts';

const Sheet = SheetRow.omit({ id: true, number: true });

/** The sheets that a sheet shows, and those that they show. */
function shows(show: Show, sheet: string, seen = new Set<string>()): Set<string> {
  for (const { is } of piecesOf(show, sheet)) {
    if (is.kind !== 'sheet' || seen.has(is.sheet)) continue;
    seen.add(is.sheet);
    shows(show, is.sheet, seen);
  }
  return seen;
}

/** Why a piece cannot be put on a sheet, if it cannot. */
function wrongPiece(show: Show, sheet: SheetRow, is: PieceIs): Refusal | undefined {
  const gone = pointsAtNothing(show, is);
  if (gone)
    return refuse('not-found', `This piece would do nothing: ${gone}. Nothing was changed.`);
  if (is.kind !== 'sheet') return undefined;
  const inner = show.sheets.get(is.sheet);
  return is.sheet === sheet.id || shows(show, is.sheet).has(sheet.id)
    ? refuse(
        'loop',
        `Sheet “${sheet.name}” would lead to itself${inner && inner.id !== sheet.id ? ` through “${inner.name}”` : ''}. Nothing was changed.`,
      )
    : undefined;
}

export const setSheet = defineEdit({
  name: 'set-sheet',
  params: z.object({
    id: idOf('sheets').optional(),
    set: Sheet,
    /** Of a new sheet. */
    pieces: z
      .array(PutPiece)
      .max(MOST_PIECES, `A sheet has at most ${MOST_PIECES} pieces.`)
      .default([]),
  }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const old = oldRowFor(show, 'sheets', p.id);
    if (isRefusal(old)) return old;
    const same = [...show.sheets.values()].find(
      (s) => s.id !== old?.id && s.name.toLowerCase() === p.set.name.toLowerCase(),
    );
    if (same)
      return refuse('clash', `There is a sheet “${same.name}” already.`, {
        name: 'This name is taken.',
      });
    const row: SheetRow = {
      ...p.set,
      id: old?.id ?? newId(),
      number: old?.number ?? numberAfter(show.sheets.values()),
    };
    const changes: RowChange[] = [old ? replaceRow('sheets', old, row) : insertRow('sheets', row)];
    for (const piece of old ? [] : p.pieces) {
      const wrong = wrongPiece(show, row, piece.is);
      if (wrong) return wrong;
      changes.push(insertRow('sheetpieces', { ...piece, id: newId(), sheet: row.id }));
    }
    const made = p.pieces.length > 0 ? `, ${plural(p.pieces.length, 'piece')}` : '';
    return {
      changes,
      summary: old ? `Changed sheet “${row.name}”` : `Made sheet “${row.name}”${made}`,
    };
  },
});

/** Deletes a sheet with its pieces. */
export const deleteSheet = defineEdit({
  name: 'delete-sheet',
  params: z.object({ id: idOf('sheets') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const sheet = rowFor(show, 'sheets', id, 'already');
    if (isRefusal(sheet)) return sheet;
    const pieces = piecesOf(show, id).map((p) => deleteRow('sheetpieces', p));
    return {
      changes: [...pieces, deleteRow('sheets', sheet)],
      summary: `Deleted sheet “${sheet.name}”`,
    };
  },
});

/** One gesture is one edit: pieces moved, sized, dressed, or put down new. */
export const putPieces = defineEdit({
  name: 'put-pieces',
  params: z.object({ sheet: idOf('sheets'), pieces: z.array(PutPiece).min(1).max(MOST_PIECES) }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const sheet = rowFor(show, 'sheets', p.sheet);
    if (isRefusal(sheet)) return sheet;
    const changes: RowChange[] = [];
    const added = p.pieces.filter((x) => x.id === undefined).length;
    if (piecesOf(show, sheet.id).length + added > MOST_PIECES)
      return refuse('limit', `A sheet has at most ${MOST_PIECES} pieces. Nothing was changed.`);
    for (const { id, ...piece } of p.pieces) {
      const old = id === undefined ? undefined : show.sheetpieces.get(id);
      if (id !== undefined && old?.sheet !== sheet.id)
        return refuse('not-found', 'A piece has been deleted meanwhile. Nothing was changed.');
      // What points at nothing may be moved; it is refused where it is pointed anew.
      const isPointed = JSON.stringify(old?.is) !== JSON.stringify(piece.is);
      const wrong = isPointed ? wrongPiece(show, sheet, piece.is) : undefined;
      if (wrong) return wrong;
      const row: PieceRow = { ...piece, id: old?.id ?? newId(), sheet: sheet.id };
      changes.push(old ? replaceRow('sheetpieces', old, row) : insertRow('sheetpieces', row));
    }
    const [first] = p.pieces;
    const what =
      p.pieces.length === 1 && first
        ? `“${nameOf(show, first) || first.is.kind}”`
        : plural(p.pieces.length, 'piece');
    const did = added === p.pieces.length ? 'Put' : 'Changed';
    return { changes, summary: `${did} ${what} on sheet “${sheet.name}”` };
  },
});

/** Takes pieces off their sheet. */
export const deletePieces = defineEdit({
  name: 'delete-pieces',
  params: z.object({ ids: z.array(idOf('sheetpieces')).min(1).max(MOST_PIECES) }),
  roles: EDITORS,
  plan: (show, { ids }) => {
    const rows = ids.flatMap((id) => show.sheetpieces.get(id) ?? []);
    const [first] = rows;
    if (!first) return refuse('not-found', 'These pieces have been deleted already.');
    return {
      changes: rows.map((row) => deleteRow('sheetpieces', row)),
      summary: `Took ${rows.length === 1 ? `“${nameOf(show, first) || first.is.kind}”` : plural(rows.length, 'piece')} off sheet “${show.sheets.get(first.sheet)?.name ?? ''}”`,
    };
  },
});

/** Sheets in the order in which they are listed. */
export const orderSheets = defineEdit({
  name: 'order-sheets',
  params: z.object({ ids: z.array(idOf('sheets')).min(1).max(999) }),
  roles: EDITORS,
  plan: (show, { ids }) => {
    const wanted = [...new Set(ids)].flatMap((id) => show.sheets.get(id) ?? []);
    const rest = [...show.sheets.values()]
      .filter((s) => !ids.includes(s.id))
      .sort((a, b) => a.number - b.number);
    const changes = [...wanted, ...rest].flatMap((sheet, i) =>
      sheet.number === i + 1 ? [] : [updateRow('sheets', sheet, { number: i + 1 })],
    );
    return changes.length === 0
      ? refuse('nothing', 'They stand in this order already.')
      : { changes, summary: 'Put the sheets in another order' };
  },
});
