/**
 * Cues follow what they refer to also where it grows: a look or a group that takes in a fixture takes it into the cues
 * that use it; one that loses a fixture leaves them without it.
 */
import { trackedAt } from '../cues/tracking.ts';
import { groupsAround } from '../groups/members.ts';
import { effectOver, effectUses, lookSlots, looksAround, placesOf } from '../looks/resolve.ts';
import { modeOf } from '../fixtures/points.ts';
import { meaningAfter, type Meaning } from '../show/after.ts';
import { slotKey, valueId, type CueRow, type ValueRow } from '../cues/rows.ts';
import type { EffectUse } from '../effects/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { deleteRow, insertRow, replaceRow } from './define-edit.ts';

/** What a slot shows in a cue before it gets a value of its own: the level beneath an effect that comes to it. */
function levelBeneath(show: Show, cue: CueRow, fixtureId: string, attribute: string): number {
  const tracked = trackedAt(show, cue.listId, cue.number, slotKey(fixtureId, attribute));
  const fixture = show.fixtures.get(fixtureId);
  const mode = fixture ? modeOf(show, fixture) : undefined;
  return (
    tracked?.value.level ?? mode?.channels.find((c) => c.attribute === attribute)?.default ?? 0
  );
}

/** The changes with what follows from them in cues. */
export function followed(show: Show, changes: readonly RowChange[]): RowChange[] {
  const groups = new Set(
    changes.flatMap((c) =>
      c.table === 'groups' && c.before && c.after ? groupsAround(show, c.id) : [],
    ),
  );
  const looks = new Set(
    changes.flatMap((c) =>
      c.table === 'looks' && c.before && c.after ? looksAround(show, c.id) : [],
    ),
  );
  for (const look of show.looks.values()) {
    if (
      look.items.some(
        (i) =>
          (i.kind === 'palette' || i.kind === 'effect') && i.members.some((m) => groups.has(m)),
      )
    )
      for (const id of looksAround(show, look.id)) looks.add(id);
  }
  const effects = new Set(
    changes.flatMap((c) => (c.table === 'effects' && c.before && c.after ? [c.id] : [])),
  );
  for (const look of show.looks.values())
    if (look.items.some((i) => i.kind === 'effect' && effects.has(i.effect)))
      for (const id of looksAround(show, look.id)) looks.add(id);
  if (groups.size + looks.size + effects.size === 0) return [...changes];
  const after = meaningAfter(show, changes);
  const written = new Set(changes.map((c) => `${c.table}/${c.id}`));
  const more = [
    ...lookUses(show, after, looks),
    ...effectsOverGroups(show, after, groups),
    ...effectsChanged(show, after, effects, groups),
  ].filter((c) => !written.has(`${c.table}/${c.id}`));
  return [...changes, ...more];
}

function lookUses(show: Show, after: Meaning, looks: ReadonlySet<string>): RowChange[] {
  if (looks.size === 0) return [];
  const uses = new Map<string, { cue: CueRow; look: string; rows: ValueRow[] }>();
  for (const value of show.values.values()) {
    const cue =
      value.look !== undefined && looks.has(value.look) ? show.cues.get(value.cueId) : undefined;
    if (!cue || value.look === undefined) continue;
    const key = `${cue.id}/${value.look}`;
    const use = uses.get(key) ?? { cue, look: value.look, rows: [] };
    use.rows.push(value);
    uses.set(key, use);
  }
  const changes: RowChange[] = [];
  for (const { cue, look, rows } of uses.values()) {
    const was = lookSlots(show, look);
    const is = lookSlots(after, look);
    const set = show.valuesOf(cue.id);
    for (const row of rows)
      if (!is.has(slotKey(row.fixtureId, row.attribute))) changes.push(deleteRow('values', row));
    for (const [key, slot] of is) {
      if (was.has(key) || set.has(key)) continue;
      changes.push(
        insertRow('values', {
          id: valueId(cue.id, slot.fixtureId, slot.attribute),
          cueId: cue.id,
          fixtureId: slot.fixtureId,
          attribute: slot.attribute,
          level: slot.level ?? levelBeneath(show, cue, slot.fixtureId, slot.attribute),
          look,
        }),
      );
    }
  }
  return changes;
}

/** The values of cues that run an effect by themselves, by cue, effect and group, where `concerns` says so. */
function effectValues(
  show: Show,
  concerns: (effect: EffectUse) => boolean,
): { cue: CueRow; effect: string; group: string | undefined; rows: ValueRow[] }[] {
  const uses = new Map<
    string,
    { cue: CueRow; effect: string; group: string | undefined; rows: ValueRow[] }
  >();
  for (const value of show.values.values()) {
    const cue =
      value.look === undefined && value.effect && concerns(value.effect)
        ? show.cues.get(value.cueId)
        : undefined;
    if (!cue || !value.effect) continue;
    const { id, group } = value.effect;
    const key = `${cue.id}/${id}/${group ?? ''}`;
    const use = uses.get(key) ?? { cue, effect: id, group, rows: [] };
    use.rows.push(value);
    uses.set(key, use);
  }
  return [...uses.values()];
}

function effectsOverGroups(show: Show, after: Meaning, groups: ReadonlySet<string>): RowChange[] {
  return effectValues(show, ({ group }) => group !== undefined && groups.has(group)).flatMap(
    ({ cue, effect: id, group, rows }) => {
      const effect = after.effects.get(id);
      return effect && group !== undefined
        ? runAnew(show, cue, rows, effectUses(after, effect, [group]))
        : [];
    },
  );
}

/** An effect that moves other attributes than before moves them in the cues that run it, too. */
function effectsChanged(
  show: Show,
  after: Meaning,
  effects: ReadonlySet<string>,
  groups: ReadonlySet<string>,
): RowChange[] {
  return effectValues(
    show,
    ({ id, group }) => effects.has(id) && (group === undefined || !groups.has(group)),
  ).flatMap(({ cue, effect: id, rows }) => {
    const effect = after.effects.get(id);
    const uses = rows.flatMap((r) =>
      r.effect ? [{ fixtureId: r.fixtureId, effect: r.effect }] : [],
    );
    return effect ? runAnew(show, cue, rows, effectOver(after, effect, placesOf(show, uses))) : [];
  });
}

/** What a cue's rows become when an effect runs on these slots instead of on theirs. */
function runAnew(
  show: Show,
  cue: CueRow,
  rows: readonly ValueRow[],
  uses: readonly { fixtureId: string; attribute: string; effect: EffectUse }[],
): RowChange[] {
  const changes: RowChange[] = [];
  const wanted = new Map(uses.map((u) => [slotKey(u.fixtureId, u.attribute), u]));
  for (const row of rows) {
    const key = slotKey(row.fixtureId, row.attribute);
    const use = wanted.get(key);
    wanted.delete(key);
    if (use && use.effect.at === row.effect?.at && use.effect.of === row.effect?.of) continue;
    const next: ValueRow = { ...row };
    if (use) next.effect = use.effect;
    else delete next.effect;
    changes.push(replaceRow('values', row, next));
  }
  const set = show.valuesOf(cue.id);
  for (const [key, use] of wanted) {
    const old = set.get(key);
    if (old?.level === null) continue;
    if (old) changes.push(replaceRow('values', old, { ...old, effect: use.effect }));
    else
      changes.push(
        insertRow('values', {
          id: valueId(cue.id, use.fixtureId, use.attribute),
          cueId: cue.id,
          fixtureId: use.fixtureId,
          attribute: use.attribute,
          level: levelBeneath(show, cue, use.fixtureId, use.attribute),
          effect: use.effect,
        }),
      );
  }
  return changes;
}
