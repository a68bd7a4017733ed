/**
 * What lies over playback and programmers: parked slots, raw bytes being checked, control macros that run. Parked slots
 * are kept through a crash; checks and macros are not, so that nothing stays forced by accident.
 */
import { UNIVERSE_SLOTS } from '../core/dmx.ts';
import { plural } from '../core/words.ts';
import type { OverState } from '../core/live/messages.ts';
import { type Overrides } from '../core/playback/fixed-slots.ts';
import { COMMANDED, FOCUS, HIGHLIT, PARKED } from '../core/playback/winner.ts';
import type { Slots } from '../core/playback/slots.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { attributesOf } from '../core/rig/attributes.ts';
import { levelOfRaw, topOf } from '../core/rig/channel.ts';
import { slotKey, readSlotKey } from '../core/cues/rows.ts';
import type { MutableShow } from '../core/show/show.ts';
import { canRun, stepsOf } from '../core/types/macros.ts';
import type { Macro, Mode } from '../core/types/rows.ts';

interface Who {
  userId: string;
  name: string;
}
/** A slot that is parked. */
export interface Parked {
  fixtureId: string;
  attribute: string;
  level: number;
  by: string;
}
/** A unit that is lit so that somebody can focus it. */
export interface Focused {
  fixtureId: string;
  level: number;
  by: string;
  since: string;
}
interface Check {
  universe: number;
  address: number;
  value: number;
  by: Who;
}
/** What a command holds on one unit, one after the other. */
interface UnitSteps {
  steps: { at: readonly (readonly [key: string, level: number])[]; hold_s: number }[];
}
interface Run {
  id: number;
  name: string;
  by: string;
  /** Units that begin together. */
  units: UnitSteps[][];
  done: number;
  active: Map<string, number>;
  timers: Set<ReturnType<typeof setTimeout>>;
}
type Answer = { ok: true; message?: string } | Refusal;

/** What the overlays need of the show that they lie over. */
interface OverlaysNeeds {
  readonly show: MutableShow;
  slots: () => Slots;
  levelNow: (slot: number) => number;
  slotOf: (key: string) => number | undefined;
  tell: (overrides: Overrides) => void;
  changed: () => void;
}

function unitSteps(fixtureId: string, mode: Mode, macro: Macro): UnitSteps {
  return {
    steps: stepsOf(macro).map(({ values, hold_s }) => ({
      hold_s,
      at: values.flatMap(({ attribute, value }) => {
        const channel = mode.channels.find((c) => c.attribute === attribute);
        const raw = channel && Math.round((value / 255) * topOf(channel));
        return channel && raw !== undefined
          ? [[slotKey(fixtureId, attribute), levelOfRaw(channel, raw)] as const]
          : [];
      }),
    })),
  };
}

/** What lies over everything that plays: parked, focus, check, control macros, highlight. */
export class Overlays {
  private readonly parked = new Map<string, Parked>();
  private readonly focused = new Map<string, Focused>();
  private readonly checks = new Map<string, Check>();
  private readonly runs = new Map<number, Run>();
  /** By operator. */
  private readonly highlit = new Map<
    string,
    { name: string; at: readonly { key: string; level: number }[] }
  >();
  private lastRun = 0;

  constructor(
    private readonly needs: OverlaysNeeds,
    saved: { parked: readonly Parked[]; focus: readonly Focused[] },
  ) {
    for (const p of saved.parked) this.parked.set(slotKey(p.fixtureId, p.attribute), p);
    for (const f of saved.focus) this.focused.set(f.fixtureId, f);
  }

  saved(): { parked: Parked[]; focus: Focused[] } {
    return { parked: [...this.parked.values()], focus: [...this.focused.values()] };
  }

  state(userId: string): Omit<OverState, 'guarded'> {
    return {
      parked: [...this.parked.values()],
      focus: [...this.focused.values()],
      checks: [...this.checks.values()].map((c) => ({
        universe: c.universe,
        address: c.address,
        value: c.value,
        by: c.by.name,
        mine: c.by.userId === userId,
      })),
      macros: [...this.runs.values()].map((r) => ({
        id: r.id,
        name: r.name,
        by: r.by,
        done: r.done,
        total: r.units.flat().length,
      })),
    };
  }

  /** What is over a slot or a byte, in words. */
  sourceOfSlot(key: string, kind: number): string {
    if (kind === HIGHLIT)
      return `highlight by ${[...this.highlit.values()].find((h) => h.at.some((a) => a.key === key))?.name ?? 'somebody'}`;
    if (kind === FOCUS)
      return `held for focus by ${this.focused.get(readSlotKey(key).fixtureId)?.by ?? 'somebody'}`;
    if (kind === PARKED) return `parked by ${this.parked.get(key)?.by ?? 'somebody'}`;
    const run = [...this.runs.values()].find((r) => r.active.has(key));
    return run ? `${run.name} by ${run.by}` : 'a control macro';
  }
  sourceOfByte(universe: number, address: number): string | undefined {
    const check = this.checks.get(`${universe}.${address}`);
    return check ? `address check by ${check.by.name}` : undefined;
  }

