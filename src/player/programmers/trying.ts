/**
 * Effects that are tried before they are kept: each change plays at once on the selection and, where a running effect is
 * changed, wherever that runs. Leaving gives back what was there (trying.test.ts).
 */
import type { CommandOf } from '../../core/live/commands.ts';
import type { HeldValue } from '../../core/live/messages.ts';
import { effectUses, groupOf } from '../../core/looks/resolve.ts';
import { slotKey } from '../../core/cues/rows.ts';
import { refuse } from '../../core/refusal.ts';
import type { EffectRow } from '../../core/effects/rows.ts';
import type { RowChange } from '../../core/show/show.ts';
import type { Actor } from '../actor.ts';
import { letGo } from './holding.ts';
import type { Answer } from '../answer.ts';
import { operatorOf, type OperatorState, type Programmers, type Trial } from './programmers.ts';
import { sendHeld } from './telling.ts';

const laid = (id: string, before: EffectRow | null, after: EffectRow | null): RowChange => ({
  table: 'effects',
  id,
  before,
  after,
});

/** Plays an effect as it is now, in place of how it was; without one, ends the trial. */
export function tryEffect(p: Programmers, actor: Actor, c: CommandOf<'try-effect'>): Answer {
  const operator = operatorOf(p, actor);
  if (!c.effect) return endTrial(p, actor, operator, c.kept);
  const row = c.effect;
  const other = [...p.operators].find(
    ([id, o]) => id !== actor.userId && o.trial?.row.id === row.id,
  );
  if (other) return refuse('clash', `${other[1].name} is changing this effect just now.`);
  if (operator.blind && !operator.trial && p.show.effects.has(row.id))
    return refuse('invalid', 'You are blind: an effect that runs is not changed on stage.');
  if (operator.trial && operator.trial.row.id !== row.id) endTrial(p, actor, operator, undefined);
  const trial = (operator.trial ??= {
    row,
    before: p.show.effects.get(row.id) ?? null,
    held: new Map(),
  });
  trial.row = row;
  const uses = usesOnSelection(p, actor, operator, row);
  for (const key of uses.keys())
    if (!trial.held.has(key)) trial.held.set(key, operator.values.get(key));
  p.lay([laid(row.id, p.show.effects.get(row.id) ?? null, row)]);
  playOn(p, actor, { operator, trial, uses });
  return { ok: true };
}

type Uses = ReadonlyMap<string, ReturnType<typeof effectUses>[number]>;

/** What the effect moves of the selection, by slot key; nothing where some of it is another's part. */
function usesOnSelection(
  p: Programmers,
  actor: Actor,
  operator: OperatorState,
  row: EffectRow,
): Uses {
  const ids = operator.selection.filter((id) => p.show.fixtures.has(id));
  const group = groupOf(p.show, ids);
  if (p.othersPart(actor, new Set(ids))) return new Map();
  return new Map(
    effectUses(p.show, row, group === undefined ? ids : [group]).flatMap((u) => {
      const key = slotKey(u.fixtureId, u.attribute);
      return p.slotOf(key) === undefined ? [] : [[key, u] as const];
    }),
  );
}

/** The slots run the effect; those that it no longer moves have what they had. */
function playOn(
  p: Programmers,
  actor: Actor,
  { operator, trial, uses }: { operator: OperatorState; trial: Trial; uses: Uses },
): void {
  restore(
    p,
    actor,
    operator,
    [...trial.held].filter(([key]) => !uses.has(key)),
  );
  for (const key of [...trial.held.keys()]) if (!uses.has(key)) trial.held.delete(key);
  const fresh: HeldValue[] = [];
  for (const [key, use] of uses) {
    const held = operator.values.get(key);
    if (held?.effect?.id === use.effect.id) {
      operator.values.set(key, { ...held, effect: use.effect });
      continue;
    }
    const slot = p.slotOf(key);
    const value: HeldValue = {
      ...(held ?? {
        fixtureId: use.fixtureId,
        attribute: use.attribute,
        level: slot === undefined ? 0 : p.levelNow(slot),
        taken: true,
      }),
      fade_s: 0,
      delay_s: 0,
      recorded: false,
      effect: use.effect,
    };
    delete value.look;
    operator.values.set(key, value);
    fresh.push(value);
  }
  if (fresh.length > 0) sendHeld(p, actor.userId, fresh);
  p.changed(actor.userId, 'soon');
}

function restore(
  p: Programmers,
  actor: Pick<Actor, 'userId' | 'name'>,
  operator: OperatorState,
  held: readonly (readonly [string, HeldValue | undefined])[],
): void {
  const back: HeldValue[] = [];
  const gone: string[] = [];
  for (const [key, value] of held) {
    if (!operator.values.has(key)) continue;
    if (value === undefined) gone.push(key);
    else {
      operator.values.set(key, value);
      back.push(value);
    }
  }
  if (back.length > 0) sendHeld(p, actor.userId, back, 'bends');
  if (gone.length > 0) letGo(p, actor, gone, 0, false);
}

function endTrial(
  p: Programmers,
  actor: Pick<Actor, 'userId' | 'name'>,
  operator: OperatorState,
  kept: string | undefined,
): Answer {
  const { trial } = operator;
  if (!trial) return { ok: true };
  operator.trial = null;
  if (kept === undefined || !p.show.effects.has(kept)) restore(p, actor, operator, [...trial.held]);
  else
    for (const [key, v] of operator.values)
      if (v.effect?.id === trial.row.id)
        operator.values.set(key, { ...v, effect: { ...v.effect, id: kept } });
  p.lay([laid(trial.row.id, trial.row, trial.before)]);
  if (kept !== undefined && kept !== trial.row.id)
    sendHeld(
      p,
      actor.userId,
      [...operator.values.values()].filter((v) => v.effect?.id === kept),
      'bends',
    );
  p.changed(actor.userId, 'now');
  return { ok: true };
}

/** The last screen of an operator is gone: what was only tried leaves the stage. The screen that comes back has it still. */
export function trialsOfGone(p: Programmers, userId: string): void {
  const operator = p.operators.get(userId);
  if (operator?.trial) endTrial(p, { userId, name: operator.name }, operator, undefined);
}

/** Edits that reach an effect while it is tried are what comes back when the trial ends; the trial goes on. */
export function underTrials(p: Programmers, rows: readonly RowChange[]): void {
  for (const operator of p.operators.values()) {
    const { trial } = operator;
    if (!trial) continue;
    const change = rows.find((r) => r.table === 'effects' && r.id === trial.row.id);
    if (change?.table !== 'effects') continue;
    trial.before = change.after;
    p.lay([laid(trial.row.id, change.after, trial.row)]);
  }
}
