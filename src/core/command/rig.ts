/** Lines about the rig: patching, moving, renumbering, copying, parking. */
import { numberRanges, plural } from '../words.ts';
import { planEdit } from '../edits/plan-edit.ts';
import type { LiveCommand } from '../live/commands.ts';
import { isRefusal } from '../refusal.ts';
import { attributeInfo, channelCount, findAttribute } from '../rig/attributes.ts';
import { formatPoint, modeOf, parsePoint } from '../fixtures/points.ts';
import { libraryTypes } from '../rig/library/index.ts';
import { findTypes, indexTypes, plain } from '../rig/search.ts';
import type { Mode, TypeRow } from '../types/rows.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Show } from '../show/show.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';
import type { Word } from './words.ts';

/** `tern par`, `tern rgbw`, `wash 19 full`: the type by its name, else the first that has all the words. */
function typeLike(show: Show, words: string): { type: TypeRow; mode: Mode } | undefined {
  const types = [...show.types.values(), ...libraryTypes().filter((t) => !show.types.has(t.id))];
  const wanted = plain(words);
  if (wanted === '') return undefined;
  const exact =
    types.find((t) => plain(t.name) === wanted) ??
    types.find((t) => plain(t.maker + t.name) === wanted);
  const mode = exact?.modes[0];
  if (exact && mode) return { type: exact, mode };
  const named = types
    .flatMap((type) => type.modes.map((m) => ({ type, mode: m })))
    .find(
      ({ type, mode: m }) =>
        plain(type.name + m.name) === wanted || plain(type.maker + type.name + m.name) === wanted,
    );
  if (named) return named;
  const found = findTypes(indexTypes(types), words)[0];
  return found?.modes[0] ? { type: found.type, mode: found.modes[0] } : undefined;
}

function address(r: Reader): PatchPoint {
  const word = r.next();
  const point = word ? parsePoint(word.text) : undefined;
  if (!point)
    throw new Complaint(
      'An address looks like 2.101, or is a number from 1 to 131072.',
      word ?? r.previous(),
    );
  return point;
}

/** `patch 6 moving wash from 201 at 2.101` */
export function patching(r: Reader, word: Word): Read {
  const { show } = r.context;
  const quantity = r.whole('a quantity');
  const name: string[] = [];
  while (!r.done && !['from', 'at', 'on', 'as', 'gap', 'off'].includes(r.peek()?.key ?? ''))
    name.push(r.next()?.text ?? '');
  const like = typeLike(show, name.join(' '));
  if (!like)
    throw new Complaint(
      name.length === 0
        ? 'Say what to patch, such as: patch 6 dimmer from 1 at 1.1'
        : `There is no fixture type like “${name.join(' ')}”.`,
      r.previous() ?? word,
    );
  const { type, mode } = like;
  const params: Record<string, unknown> = { typeId: type.id, mode: mode.name, quantity };
  while (!r.done) {
    if (r.takeKey('from')) params.first = r.whole('a fixture number');
    else if (r.takeKey('at')) Object.assign(params, address(r));
    else if (r.takeKey('as')) params.label = r.next()?.text;
    else if (r.takeKey('on')) params.hang = r.next()?.text;
    else if (r.takeKey('gap')) params.gap = r.whole('a gap in channels');
    else if (r.takeKey('off')) params.off = true;
    else r.end();
  }
  const planned = planEdit(show, 'owner', 'patch-fixtures', params, 'preview');
  if (isRefusal(planned)) throw new Complaint(planned.message, word);
  const rows = planned.changes.flatMap((c) => (c.table === 'fixtures' && c.after ? [c.after] : []));
  const numbers = numberRanges(rows.map((f) => f.number));
  const start = rows[0]?.patch[0];
  const end = rows.at(-1)?.patch[0];
  const where =
    start && end
      ? `${formatPoint(start)} to ${formatPoint({ universe: end.universe, address: end.address + mode.footprint - 1 })} · nothing in the way`
      : 'off the rig';
  return {
    intent: { kind: 'edit', edit: 'patch-fixtures', params },
    says: `${plural(quantity, 'new fixture')}, ${numbers} · ${type.name} ${mode.name}, ${channelCount(mode)} ch · ${where}`,
  };
}

/** Whom a line about the rig is of. */
interface Chosen {
  ids: readonly string[];
  rows: readonly FixtureRow[];
  /** As it is said: `1–4, 7`. */
  who: string;
  /** The word that says what is done with them. */
  word: Word | undefined;
}