  // --- park ---

  park(
    who: Who,
    numbers: readonly number[],
    attribute: string | undefined,
    level: number | undefined,
    on: boolean,
  ): Answer {
    const keys: Parked[] = [];
    for (const number of numbers) {
      const fixture = this.needs.show.fixtureByNumber(number);
      const mode = fixture ? modeOf(this.needs.show, fixture) : undefined;
      if (!fixture || !mode)
        return refuse('not-found', `There is no fixture ${number}. Nothing was parked.`, {
          fixtures: `${number} is unknown.`,
        });
      for (const a of attributesOf(mode)) {
        if (attribute !== undefined && a !== attribute) continue;
        const slot = this.needs.slotOf(slotKey(fixture.id, a));
        if (slot !== undefined)
          keys.push({
            fixtureId: fixture.id,
            attribute: a,
            level: level ?? this.needs.levelNow(slot),
            by: who.name,
          });
      }
    }
    if (keys.length === 0)
      return refuse('not-found', 'None of these fixtures has this attribute. Nothing was parked.');
    for (const p of keys) {
      if (on) this.parked.set(slotKey(p.fixtureId, p.attribute), p);
      else this.parked.delete(slotKey(p.fixtureId, p.attribute));
    }
    this.send();
    return {
      ok: true,
      message: `${on ? 'Parked' : 'Let off'} ${plural(numbers.length, 'fixture')}`,
    };
  }

  // --- hold for focus ---

  /** Lights stay at a level for somebody on a ladder, whatever plays, until they are let off. */
  focus(
    who: Who,
    numbers: readonly number[] | undefined,
    level: number,
    on: boolean,
    now: Date,
  ): Answer {
    if (numbers === undefined) {
      if (on) return refuse('invalid', 'Say which fixtures to hold.', { fixtures: 'Missing.' });
      const count = this.focused.size;
      this.focused.clear();
      if (count > 0) this.send();
      return {
        ok: true,
        message: count === 0 ? 'Nothing was held for focus' : `Let off ${plural(count, 'fixture')}`,
      };
    }
    const found = numbers.map((number) => this.needs.show.fixtureByNumber(number));
    const missing = numbers.find((_, i) => !found[i]);
    if (missing !== undefined)
      return refuse('not-found', `There is no fixture ${missing}. Nothing was held.`, {
        fixtures: `${missing} is unknown.`,
      });
    for (const fixture of found) {
      if (!fixture) continue;
      if (on)
        this.focused.set(fixture.id, {
          fixtureId: fixture.id,
          level,
          by: who.name,
          since: now.toISOString(),
        });
      else this.focused.delete(fixture.id);
    }
    this.send();
    return {
      ok: true,
      message: `${on ? 'Held' : 'Let off'} ${plural(numbers.length, 'fixture')}${on ? ' for focus' : ''}`,
    };
  }

  // --- highlight ---

  /** Units that an operator wants to see now; none ends it. */
  highlight(userId: string, name: string, at: readonly { key: string; level: number }[]): void {
    if (at.length === 0 && !this.highlit.delete(userId)) return;
    if (at.length > 0) this.highlit.set(userId, { name, at });
    this.send();
  }

  // --- address check ---

  check(
    who: Who,
    universe: number | undefined,
    address: number | undefined,
    value: number | null,
  ): Answer {
    if (universe === undefined || address === undefined) {
      if (value !== null)
        return refuse('invalid', 'Say which universe and address.', { address: 'Missing.' });
      this.endChecks(who.userId);
      return { ok: true, message: 'Address checks are off' };
    }
    const key = `${universe}.${address}`;
    if (value === null) this.checks.delete(key);
    else {
      if (!this.needs.slots().universes.includes(universe))
        return refuse(
          'not-found',
          `Universe ${universe} is neither patched nor sent: give it an output first.`,
          { universe: 'No output.' },
        );
      const other = this.checks.get(key);
      if (other && other.by.userId !== who.userId)
        return refuse('conflict', `${other.by.name} is checking ${key}.`);
      this.checks.set(key, { universe, address, value, by: who });
    }
    this.send();
    return { ok: true };
  }

  /** The safe reset: nothing that a person forced stays when they ask, or when their last screen is gone. */
  endChecks(userId: string): void {
    let any = false;
    for (const [key, check] of this.checks)
      if (check.by.userId === userId) any = this.checks.delete(key) || any;
    if (any) this.send();
  }

  // --- control macros ---

