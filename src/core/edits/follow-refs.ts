/** Values that follow palettes and looks when a unit becomes another kind of unit, or does what another one does. */
import { lookSlots } from '../looks/resolve.ts';
import { reachIn } from '../palettes/resolve.ts';
import { convertSetting, type Side } from '../rig/convert.ts';
import type { Meaning } from '../show/after.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { LookItem, LookRow } from '../looks/rows.ts';
import { valueId, type ValueRow } from '../cues/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { updateRow } from './define-edit.ts';

/** What a value says: a level, and what it follows. */
export interface Said {
  level: number | null;
  palette?: string;
  look?: string;
}

/** What a value keeps of a row that it comes from. */
interface Kept {
  effect?: ValueRow['effect'] | undefined;
  fade_s?: number | undefined;
  delay_s?: number | undefined;
}

/** What is said of a slot as a row of a cue; a release has no effect. */
export const saidRow = (
  { cueId, fixtureId, attribute }: Pick<ValueRow, 'cueId' | 'fixtureId' | 'attribute'>,
  { level, palette, look }: Said,
  { effect, fade_s, delay_s }: Kept,
): ValueRow => ({
  id: valueId(cueId, fixtureId, attribute),
  cueId,
  fixtureId,
  attribute,
  level,
  ...(palette === undefined ? {} : { palette }),
  ...(look === undefined ? {} : { look }),
  ...(effect === undefined || level === null ? {} : { effect }),
  ...(fade_s === undefined ? {} : { fade_s }),
  ...(delay_s === undefined ? {} : { delay_s }),
});

/**
 * What palettes and looks that rows follow answer for a unit of this kind; those that do not reach it are not kept.
 * @param after palettes, looks and fixtures as they will be
 */
export function followRefs(
  after: Meaning,
  fixture: FixtureRow,
  to: Side,
  rows: readonly ValueRow[],
): { kept: Map<string, string>; values: Map<string, Said> } {
  const kept = new Map<string, string>();
  const values = new Map<string, Said>();
  for (const id of new Set(
    rows.flatMap((r) => (r.palette === undefined || r.look !== undefined ? [] : [r.palette])),
  )) {
    const palette = after.palettes.get(id);
    const reach = palette ? reachIn(palette, fixture, to.type, to.mode, after) : undefined;
    if (!palette || !reach || reach.size === 0) continue;
    for (const row of rows)
      if (row.palette === id) kept.set(row.attribute, `palette ${palette.number} ${palette.name}`);
    for (const [attribute, level] of reach) values.set(attribute, { level, palette: id });
  }
  for (const id of new Set(rows.flatMap((r) => r.look ?? []))) {
    const look = after.looks.get(id);
    const own = look
      ? [...lookSlots(after, id).values()].filter((s) => s.fixtureId === fixture.id)
      : [];
    if (!look || own.length === 0) continue;
    for (const row of rows)
      if (row.look === id) kept.set(row.attribute, `look ${look.number} ${look.name}`);
    for (const slot of own)
      values.set(slot.attribute, {
        level: slot.level ?? rows.find((r) => r.attribute === slot.attribute)?.level ?? 0,
        look: id,
      });
  }
  return { kept, values };
}

/** A unit's levels in a look, said in another kind's attributes for the unit `id`. */
function itemsAs(look: LookRow, from: Side, to: Side, fixture: FixtureRow, id: string): LookItem[] {
  const own = look.items.flatMap((i) =>
    i.kind === 'level' && i.fixtureId === fixture.id ? [[i.attribute, i.level] as const] : [],
  );
  if (own.length === 0) return [];
  const { setting } = convertSetting(from, to, fixture, new Map(own), new Map(own));
  return [...setting].flatMap(([attribute, level]): LookItem[] =>
    level === null ? [] : [{ kind: 'level', fixtureId: id, attribute, level }],
  );
}

/** Looks with these units as units of another kind. */
export function looksSwapped(show: Show, sides: ReadonlyMap<string, Side>, to: Side): RowChange[] {
  return [...show.looks.values()].flatMap((look): RowChange[] => {
    const here = [...sides.keys()].filter((id) =>
      look.items.some((i) => i.kind === 'level' && i.fixtureId === id),
    );
    if (here.length === 0) return [];
    const items = look.items.filter((i) => i.kind !== 'level' || !here.includes(i.fixtureId));
    for (const id of here) {
      const [from, fixture] = [sides.get(id), show.fixtures.get(id)];
      if (from && fixture) items.push(...itemsAs(look, from, to, fixture, id));
    }
    return [updateRow('looks', look, { items })];
  });
}

/** Looks in which others do what one unit does: its levels in their own attributes, beside it where it is a member. */
export function looksCopied(
  show: Show,
  source: FixtureRow,
  from: Side,
  targets: ReadonlyMap<string, Side>,
): RowChange[] {
  return [...show.looks.values()].flatMap((look): RowChange[] => {
    const named = look.items.some((i) =>
      i.kind === 'level'
        ? i.fixtureId === source.id
        : 'members' in i && i.members.includes(source.id),
    );
    if (!named) return [];
    const items = look.items
      .filter((i) => i.kind !== 'level' || !targets.has(i.fixtureId))
      .map((i) =>
        'members' in i && i.members.includes(source.id)
          ? {
              ...i,
              members: [
                ...new Set(
                  i.members.flatMap((m) => (m === source.id ? [m, ...targets.keys()] : [m])),
                ),
              ],
            }
          : i,
      );
    for (const [id, to] of targets) items.push(...itemsAs(look, from, to, source, id));
    return [updateRow('looks', look, { items })];
  });
}
