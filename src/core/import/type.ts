/** A maker's file comes into a show: as a type of its own, or in the place of an earlier one, with what that changes. */
import { planEdit } from '../edits/plan-edit.ts';
import { insertRow } from '../edits/define-edit.ts';
import { writeGdtf } from '../gdtf/write.ts';
import { readGdtf } from '../gdtf/read.ts';
import { attributesOf, attributeInfo, channelCount } from '../rig/attributes.ts';
import { uuidOfType } from '../mvr/uuid.ts';
import { isRefusal, type Result } from '../refusal.ts';
import { same } from '../same.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { Show } from '../show/show.ts';
import { numberRanges, plural } from '../words.ts';
import type { ImportContext, Item, Proposed } from './proposed.ts';

/** The id of a type that came from a maker's file: the same in every show and in the library of the house. */
export const idOfGdtf = (type: Pick<TypeRow, 'gdtf'>, otherwise: string): string =>
  type.gdtf ? `house-${type.gdtf.id.toLowerCase()}` : otherwise;

/** The type of a show that a file is of: by its id, by its maker's, or by what our own files call one that no maker has. */
export function typeOfFile(show: Show, type: TypeRow): TypeRow | undefined {
  const named = type.gdtf?.id.toLowerCase();
  return (
    show.types.get(type.id) ??
    (named === undefined
      ? undefined
      : [...show.types.values()].find(
          (t) => (t.gdtf ? t.gdtf.id.toLowerCase() : uuidOfType(t.id)) === named,
        ))
  );
}

const usersOf = (show: Show, type: TypeRow, mode: string) =>
  [...show.fixtures.values()].filter((f) => f.typeId === type.id && f.mode === mode);

/** What a mode gains and loses, and who has it. */
function modeItem(
  show: Show,
  type: TypeRow,
  before: Mode | undefined,
  after: Mode | undefined,
): Item {
  const name = `mode “${(after ?? before)?.name ?? ''}”`;
  const users = before ? usersOf(show, type, before.name) : [];
  const used = users.length > 0 ? `, of ${numberRanges(users.map((f) => f.number))}` : '';
  if (!before)
    return {
      what: 'mode',
      name,
      does: 'new',
      says: after ? plural(channelCount(after), 'channel') : '',
    };
  if (!after) return { what: 'mode', name, does: 'gone', says: used.slice(2) };
  if (same(before, after)) return { what: 'mode', name, does: 'same' };
  const [old, fresh] = [new Set(attributesOf(before)), new Set(attributesOf(after))];
  const words = (of: ReadonlySet<string>, without: ReadonlySet<string>): string =>
    [...of]
      .filter((a) => !without.has(a))
      .slice(0, 6)
      .map((a) => attributeInfo(a).label)
      .join(', ');
  const [lost, gained] = [words(old, fresh), words(fresh, old)];
  const says = [
    ...(channelCount(before) === channelCount(after)
      ? []
      : [`${channelCount(before)} → ${plural(channelCount(after), 'channel')}`]),
    ...(lost === '' ? [] : [`without ${lost}`]),
    ...(gained === '' ? [] : [`with ${gained}`]),
  ].join('; ');
  return {
    what: 'mode',
    name,
    does: 'changed',
    says: `${says || 'ranges or physical values differ'}${used}`,
  };
}

function modeItems(show: Show, old: TypeRow, next: TypeRow): Item[] {
  const names = [...new Set([...old.modes, ...next.modes].map((m) => m.name))];
  const named = (t: TypeRow, name: string): Mode | undefined =>
    t.modes.find((m) => m.name === name);
  return names.map((name) => modeItem(show, old, named(old, name), named(next, name)));
}

const isNamed = (a: Pick<TypeRow, 'maker' | 'name'>, b: Pick<TypeRow, 'maker' | 'name'>): boolean =>
  a.maker.toLowerCase() === b.maker.toLowerCase() && a.name.toLowerCase() === b.name.toLowerCase();

/** A name that no other type of the show has. */
function freeTypeName(show: Show, type: TypeRow): string {
  const taken = (name: string): boolean =>
    [...show.types.values()].some((t) => isNamed(t, { ...type, name }));
  let name = type.name;
  for (let n = 2; taken(name); n++) name = `${type.name.slice(0, 110)} (${n})`;
  return name;
}

const bare = ({ gdtf, ...type }: TypeRow): TypeRow => (void gdtf, type);

/** Whether a file says what our own file of a type says: it has fewer steps than a row, and another order. */
function isAsWritten({ id, ...old }: TypeRow, type: TypeRow): boolean {
  const own = readGdtf(writeGdtf(old, uuidOfType(id)));
  return !isRefusal(own) && same(bare({ id, ...own.type }), bare({ ...type, id }));
}

/** A type of a file in a show. @param type with the id that it would have */
function proposeType(type: TypeRow, c: ImportContext): Result<Omit<Proposed, 'kind' | 'problems'>> {
  const { show } = c;
  const title = `${type.maker} ${type.name}`;
  const old = typeOfFile(show, type);
  if (!old) {
    const name = freeTypeName(show, type);
    const row = { ...type, name };
    const item: Item = {
      what: 'type',
      name: `${type.maker} ${name}`,
      does: 'new',
      says: plural(type.modes.length, 'mode'),
    };
    return {
      items: [item],
      changes: [insertRow('types', row)],
      summary: `Took in the type ${type.maker} ${name}`,
      types: [type],
    };
  }
  const fromFile = { ...type, id: old.id, name: isNamed(old, type) ? type.name : old.name };
  // One of ours has been in no maker's file, which says nothing of what it draws while it is dark.
  const next: TypeRow = old.gdtf
    ? fromFile
    : { ...bare(fromFile), ...(old.idle_W === undefined ? {} : { idle_W: old.idle_W }) };
  const items = modeItems(show, old, next);
  if (same(old, next) || (!old.gdtf && isAsWritten(old, type)))
    return {
      items: [{ what: 'type', name: title, does: 'same' }],
      changes: [],
      summary: `${title} is in this show as it is in the file`,
      types: [type],
    };
  const { id, ...rest } = next;
  const planned = planEdit(show, c.role, 'set-type', { id, type: rest }, c.editId);
  if (isRefusal(planned)) return planned;
  const from = old.gdtf?.at?.slice(0, 10);
  const to = next.gdtf?.at?.slice(0, 10);
  const revision =
    from !== undefined && to !== undefined && from !== to ? ` (${from} → ${to})` : '';
  return {
    items: [{ what: 'type', name: title, does: 'changed', says: revision.trim() }, ...items],
    changes: planned.changes,
    summary: `${planned.summary} to what a newer file says${revision}`,
    types: [type],
  };
}

/** What a GDTF file would bring into the show, and what it says that is left out. */
export function importGdtf(bytes: Uint8Array, c: ImportContext): Result<Proposed> {
  const read = readGdtf(bytes);
  if (isRefusal(read)) return read;
  const type: TypeRow = { id: idOfGdtf(read.type, c.newId()), ...read.type };
  const proposed = proposeType(type, c);
  return isRefusal(proposed) ? proposed : { kind: 'gdtf', problems: read.odd, ...proposed };
}
