/**
 * Programmers: what each operator holds, selects and looks at. The clock is told in slots and levels; here values keep
 * what they follow (a palette, a look, an effect), so that recording keeps it too.
 */
import { stateAt, type Tracked } from '../core/cues/tracking.ts';
import { plural } from '../core/words.ts';
import type { HeldValue, OtherProgrammer, ProgrammerState } from '../core/live/messages.ts';
import type { CommandOf } from '../core/live/commands.ts';
import { effectOver, lookSlots, placesOf } from '../core/looks/resolve.ts';
import { effectOf, levelOf, type Valued } from '../core/looks/value.ts';
import { reachOf } from '../core/palettes/resolve.ts';
import type { FindWave } from '../core/playback/moves.ts';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { attributesOf, baseOf, familyOf, spreadOverCells } from '../core/rig/attributes.ts';
import { fanThrough } from '../core/select/fan.ts';
import { slotKey, type CueRow } from '../core/cues/rows.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import type { Mode } from '../core/types/rows.ts';
import type { PaletteRow } from '../core/palettes/rows.ts';
import type { MutableShow } from '../core/show/show.ts';
import { same } from '../core/same.ts';
import type { Actor } from './actor.ts';
import type { ShowMessage } from './clock-messages.ts';
import { heldAfter, type Swapped } from './held-values.ts';
import { ownAttributes, type Hands, type Made, type Putting } from './settings.ts';
import type { Family } from '../core/show/fields.ts';

interface OperatorState {
  name: string;
  values: Map<string, HeldValue>;
  selection: string[];
  stepping: { all: string[]; at: number } | null;
  blind: boolean;
  highlight: boolean;
  /** What was cleared or let go, step by step, the last one last. */
  clears: HeldValue[][];
}

/** What is kept of an operator between one process and the next; nothing stays highlit by accident. */
export interface SavedOperator {
  name: string;
  values: [string, HeldValue][];
  selection: string[];
  blind?: boolean;
  clears?: HeldValue[][];
}

type Answer = { ok: true; message?: string } | Refusal;

type Sent = Omit<HeldValue, 'effect'> & { effect?: HeldValue['effect'] };

/** A thousand units are a few thousand values: where each goes is looked up once. */
interface Placed<V> {
  v: V;
  key: string;
  slot: number;
}

/** What programmers need of the show that they are in. */
interface ProgrammersNeeds {
  readonly id: string;
  readonly show: MutableShow;
  slotOf: (key: string) => number | undefined;
  /** Before the grand master. */
  levelNow: (slot: number) => number;
  /** What the playback that wins a slot recorded there, if a list wins it. */
  recordedAt: (slot: number) => Tracked | undefined;
  findWave: FindWave;
  tell: (message: ShowMessage) => void;
  /** Highlights over playback. */
  highlight: (userId: string, name: string, at: readonly { key: string; level: number }[]) => void;
  /** Why an operator may not set these: they are somebody's part. */
  othersPart: (actor: Pick<Actor, 'userId'>, fixtureIds: ReadonlySet<string>) => Refusal | null;
  /** Another operator holds the same. */
  both: (
    actor: Pick<Actor, 'userId' | 'name'>,
    other: Pick<Actor, 'userId' | 'name'>,
    values: readonly { fixtureId: string; attribute: string }[],
  ) => void;
  present: (userId: string) => boolean;
  changed: (userId: string, urgency: 'now' | 'soon') => void;
}

const NOTHING_SELECTED = refuse('nothing', 'Nothing is selected. Select fixtures first.');
/** Steps, and values in all of them; the last step is always kept. */
const CLEARS_KEPT = 20;
const CLEARED_KEPT = 20_000;
interface OnFixtures {
  /** Numbers; absent: the operator's own selection. */
  fixtures?: readonly number[] | undefined;
}

export class Programmers {
  private readonly operators = new Map<string, OperatorState>();

  constructor(
    private readonly needs: ProgrammersNeeds,
    saved: readonly [string, SavedOperator][],
  ) {
    for (const [id, o] of saved)
      this.operators.set(id, {
        name: o.name,
        values: new Map(o.values),
        selection: o.selection,
        stepping: null,
        blind: o.blind ?? false,
        highlight: false,
        clears: o.clears ?? [],
      });
  }

