/** The plan: bars, booms, set pieces; named layouts and the pictures that lie under them; the order of tiles. */
import { oldRowFor, rowFor } from '../show/row-for.ts';
import { numberAfter } from '../show/numbered.ts';
import { z } from 'zod';
import { safePicture } from '../formats/svg.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { LayoutRow, PictureRow, PieceRow } from './rows.ts';
import { LIMITS, RowId } from '../show/fields.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { numberRanges, plural } from '../words.ts';

const cm = (m: number): number => Math.round(m * 100) / 100;

const SetPiece = z.object({
  id: RowId.optional(),
  set: PieceRow.omit({ id: true }),
  /** Units that hang on it go along when it moves. */
  carry: z.boolean().default(true),
});
type SetPiece = z.input<typeof SetPiece>;

/** Units that hang on a piece, moved by as much as its middle was. */
function carried(show: Show, old: PieceRow, next: Omit<PieceRow, 'id'>): RowChange[] {
  const middle = (points: PieceRow['points']): { x: number; y: number } => ({
    x: points.reduce((s, p) => s + p.x, 0) / points.length,
    y: points.reduce((s, p) => s + p.y, 0) / points.length,
  });
  const [a, b] = [middle(old.points), middle(next.points)];
  const [dx, dy, dz] = [b.x - a.x, b.y - a.y, next.z - old.z];
  if (old.name === '') return [];
  return [...show.fixtures.values()]
    .filter((f) => f.hang === old.name)
    .map((f): [FixtureRow, FixtureRow] => [
      f,
      {
        ...f,
        hang: next.name,
        position: { x: cm(f.position.x + dx), y: cm(f.position.y + dy), z: cm(f.position.z + dz) },
      },
    ])
    .filter(([f, n]) => f.hang !== n.hang || dx !== 0 || dy !== 0 || dz !== 0)
    .map(([f, n]) => replaceRow('fixtures', f, n));
}

/** Draws or changes a piece of the plan: its line in metres, its height. */
export const setPiece = defineEdit({
  name: 'set-piece',
  params: SetPiece,
  roles: EDITORS,
  plan: (show, { id, set, carry }, { newId }) => {
    const old = id === undefined ? undefined : show.pieces.get(id);
    if (id !== undefined && !old)
      return refuse(
        'not-found',
        'This has been deleted from the plan meanwhile. Nothing was changed.',
      );
    const hangs = set.kind === 'bar' || set.kind === 'boom';
    if (hangs && set.name.trim() === '')
      return refuse('invalid', `A ${set.kind} needs a name, so that units can hang on it.`, {
        name: 'Missing.',
      });
    const twin =
      set.name === ''
        ? undefined
        : [...show.pieces.values()].find(
            (p) => p.id !== id && p.name === set.name && (p.kind === 'bar' || p.kind === 'boom'),
          );
    if (hangs && twin)
      return refuse('clash', `“${set.name}” is on the plan already.`, { name: 'Taken.' });
    const row: PieceRow = {
      ...set,
      points: set.points.map((p) => ({ x: cm(p.x), y: cm(p.y) })),
      id: old?.id ?? newId(),
    };
    const along = old && carry ? carried(show, old, row) : [];
    const name =
      row.name ||
      {
        bar: 'a bar',
        boom: 'a boom',
        edge: 'an edge',
        set: 'a set piece',
        cyc: 'a cyc',
        house: 'the audience',
      }[row.kind];
    return {
      changes: [old ? replaceRow('pieces', old, row) : insertRow('pieces', row), ...along],
      summary: `${old ? 'Changed' : 'Added'} ${name} on the plan${along.length > 0 ? `; ${plural(along.length, 'fixture')} went along` : ''}`,
    };
  },
});

const DeletePiece = z.object({ id: RowId });
type DeletePiece = z.infer<typeof DeletePiece>;

/** Takes a piece off the plan; what hangs there stays where it is. */
export const deletePiece = defineEdit({
  name: 'delete-piece',
  params: DeletePiece,
  roles: EDITORS,
  plan: (show, { id }) => {
    const piece = show.pieces.get(id);
    if (!piece) return refuse('not-found', 'This has been deleted from the plan already.');
    const hung =
      piece.name === '' ? [] : [...show.fixtures.values()].filter((f) => f.hang === piece.name);
    return {
      changes: [
        ...hung.map((f) => updateRow('fixtures', f, { hang: '' })),
        deleteRow('pieces', piece),
      ],
      summary: `Took ${piece.name || 'a line'} off the plan${hung.length > 0 ? `; ${numberRanges(hung.map((f) => f.number))} ${hung.length === 1 ? 'stays' : 'stay'} where ${hung.length === 1 ? 'it is' : 'they are'}` : ''}`,
    };
  },
});

const SetLayout = z.object({
  id: RowId.optional(),
  set: LayoutRow.pick({ name: true, places: true }).partial().extend({
    /** null takes the background away. */
    background: LayoutRow.shape.background.nullable(),
  }),
});
type SetLayout = z.infer<typeof SetLayout>;

