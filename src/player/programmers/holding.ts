/** Holding values and letting go of them. */
import { laneOf } from '../../core/effects/lanes.ts';
import { plural } from '../../core/words.ts';
import type { HeldValue } from '../../core/live/messages.ts';
import type { CommandOf } from '../../core/live/commands.ts';
import { isRefusal, refuse, type Refusal } from '../../core/refusal.ts';
import { familyOf } from '../../core/rig/attributes.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { FixtureRow } from '../../core/fixtures/rows.ts';
import type { Actor } from '../actor.ts';
import type { Hands, Made, Putting } from '../settings.ts';
import type { Family } from '../../core/show/fields.ts';
import type { Answer } from '../answer.ts';
import { operatorOf, type Programmers } from './programmers.ts';
import { isBlind } from './seen.ts';
import { type Placed, sendHeld, tellHeld, placedValues } from './telling.ts';

/** Steps, and values in all of them; the last step is always kept. */
const CLEARS_KEPT = 20;
const CLEARED_KEPT = 20_000;

/** What a command about what is selected is answered while nothing is. */
export const NOTHING_SELECTED = refuse('nothing', 'Nothing is selected. Select fixtures first.');

interface OnFixtures {
  /** Numbers; absent: the operator's own selection. */
  fixtures?: readonly number[] | undefined;
}

/** Holds what is made of named fixtures, in their order, or else of the selection in its. */
export function onFixtures(
  p: Programmers,
  actor: Actor,
  { fixtures: numbers }: OnFixtures,
  make: (hands: Hands, fixtures: readonly FixtureRow[]) => Made,
): Answer {
  const fixtures = fixturesFor(p, actor, numbers);
  return isRefusal(fixtures) ? fixtures : holding(p, actor, (hands) => make(hands, fixtures));
}

/** Fixtures by their numbers, or those that the person has selected; refuses where there are none. */
export function fixturesFor(
  p: Programmers,
  actor: Actor,
  numbers: readonly number[] | undefined,
): readonly FixtureRow[] | Refusal {
  if (!numbers) {
    const { selection } = operatorOf(p, actor);
    const selected = selection.flatMap((id) => p.show.fixtures.get(id) ?? []);
    return selected.length === 0 ? NOTHING_SELECTED : selected;
  }
  const fixtures: FixtureRow[] = [];
  for (const number of numbers) {
    const fixture = p.show.fixtureByNumber(number);
    if (!fixture)
      return refuse('not-found', `There is no fixture ${number}. Nothing was set.`, {
        fixtures: `${number} is unknown.`,
      });
    fixtures.push(fixture);
  }
  return fixtures;
}

/** Lets go of all but these families. */
export function keepOnly(p: Programmers, actor: Actor, families: readonly Family[]): Answer {
  const others = [...operatorOf(p, actor).values].filter(
    ([, v]) => !families.includes(familyOf(v.attribute)),
  );
  return letGo(
    p,
    actor,
    others.map(([key]) => key),
    0,
  );
}

function handsOf(p: Programmers, actor: Actor): Hands {
  const { values } = operatorOf(p, actor);
  const { show, slotOf, levelNow, recordedAt } = p;
  const onStage = (fixtureId: string, attribute: string): number => {
    const slot = slotOf(slotKey(fixtureId, attribute));
    return slot === undefined ? 0 : levelNow(slot);
  };
  return {
    show,
    onStage,
    levelAt: (fixtureId, attribute) =>
      values.get(slotKey(fixtureId, attribute))?.level ?? onStage(fixtureId, attribute),
    follows: (fixtureId, attribute) => {
      const palette = values.get(slotKey(fixtureId, attribute))?.palette;
      return palette === undefined ? {} : { palette };
    },
    recordedAt: (fixtureId, attribute) => {
      const slot = slotOf(slotKey(fixtureId, attribute));
      return slot === undefined ? undefined : recordedAt(slot);
    },
  };
}

/** Holds what a command makes. */
export function holding(p: Programmers, actor: Actor, make: (hands: Hands) => Made): Answer {
  const setting = make(handsOf(p, actor));
  if (isRefusal(setting)) return setting;
  const answer = holdValues(p, actor, setting.values, setting.fade_s, setting.delay_s);
  return 'ok' in answer && setting.message ? { ok: true, message: setting.message } : answer;
}

