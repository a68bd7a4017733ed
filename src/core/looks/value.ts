/** What a recorded or held value stands for now: its own level, its palette's answer, its look's. */
import { reachOf, type PaletteSource } from '../palettes/resolve.ts';
import { slotKey, type ValueRow } from '../cues/rows.ts';
import type { EffectUse } from '../effects/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { lookSlots } from './resolve.ts';
import { phaseOfUse, sideIn } from '../effects/spread.ts';

/** What a value is, whoever holds it. */
export type Valued = Pick<
  ValueRow,
  'fixtureId' | 'attribute' | 'level' | 'palette' | 'look' | 'effect'
>;

/** What a value that follows a look says by itself, where the look says something for the slot. */
function followed(
  source: PaletteSource,
  value: Valued,
): { level?: number; palette?: string; effect?: EffectUse } | undefined {
  return value.look === undefined
    ? undefined
    : lookSlots(source, value.look).get(slotKey(value.fixtureId, value.attribute));
}

/** The level that a value stands for now: its look's or palette's answer, or its own. Null lets go. */
export function levelOf(source: PaletteSource, value: Valued): number | null {
  if (value.level === null) return null;
  const look = followed(source, value);
  if (look && look.palette === undefined) return look.level ?? value.level;
  const id = look ? look.palette : value.palette;
  const palette = id === undefined ? undefined : source.palettes.get(id);
  const fixture = palette ? source.fixtures.get(value.fixtureId) : undefined;
  return (
    (palette && fixture ? reachOf(source, palette, fixture).get(value.attribute) : undefined) ??
    look?.level ??
    value.level
  );
}

/** The effect that a value runs now, if any, with the phase that its place has in the effect as it is now. */
export const effectOf = (source: PaletteSource, value: Valued): EffectUse | undefined => {
  if (value.level === null) return undefined;
  const look = followed(source, value);
  const use = look ? look.effect : value.effect;
  const effect = use ? source.effects.get(use.id) : undefined;
  if (!use || !effect) return undefined;
  const phase = phaseOfUse(effect, use, sideIn(source, effect, value.fixtureId));
  return phase === use.phase ? use : { ...use, phase };
};

/** Tells values that may stand for something else after these changes of palettes, looks, groups, effects or the rig. */
export function concernedBy(
  show: Pick<Show, 'palettes' | 'effects'>,
  changes: readonly Pick<RowChange, 'table' | 'id'>[],
): (value: Pick<ValueRow, 'fixtureId' | 'palette' | 'look' | 'effect'>) => boolean {
  const ids = new Set(changes.map((c) => c.id));
  const changed = (...tables: RowChange['table'][]): boolean =>
    changes.some((c) => tables.includes(c.table));
  const types = changed('types');
  const looks = changed('looks', 'palettes', 'groups', 'effects', 'types', 'fixtures');
  const grouped = new Set(
    changed('groups')
      ? [...show.palettes.values()]
          .filter((p) => Object.keys(p.groups ?? {}).length > 0)
          .map((p) => p.id)
      : [],
  );
  // Where units hang decides their turn.
  const hung = new Set(
    changed('fixtures')
      ? [...show.effects.values()].filter((e) => e.spread.across).map((e) => e.id)
      : [],
  );
  return (v) =>
    (v.palette !== undefined &&
      (types || ids.has(v.palette) || ids.has(v.fixtureId) || grouped.has(v.palette))) ||
    (v.look !== undefined && looks) ||
    (v.effect !== undefined && (ids.has(v.effect.id) || hung.has(v.effect.id)));
}

/** What a unit shows by attribute goes on by what a cue says of it; a release takes it out. */
export function goThrough(show: Show, shown: Map<string, number>, rows: readonly ValueRow[]): void {
  for (const row of rows) {
    const level = levelOf(show, row);
    if (level === null) shown.delete(row.attribute);
    else shown.set(row.attribute, level);
  }
}
