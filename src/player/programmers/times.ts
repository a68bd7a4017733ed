/** Times of what is held. */
import type { HeldValue } from '../../core/live/messages.ts';
import type { CommandOf } from '../../core/live/commands.ts';
import { isRefusal, refuse } from '../../core/refusal.ts';
import { familyOf } from '../../core/rig/attributes.ts';
import { fanThrough } from '../../core/select/fan.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { Actor } from '../actor.ts';
import { ownAttributes } from '../settings.ts';
import type { Answer } from '../answer.ts';
import { operatorOf, type Programmers } from './programmers.ts';
import { fixturesFor } from './holding.ts';

/** Spreads times over fixtures whose values are held. */
export function fanTimes(p: Programmers, actor: Actor, c: CommandOf<'fan'>): Answer {
  const fixtures = fixturesFor(p, actor, c.fixtures);
  if (isRefusal(fixtures)) return fixtures;
  const held = operatorOf(p, actor).values;
  const able = fixtures.filter((f) =>
    ownAttributes(p.show, f, c.attribute).some((a) => held.has(slotKey(f.id, a))),
  );
  if (able.length < 2)
    return refuse(
      'invalid',
      'A fan of times needs at least two fixtures of which you hold the attribute.',
      { fixtures: 'Too few.' },
    );
  if (!c.stops) return refuse('invalid', 'Say from which time to which.', { stops: 'Missing.' });
  const at = fanThrough(able.length, c.stops, c);
  const set = new Map(
    able.flatMap((f, i) =>
      ownAttributes(p.show, f, c.attribute).map(
        (a) => [slotKey(f.id, a), Math.max(0, Math.round((at[i] ?? 0) * 1000) / 1000)] as const,
      ),
    ),
  );
  return retime(p, actor, [...set.keys()], (key) =>
    c.what === 'fade' ? { fade_s: set.get(key) ?? 0 } : { delay_s: set.get(key) ?? 0 },
  );
}

/** Gives held values times of their own. */
export function setTimes(p: Programmers, actor: Actor, c: CommandOf<'times'>): Answer {
  const fixtures = fixturesFor(p, actor, c.fixtures);
  if (isRefusal(fixtures)) return fixtures;
  const ids = new Set(fixtures.map((f) => f.id));
  const keys = [...operatorOf(p, actor).values]
    .filter(
      ([, v]) =>
        ids.has(v.fixtureId) &&
        (!c.attributes || c.attributes.includes(v.attribute)) &&
        (!c.families || c.families.includes(familyOf(v.attribute))),
    )
    .map(([key]) => key);
  if (keys.length === 0)
    return refuse('nothing', 'You hold nothing of these to give a time to: set values first.');
  return retime(p, actor, keys, () => ({
    ...(c.fade_s === undefined ? {} : { fade_s: c.fade_s }),
    ...(c.delay_s === undefined ? {} : { delay_s: c.delay_s }),
  }));
}

function retime(
  p: Programmers,
  actor: Actor,
  keys: readonly string[],
  times: (key: string) => Partial<Pick<HeldValue, 'fade_s' | 'delay_s'>>,
): Answer {
  const { values } = operatorOf(p, actor);
  for (const key of keys) {
    const v = values.get(key);
    if (v) values.set(key, { ...v, ...times(key), recorded: false });
  }
  p.changed(actor.userId, 'soon');
  return { ok: true };
}
