/** Useful sheets in one step: this rig by position, these palettes, this list's cues, these faders, a volunteer's Sunday. */
import { clamp } from '../numbers.ts';
import { rowsByNumber } from '../show/numbered.ts';
import { acrossStage, byNumber } from '../select/select.ts';
import { firstList, type Show } from '../show/show.ts';
import { hasKey, HELD_TABLES } from '../faders/rows.ts';
import { PLAYED_KINDS } from '../palettes/rows.ts';
import { capital } from '../words.ts';
import {
  MOST_PIECES,
  STEPS,
  USUAL_STEPS,
  type PieceIs,
  type PutPiece,
  type SheetRow,
} from './rows.ts';

/** What a new sheet may begin as. */
export const TEMPLATES = ['empty', 'plan', 'rig', 'tiles', 'list', 'faders', 'volunteer'] as const;
export type Template = (typeof TEMPLATES)[number];

/** A sheet with its pieces, before it is kept. */
export interface NewSheet {
  set: Omit<SheetRow, 'id' | 'number'>;
  pieces: PutPiece[];
}

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}
/** Between neighbours, in steps. */
const GAP = 0.5;

/** Puts pieces down in the order in which they come, each in front of the one before. */
class Tray {
  readonly pieces: PutPiece[] = [];

  put(
    box: Box,
    is: PieceIs,
    more: Partial<Pick<PutPiece, 'label' | 'icon' | 'colour'>> = {},
  ): void {
    if (this.pieces.length < MOST_PIECES)
      this.pieces.push({ ...box, z: this.pieces.length, is, ...more });
  }

  /** In rows of so many, from a corner on. @returns where the next row would begin */
  grid(
    items: readonly { is: PieceIs; label?: string }[],
    { x, y, w, h }: Box,
    across: number,
  ): number {
    items.forEach(({ is, label }, i) => {
      const at = {
        x: x + (i % across) * (w + GAP),
        y: y + Math.floor(i / across) * (h + GAP),
        w,
        h,
      };
      this.put(at, is, label === undefined ? {} : { label });
    });
    return y + Math.ceil(items.length / across) * (h + GAP);
  }

  /** The sheet that these pieces need. */
  sheet(name: string, about: string): NewSheet {
    const far = (of: (p: PutPiece) => number, least: number): number =>
      clamp(Math.ceil(Math.max(0, ...this.pieces.map(of)) + GAP), least, STEPS.most);
    return {
      set: {
        name,
        about,
        columns: far((p) => p.x + p.w, USUAL_STEPS.columns),
        rows: far((p) => p.y + p.h, USUAL_STEPS.rows),
      },
      pieces: this.pieces,
    };
  }
}

/** What stands in two columns beside a plan has room for so many. */
const BESIDE = 6;

function planSheet(show: Show): Tray {
  const tray = new Tray();
  tray.put({ x: 0, y: 0, w: 34, h: 33 }, { kind: 'plan', turn_deg: 0, areas: true });
  const looks = rowsByNumber(show.looks).slice(0, BESIDE);
  tray.put({ x: 35, y: 0, w: 12, h: 1.5 }, { kind: 'words', text: 'Looks' });
  let y = tray.grid(
    looks.map(({ id }) => ({ is: { kind: 'tile', of: 'look', id, press: 'play' } })),
    { x: 35, y: 1.5, w: 9, h: 3 },
    1,
  );
  [0, 3, 6, 10].forEach((time_s, i) =>
    tray.put({ x: 45, y: 1.5 + i * 3.5, w: 3, h: 3 }, { kind: 'time', time_s }),
  );
  tray.put({ x: 35, y, w: 13, h: 4.5 }, { kind: 'level' }, { label: 'Level of what is selected' });
  y += 5;
  tray.put({ x: 35, y, w: 13, h: 33 - y }, { kind: 'script' });
  return tray;
}

/** Rows for each bar, from upstage to the audience; who hangs nowhere comes last. */
function rigSheet(show: Show): Tray {
  const rows = new Map<string, { near: number; ids: string[] }>();
  for (const unit of byNumber(show).filter((f) => f.patch.length > 0)) {
    const row = rows.get(unit.hang) ?? { near: unit.position.y, ids: [] };
    row.ids.push(unit.id);
    rows.set(unit.hang, row);
  }
  const tray = new Tray();
  let y = 0;
  // Upstage stands above, as on the plan.
  const inOrder = [...rows].sort(
    ([a, { near: m }], [b, { near: n }]) => Number(a === '') - Number(b === '') || n - m,
  );
  for (const [hang, { ids }] of inOrder) {
    tray.put({ x: 0, y, w: 30, h: 1.5 }, { kind: 'words', text: hang || 'Elsewhere' });
    const units = acrossStage(show, ids).map((fixture) => ({
      is: { kind: 'unit', fixture } as const,
    }));
    y = tray.grid(units, { x: 0, y: y + 1.5, w: 4, h: 4 }, 10) + GAP;
  }
  return tray;
}