/** Makes or changes a layout: places of units in its own order, and a picture under them. */
export const setLayout = defineEdit({
  name: 'set-layout',
  params: SetLayout,
  roles: EDITORS,
  plan: (show, { id, set }, { newId }) => {
    const old = oldRowFor(show, 'layouts', id);
    if (isRefusal(old)) return old;
    const name = set.name ?? old?.name;
    if (name === undefined)
      return refuse('invalid', 'A layout needs a name.', { name: 'Missing.' });
    const twin = [...show.layouts.values()].find(
      (l) => l.id !== id && l.name.toLowerCase() === name.toLowerCase(),
    );
    if (twin)
      return refuse('clash', `There is a layout “${twin.name}” already.`, { name: 'Taken.' });
    const number = old?.number ?? numberAfter(show.layouts.values());
    const row: LayoutRow = { ...(old ?? {}), id: old?.id ?? newId(), number, name };
    if (set.places)
      row.places = Object.fromEntries(
        Object.entries({ ...old?.places, ...set.places })
          .filter(([f]) => show.fixtures.has(f))
          .map(([f, p]) => [f, { x: cm(p.x), y: cm(p.y) }]),
      );
    if (set.background === null) delete row.background;
    else if (set.background) row.background = set.background;
    return {
      changes: [old ? replaceRow('layouts', old, row) : insertRow('layouts', row)],
      summary: `${old ? 'Changed' : 'Made'} layout “${name}”`,
    };
  },
});

const DeleteLayout = z.object({ id: RowId });
type DeleteLayout = z.infer<typeof DeleteLayout>;

/** Deletes a layout. */
export const deleteLayout = defineEdit({
  name: 'delete-layout',
  params: DeleteLayout,
  roles: EDITORS,
  plan: (show, { id }) => {
    const layout = rowFor(show, 'layouts', id, 'already');
    if (isRefusal(layout)) return layout;
    return {
      changes: [deleteRow('layouts', layout)],
      summary: `Deleted layout “${layout.name}”; where units hang is kept`,
    };
  },
});

/** Pictures kept in one show. */
const PICTURES_KEPT = 24;
const AddPicture = PictureRow.pick({ name: true, data: true }).extend({
  /** Put under this layout at once, this wide. */
  layout: RowId.optional(),
  width_m: z.number().min(0.1).max(1000).default(16),
});
type AddPicture = z.input<typeof AddPicture>;

/** Keeps a picture with the show, for layouts and sheets. */
export const addPicture = defineEdit({
  name: 'add-picture',
  params: AddPicture,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    if (show.pictures.size >= PICTURES_KEPT)
      return refuse(
        'limit',
        `A show keeps at most ${PICTURES_KEPT} pictures: delete one first, in the shelf of a sheet that is arranged.`,
      );
    const layout = oldRowFor(show, 'layouts', p.layout);
    if (isRefusal(layout)) return layout;
    const data = safePicture(p.data);
    if (isRefusal(data))
      return refuse('invalid', `“${p.name}” is no drawing that can be read. ${data.message}`, {
        data: 'No drawing.',
      });
    const row: PictureRow = { id: newId(), name: p.name, data };
    const under = layout
      ? [
          updateRow('layouts', layout, {
            background: { picture: row.id, x: 0, y: 3, width_m: p.width_m, opacity: 0.5 },
          }),
        ]
      : [];
    return {
      changes: [insertRow('pictures', row), ...under],
      summary: `Added the picture “${p.name}”${layout ? ` under layout “${layout.name}”` : ''}`,
    };
  },
});

const DeletePicture = z.object({ id: RowId });
type DeletePicture = z.infer<typeof DeletePicture>;

/** Deletes a picture; it goes from under the layouts that it lies under. */
export const deletePicture = defineEdit({
  name: 'delete-picture',
  params: DeletePicture,
  roles: EDITORS,
  plan: (show, { id }) => {
    const picture = rowFor(show, 'pictures', id, 'already');
    if (isRefusal(picture)) return picture;
    const under = [...show.layouts.values()].filter((l) => l.background?.picture === id);
    const changes = under.map((l) => {
      const next = { ...l };
      delete next.background;
      return replaceRow('layouts', l, next);
    });
    const on = [...show.sheetpieces.values()].filter(
      ({ is }) => is.kind === 'picture' && is.picture === id,
    );
    const uses = [
      ...under.map((l) => `under layout “${l.name}”`),
      ...(on.length > 0 ? [`on ${plural(on.length, 'piece')} of sheets`] : []),
    ];
    return {
      changes: [...changes, deleteRow('pictures', picture)],
      summary: `Deleted the picture “${picture.name}”${uses.length > 0 ? `, which was ${uses.join(' and ')}` : ''}`,
    };
  },
});

const Order = z.object({
  table: z.enum(['palettes', 'looks', 'effects']),
  ids: z.array(RowId).min(1).max(LIMITS.fixtureNumber),
});
type Order = z.infer<typeof Order>;

/** Tiles in the order they were put into: the rows named come in this order, in the places that they had among them. */
export const orderRows = defineEdit({
  name: 'order-rows',
  params: Order,
  roles: EDITORS,
  plan: (show, { table, ids }) => {
    const rows = ids.map((id) => show[table].get(id));
    if (rows.some((r) => !r) || new Set(ids).size !== ids.length)
      return refuse('not-found', 'One of these has been deleted meanwhile. Nothing was changed.');
    const changes = rows.flatMap((row, i): RowChange[] =>
      row && row.order !== i + 1 ? [updateRow(table, row as never, { order: i + 1 })] : [],
    );
    if (changes.length === 0) return refuse('nothing', 'They are in this order already.');
    return {
      changes,
      summary: `Put ${plural(ids.length, { palettes: 'palette', looks: 'look', effects: 'effect' }[table])} in order`,
    };
  },
});

/** Tiles as people put them; by number where nobody did. */
export const inOrder = <T extends { order?: number | undefined; number: number }>(
  rows: Iterable<T>,
): T[] =>
  [...rows].sort((a, b) => (a.order ?? a.number) - (b.order ?? b.number) || a.number - b.number);
