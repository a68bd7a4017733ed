/**
 * Cues follow what they refer to also where it grows: a look or a group that takes in a fixture takes it into the cues
 * that use it; one that loses a fixture leaves them without it.
 */
import { trackedAt } from '../cues/tracking.ts';
import { groupsAround } from '../groups/members.ts';
import { effectUses, lookSlots, looksAround } from '../looks/resolve.ts';
import { modeOf } from '../rig/addresses.ts';
import { meaningAfter, type Meaning } from '../show/after.ts';
import { slotKey, valueId, type CueRow, type ValueRow } from '../show/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { deleteRow, insertRow, replaceRow } from './edit.ts';

/** What a slot shows in a cue before it gets a value of its own: the level beneath an effect that comes to it. */
function levelBeneath(show: Show, cue: CueRow, fixtureId: string, attribute: string): number {
  const tracked = trackedAt(show, cue.listId, cue.number, slotKey(fixtureId, attribute));
  const fixture = show.fixtures.get(fixtureId);
  const mode = fixture ? modeOf(show, fixture) : undefined;
  return tracked?.value.level ?? mode?.channels.find((c) => c.attribute === attribute)?.default ?? 0;
}

/** The changes with what follows from them in cues. */
export function followed(show: Show, changes: readonly RowChange[]): RowChange[] {
  const groups = new Set(changes.flatMap((c) => (c.table === 'groups' && c.before && c.after ? groupsAround(show, c.id) : [])));
  const looks = new Set(changes.flatMap((c) => (c.table === 'looks' && c.before && c.after ? looksAround(show, c.id) : [])));
  for (const look of show.looks.values()) {
    if (look.items.some((i) => (i.kind === 'palette' || i.kind === 'effect') && i.members.some((m) => groups.has(m)))) for (const id of looksAround(show, look.id)) looks.add(id);
  }
  if (groups.size + looks.size === 0) return [...changes];
  const after = meaningAfter(show, changes);
  const written = new Set(changes.map((c) => `${c.table}/${c.id}`));
  const more = [...lookUses(show, after, looks), ...effectsOverGroups(show, after, groups)].filter((c) => !written.has(`${c.table}/${c.id}`));
  return [...changes, ...more];
}

function lookUses(show: Show, after: Meaning, looks: ReadonlySet<string>): RowChange[] {
  if (looks.size === 0) return [];
  const uses = new Map<string, { cue: CueRow; look: string; rows: ValueRow[] }>();
  for (const value of show.values.values()) {
    const cue = value.look !== undefined && looks.has(value.look) ? show.cues.get(value.cueId) : undefined;
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
    for (const row of rows) if (!is.has(slotKey(row.fixtureId, row.attribute))) changes.push(deleteRow('values', row));
    for (const [key, slot] of is) {
      if (was.has(key) || set.has(key)) continue;
      changes.push(insertRow('values', { id: valueId(cue.id, slot.fixtureId, slot.attribute), cueId: cue.id, fixtureId: slot.fixtureId, attribute: slot.attribute, level: slot.level ?? levelBeneath(show, cue, slot.fixtureId, slot.attribute), look }));
    }
  }
  return changes;
}

function effectsOverGroups(show: Show, after: Meaning, groups: ReadonlySet<string>): RowChange[] {
  const uses = new Map<string, { cue: CueRow; effect: string; group: string; rows: Map<string, ValueRow> }>();
  for (const value of show.values.values()) {
    const group = value.look === undefined ? value.effect?.group : undefined;
    const cue = group !== undefined && groups.has(group) ? show.cues.get(value.cueId) : undefined;
    if (!cue || !value.effect || group === undefined) continue;
    const key = `${cue.id}/${value.effect.id}/${group}`;
    const use = uses.get(key) ?? { cue, effect: value.effect.id, group, rows: new Map<string, ValueRow>() };
    use.rows.set(slotKey(value.fixtureId, value.attribute), value);
    uses.set(key, use);
  }
  const changes: RowChange[] = [];
  for (const { cue, effect: effectId, group, rows } of uses.values()) {
    const effect = after.effects.get(effectId);
    if (!effect) continue;
    const wanted = new Map(effectUses(after, effect, [group]).map((u) => [slotKey(u.fixtureId, u.attribute), u]));
    for (const [key, row] of rows) {
      const use = wanted.get(key);
      wanted.delete(key);
      if (use && use.effect.phase === row.effect?.phase) continue;
      const next: ValueRow = { ...row };
      if (use) next.effect = use.effect;
      else delete next.effect;
      changes.push(replaceRow('values', row, next));
    }
    const set = show.valuesOf(cue.id);
    for (const [key, use] of wanted) {
      const old = set.get(key);
      if (old) changes.push(replaceRow('values', old, { ...old, effect: use.effect }));
      else changes.push(insertRow('values', { id: valueId(cue.id, use.fixtureId, use.attribute), cueId: cue.id, fixtureId: use.fixtureId, attribute: use.attribute, level: levelBeneath(show, cue, use.fixtureId, use.attribute), effect: use.effect }));
    }
  }
  return changes;
}
