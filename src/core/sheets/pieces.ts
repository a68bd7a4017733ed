/** Pieces of a sheet: which there are, in which order they are read, and what one points at. */
import { actionWords } from '../cues/action-words.ts';
import { formatCueNumber } from '../cues/number.ts';
import { membersOf } from '../groups/members.ts';
import { HELD_TABLES } from '../faders/rows.ts';
import type { Show } from '../show/show.ts';
import type { RowOf, TableName } from '../show/tables.ts';
import type { PieceIs, PieceRow } from './rows.ts';

/** Pieces of a sheet, from the back to the front. */
export const piecesOf = (show: Pick<Show, 'sheetpieces'>, sheet: string): PieceRow[] =>
  [...show.sheetpieces.values()].filter((p) => p.sheet === sheet).sort((a, b) => a.z - b.z);

/** Pieces whose middles are nearer than this, in steps, stand in one row. */
const ROW_STEPS = 1;

/** From the top, and in a row from the left: as they are read, gone through by keys, and stacked on a phone. */
export function inReadingOrder<P extends Pick<PieceRow, 'x' | 'y' | 'id'>>(
  pieces: readonly P[],
): P[] {
  const row = (p: P): number => Math.floor(p.y / ROW_STEPS);
  return [...pieces].sort((a, b) => row(a) - row(b) || a.x - b.x || a.id.localeCompare(b.id));
}

/** The row that a piece points at; undefined for what points at nothing. */
export function pointedAt(is: PieceIs): { table: TableName; id: string; one: string } | undefined {
  switch (is.kind) {
    case 'plan':
      return is.layout === undefined
        ? undefined
        : { table: 'layouts', id: is.layout, one: 'layout' };
    case 'unit':
      return { table: 'fixtures', id: is.fixture, one: 'fixture' };
    case 'area':
      return { table: 'areas', id: is.area, one: 'area' };
    case 'group':
      return { table: 'groups', id: is.group, one: 'group' };
    case 'tile':
      return { table: HELD_TABLES[is.of], id: is.id, one: is.of };
    case 'list':
      return { table: 'lists', id: is.list, one: 'list' };
    case 'now':
      return is.list === undefined ? undefined : { table: 'lists', id: is.list, one: 'list' };
    case 'cue':
      return { table: 'cues', id: is.cue, one: 'cue' };
    case 'fader':
    case 'to':
      return { table: 'faders', id: is.fader, one: 'fader' };
    case 'level':
    case 'colours':
    case 'field':
    case 'pad':
      return is.group === undefined ? undefined : { table: 'groups', id: is.group, one: 'group' };
    case 'picture':
      return { table: 'pictures', id: is.picture, one: 'picture' };
    case 'sheet':
      return { table: 'sheets', id: is.sheet, one: 'sheet' };
    default:
      return undefined;
  }
}

/** Why a piece can do nothing: what it points at has been deleted. */
export function pointsAtNothing(show: Show, is: PieceIs): string | undefined {
  const at = pointedAt(is);
  return at && !show[at.table].has(at.id) ? `its ${at.one} has been deleted` : undefined;
}

const named = (row: RowOf[TableName] | undefined): string =>
  row && 'name' in row && typeof row.name === 'string' ? row.name : '';

const PRESS_WORDS = {
  go: 'GO',
  back: 'Back',
  pause: 'Pause',
  release: 'Release',
  toggle: '',
  round: '',
} as const;

/** What a piece is called: as it is labelled, or by what it points at. */
export function nameOf(show: Show, { label, is }: Pick<PieceRow, 'label' | 'is'>): string {
  if (label) return label;
  const at = pointedAt(is);
  const name = at ? named(show[at.table].get(at.id)) : '';
  switch (is.kind) {
    case 'unit': {
      const unit = show.fixtures.get(is.fixture);
      const cell = is.cell === undefined ? '' : `, cell ${is.cell}`;
      return unit ? `${unit.number} ${unit.label}`.trim() + cell : '';
    }
    case 'list':
      return [PRESS_WORDS[is.press], name].filter((w) => w !== '').join(' ');
    case 'to':
      return `${name} ${Math.round(is.level * 100)}`;
    case 'time':
      return `${is.time_s} s`;
    case 'action':
      return actionWords(show, is.action);
    case 'command':
    case 'words':
      return is.text;
    case 'master':
      return is.as === 'blackout' ? 'Blackout' : 'Grand master';
    case 'release-all':
      return 'Release everything';
    case 'plan':
      return name || 'Plan';
    default:
      return name;
  }
}