  private get show(): MutableShow {
    return this.needs.show;
  }

  // --- commands ---

  /** Holds what is made of named fixtures, in their order, or else of the selection in its. */
  onFixtures(
    actor: Actor,
    { fixtures: numbers }: OnFixtures,
    make: (hands: Hands, fixtures: readonly FixtureRow[]) => Made,
  ): Answer {
    const fixtures = this.fixturesFor(actor, numbers);
    return isRefusal(fixtures) ? fixtures : this.holding(actor, (hands) => make(hands, fixtures));
  }

  private fixturesFor(
    actor: Actor,
    numbers: readonly number[] | undefined,
  ): readonly FixtureRow[] | Refusal {
    if (!numbers) {
      const { selection } = this.operator(actor);
      const selected = selection.flatMap((id) => this.show.fixtures.get(id) ?? []);
      return selected.length === 0 ? NOTHING_SELECTED : selected;
    }
    const fixtures: FixtureRow[] = [];
    for (const number of numbers) {
      const fixture = this.show.fixtureByNumber(number);
      if (!fixture)
        return refuse('not-found', `There is no fixture ${number}. Nothing was set.`, {
          fixtures: `${number} is unknown.`,
        });
      fixtures.push(fixture);
    }
    return fixtures;
  }

  /** Lets go of all but these families. */
  keep(actor: Actor, families: readonly Family[]): Answer {
    const others = [...this.operator(actor).values].filter(
      ([, v]) => !families.includes(familyOf(v.attribute)),
    );
    return this.letGo(
      actor,
      others.map(([key]) => key),
      0,
    );
  }

  private hands(actor: Actor): Hands {
    const { values } = this.operator(actor);
    const { show, slotOf, levelNow, recordedAt } = this.needs;
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
  holding(actor: Actor, make: (hands: Hands) => Made): Answer {
    const setting = make(this.hands(actor));
    if (isRefusal(setting)) return setting;
    const answer = this.put(actor, setting.values, setting.fade_s, setting.delay_s);
    return 'ok' in answer && setting.message ? { ok: true, message: setting.message } : answer;
  }

  private modeOf(fixture: FixtureRow): Mode | undefined {
    return modeOf(this.show, fixture);
  }

  fanTimes(actor: Actor, c: CommandOf<'fan'>): Answer {
    const fixtures = this.fixturesFor(actor, c.fixtures);
    if (isRefusal(fixtures)) return fixtures;
    const held = this.operator(actor).values;
    const able = fixtures.filter((f) =>
      ownAttributes(this.show, f, c.attribute).some((a) => held.has(slotKey(f.id, a))),
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
        ownAttributes(this.show, f, c.attribute).map(
          (a) => [slotKey(f.id, a), Math.max(0, Math.round((at[i] ?? 0) * 1000) / 1000)] as const,
        ),
      ),
    );
    return this.retime(actor, [...set.keys()], (key) =>
      c.what === 'fade' ? { fade_s: set.get(key) ?? 0 } : { delay_s: set.get(key) ?? 0 },
    );
  }

  times(actor: Actor, c: CommandOf<'times'>): Answer {
    const fixtures = this.fixturesFor(actor, c.fixtures);
    if (isRefusal(fixtures)) return fixtures;
    const ids = new Set(fixtures.map((f) => f.id));
    const keys = [...this.operator(actor).values]
      .filter(
        ([, v]) =>
          ids.has(v.fixtureId) &&
          (!c.attributes || c.attributes.includes(v.attribute)) &&
          (!c.families || c.families.includes(familyOf(v.attribute))),
      )
      .map(([key]) => key);
    if (keys.length === 0)
      return refuse('nothing', 'You hold nothing of these to give a time to: set values first.');
    return this.retime(actor, keys, () => ({
      ...(c.fade_s === undefined ? {} : { fade_s: c.fade_s }),
      ...(c.delay_s === undefined ? {} : { delay_s: c.delay_s }),
    }));
  }