  macro(
    who: Who,
    numbers: readonly number[],
    name: string,
    stagger_s: number,
    together: number,
  ): Answer {
    const units: UnitSteps[] = [];
    const without: number[] = [];
    for (const number of numbers) {
      const fixture = this.needs.show.fixtureByNumber(number);
      if (!fixture)
        return refuse('not-found', `There is no fixture ${number}. Nothing was started.`, {
          fixtures: `${number} is unknown.`,
        });
      const macro = this.needs.show.types.get(fixture.typeId)?.macros?.find((m) => m.name === name);
      const mode = modeOf(this.needs.show, fixture);
      if (macro && mode && canRun(mode, macro)) units.push(unitSteps(fixture.id, mode, macro));
      else without.push(number);
    }
    if (units.length === 0)
      return refuse(
        'not-found',
        `None of these fixtures has “${name}” in its mode. Nothing was started.`,
      );
    const groups = Array.from({ length: Math.ceil(units.length / together) }, (_, i) =>
      units.slice(i * together, (i + 1) * together),
    );
    const run: Run = {
      id: ++this.lastRun,
      name,
      by: who.name,
      units: groups,
      done: 0,
      active: new Map(),
      timers: new Set(),
    };
    this.runs.set(run.id, run);
    groups.forEach((group, i) => this.after(run, i * stagger_s, () => this.startGroup(run, group)));
    return {
      ok: true,
      message: `${name}: ${plural(units.length, 'fixture')}${without.length > 0 ? `; ${without.length} without it left out` : ''}`,
    };
  }

  cancelMacro(id: number): Answer {
    const run = this.runs.get(id);
    if (!run) return refuse('not-found', 'This macro has ended already.');
    for (const timer of run.timers) clearTimeout(timer);
    this.runs.delete(id);
    this.send();
    return {
      ok: true,
      message: `${run.name} stopped: ${run.done} of ${run.units.flat().length} done`,
    };
  }

  private after(run: Run, wait_s: number, act: () => void): void {
    if (wait_s === 0) {
      act();
      return;
    }
    const timer = setTimeout(() => {
      run.timers.delete(timer);
      act();
    }, wait_s * 1000);
    run.timers.add(timer);
  }

  private startGroup(run: Run, group: readonly UnitSteps[]): void {
    for (const unit of group) this.step(run, unit, 0);
    this.send();
  }

  /** One step of a unit, and then the next, or it is done. */
  private step(run: Run, unit: UnitSteps, n: number): void {
    const step = unit.steps[n];
    if (!step) {
      run.done++;
      if (run.done === run.units.flat().length) this.runs.delete(run.id);
      return;
    }
    for (const [key, level] of step.at) run.active.set(key, level);
    this.after(run, step.hold_s, () => {
      for (const [key] of step.at) run.active.delete(key);
      this.step(run, unit, n + 1);
      this.send();
    });
  }

  // --- to the clock ---

  /** Says it all again: after a change here, and after a change of the rig. */
  send(): void {
    const slots = this.needs.slots();
    const at: { slot: number; level: number; kind: number }[] = [];
    // What is parked or commanded stays so under a highlight.
    for (const { at: lit } of this.highlit.values()) {
      for (const { key, level } of lit) {
        const slot = this.needs.slotOf(key);
        if (slot !== undefined) at.push({ slot, level, kind: HIGHLIT });
      }
    }
    for (const f of this.focused.values()) {
      const slot = this.needs.slotOf(slotKey(f.fixtureId, 'Dimmer'));
      if (slot !== undefined) at.push({ slot, level: f.level, kind: FOCUS });
    }
    for (const [key, p] of this.parked) {
      const slot = this.needs.slotOf(key);
      if (slot !== undefined) at.push({ slot, level: p.level, kind: PARKED });
    }
    for (const run of this.runs.values()) {
      for (const [key, level] of run.active) {
        const slot = this.needs.slotOf(key);
        if (slot !== undefined) at.push({ slot, level, kind: COMMANDED });
      }
    }
    const raw = [...this.checks.values()].flatMap((c) => {
      const page = slots.universes.indexOf(c.universe);
      return page < 0 ? [] : [{ at: page * UNIVERSE_SLOTS + c.address - 1, byte: c.value }];
    });
    this.needs.tell({
      slots: Uint32Array.from(at, (a) => a.slot),
      levels: Float32Array.from(at, (a) => a.level),
      kinds: Int16Array.from(at, (a) => a.kind),
      raw: Uint32Array.from(raw, (r) => r.at),
      bytes: Uint8Array.from(raw, (r) => r.byte),
    });
    this.needs.changed();
  }

  /** Fixtures and attributes that are gone leave nothing parked behind. */
  rigChanged(): void {
    for (const id of this.focused.keys())
      if (!this.needs.show.fixtures.has(id)) this.focused.delete(id);
    for (const key of this.parked.keys())
      if (this.needs.slotOf(key) === undefined) this.parked.delete(key);
    this.send();
  }

  get any(): boolean {
    return (
      this.parked.size + this.focused.size + this.checks.size + this.runs.size + this.highlit.size >
      0
    );
  }
}
