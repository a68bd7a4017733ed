/** A small show for tests, made by the edits that people use: dimmers 1-6, RGBW pars 11-14, moving washes 101-102. */
import { stateAt } from '../cues/tracking.ts';
import { formatPoints } from '../fixtures/points.ts';
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal, type Refusal } from '../refusal.ts';
import { newShowRows } from '../rig/defaults.ts';
import { MutableShow, type RowChange } from '../show/show.ts';
import type { Role } from '../roles.ts';

let edits = 0;

/** Plans and applies; throws when it is refused. */
export function apply(
  show: MutableShow,
  name: string,
  params: unknown,
  role: Role = 'owner',
): { changes: RowChange[]; summary: string } {
  const planned = planEdit(show, role, name, params, `t${(edits++).toString(36)}`);
  if (isRefusal(planned)) throw new Error(planned.message);
  show.apply(planned.changes);
  return planned;
}

/** Plans without applying; throws when it is not refused. */
export function refused(
  show: MutableShow,
  name: string,
  params: unknown,
  role: Role = 'owner',
): Refusal {
  const planned = planEdit(show, role, name, params, `t${(edits++).toString(36)}`);
  if (!isRefusal(planned)) throw new Error(`was not refused: ${planned.summary}`);
  return planned;
}

/** A small show that many tests begin with. */
export function exampleShow(): MutableShow {
  const show = new MutableShow();
  show.apply(newShowRows('Harbour lights'));
  apply(show, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 6,
    first: 1,
    universe: 1,
    address: 1,
    label: 'FOH #',
  });
  apply(show, 'patch-fixtures', {
    typeId: 'generic-rgbw',
    mode: 'RGBW',
    quantity: 4,
    first: 11,
    universe: 1,
    address: 101,
    label: 'Par',
  });
  apply(show, 'patch-fixtures', {
    typeId: 'generic-wash',
    mode: '16 bit',
    quantity: 2,
    first: 101,
    universe: 2,
    address: 1,
    label: 'Wash',
    hang: 'Bar 1',
  });
  return show;
}

/** The id of a fixture by its number. */
export const idOf = (show: MutableShow, number: number): string =>
  show.fixtureByNumber(number)?.id ?? `no fixture ${number}`;

/** Records dimmer levels in percent by fixture number; null lets go. */
export function cue(
  show: MutableShow,
  number: number,
  levels: Record<number, number | null>,
  more: Record<string, unknown> = {},
): string {
  const values = Object.entries(levels).map(([n, percent]) => ({
    fixtureId: idOf(show, Number(n)),
    attribute: 'Dimmer',
    level: percent === null ? null : percent / 100,
  }));
  apply(show, 'record-cue', { listId: 'main', number: Math.round(number * 1000), values, ...more });
  return show.cuesOf('main').find((c) => c.number === Math.round(number * 1000))?.id ?? '';
}

/** A sheet with these pieces in a row. @returns ids of the sheet and of its pieces in their order */
export function sheet(
  show: MutableShow,
  name: string,
  pieces: readonly Record<string, unknown>[],
  labels: readonly string[] = [],
): { sheet: string; pieces: string[] } {
  const { changes } = apply(show, 'set-sheet', {
    set: { name, columns: 48, rows: 34 },
    pieces: pieces.map((is, i) => ({
      x: (i % 6) * 8,
      y: Math.floor(i / 6) * 5,
      w: 8,
      h: 5,
      z: i,
      is,
      ...(labels[i] === undefined ? {} : { label: labels[i] }),
    })),
  });
  const [first, ...rest] = changes.map((c) => c.id);
  return { sheet: first ?? '', pieces: rest };
}

/** Ids of fixtures by their numbers. */
export const idsOf = (show: MutableShow, ...numbers: number[]): string[] =>
  numbers.map((n) => idOf(show, n));

/** Where a fixture is patched, as people write it; empty off the rig. */
export const patchOf = (show: MutableShow, number: number): string =>
  formatPoints(show.fixtureByNumber(number)?.patch ?? []);

/** Level of an attribute in a cue of the main list, tracked ones too; null: let go. */
export const levelIn = (
  show: MutableShow,
  cueNumber: number,
  number: number,
  attribute: string,
): number | null | undefined =>
  stateAt(show, 'main', cueNumber * 1000).get(`${idOf(show, number)}:${attribute}`)?.value.level;
