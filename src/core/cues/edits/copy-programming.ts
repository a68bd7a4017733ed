/** Copy programming: one fixture's values in all cues, and its places in groups, to others. */
import { z } from 'zod';
import { isRefusal, refuse, type Result } from '../../refusal.ts';
import { modeOf } from '../../fixtures/points.ts';
import type { FixtureRow } from '../../fixtures/rows.ts';
import { attributeInfo } from '../../rig/attributes.ts';
import { convertSetting, type Setting, type Side } from '../../rig/convert.ts';
import { goThrough, levelOf } from '../../looks/value.ts';
import { Address, FixtureNumber, LIMITS, Name, RowId, Universe } from '../../show/fields.ts';
import { TABLE_NAMES } from '../../show/tables.ts';
import type { ValueRow } from '../rows.ts';
import { same } from '../../same.ts';
import { meaningAfter, type Meaning } from '../../show/after.ts';
import { followRefs, looksCopied, saidRow, type Said } from '../../edits/follow-refs.ts';
import { MutableShow, type RowChange, type Show } from '../../show/show.ts';
import { patchFixtures } from '../../fixtures/edits/patch.ts';
import {
  defineEdit,
  planAs,
  deleteRow,
  insertRow,
  replaceRow,
  updateRow,
  type EditContext,
  type Planned,
} from '../../edits/define-edit.ts';
import { EDITORS } from '../../roles.ts';
import { numberRanges } from '../../words.ts';
import { plural } from '../../words.ts';

const Params = z.object({
  from: RowId,
  to: z.array(RowId).max(2048).default([]),
  /** Instead: new units of the same type and mode, patched in the same step. */
  fresh: z
    .object({
      quantity: z
        .number()
        .int('A quantity is a whole number.')
        .min(1, 'Make at least one unit.')
        .max(LIMITS.patchQuantity, `At most ${LIMITS.patchQuantity} units at once.`),
      first: FixtureNumber.optional(),
      universe: Universe.optional(),
      address: Address.optional(),
      label: Name.optional(),
    })
    .optional(),
});
type Params = z.input<typeof Params>;

/** What a fixture does in the cues: its values by cue. */
function valuesByCue(show: Show, fixtureId: string): Map<string, ValueRow[]> {
  const byCue = new Map<string, ValueRow[]>();
  for (const value of show.values.values()) {
    if (value.fixtureId !== fixtureId) continue;
    const rows = byCue.get(value.cueId);
    if (rows) rows.push(value);
    else byCue.set(value.cueId, [value]);
  }
  return byCue;
}

/** A unit with what it is: programming is converted from one to another by it. */
interface Unit extends Side {
  fixture: FixtureRow;
}

function unitOf(show: Show, id: string): Unit | undefined {
  const fixture = show.fixtures.get(id);
  const type = fixture && show.types.get(fixture.typeId);
  const mode = fixture && modeOf(show, fixture);
  return type && mode ? { fixture, type, mode } : undefined;
}

/** In palettes the others say what the one says, as far as they can. */
function palettesCopied(show: Show, source: Unit, targets: readonly Unit[]): RowChange[] {
  return [...show.palettes.values()].flatMap((palette): RowChange[] => {
    const own = palette.fixtures[source.fixture.id];
    if (!own) return [];
    const says = new Map(Object.entries(own));
    const next = { ...palette.fixtures };
    for (const target of targets) {
      const { setting } = convertSetting(source, target, source.fixture, says, says);
      const entries = [...setting].filter((e): e is [string, number] => e[1] !== null);
      if (entries.length > 0) next[target.fixture.id] = Object.fromEntries(entries);
    }
    if (same(next, palette.fixtures)) return [];
    return [replaceRow('palettes', palette, { ...palette, fixtures: next })];
  });
}

/** What the one says in a cue, as another says it there. */
interface Converted {
  said: Map<string, Said>;
  /** Attributes that the other does not have. */
  dropped: string[];
}

/** @param shown what the one shows by attribute once the cue is in, in the list @param after the show with its looks copied */
function convertedIn(
  show: Show,
  after: Meaning,
  source: Unit,
  target: Unit,
  rows: readonly ValueRow[],
  shown: ReadonlyMap<string, number>,
): Converted {
  const followed = followRefs(after, target.fixture, target, rows);
  const setting: Setting = new Map(
    rows.filter((r) => !followed.kept.has(r.attribute)).map((r) => [r.attribute, levelOf(show, r)]),
  );
  const converted = convertSetting(source, target, source.fixture, setting, shown);
  return {
    said: new Map<string, Said>([
      ...[...converted.setting].map(([a, level]) => [a, { level }] as const),
      ...followed.values,
    ]),
    dropped: converted.fates
      .filter((f) => f.fate === 'dropped')
      .map((f) => attributeInfo(f.attribute).label.toLowerCase()),
  };
}

/** From what a unit said in a cue to what it says there now: what it did on its own goes. */
function rewritten(old: readonly ValueRow[], next: readonly ValueRow[]): RowChange[] {
  const before = new Map(old.map((r) => [r.id, r]));
  const after = new Set(next.map((r) => r.id));
  return [
    ...next.flatMap((row) => {
      const was = before.get(row.id);
      if (was && same(was, row)) return [];
      return [was ? replaceRow('values', was, row) : insertRow('values', row)];
    }),
    ...old.filter((r) => !after.has(r.id)).map((r) => deleteRow('values', r)),
  ];
}