/** An edit, planned to see whether it can be. @throws `Complaint` in its refusal's words */
function editing(
  r: Reader,
  { word }: Chosen,
  edit: string,
  params: Record<string, unknown>,
  says: string,
): Read {
  r.end();
  const planned = planEdit(r.context.show, 'owner', edit, params, 'preview');
  if (isRefusal(planned)) throw new Complaint(planned.message, word);
  return { intent: { kind: 'edit', edit, params }, says };
}

/** `131 thru 136 patch 3.21`, `131 patch off`, `131 patch back` */
function repatching(r: Reader, chosen: Chosen): Read {
  const { ids, rows, who } = chosen;
  if (r.takeKey('off'))
    return editing(
      r,
      chosen,
      'change-fixtures',
      { fixtures: ids.map((id) => ({ id, set: { patch: [] } })) },
      `${who} off the rig · programming is kept`,
    );
  if (r.takeKey('back'))
    return editing(
      r,
      chosen,
      'move-fixtures',
      { ids, to: 'back' },
      `${who} back to where ${rows.length === 1 ? 'it was' : 'they were'}`,
    );
  r.takeKey('at', 'to');
  const start = address(r);
  const gap = r.takeKey('gap') ? r.whole('a gap in channels') : 0;
  const { show } = r.context;
  const footprints = rows.reduce((sum, f) => sum + (modeOf(show, f)?.footprint ?? 1), 0);
  const width = footprints + gap * (rows.length - 1);
  return editing(
    r,
    chosen,
    'move-fixtures',
    { ids, to: { ...start, gap } },
    `move ${who} to ${formatPoint(start)} · ${plural(width, 'address', 'addresses')} · nothing in the way`,
  );
}

/** `5 number 101` */
function numbering(r: Reader, chosen: Chosen): Read {
  const { ids, rows, who } = chosen;
  r.takeKey('to');
  const first = r.whole('a fixture number');
  const last = first + rows.length - 1;
  return editing(
    r,
    chosen,
    'change-fixtures',
    { fixtures: ids.map((id, i) => ({ id, set: { number: first + i } })) },
    `${who} becomes ${rows.length === 1 ? first : `${first}–${last}`} · cues and groups follow`,
  );
}

/** `102 copy to 103 thru 104` */
function copying(r: Reader, chosen: Chosen, select: (r: Reader) => string[]): Read {
  const { ids, rows, who, word } = chosen;
  if (rows.length > 1)
    throw new Complaint(
      'Programming is copied from one fixture to others: 102 copy to 103 thru 104',
      word,
    );
  r.takeKey('to');
  const to = select(r);
  const { show } = r.context;
  return editing(
    r,
    chosen,
    'copy-programming',
    { from: ids[0], to },
    `${numberRanges(to.flatMap((id) => show.fixtures.get(id)?.number ?? []))} will do all that ${who} does · what ${to.length === 1 ? 'it' : 'they'} did before goes`,
  );
}

/** `7 park`, `7 park off pan` */
function parking(r: Reader, { rows, who }: Chosen): Read {
  const off = r.takeKey('off');
  const named = r.done ? undefined : r.next();
  const attribute = named ? findAttribute(named.text) : undefined;
  if (named && !attribute) throw new Complaint(`“${named.text}” is not an attribute.`, named);
  r.end();
  const command: LiveCommand = {
    command: 'park',
    fixtures: rows.map((f) => f.number),
    on: !off,
    ...(attribute ? { attribute } : {}),
  };
  const what = attribute ? ` ${attributeInfo(attribute).label.toLowerCase()}` : '';
  return {
    intent: { kind: 'live', command },
    says: off
      ? `let ${who}${what} off its park`
      : `park ${who}${what} where ${rows.length === 1 ? 'it is' : 'they are'} · nothing moves ${rows.length === 1 ? 'it' : 'them'} until it is let off`,
  };
}

type RigVerb = (r: Reader, chosen: Chosen, select: (r: Reader) => string[]) => Read;
/** What may follow a selection besides a level. */
export const RIG_VERBS: ReadonlyMap<string, RigVerb> = new Map([
  ['patch', repatching],
  ['number', numbering],
  ['copy', copying],
  ['park', parking],
]);

/** A verb, and what comes after it. @param select reads a selection, where a verb has a second one */
export function rigVerb(r: Reader, ids: readonly string[], select: (r: Reader) => string[]): Read {
  const word = r.next();
  const rows = ids.flatMap((id) => r.context.show.fixtures.get(id) ?? []);
  if (rows.length === 0)
    throw new Complaint('Nothing is selected: begin with fixture numbers, such as 1 thru 8.', word);
  const verb = RIG_VERBS.get(word?.key ?? '') ?? parking;
  return verb(r, { ids, rows, who: numberRanges(rows.map((f) => f.number)), word }, select);
}
