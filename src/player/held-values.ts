/** What operators hold of a unit whose type is swapped: said again in the new attributes, so that no unrecorded value is lost by it. */
import type { HeldValue } from '../core/live/messages.ts';
import { reachOf } from '../core/palettes/resolve.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { convertSetting, type Side } from '../core/rig/convert.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import type { MutableShow, RowChange } from '../core/show/show.ts';

/** A fixture that became another type, with what it was. */
export interface Swapped {
  fixture: FixtureRow;
  from: Side;
}

const sideOf = (show: MutableShow, fixture: FixtureRow): Side | undefined => {
  const type = show.types.get(fixture.typeId);
  const mode = modeOf(show, fixture);
  return type && mode ? { type, mode } : undefined;
};

/** Fixtures that these changes give another type or mode, as they are before. Ask before the changes are applied. */
export function swappedBy(show: MutableShow, rows: readonly RowChange[]): Swapped[] {
  return rows.flatMap((r): Swapped[] => {
    if (
      r.table !== 'fixtures' ||
      !r.before ||
      !r.after ||
      (r.before.typeId === r.after.typeId && r.before.mode === r.after.mode)
    )
      return [];
    const from = sideOf(show, r.before);
    return from ? [{ fixture: r.before, from }] : [];
  });
}

/** The held values of swapped fixtures for the types that they have now. Ask after the changes are applied. */
export function heldAfter(
  show: MutableShow,
  swapped: readonly Swapped[],
  values: readonly HeldValue[],
): HeldValue[] {
  return swapped.flatMap(({ fixture, from }) => {
    const now = show.fixtures.get(fixture.id);
    const to = now ? sideOf(show, now) : undefined;
    const own = values.filter((v) => v.fixtureId === fixture.id);
    if (!to || own.length === 0) return [];
    const levels = new Map(own.map((v) => [v.attribute, v.level]));
    const { setting } = convertSetting(from, to, fixture, new Map(levels), levels);
    return [...setting].flatMap(([attribute, level]): HeldValue[] => {
      if (level === null) return [];
      const model = own.find((v) => v.attribute === attribute) ?? own[0];
      const value: HeldValue = {
        fixtureId: fixture.id,
        attribute,
        level,
        fade_s: model?.fade_s ?? 0,
        delay_s: model?.delay_s ?? 0,
        recorded: model?.recorded ?? false,
      };
      // A palette that reaches the new attribute goes on being followed.
      const palette = own
        .map((v) => (v.palette === undefined || !now ? undefined : show.palettes.get(v.palette)))
        .find((p) => p && now && reachOf(show, p, now).has(attribute));
      const answer = palette && now ? reachOf(show, palette, now).get(attribute) : undefined;
      return [
        palette && answer !== undefined ? { ...value, palette: palette.id, level: answer } : value,
      ];
    });
  });
}
