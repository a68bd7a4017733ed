/** Copy programming: one fixture's values in all cues, and its places in groups, to others. */
import { z } from 'zod';
import { isRefusal, refuse, type Result } from '../../refusal.ts';
import { modeOf } from '../../fixtures/points.ts';
import { attributeInfo } from '../../rig/attributes.ts';
import { convertSetting, type Setting } from '../../rig/convert.ts';
import { levelOf } from '../../looks/value.ts';
import { Address, FixtureNumber, LIMITS, Name, RowId, Universe } from '../../show/fields.ts';
import { TABLE_NAMES } from '../../show/tables.ts';
import { valueId, type ValueRow } from '../rows.ts';
import { same } from '../../same.ts';
import { meaningAfter } from '../../show/after.ts';
import { followRefs, looksCopied, type Said } from '../../edits/follow-refs.ts';
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

export const copyProgramming = defineEdit({
  name: 'copy-programming',
  params: Params,
  roles: EDITORS,
  plan: (show, p, context) => {
    if (p.fresh) return ontoNew(show, p.from, p.fresh, context);
    const source = show.fixtures.get(p.from);
    const type = source ? show.types.get(source.typeId) : undefined;
    const mode = source ? modeOf(show, source) : undefined;
    if (!source || !type || !mode)
      return refuse(
        'not-found',
        'The fixture to copy from has been deleted meanwhile. Nothing was changed.',
      );
    const targets = [...new Set(p.to)]
      .filter((id) => id !== source.id)
      .map((id) => show.fixtures.get(id));
    if (targets.length === 0)
      return refuse('invalid', 'Say which other fixtures get the programming.', {
        to: 'Nothing to copy to.',
      });
    const given = valuesByCue(show, source.id);
    const changes: RowChange[] = [];
    const dropped = new Set<string>();
    const numbers: number[] = [];
    // In palettes the others say what the one says, as far as they can.
    for (const palette of show.palettes.values()) {
      const own = palette.fixtures[source.id];
      if (!own) continue;
      const next = { ...palette.fixtures };
      for (const target of targets) {
        const to = target
          ? { type: show.types.get(target.typeId), mode: modeOf(show, target) }
          : undefined;
        if (!target || !to?.type || !to.mode) continue;
        const converted = convertSetting(
          { type, mode },
          { type: to.type, mode: to.mode },
          source,
          new Map(Object.entries(own)),
          new Map(Object.entries(own)),
        );
        const entries = [...converted.setting].flatMap(([a, level]) =>
          level === null ? [] : [[a, level] as const],
        );
        if (entries.length > 0) next[target.id] = Object.fromEntries(entries);
      }
      if (same(next, palette.fixtures)) continue;
      const row = { ...palette, fixtures: next };
      changes.push(replaceRow('palettes', palette, row));
    }
    const sides = new Map(
      targets.flatMap((t) => {
        const [type_, mode_] = t ? [show.types.get(t.typeId), modeOf(show, t)] : [];
        return t && type_ && mode_ ? [[t.id, { type: type_, mode: mode_ }] as const] : [];
      }),
    );
    changes.push(...looksCopied(show, source, { type, mode }, sides));
    const after_ = meaningAfter(show, changes);
    const before = new Map(targets.map((t) => [t?.id ?? '', valuesByCue(show, t?.id ?? '')]));
    for (const target of targets) {
      const targetType = target ? show.types.get(target.typeId) : undefined;
      const targetMode = target ? modeOf(show, target) : undefined;
      if (!target || !targetType || !targetMode)
        return refuse(
          'not-found',
          'One of these fixtures has been deleted meanwhile. Nothing was changed.',
        );
      numbers.push(target.number);
      const old = before.get(target.id) ?? new Map<string, ValueRow[]>();
      for (const list of show.lists.values()) {
        const shown = new Map<string, number>();
        for (const cue of show.cuesOf(list.id)) {
          const rows = given.get(cue.id) ?? [];
          const followed = followRefs(after_, target, { type: targetType, mode: targetMode }, rows);
          const setting: Setting = new Map(
            rows
              .filter((r) => !followed.kept.has(r.attribute))
              .map((r) => [r.attribute, levelOf(show, r)]),
          );
          for (const row of rows) {
            const level = levelOf(show, row);
            if (level === null) shown.delete(row.attribute);
            else shown.set(row.attribute, level);
          }
          const converted = convertSetting(
            { type, mode },
            { type: targetType, mode: targetMode },
            source,
            setting,
            shown,
          );
          for (const fate of converted.fates)
            if (fate.fate === 'dropped')
              dropped.add(attributeInfo(fate.attribute).label.toLowerCase());
          const had = new Map((old.get(cue.id) ?? []).map((r) => [r.attribute, r]));
          const all = new Map<string, Said>([
            ...[...converted.setting].map(([a, level]) => [a, { level }] as const),
            ...followed.values,
          ]);
          for (const [attribute, { level, palette, look }] of all) {
            const row = rows.find((r) => r.attribute === attribute);
            const after: ValueRow = {
              id: valueId(cue.id, target.id, attribute),
              cueId: cue.id,
              fixtureId: target.id,
              attribute,
              level,
              ...(palette === undefined ? {} : { palette }),
              ...(look === undefined ? {} : { look }),
              ...(row?.effect === undefined || level === null ? {} : { effect: row.effect }),
              ...(row?.fade_s === undefined ? {} : { fade_s: row.fade_s }),
              ...(row?.delay_s === undefined ? {} : { delay_s: row.delay_s }),
            };
            const was = had.get(attribute);
            had.delete(attribute);
            if (!was) changes.push(insertRow('values', after));
            else if (!same(was, after)) changes.push(replaceRow('values', was, after));
          }
          // What it did on its own goes: afterwards it does what the other one does.
          for (const was of had.values()) changes.push(deleteRow('values', was));
        }
      }
    }
    const ids = new Set(numbers.map((n) => show.fixtureByNumber(n)?.id ?? ''));
    for (const group of show.groups.values()) {
      const missing = group.fixtures.includes(source.id)
        ? [...ids].filter((id) => !group.fixtures.includes(id))
        : [];
      if (missing.length > 0)
        changes.push(
          updateRow('groups', group, {
            fixtures: group.fixtures.flatMap((id) => (id === source.id ? [id, ...missing] : [id])),
          }),
        );
    }
    if (changes.length === 0)
      return refuse(
        'nothing',
        `${numberRanges(numbers)} already ${numbers.length === 1 ? 'does' : 'do'} what ${source.number} does.`,
      );
    const lost = dropped.size > 0 ? `; not possible there: ${[...dropped].join(', ')}` : '';
    return {
      changes,
      summary: `Copied the programming of ${source.number} to ${numberRanges(numbers)}, ${plural(given.size, 'cue')}${lost}`,
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