  private retime(
    actor: Actor,
    keys: readonly string[],
    times: (key: string) => Partial<Pick<HeldValue, 'fade_s' | 'delay_s'>>,
  ): Answer {
    const { values } = this.operator(actor);
    for (const key of keys) {
      const v = values.get(key);
      if (v) values.set(key, { ...v, ...times(key), recorded: false });
    }
    this.needs.changed(actor.userId, 'soon');
    return { ok: true };
  }

  endEffect(
    actor: Actor,
    { effect: effectId, fixtures: numbers, fade_s = 0 }: CommandOf<'effect'>,
  ): Answer {
    const fixtures = this.fixturesFor(actor, numbers);
    if (isRefusal(fixtures)) return fixtures;
    const ids = new Set(fixtures.map((f) => f.id));
    const { values } = this.operator(actor);
    const all = [...values.values()].filter(
      (v) => ids.has(v.fixtureId) && v.effect?.id === effectId,
    );
    if (all.length === 0) return refuse('nothing', 'You do not run this effect on these fixtures.');
    const taken = all.filter((v) => v.taken);
    if (taken.length > 0)
      this.letGo(
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
    this.send(
      actor.userId,
      running.map((v) => ({ ...v, effect: undefined, fade_s, delay_s: 0 })),
    );
    this.needs.changed(actor.userId, 'soon');
    return { ok: true };
  }

  // --- the selection ---

  select(actor: Actor, ids: readonly string[]): Answer {
    const operator = this.operator(actor);
    operator.selection = ids.filter((id) => this.show.fixtures.has(id));
    operator.stepping = null;
    if (operator.highlight) this.sendHighlight(actor.userId, operator);
    this.needs.changed(actor.userId, 'soon');
    return { ok: true };
  }

  step(actor: Actor, by: 1 | -1 | 0): Answer {
    const operator = this.operator(actor);
    const { stepping } = operator;
    const all = stepping?.all ?? operator.selection;
    if (all.length === 0) return NOTHING_SELECTED;
    if (by === 0) {
      operator.selection = [...all];
      operator.stepping = null;
    } else {
      const at = stepping
        ? (stepping.at + by + all.length) % all.length
        : by === 1
          ? 0
          : all.length - 1;
      operator.stepping = { all: [...all], at };
      operator.selection = all.slice(at, at + 1);
    }
    if (operator.highlight) this.sendHighlight(actor.userId, operator);
    this.needs.changed(actor.userId, 'soon');
    return { ok: true };
  }

  setHighlight(actor: Actor, on: boolean): Answer {
    const operator = this.operator(actor);
    operator.highlight = on;
    this.sendHighlight(actor.userId, operator);
    this.needs.changed(actor.userId, 'soon');
    return { ok: true };
  }

  private sendHighlight(userId: string, operator: OperatorState): void {
    const at = !operator.highlight
      ? []
      : operator.selection.flatMap((id) => {
          const fixture = this.show.fixtures.get(id);
          const mode = fixture ? this.modeOf(fixture) : undefined;
          return (mode ? attributesOf(mode) : []).flatMap((attribute) => {
            const channel = mode?.channels.find((c) => c.attribute === attribute);
            const level =
              channel?.highlight ??
              (attribute === 'Dimmer'
                ? 1
                : familyOf(attribute) === 'colour' ||
                    attribute.startsWith('Shutter') ||
                    attribute === 'Iris'
                  ? channel?.default
                  : undefined);
            return level === undefined ? [] : [{ key: slotKey(id, attribute), level }];
          });
        });
    this.needs.highlight(userId, operator.name, at);
  }

  setBlind(actor: Actor, blind: boolean): Answer {
    this.operator(actor).blind = blind;
    this.needs.tell({ do: 'blind', showId: this.needs.id, userId: actor.userId, blind });
    this.needs.changed(actor.userId, 'now');
    return { ok: true, message: blind ? 'Blind: what you set is kept and does not show' : 'Live' };
  }

  // --- holding and letting go ---

  operator(actor: Pick<Actor, 'userId' | 'name'>): OperatorState {
    const known = this.operators.get(actor.userId);
    if (known) return known;
    const fresh: OperatorState = {
      name: actor.name,
      values: new Map(),
      selection: [],
      stepping: null,
      blind: false,
      highlight: false,
      clears: [],
    };
    this.operators.set(actor.userId, fresh);
    return fresh;
  }

  put(actor: Actor, given: readonly Putting[], fade_s: number, delay_s = 0): Answer {
    const able = this.placed(given);
    if (able.length === 0)
      return refuse('not-found', 'None of these fixtures has this attribute. Nothing was set.');
    const others = this.needs.othersPart(actor, new Set(able.map((a) => a.v.fixtureId)));
    if (others) return others;
    const { values } = this.operator(actor);
    const reached = new Set<string>();
    const held = able.map(({ v, key, slot }): Placed<HeldValue> => {
      const effect = v.effect ?? this.kept(values.get(key));
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
    this.tellHeld(actor.userId, held);
    this.tellBoth(actor, held);
    this.needs.changed(actor.userId, 'soon');
    const without = new Set(given.filter((v) => !reached.has(v.fixtureId)).map((v) => v.fixtureId))
      .size;
    return without > 0
      ? { ok: true, message: `${plural(without, 'fixture')} left out: no such attribute.` }
      : { ok: true };
  }

  /** Two hands on the same light, both live: both are told. */
  private tellBoth(
    actor: Pick<Actor, 'userId' | 'name'>,
    held: readonly Placed<HeldValue>[],
  ): void {
    if (this.isBlind(actor.userId)) return;
    for (const [userId, other] of this.operators) {
      if (userId === actor.userId || other.blind || other.values.size === 0) continue;
      const same_ = held.filter(({ key }) => other.values.has(key)).map(({ v }) => v);
      if (same_.length > 0) this.needs.both(actor, { userId, name: other.name }, same_);
    }
  }

  /** A relative effect goes on over a new level; one that makes the level itself ends when a level is set by hand. */
  private kept(held: HeldValue | undefined): HeldValue['effect'] {
    const effect = held?.effect ? this.show.effects.get(held.effect.id) : undefined;
    const track =
      effect?.tracks.find((t) => t.attribute === held?.attribute) ??
      effect?.tracks.find((t) => held?.attribute.startsWith(`${t.attribute}@`));
    return track?.mode === 'relative' ? held?.effect : undefined;
  }

  /** Tells the clock of held values. */
  private send(
    userId: string,
    values: readonly Sent[],
    how: 'timed' | 'at once' | 'bends' = 'timed',
  ): void {
    const at: Placed<Sent>[] = [];
    for (const v of values) {
      const key = slotKey(v.fixtureId, v.attribute);
      const slot = this.needs.slotOf(key);
      if (slot !== undefined) at.push({ v, key, slot });
    }
    this.tellHeld(userId, at, how);
  }

  private tellHeld(
    userId: string,
    at: readonly Placed<Sent>[],
    how: 'timed' | 'at once' | 'bends' = 'timed',
  ): void {
    const n = at.length;
    if (n === 0) return;
    const holds = {
      slots: new Uint32Array(n),
      levels: new Float32Array(n),
      fade_s: new Float32Array(n),
      delay_s: new Float32Array(n),
      wave: new Int32Array(n).fill(-1),
      phase: new Float32Array(n),
      bends: how === 'bends',
    };
    for (const [i, { v, slot }] of at.entries()) {
      holds.slots[i] = slot;
      holds.levels[i] = v.level;
      if (how === 'timed') holds.fade_s[i] = v.fade_s;
      if (how === 'timed') holds.delay_s[i] = v.delay_s;
      if (v.effect) holds.wave[i] = this.needs.findWave(v.effect.id, v.attribute);
      if (v.effect) holds.phase[i] = v.effect.phase;
    }
    this.needs.tell({ do: 'hold', showId: this.needs.id, userId, holds });
  }

  /** Values with their slots; an attribute that only the cells have means all of them. What has no slot is left out. */
  private placed(values: readonly Putting[]): Placed<Putting>[] {
    const found: Placed<Putting>[] = [];
    const add = (v: Putting): boolean => {
      const key = slotKey(v.fixtureId, v.attribute);
      const slot = this.needs.slotOf(key);
      if (slot !== undefined) found.push({ v, key, slot });
      return slot !== undefined;
    };
    for (const v of values) {
      if (add(v)) continue;
      const fixture = this.show.fixtures.get(v.fixtureId);
      const mode = fixture ? this.modeOf(fixture) : undefined;
      if (mode)
        for (const attribute of spreadOverCells(mode, v.attribute)) add({ ...v, attribute });
    }
    return found;
  }

  /** Held keys that a command names; undefined for all of them. */
  chosenKeys(actor: Actor, c: CommandOf<'letgo'>): string[] | undefined {
    if (c.slots) return c.slots.map((s) => slotKey(s.fixtureId, s.attribute));
    if (!c.fixtures && !c.families && !c.attributes) return undefined;
    const ids = c.fixtures
      ? new Set(c.fixtures.map((n) => this.show.fixtureByNumber(n)?.id))
      : undefined;
    return [...this.operator(actor).values]
      .filter(
        ([, v]) =>
          (!ids || ids.has(v.fixtureId)) &&
          (!c.families || c.families.includes(familyOf(v.attribute))) &&
          (!c.attributes || c.attributes.includes(v.attribute)),
      )
      .map(([key]) => key);
  }

  letGo(
    actor: Pick<Actor, 'userId' | 'name'>,
    slots: readonly string[] | undefined,
    fade_s: number,
    keep = true,
  ): Answer {
    const operator = this.operator(actor);
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
    const indexes = keys.flatMap((k) => this.needs.slotOf(k) ?? []);
    this.needs.tell({
      do: 'letgo',
      showId: this.needs.id,
      userId: actor.userId,
      slots: Uint32Array.from(indexes),
      fade_s,
    });
    this.needs.changed(actor.userId, 'now');
    return { ok: true };
  }

  /**
   * What an author was free of by a recording that was undone. @param live held again, as it was, where nothing else is
   * held since; else it can be brought back
   */
  giveBack(
    author: Pick<Actor, 'userId' | 'name'>,
    values: readonly HeldValue[],
    live: boolean,
  ): void {
    const operator = this.operator(author);
    const back = values.filter((v) => {
      const key = slotKey(v.fixtureId, v.attribute);
      return this.needs.slotOf(key) !== undefined && !operator.values.has(key);
    });
    if (back.length === 0) return;
    if (live) {
      for (const v of back)
        operator.values.set(slotKey(v.fixtureId, v.attribute), { ...v, recorded: false });
      this.send(author.userId, back, 'at once');
    } else operator.clears.push(back.map((v) => ({ ...v, recorded: false })));
    this.needs.changed(author.userId, 'now');
  }

  bringBack(actor: Actor): Answer {
    const operator = this.operator(actor);
    const last = operator.clears.pop() ?? [];
    const inRig = last.filter(
      (v) => this.needs.slotOf(slotKey(v.fixtureId, v.attribute)) !== undefined,
    );
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
    this.send(actor.userId, back, 'at once');
    this.needs.changed(actor.userId, 'now');
    const stay = inRig.length - back.length;
    return {
      ok: true,
      message: `${plural(back.length, 'value')} brought back${stay > 0 ? `; ${stay} ${stay === 1 ? 'stays' : 'stay'} as you hold ${stay === 1 ? 'it' : 'them'} now` : ''}`,
    };
  }

  // --- edits, as they arrive ---

  /** After a change of the rig: values of swapped units in their new attributes, nothing of what is gone. */
  rigChanged(swapped: readonly Swapped[]): void {
    for (const [userId, operator] of this.operators) {
      const converted = heldAfter(this.show, swapped, [...operator.values.values()]);
      for (const key of [...operator.values.keys()])
        if (this.needs.slotOf(key) === undefined) operator.values.delete(key);
      operator.selection = operator.selection.filter((id) => this.show.fixtures.has(id));
      if (operator.stepping)
        operator.stepping = {
          ...operator.stepping,
          all: operator.stepping.all.filter((id) => this.show.fixtures.has(id)),
        };
      for (const v of converted) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
      this.send(userId, converted, 'at once');
      this.needs.changed(userId, 'soon');
    }
  }

  /** What palettes, looks and effects say has changed: what follows them goes along; what follows what is gone stands for itself. */
  followed(concerned: (v: Valued) => boolean, effects: ReadonlySet<string>): void {
    for (const [userId, operator] of this.operators) {
      const gone = [...operator.values]
        .filter(([, v]) => v.taken && v.effect && effects.has(v.effect.id) && !this.moves(v))
        .map(([key]) => key);
      if (gone.length > 0) this.letGo({ userId, name: operator.name }, gone, 0, false);
      this.takeAlong(userId, operator, effects);
      const moved = [...operator.values.values()].filter(concerned).map((v): HeldValue => {
        const next: HeldValue = { ...v, level: levelOf(this.show, v) ?? v.level };
        const effect = effectOf(this.show, v);
        if (v.palette !== undefined && !this.show.palettes.has(v.palette)) delete next.palette;
        if (v.look !== undefined && !this.show.looks.has(v.look)) delete next.look;
        if (effect && this.moves(v)) next.effect = effect;
        else delete next.effect;
        return next;
      });
      const changed = moved.filter(
        (v) => !same(v, operator.values.get(slotKey(v.fixtureId, v.attribute))),
      );
      for (const v of changed) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
      if (changed.length === 0) continue;
      this.send(userId, changed, 'bends');
      this.needs.changed(userId, 'soon');
    }
  }

  /** Whether the effect that a value runs moves its attribute, as the effect is now. */
  private moves(v: Pick<HeldValue, 'attribute' | 'effect' | 'look'>): boolean {
    if (v.look !== undefined || !v.effect) return true;
    return (
      this.show.effects
        .get(v.effect.id)
        ?.tracks.some((t) => t.attribute === v.attribute || t.attribute === baseOf(v.attribute)) ??
      false
    );
  }

  /** Attributes that an effect moves since it was changed: whoever runs it takes them. */
  private takeAlong(userId: string, operator: OperatorState, effects: ReadonlySet<string>): void {
    for (const id of effects) {
      const effect = this.show.effects.get(id);
      const uses = [...operator.values.values()].flatMap((v) =>
        v.look === undefined && v.effect?.id === id
          ? [{ fixtureId: v.fixtureId, effect: v.effect }]
          : [],
      );
      if (!effect || uses.length === 0) continue;
      const fresh = effectOver(this.show, effect, placesOf(this.show, uses)).flatMap(
        (u): HeldValue[] => {
          const key = slotKey(u.fixtureId, u.attribute);
          const [slot, held] = [this.needs.slotOf(key), operator.values.get(key)];
          if (slot === undefined || held?.effect) return [];
          return [
            held
              ? { ...held, effect: u.effect, recorded: false }
              : {
                  fixtureId: u.fixtureId,
                  attribute: u.attribute,
                  level: this.needs.levelNow(slot),
                  fade_s: 0,
                  delay_s: 0,
                  recorded: false,
                  effect: u.effect,
                  taken: true,
                },
          ];
        },
      );
      for (const v of fresh) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
      if (fresh.length > 0) this.send(userId, fresh, 'bends');
    }
  }

  /** Values that a palette was just recorded from follow it from now on, so that the next cue takes the palette and not the numbers. */
  followPalette(userId: string, palette: PaletteRow): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const [key, v] of operator.values) {
      const fixture = this.show.fixtures.get(v.fixtureId);
      const level = fixture ? reachOf(this.show, palette, fixture).get(v.attribute) : undefined;
      if (level !== undefined && Math.abs(level - v.level) < 1e-4)
        operator.values.set(key, { ...v, palette: palette.id });
    }
    this.needs.changed(userId, 'soon');
  }

  followLook(userId: string, lookId: string): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const [key, slot] of lookSlots(this.show, lookId)) {
      const v = operator.values.get(key);
      if (
        v &&
        (slot.level === undefined || Math.abs(slot.level - v.level) < 1e-4) &&
        same(slot.effect, v.effect)
      )
        operator.values.set(key, { ...v, look: lookId });
    }
    this.needs.changed(userId, 'soon');
  }

  /** Held values that a cue's state says as well. */
  inCue(userId: string, cue: CueRow): HeldValue[] {
    const operator = this.operators.get(userId);
    if (!operator) return [];
    const state = stateAt(this.show, cue.listId, cue.number);
    return [...operator.values.values()].filter((v) => {
      const value = state.get(slotKey(v.fixtureId, v.attribute))?.value;
      return (
        value?.level === v.level &&
        value.palette === v.palette &&
        value.look === v.look &&
        same(value.effect, v.effect)
      );
    });
  }

  markRecorded(userId: string, values: readonly HeldValue[]): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const v of values)
      operator.values.set(slotKey(v.fixtureId, v.attribute), { ...v, recorded: true });
    this.needs.changed(userId, 'soon');
  }

  isBlind(userId: string): boolean {
    return this.operators.get(userId)?.blind ?? false;
  }

  /** The last screen of an operator is gone: nothing stays highlit. */
  personLeft(userId: string): void {
    const operator = this.operators.get(userId);
    if (!operator?.highlight) return;
    operator.highlight = false;
    this.sendHighlight(userId, operator);
  }

  // --- what others see ---

  nameOf(userId: string): string {
    return this.operators.get(userId)?.name ?? 'somebody';
  }

  /** How much somebody holds, and whether it shows. */
  holds(userId: string): { name: string; values: number; fixtures: number; blind: boolean } {
    const o = this.operators.get(userId);
    return {
      name: o?.name ?? 'somebody',
      values: o?.values.size ?? 0,
      fixtures: new Set([...(o?.values.values() ?? [])].map((v) => v.fixtureId)).size,
      blind: o?.blind ?? false,
    };
  }

  holders(): string[] {
    return [...this.operators].filter(([, o]) => o.values.size > 0).map(([id]) => id);
  }

  /** What one operator holds goes to another as it is; where that one holds the same, theirs stays. @returns how many values went */
  takeOver(from: string, to: Pick<Actor, 'userId' | 'name'>): number {
    const left = this.operators.get(from);
    if (!left) return 0;
    const mine = this.operator(to);
    const taken = [...left.values].filter(([key]) => !mine.values.has(key));
    for (const [key, v] of taken) mine.values.set(key, { ...v, delay_s: 0 });
    // Told in its own time: what is under way goes on from where it is, and what stands moves nowhere.
    this.send(
      to.userId,
      taken.map(([, v]) => ({ ...v, delay_s: 0 })),
    );
    this.letGo({ userId: from, name: left.name }, undefined, 0, false);
    this.needs.changed(to.userId, 'now');
    return taken.length;
  }

  /** What an operator holds, by slot key; a value that changes is a new object. */
  held(userId: string): ReadonlyMap<string, HeldValue> {
    return this.operators.get(userId)?.values ?? NO_VALUES;
  }

  state(userId: string): ProgrammerState {
    const o = this.operators.get(userId);
    return {
      selection: o?.selection ?? [],
      stepping: o?.stepping ?? null,
      blind: o?.blind ?? false,
      highlight: o?.highlight ?? false,
      cleared: o?.clears.at(-1)?.length ?? 0,
    };
  }

  /** Marks of those who are not here are gone; what they hold is on stage all the same. */
  others(userId: string): OtherProgrammer[] {
    return [...this.operators]
      .filter(
        ([id, o]) =>
          id !== userId &&
          (o.values.size > 0 || (o.selection.length > 0 && this.needs.present(id))),
      )
      .map(([id, o]) => {
        const here = this.needs.present(id);
        const values = [...o.values.values()];
        return {
          userId: id,
          name: o.name,
          here,
          values: o.values.size,
          unrecorded: values.filter((v) => !v.recorded).length,
          selection: here ? o.selection : [],
          follows: here ? [...new Set(values.flatMap((v) => v.look ?? v.palette ?? []))] : [],
          blind: o.blind,
        };
      });
  }

  saved(): [string, SavedOperator][] {
    return [...this.operators].map(([id, o]) => [
      id,
      {
        name: o.name,
        values: [...o.values],
        selection: o.selection,
        blind: o.blind,
        clears: o.clears,
      },
    ]);
  }
}

const NO_VALUES: ReadonlyMap<string, HeldValue> = new Map();