/** Ends an effect on fixtures: their values go back to what lies beneath. */
export function endEffect(
  p: Programmers,
  actor: Actor,
  { effect: effectId, fixtures: numbers, fade_s = 0 }: CommandOf<'effect'>,
): Answer {
  const fixtures = fixturesFor(p, actor, numbers);
  if (isRefusal(fixtures)) return fixtures;
  const ids = new Set(fixtures.map((f) => f.id));
  const { values } = operatorOf(p, actor);
  const all = [...values.values()].filter((v) => ids.has(v.fixtureId) && v.effect?.id === effectId);
  if (all.length === 0) return refuse('nothing', 'You do not run this effect on these fixtures.');
  const taken = all.filter((v) => v.taken);
  if (taken.length > 0)
    letGo(
      p,
      actor,
      taken.map((v) => slotKey(v.fixtureId, v.attribute)),
      fade_s,
    );
  const running = all.filter((v) => !v.taken);
  for (const v of running) {
    const next = { ...v, recorded: false };
    delete next.effect;
    delete next.look;
    values.set(slotKey(v.fixtureId, v.attribute), next);
  }
  sendHeld(
    p,
    actor.userId,
    running.map((v) => ({ ...v, effect: undefined, fade_s, delay_s: 0 })),
  );
  p.changed(actor.userId, 'soon');
  return { ok: true };
}

/** Takes values in hand, fading from where they are. */
export function holdValues(
  p: Programmers,
  actor: Actor,
  given: readonly Putting[],
  fade_s: number,
  delay_s = 0,
): Answer {
  const able = placedValues(p, given);
  if (able.length === 0)
    return refuse('not-found', 'None of these fixtures has this attribute. Nothing was set.');
  const others = p.othersPart(actor, new Set(able.map((a) => a.v.fixtureId)));
  if (others) return others;
  const { values } = operatorOf(p, actor);
  const reached = new Set<string>();
  const held = able.map(({ v, key, slot }): Placed<HeldValue> => {
    const effect = v.effect ?? effectKept(p, values.get(key));
    const next: HeldValue = {
      fixtureId: v.fixtureId,
      attribute: v.attribute,
      level: v.level,
      fade_s: v.fade_s ?? fade_s,
      delay_s: v.delay_s ?? delay_s,
      recorded: false,
    };
    if (v.palette !== undefined) next.palette = v.palette;
    if (v.look !== undefined) next.look = v.look;
    if (effect !== undefined) next.effect = effect;
    const before = values.get(key);
    if (v.taken && (before === undefined || before.taken)) next.taken = true;
    values.set(key, next);
    reached.add(v.fixtureId);
    return { v: next, key, slot };
  });
  tellHeld(p, actor.userId, held);
  tellBoth(p, actor, held);
  p.changed(actor.userId, 'soon');
  const without = new Set(given.filter((v) => !reached.has(v.fixtureId)).map((v) => v.fixtureId))
    .size;
  return without > 0
    ? { ok: true, message: `${plural(without, 'fixture')} left out: no such attribute.` }
    : { ok: true };
}

/** Two hands on the same light, both live: both are told. */
function tellBoth(
  p: Programmers,
  actor: Pick<Actor, 'userId' | 'name'>,
  held: readonly Placed<HeldValue>[],
): void {
  if (isBlind(p, actor.userId)) return;
  for (const [userId, other] of p.operators) {
    if (userId === actor.userId || other.blind || other.values.size === 0) continue;
    const same_ = held.filter(({ key }) => other.values.has(key)).map(({ v }) => v);
    if (same_.length > 0) p.both(actor, { userId, name: other.name }, same_);
  }
}

/** A relative effect goes on over a new level; one that makes the level itself ends when a level is set by hand. */
function effectKept(p: Programmers, held: HeldValue | undefined): HeldValue['effect'] {
  const effect = held?.effect ? p.show.effects.get(held.effect.id) : undefined;
  const track = effect && held ? laneOf(effect, held.attribute) : undefined;
  return track?.mode === 'relative' ? held?.effect : undefined;
}

/** Held keys that a command names; undefined for all of them. */
export function chosenKeys(
  p: Programmers,
  actor: Actor,
  c: CommandOf<'letgo'>,
): string[] | undefined {
  if (c.slots) return c.slots.map((s) => slotKey(s.fixtureId, s.attribute));
  if (!c.fixtures && !c.families && !c.attributes) return undefined;
  const ids = c.fixtures
    ? new Set(c.fixtures.map((n) => p.show.fixtureByNumber(n)?.id))
    : undefined;
  return [...operatorOf(p, actor).values]
    .filter(
      ([, v]) =>
        (!ids || ids.has(v.fixtureId)) &&
        (!c.families || c.families.includes(familyOf(v.attribute))) &&
        (!c.attributes || c.attributes.includes(v.attribute)),
    )
    .map(([key]) => key);
}