function tileSheet(show: Show): Tray {
  const tray = new Tray();
  let y = 0;
  for (const of of PLAYED_KINDS) {
    const rows = rowsByNumber<{ id: string; number: number }>(show[HELD_TABLES[of]]);
    if (rows.length === 0) continue;
    tray.put({ x: 0, y, w: 30, h: 1.5 }, { kind: 'words', text: capital(HELD_TABLES[of]) });
    y =
      tray.grid(
        rows.map(({ id }) => ({ is: { kind: 'tile', of, id, press: 'give' } })),
        { x: 0, y: y + 1.5, w: 7.5, h: 3 },
        6,
      ) + GAP;
  }
  return tray;
}

function listSheet(show: Show, listId: string): Tray {
  const tray = new Tray();
  tray.put({ x: 0, y: 0, w: 24, h: 6 }, { kind: 'now', list: listId });
  tray.put({ x: 24.5, y: 0, w: 11, h: 6 }, { kind: 'list', list: listId, press: 'go' });
  tray.put({ x: 36, y: 0, w: 5.5, h: 6 }, { kind: 'list', list: listId, press: 'back' });
  tray.put({ x: 42, y: 0, w: 5.5, h: 6 }, { kind: 'list', list: listId, press: 'release' });
  const cues = show.cuesOf(listId).map((c) => ({ is: { kind: 'cue', cue: c.id } as const }));
  tray.grid(cues, { x: 0, y: 7, w: 7.5, h: 3 }, 6);
  return tray;
}

function faderSheet(show: Show): Tray {
  const tray = new Tray();
  const faders = rowsByNumber(show.faders);
  const across = 8;
  faders.slice(0, across * 4).forEach((fader, i) => {
    const { id } = fader;
    const [x, y] = [(i % across) * 6, Math.floor(i / across) * 20];
    tray.put({ x, y, w: 5.5, h: 15.5 }, { kind: 'fader', fader: id, as: 'upright' });
    if (!hasKey(fader)) return;
    tray.put(
      { x, y: y + 16, w: 5.5, h: 3 },
      { kind: 'fader', fader: id, as: 'flash' },
      { label: 'Flash' },
    );
  });
  return tray;
}

/** Large enough for whoever does this once a week: eight buttons and two faders. */
const VOLUNTEER = { buttons: 8, faders: 2 } as const;

function volunteerSheet(show: Show, listId: string): Tray {
  const tray = new Tray();
  const cues = show.cuesOf(listId).slice(0, VOLUNTEER.buttons);
  tray.put({ x: 0, y: 0, w: 35.5, h: 5 }, { kind: 'now', list: listId });
  tray.grid(
    cues.map((c) => ({ is: { kind: 'cue', cue: c.id }, label: c.name })),
    { x: 0, y: 5.5, w: 8.5, h: 13 },
    4,
  );
  rowsByNumber(show.faders)
    .slice(0, VOLUNTEER.faders)
    .forEach(({ id }, i) =>
      tray.put(
        { x: 36.5 + i * 6, y: 0, w: 5.5, h: 32 },
        { kind: 'fader', fader: id, as: 'upright' },
      ),
    );
  return tray;
}

/** A sheet as a template makes it of this show. @param listId for those that are about a list; absent: the first */
export function sheetFrom(show: Show, template: Template, name: string, listId?: string): NewSheet {
  const list = listId ?? firstList(show)?.id ?? '';
  switch (template) {
    case 'plan':
      return planSheet(show).sheet(name, 'plan, areas, looks');
    case 'rig':
      return rigSheet(show).sheet(name, 'every unit, bar by bar');
    case 'tiles':
      return tileSheet(show).sheet(name, 'palettes, looks, effects');
    case 'list':
      return listSheet(show, list).sheet(name, `cues of ${show.lists.get(list)?.name ?? 'a list'}`);
    case 'faders':
      return faderSheet(show).sheet(name, 'faders and their keys');
    case 'volunteer':
      return volunteerSheet(show, list).sheet(name, 'large, for one purpose');
    case 'empty':
      return new Tray().sheet(name, '');
  }
}
