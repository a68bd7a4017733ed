/** Palettes, looks, effects and groups as rows of the show: recorded, updated, named, deleted. */
import { PALETTE_FAMILIES } from '../palettes/rows.ts';
import type { Family } from '../show/fields.ts';
import { plural } from '../words.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';
import { edit, named, numberSaid } from './said.ts';
import { groupNamed } from './selection.ts';
import type { Word } from './words.ts';

/** What is recorded into a row that is there, or into a new one. */
const into = (old: { id: string } | undefined, number: number | undefined): object => {
  if (old) return { id: old.id };
  return number === undefined ? {} : { number };
};
const called = (name: string | undefined): object => (name === undefined ? {} : { name });
const nameSaid = (r: Reader): string | undefined => (r.peek()?.quoted ? r.next()?.text : undefined);

/** `record colour palette 5 "Dusk" for any`, `update palette 5` @param said its family, where one was */
function palette(r: Reader, verb: Word, said: Family | undefined): Read {
  const { show, held } = r.context;
  const number = numberSaid(r, 'a palette number');
  const old = [...show.palettes.values()].find((p) => p.number === number);
  if (verb.key === 'update' && !old)
    throw new Complaint(`There is no palette ${number ?? ''} to update.`, r.previous());
  const family = old?.family ?? said;
  if (!family) throw new Complaint('Say of which family: record colour palette 5 "Dusk"', verb);
  const name = nameSaid(r);
  const scope = scoped(r);
  r.end();
  if (held(family) === 0)
    throw new Complaint(
      `You hold nothing of ${family}; a palette takes only its own family.`,
      verb,
    );
  const where = old
    ? `palette ${old.number} “${name ?? old.name}”`
    : `a new palette${number === undefined ? '' : ` ${number}`}${name ? ` “${name}”` : ''}`;
  return {
    intent: {
      kind: 'record-held',
      edit: 'record-palette',
      params: { ...into(old, number), ...called(name), family, ...scope.params },
    },
    says: `${plural(held(family), 'value')} of ${family} into ${where}${scope.says}`,
  };
}

/** `record look 4 "Storm"`, `update look 4` */
function look(r: Reader, verb: Word): Read {
  const { show, held } = r.context;
  const number = numberSaid(r, 'a look number');
  const old = [...show.looks.values()].find((l) => l.number === number);
  if (verb.key === 'update' && !old)
    throw new Complaint(`There is no look ${number ?? ''} to update.`, r.previous());
  const name = nameSaid(r);
  r.end();
  if (held() === 0) throw new Complaint('You hold nothing; a look is made of what you hold.', verb);
  const where = old
    ? `look ${old.number} “${name ?? old.name}”`
    : `a new look${name ? ` “${name}”` : ''}`;
  return {
    intent: {
      kind: 'record-held',
      edit: 'record-look',
      params: { ...into(old, number), ...called(name) },
    },
    says: `${plural(held(), 'value')} into ${where}`,
  };
}

/** `record palette …`, `record look …`. @returns undefined when it is about something else */
export function recordingHeld(r: Reader, verb: Word): Read | undefined {
  const said = PALETTE_FAMILIES.find(
    (f) => f === (r.peek()?.key === 'color' ? 'colour' : r.peek()?.key),
  );
  if (said) r.next();
  if (r.takeKey('palette')) return palette(r, verb, said);
  if (said)
    throw new Complaint(`Expected “palette”: record ${said} palette 5`, r.peek() ?? r.previous());
  return r.takeKey('look') ? look(r, verb) : undefined;
}

/** `record group 5 "Movers"` @param ids selected, in order */
export function recordingGroup(r: Reader, ids: readonly string[]): Read {
  r.takeKey('group');
  const number = numberSaid(r, 'a group number');
  const said = r.rest();
  const old = [...r.context.show.groups.values()].find((g) => g.number === number);
  if (said === '' && !old)
    throw new Complaint('A group needs a name: record group 5 "Movers"', r.previous());
  const name = said || (old?.name ?? '');
  return edit(
    r,
    'record-group',
    { ...(number === undefined ? {} : { number }), name, fixtures: ids },
    `${old ? 'change' : 'make'} group ${number ?? ''} “${name}” of ${plural(ids.length, 'fixture')}`,
  );
}

function scoped(r: Reader): { params: Record<string, unknown>; says: string } {
  if (!r.takeKey('for')) return { params: {}, says: '' };
  if (r.takeKey('any', 'all'))
    return { params: { scope: 'any' }, says: ' · for any unit that can do it' };
  if (r.takeKey('type', 'types'))
    return { params: { scope: 'types' }, says: ' · for all of their type' };
  if (r.takeKey('group')) {
    const group = groupNamed(r);
    return {
      params: { scope: 'group', group: group.id },
      says: ` · for group ${group.number} “${group.name}”`,
    };
  }
  throw new Complaint('For whom? for any, for type, for group 3', r.peek() ?? r.previous());
}

/** `delete palette 5`, `name look 4 Storm` @returns undefined when it is about a cue */
export function aboutRow(r: Reader, verb: 'delete' | 'name'): Read | undefined {
  const { show } = r.context;
  const word = r.peek();
  const tables = {
    palette: show.palettes,
    look: show.looks,
    effect: show.effects,
    group: show.groups,
  } as const;
  const kind = word && word.key in tables ? (word.key as keyof typeof tables) : undefined;
  if (!kind) return undefined;
  r.next();
  const row = named<{ id: string; number: number; name: string }>(
    r,
    tables[kind].values(),
    kind === 'effect' ? 'an effect' : `a ${kind}`,
  );
  if (verb === 'delete')
    return edit(
      r,
      `delete-${kind}`,
      { id: row.id },
      `delete ${kind} ${row.number} “${row.name}” · what uses it keeps what it says now`,
    );
  const name = r.rest();
  if (name === '') throw new Complaint('Here the name is missing.', r.previous());
  if (kind === 'effect') {
    const effect = show.effects.get(row.id);
    const { id, ...set } = effect ?? { id: row.id };
    return edit(
      r,
      'set-effect',
      { id, set: { ...set, name } },
      `effect ${row.number} becomes “${name}”`,
    );
  }
  return edit(
    r,
    `change-${kind}`,
    { id: row.id, set: { name } },
    `${kind} ${row.number} becomes “${name}”`,
  );
}