/** In all lists one unit does what the other does. @param dropped gets what it cannot */
function valuesCopied(
  show: Show,
  after: Meaning,
  source: Unit,
  target: Unit,
  given: ReadonlyMap<string, ValueRow[]>,
  dropped: Set<string>,
): RowChange[] {
  const old = valuesByCue(show, target.fixture.id);
  return [...show.lists.values()].flatMap((list) => {
    const shown = new Map<string, number>();
    return show.cuesOf(list.id).flatMap((cue) => {
      const rows = given.get(cue.id) ?? [];
      goThrough(show, shown, rows);
      const converted = convertedIn(show, after, source, target, rows, shown);
      for (const name of converted.dropped) dropped.add(name);
      const next = [...converted.said].map(([attribute, said]) => {
        const from = rows.find((r) => r.attribute === attribute);
        return saidRow(
          { cueId: cue.id, fixtureId: target.fixture.id, attribute },
          said,
          from ?? {},
        );
      });
      return rewritten(old.get(cue.id) ?? [], next);
    });
  });
}

/** The others stand after the one in its groups. */
function groupsCopied(show: Show, source: Unit, targets: readonly Unit[]): RowChange[] {
  const { id: one } = source.fixture;
  return [...show.groups.values()].flatMap((group) => {
    const missing = targets.map((t) => t.fixture.id).filter((id) => !group.fixtures.includes(id));
    if (!group.fixtures.includes(one) || missing.length === 0) return [];
    const fixtures = group.fixtures.flatMap((id) => (id === one ? [id, ...missing] : [id]));
    return [updateRow('groups', group, { fixtures })];
  });
}

/** What one unit does in every cue, for others: in the rig already, or patched for it. */
export const copyProgramming = defineEdit({
  name: 'copy-programming',
  params: Params,
  roles: EDITORS,
  plan: (show, p, context) => {
    if (p.fresh) return ontoNew(show, p.from, p.fresh, context);
    const source = unitOf(show, p.from);
    if (!source)
      return refuse(
        'not-found',
        'The fixture to copy from has been deleted meanwhile. Nothing was changed.',
      );
    const ids = [...new Set(p.to)].filter((id) => id !== p.from);
    if (ids.length === 0)
      return refuse('invalid', 'Say which other fixtures get the programming.', {
        to: 'Nothing to copy to.',
      });
    const targets = ids.flatMap((id) => unitOf(show, id) ?? []);
    if (targets.length < ids.length)
      return refuse(
        'not-found',
        'One of these fixtures has been deleted meanwhile. Nothing was changed.',
      );
    const given = valuesByCue(show, p.from);
    const sides = new Map(targets.map((t) => [t.fixture.id, t]));
    const meanings = [
      ...palettesCopied(show, source, targets),
      ...looksCopied(show, source.fixture, source, sides),
    ];
    const after = meaningAfter(show, meanings);
    const dropped = new Set<string>();
    const changes = [
      ...meanings,
      ...targets.flatMap((t) => valuesCopied(show, after, source, t, given, dropped)),
      ...groupsCopied(show, source, targets),
    ];
    const { number } = source.fixture;
    const numbers = targets.map((t) => t.fixture.number);
    if (changes.length === 0)
      return refuse(
        'nothing',
        `${numberRanges(numbers)} already ${numbers.length === 1 ? 'does' : 'do'} what ${number} does.`,
      );
    const lost = dropped.size > 0 ? `; not possible there: ${[...dropped].join(', ')}` : '';
    return {
      changes,
      summary: `Copied the programming of ${number} to ${numberRanges(numbers)}, ${plural(given.size, 'cue')}${lost}`,
    };
  },
});

/** Patches new units like the one, which do what it does: one step for the hand, and for undo. */
function ontoNew(
  show: Show,
  from: string,
  { quantity, label, ...where }: NonNullable<z.output<typeof Params>['fresh']>,
  context: EditContext,
): Result<Planned> {
  const source = show.fixtures.get(from);
  if (!source)
    return refuse(
      'not-found',
      'The fixture to copy from has been deleted meanwhile. Nothing was changed.',
    );
  const patched = planAs(
    patchFixtures,
    show,
    { typeId: source.typeId, mode: source.mode, quantity, label: label ?? source.label, ...where },
    context,
  );
  if (isRefusal(patched)) return patched;
  const rows = patched.changes.flatMap((c) => (c.table === 'fixtures' && c.after ? [c.after] : []));
  const after = MutableShow.from(
    TABLE_NAMES.flatMap((table) => [...show[table].values()].map((row) => ({ table, row }))),
  );
  after.apply(patched.changes);
  const copied = planAs(copyProgramming, after, { from, to: rows.map((r) => r.id) }, context);
  // A unit that does nothing yet has nothing to copy: the new ones are patched all the same.
  if (isRefusal(copied)) return copied.code === 'nothing' ? patched : copied;
  return {
    changes: [...patched.changes, ...copied.changes],
    summary: `${patched.summary}; ${copied.summary.replace(/^./, (first) => first.toLowerCase())}`,
  };
}