const OF_TILE = { play: 'played by itself', give: 'given to what is selected' } as const;

/** Who a run, a field or a pad sets. */
function whoOf(show: Show, group: string | undefined): string {
  if (group === undefined) return 'of what is selected';
  return `of group ${show.groups.get(group)?.number ?? '?'}`;
}

function cueWords(show: Show, id: string): string {
  const cue = show.cues.get(id);
  if (!cue) return 'cue ?';
  return `cue ${formatCueNumber(cue.number)} of ${show.lists.get(cue.listId)?.name ?? '?'}`;
}

/**
 * What it points at, by its number and in a few words: `look 5, played by itself`, `cue 12 of Main list`.
 * @returns undefined where its kind says all
 */
export function pointsTo(show: Show, is: PieceIs): string | undefined {
  const numbered = (
    table: 'areas' | 'groups' | 'lists' | 'faders' | 'sheets',
    id: string,
  ): string => String(show[table].get(id)?.number ?? '?');
  switch (is.kind) {
    case 'unit': {
      const unit = show.fixtures.get(is.fixture);
      return unit && `unit ${unit.number}, ${show.types.get(unit.typeId)?.name ?? ''}`;
    }
    case 'area':
      return `area ${numbered('areas', is.area)}: who lights it`;
    case 'group':
      return `group ${numbered('groups', is.group)}`;
    case 'tile': {
      const row = show[HELD_TABLES[is.of]].get(is.id);
      const family = row && 'family' in row ? ` of ${row.family}` : '';
      return `${is.of} ${row?.number ?? '?'}${family}, ${OF_TILE[is.press]}`;
    }
    case 'list':
      return `list ${numbered('lists', is.list)}`;
    case 'cue':
      return is.other === undefined
        ? cueWords(show, is.cue)
        : `${cueWords(show, is.cue)}, to and fro with ${cueWords(show, is.other)}`;
    case 'fader':
      return `fader ${numbered('faders', is.fader)}`;
    case 'to':
      return `fader ${numbered('faders', is.fader)} to ${Math.round(is.level * 100)} % in ${is.time_s} s, or down again`;
    case 'level':
    case 'colours':
    case 'field':
    case 'pad':
      return whoOf(show, is.group);
    case 'sheet':
      return `sheet ${numbered('sheets', is.sheet)}`;
    default:
      return undefined;
  }
}

/** What is played from some sheets: lists, also of their cues, faders, and what plays by itself. */
export function playedFrom(
  show: Show,
  sheets: readonly string[],
): { lists: Set<string>; faders: Set<string>; played: Set<string> } {
  const found = { lists: new Set<string>(), faders: new Set<string>(), played: new Set<string>() };
  const wanted = new Set(sheets);
  for (const { sheet, is } of show.sheetpieces.values()) {
    if (!wanted.has(sheet)) continue;
    if (is.kind === 'list' || (is.kind === 'now' && is.list !== undefined))
      found.lists.add(is.list ?? '');
    else if (is.kind === 'cue') found.lists.add(show.cues.get(is.cue)?.listId ?? '');
    else if (is.kind === 'fader' || is.kind === 'to') found.faders.add(is.fader);
    else if (is.kind === 'tile') found.played.add(is.id);
  }
  found.lists.delete('');
  return found;
}

/** Units that a piece is about: its own, its group’s, or, where it is for whatever is selected, those. */
export function unitsOf(show: Show, is: PieceIs, selection: readonly string[]): readonly string[] {
  if (is.kind === 'unit') return [is.fixture];
  if (!('group' in is) || is.group === undefined) return selection;
  const group = show.groups.get(is.group);
  return group ? membersOf(show, group) : [];
}