/** Lets values go, all or some, fading to what plays beneath. */
export function letGo(
  p: Programmers,
  actor: Pick<Actor, 'userId' | 'name'>,
  slots: readonly string[] | undefined,
  fade_s: number,
  keep = true,
): Answer {
  const operator = operatorOf(p, actor);
  const keys = (slots ?? [...operator.values.keys()]).filter((k) => operator.values.has(k));
  const gone = keys.flatMap((k) => operator.values.get(k) ?? []);
  if (keep && gone.some((v) => !v.recorded)) {
    operator.clears.push(gone);
    while (
      operator.clears.length > 1 &&
      (operator.clears.length > CLEARS_KEPT || operator.clears.flat().length > CLEARED_KEPT)
    )
      operator.clears.shift();
  }
  for (const key of keys) operator.values.delete(key);
  const indexes = keys.flatMap((k) => p.slotOf(k) ?? []);
  p.tell({
    do: 'letgo',
    showId: p.id,
    userId: actor.userId,
    slots: Uint32Array.from(indexes),
    fade_s,
  });
  p.changed(actor.userId, 'now');
  return { ok: true };
}

/**
 * What an author was free of by a recording that was undone. @param live held again, as it was, where nothing else is
 * held since; else it can be brought back
 */
export function giveBack(
  p: Programmers,
  author: Pick<Actor, 'userId' | 'name'>,
  values: readonly HeldValue[],
  live: boolean,
): void {
  const operator = operatorOf(p, author);
  const back = values.filter((v) => {
    const key = slotKey(v.fixtureId, v.attribute);
    return p.slotOf(key) !== undefined && !operator.values.has(key);
  });
  if (back.length === 0) return;
  if (live) {
    for (const v of back)
      operator.values.set(slotKey(v.fixtureId, v.attribute), { ...v, recorded: false });
    sendHeld(p, author.userId, back, 'at once');
  } else operator.clears.push(back.map((v) => ({ ...v, recorded: false })));
  p.changed(author.userId, 'now');
}

/** Takes in hand again what was let go of last. */
export function bringBack(p: Programmers, actor: Actor): Answer {
  const operator = operatorOf(p, actor);
  const last = operator.clears.pop() ?? [];
  const inRig = last.filter((v) => p.slotOf(slotKey(v.fixtureId, v.attribute)) !== undefined);
  if (inRig.length === 0)
    return refuse(
      'nothing',
      last.length > 0
        ? 'The units of what was cleared are not in the rig any more.'
        : 'Nothing was cleared that could be brought back.',
    );
  // What the hands have set since is theirs too.
  const back = inRig.filter(
    (v) => operator.values.get(slotKey(v.fixtureId, v.attribute))?.recorded !== false,
  );
  for (const v of back) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
  sendHeld(p, actor.userId, back, 'at once');
  p.changed(actor.userId, 'now');
  const stay = inRig.length - back.length;
  return {
    ok: true,
    message: `${plural(back.length, 'value')} brought back${stay > 0 ? `; ${stay} ${stay === 1 ? 'stays' : 'stay'} as you hold ${stay === 1 ? 'it' : 'them'} now` : ''}`,
  };
}

/** What one operator holds goes to another as it is; where that one holds the same, theirs stays. @returns how many values went */
export function takeOver(p: Programmers, from: string, to: Pick<Actor, 'userId' | 'name'>): number {
  const left = p.operators.get(from);
  if (!left) return 0;
  const mine = operatorOf(p, to);
  const taken = [...left.values].filter(([key]) => !mine.values.has(key));
  for (const [key, v] of taken) mine.values.set(key, { ...v, delay_s: 0 });
  // Told in its own time: what is under way goes on from where it is, and what stands moves nowhere.
  sendHeld(
    p,
    to.userId,
    taken.map(([, v]) => ({ ...v, delay_s: 0 })),
  );
  letGo(p, { userId: from, name: left.name }, undefined, 0, false);
  p.changed(to.userId, 'now');
  return taken.length;
}
