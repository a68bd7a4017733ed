/** Edits as they arrive: what is held goes along with the rig, with palettes, looks and effects. */
import type { HeldValue } from '../../core/live/messages.ts';
import { effectOver, lookSlots, placesOf } from '../../core/looks/resolve.ts';
import { effectOf, levelOf, type Valued } from '../../core/looks/value.ts';
import { laneOf } from '../../core/effects/lanes.ts';
import { reachOf } from '../../core/palettes/resolve.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { PaletteRow } from '../../core/palettes/rows.ts';
import { same } from '../../core/same.ts';
import { heldAfter, type Swapped } from '../held-values.ts';
import type { OperatorState, Programmers } from './programmers.ts';
import { sendHeld } from './telling.ts';
import { letGo } from './holding.ts';

/** After a change of the rig: values of swapped units in their new attributes, nothing of what is gone. */
export function rigChanged(p: Programmers, swapped: readonly Swapped[]): void {
  for (const [userId, operator] of p.operators) {
    const converted = heldAfter(p.show, swapped, [...operator.values.values()]);
    for (const key of [...operator.values.keys()])
      if (p.slotOf(key) === undefined) operator.values.delete(key);
    operator.selection = operator.selection.filter((id) => p.show.fixtures.has(id));
    if (operator.stepping)
      operator.stepping = {
        ...operator.stepping,
        all: operator.stepping.all.filter((id) => p.show.fixtures.has(id)),
      };
    for (const v of converted) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
    sendHeld(p, userId, converted, 'at once');
    p.changed(userId, 'soon');
  }
}

/** What palettes, looks and effects say has changed: what follows them goes along; what follows what is gone stands for itself. */
export function followed(
  p: Programmers,
  concerned: (v: Valued) => boolean,
  effects: ReadonlySet<string>,
): void {
  for (const [userId, operator] of p.operators) {
    const gone = [...operator.values]
      .filter(([, v]) => v.taken && v.effect && effects.has(v.effect.id) && !effectMoves(p, v))
      .map(([key]) => key);
    if (gone.length > 0) letGo(p, { userId, name: operator.name }, gone, 0, false);
    takeAlong(p, userId, operator, effects);
    const moved = [...operator.values.values()].filter(concerned).map((v): HeldValue => {
      const next: HeldValue = { ...v, level: levelOf(p.show, v) ?? v.level };
      const effect = effectOf(p.show, v);
      if (v.palette !== undefined && !p.show.palettes.has(v.palette)) delete next.palette;
      if (v.look !== undefined && !p.show.looks.has(v.look)) delete next.look;
      if (effect && effectMoves(p, v)) next.effect = effect;
      else delete next.effect;
      return next;
    });
    const changed = moved.filter(
      (v) => !same(v, operator.values.get(slotKey(v.fixtureId, v.attribute))),
    );
    for (const v of changed) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
    if (changed.length === 0) continue;
    sendHeld(p, userId, changed, 'bends');
    p.changed(userId, 'soon');
  }
}

/** Whether the effect that a value runs moves its attribute, as the effect is now. */
function effectMoves(p: Programmers, v: Pick<HeldValue, 'attribute' | 'effect' | 'look'>): boolean {
  if (v.look !== undefined || !v.effect) return true;
  const effect = p.show.effects.get(v.effect.id);
  return effect !== undefined && laneOf(effect, v.attribute) !== undefined;
}

/** Attributes that an effect moves since it was changed: whoever runs it takes them. */
function takeAlong(
  p: Programmers,
  userId: string,
  operator: OperatorState,
  effects: ReadonlySet<string>,
): void {
  for (const id of effects) {
    const effect = p.show.effects.get(id);
    const uses = [...operator.values.values()].flatMap((v) =>
      v.look === undefined && v.effect?.id === id
        ? [{ fixtureId: v.fixtureId, effect: v.effect }]
        : [],
    );
    if (!effect || uses.length === 0) continue;
    const fresh = effectOver(p.show, effect, placesOf(p.show, uses)).flatMap((u): HeldValue[] => {
      const key = slotKey(u.fixtureId, u.attribute);
      const [slot, held] = [p.slotOf(key), operator.values.get(key)];
      if (slot === undefined || held?.effect) return [];
      return [
        held
          ? { ...held, effect: u.effect, recorded: false }
          : {
              fixtureId: u.fixtureId,
              attribute: u.attribute,
              level: p.levelNow(slot),
              fade_s: 0,
              delay_s: 0,
              recorded: false,
              effect: u.effect,
              taken: true,
            },
      ];
    });
    for (const v of fresh) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
    if (fresh.length > 0) sendHeld(p, userId, fresh, 'bends');
  }
}

/** Values that a palette was just recorded from follow it from now on, so that the next cue takes the palette and not the numbers. */
export function followPalette(p: Programmers, userId: string, palette: PaletteRow): void {
  const operator = p.operators.get(userId);
  if (!operator) return;
  for (const [key, v] of operator.values) {
    const fixture = p.show.fixtures.get(v.fixtureId);
    const level = fixture ? reachOf(p.show, palette, fixture).get(v.attribute) : undefined;
    if (level !== undefined && Math.abs(level - v.level) < 1e-4)
      operator.values.set(key, { ...v, palette: palette.id });
  }
  p.changed(userId, 'soon');
}

/** What a person holds of a look follows its new content. */
export function followLook(p: Programmers, userId: string, lookId: string): void {
  const operator = p.operators.get(userId);
  if (!operator) return;
  for (const [key, slot] of lookSlots(p.show, lookId)) {
    const v = operator.values.get(key);
    if (
      v &&
      (slot.level === undefined || Math.abs(slot.level - v.level) < 1e-4) &&
      same(slot.effect, v.effect)
    )
      operator.values.set(key, { ...v, look: lookId });
  }
  p.changed(userId, 'soon');
}
