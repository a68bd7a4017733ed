/**
 * Programmers: what each operator holds, selects and looks at. The clock is told in slots and levels; here values keep
 * what they follow (a palette, a look, an effect), so that recording keeps it too.
 */
import { aimUnit, flipped, pointsAlong, type Turn } from '../core/aim/unit.ts';
import { between, kelvin, type Chromaticity } from '../core/color/mix.ts';
import { colourLevels, colourParts } from '../core/color/unit-colour.ts';
import { formatCueNumber, parseCueNumber } from '../core/cues/number.ts';
import { stateAt, type Tracked } from '../core/cues/tracking.ts';
import { numberRanges, plural } from '../core/edits/edit.ts';
import type { HeldValue, LiveCommand, OtherProgrammer, ProgrammerState } from '../core/live/messages.ts';
import { effectUses, groupOf, lookSlots } from '../core/looks/resolve.ts';
import { effectOf, levelOf, type Valued } from '../core/looks/value.ts';
import { reachOf } from '../core/palettes/resolve.ts';
import type { FindWave } from '../core/playback/moves.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { modeOf } from '../core/rig/addresses.ts';
import { attributeInfo, attributesOf, familyOf, spreadOverCells } from '../core/rig/attributes.ts';
import { levelInUnit, stepInUnit, strobeChannel } from '../core/rig/unit-value.ts';
import { fanOffsets, fanThrough } from '../core/select/fan.ts';
import { byNumber, LIT } from '../core/select/select.ts';
import { slotKey, type CueRow, type Family, type FixtureRow, type Mode, type PaletteRow, type ValueRow } from '../core/show/rows.ts';
import type { MutableShow } from '../core/show/show.ts';
import { same } from '../core/show/undo.ts';
import type { Actor } from './actor.ts';
import type { ShowMessage } from './clock-messages.ts';
import { heldAfter, type Swapped } from './held-values.ts';

interface OperatorState {
  name: string;
  values: Map<string, HeldValue>;
  selection: string[];
  stepping: { all: string[]; at: number } | null;
  blind: boolean;
  highlight: boolean;
  cleared: HeldValue[];
}

/** What is kept of an operator between one process and the next; nothing stays highlit by accident. */
export interface SavedOperator {
  name: string;
  values: [string, HeldValue][];
  selection: string[];
  blind?: boolean;
  cleared?: HeldValue[];
}

type Answer = { ok: true; message?: string } | Refusal;

/** A value on its way into a programmer. */
interface Putting {
  fixtureId: string;
  attribute: string;
  level: number;
  fade_s?: number | undefined;
  delay_s?: number | undefined;
  palette?: string | undefined;
  look?: string | undefined;
  effect?: HeldValue['effect'];
}

/** What programmers need of the show that they are in. */
interface Under {
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
  changed: (userId: string, urgency: 'now' | 'soon') => void;
}

const NOTHING_SELECTED = refuse('nothing', 'Nothing is selected. Select fixtures first.');
const CLEARED_KEPT = 20_000;
/** Nearer than this two colours are called the same. */
const SEEN_DELTA_E = 3;

export type ProgrammerCommand = Extract<
  LiveCommand,
  { command: 'set' | 'set-many' | 'nudge' | 'fan' | 'times' | 'colour' | 'aim' | 'flip' | 'palette' | 'look' | 'effect' | 'home' | 'take' | 'keep' | 'letgo' | 'clear' | 'bring-back' | 'highlight' | 'step' | 'blind' | 'select' }
>;

export class Programmers {
  private readonly operators = new Map<string, OperatorState>();

  constructor(
    private readonly under: Under,
    saved: readonly [string, SavedOperator][],
  ) {
    for (const [id, o] of saved) this.operators.set(id, { name: o.name, values: new Map(o.values), selection: o.selection, stepping: null, blind: o.blind ?? false, highlight: false, cleared: o.cleared ?? [] });
  }

  private get show(): MutableShow {
    return this.under.show;
  }

  // --- commands ---

  command(actor: Actor, c: ProgrammerCommand): Answer {
    switch (c.command) {
      case 'set-many':
        return this.put(actor, c.values, c.fade_s ?? 0);
      case 'select':
        return this.select(actor, c.fixtures);
      case 'step':
        return this.step(actor, c.by);
      case 'clear':
        return this.letGo(actor, undefined, 0);
      case 'letgo':
        return this.letGo(actor, this.chosenKeys(actor, c), c.fade_s ?? 2);
      case 'keep':
        return this.letGo(actor, [...this.operator(actor).values].filter(([, v]) => !c.families.includes(familyOf(v.attribute))).map(([key]) => key), 0);
      case 'bring-back':
        return this.bringBack(actor);
      case 'blind':
        return this.setBlind(actor, c.on);
      case 'highlight':
        return this.setHighlight(actor, c.on);
      case 'look':
        return this.applyLook(actor, c.look, c.fixtures, c.fade_s ?? 0);
      case 'take':
        return this.take(actor, c);
      default:
        return this.onFixtures(actor, c);
    }
  }

  /** Commands that are for named fixtures, or else for the selection. */
  private onFixtures(actor: Actor, c: Extract<ProgrammerCommand, { command: 'set' | 'nudge' | 'fan' | 'times' | 'colour' | 'aim' | 'flip' | 'palette' | 'effect' | 'home' }>): Answer {
    const fixtures: FixtureRow[] = [];
    for (const number of c.fixtures ?? []) {
      const fixture = this.show.fixtureByNumber(number);
      if (!fixture) return refuse('not-found', `There is no fixture ${number}. Nothing was set.`, { fixtures: `${number} is unknown.` });
      fixtures.push(fixture);
    }
    if (!c.fixtures) for (const id of this.operator(actor).selection) fixtures.push(...[this.show.fixtures.get(id)].filter((f) => f !== undefined));
    if (fixtures.length === 0) return NOTHING_SELECTED;
    switch (c.command) {
      case 'set':
        return this.set(actor, fixtures, c);
      case 'nudge':
        return this.nudge(actor, fixtures, c);
      case 'fan':
        return c.what === 'value' ? this.fan(actor, fixtures, c) : this.fanTimes(actor, fixtures, c);
      case 'times':
        return this.times(actor, fixtures, c);
      case 'colour':
        return this.colour(actor, fixtures, c);
      case 'aim':
        return this.aim(actor, fixtures, c);
      case 'flip':
        return this.flip(actor, fixtures, c.fade_s ?? 0);
      case 'palette':
        return this.applyPalette(actor, c.palette, fixtures, c.fade_s ?? 0);
      case 'effect':
        return c.on ? this.startEffect(actor, c.effect, fixtures, c.fade_s ?? 0) : this.endEffect(actor, c.effect, fixtures, c.fade_s ?? 0);
      case 'home':
        return this.home(actor, fixtures, c.families, c.fade_s ?? 0);
    }
  }

  private modeOf(fixture: FixtureRow): Mode | undefined {
    return modeOf(this.show, fixture);
  }

  /** The level that a slot is set to: what is held, or what shows. */
  private levelAt(actor: Actor, fixtureId: string, attribute: string): number {
    const key = slotKey(fixtureId, attribute);
    const slot = this.under.slotOf(key);
    return this.operators.get(actor.userId)?.values.get(key)?.level ?? (slot === undefined ? 0 : this.under.levelNow(slot));
  }

  /** A unit's own attributes for one that is asked for: itself, that of every cell, or the shutter that strobes. */
  private ownAttributes(fixture: FixtureRow, attribute: string): string[] {
    const mode = this.modeOf(fixture);
    if (!mode) return [];
    const own = spreadOverCells(mode, attribute);
    return own.length > 0 || attribute !== 'Shutter1Strobe' ? own : strobeChannel(mode.channels, 1) ? ['Shutter1'] : [];
  }

  private set(actor: Actor, fixtures: readonly FixtureRow[], c: { attribute: string; level?: number | undefined; physical?: number | undefined; fade_s?: number | undefined; delay_s?: number | undefined }): Answer {
    const { level, physical } = c;
    if ((level === undefined) === (physical === undefined)) return refuse('invalid', 'Say either a level from 0 to 1 or a value in the attribute’s unit.', { level: 'One of the two.' });
    const values = fixtures.flatMap((fixture): Putting[] => {
      const mode = this.modeOf(fixture);
      if (!mode) return [];
      if (c.attribute === 'Shutter1Strobe' && physical !== undefined) {
        const strobe = strobeChannel(mode.channels, physical);
        return strobe ? [{ fixtureId: fixture.id, ...strobe }] : [];
      }
      return spreadOverCells(mode, c.attribute).map((attribute) => ({ fixtureId: fixture.id, attribute, level: level ?? levelInUnit(attribute, mode.channels.find((x) => x.attribute === attribute), physical ?? 0) }));
    });
    return this.said(this.put(actor, values, c.fade_s ?? 0, c.delay_s ?? 0), fixtures, values, c.attribute);
  }

  /** Names those that had to be left out. */
  private said(answer: Answer, asked: readonly FixtureRow[], values: readonly Putting[], attribute: string): Answer {
    const reached = new Set(values.map((v) => v.fixtureId));
    const without = asked.filter((f) => !reached.has(f.id));
    if (reached.size === 0) return refuse('not-found', `None of these fixtures has ${attributeInfo(attribute).label.toLowerCase()}. Nothing was set.`);
    return 'ok' in answer && without.length > 0 && !answer.message ? { ok: true, message: `${numberRanges(without.map((f) => f.number))} left out: no ${attributeInfo(attribute).label.toLowerCase()}.` } : answer;
  }

  private nudge(actor: Actor, fixtures: readonly FixtureRow[], c: { attribute: string; add?: number | undefined; times?: number | undefined; fade_s?: number | undefined }): Answer {
    const values = fixtures.flatMap((fixture) => {
      const mode = this.modeOf(fixture);
      return this.ownAttributes(fixture, c.attribute).map((attribute): Putting => {
        const channel = mode?.channels.find((x) => x.attribute === attribute);
        const now = this.levelAt(actor, fixture.id, attribute);
        return { fixtureId: fixture.id, attribute, level: unit(now * (c.times ?? 1) + (c.add === undefined ? 0 : stepInUnit(attribute, channel, c.add))) };
      });
    });
    return this.said(this.put(actor, values, c.fade_s ?? 0), fixtures, values, c.attribute);
  }

  private fan(actor: Actor, fixtures: readonly FixtureRow[], c: Extract<LiveCommand, { command: 'fan' }>): Answer {
    const able = fixtures.filter((f) => this.ownAttributes(f, c.attribute).length > 0);
    if (able.length === 1) return refuse('invalid', 'A fan needs at least two fixtures that have the attribute.', { fixtures: 'Only one.' });
    if ((c.stops === undefined) === (c.by === undefined)) return refuse('invalid', 'A fan goes from one value to another, or by so much from where it is.', { stops: 'One of the two.' });
    const through = c.stops ? fanThrough(able.length, c.stops, c) : undefined;
    const offsets = fanOffsets(able.length, c.by ?? 0, c.pivot, c.curve);
    const values = able.flatMap((fixture, i) => {
      const mode = this.modeOf(fixture);
      return this.ownAttributes(fixture, c.attribute).map((attribute): Putting => {
        const channel = mode?.channels.find((x) => x.attribute === attribute);
        const level = through ? levelInUnit(attribute, channel, through[i] ?? 0) : unit(this.levelAt(actor, fixture.id, attribute) + stepInUnit(attribute, channel, offsets[i] ?? 0));
        return { fixtureId: fixture.id, attribute, level };
      });
    });
    return this.said(this.put(actor, values, c.fade_s ?? 0, c.delay_s ?? 0), fixtures, values, c.attribute);
  }

  private fanTimes(actor: Actor, fixtures: readonly FixtureRow[], c: Extract<LiveCommand, { command: 'fan' }>): Answer {
    const held = this.operator(actor).values;
    const able = fixtures.filter((f) => this.ownAttributes(f, c.attribute).some((a) => held.has(slotKey(f.id, a))));
    if (able.length < 2) return refuse('invalid', 'A fan of times needs at least two fixtures of which you hold the attribute.', { fixtures: 'Too few.' });
    if (!c.stops) return refuse('invalid', 'Say from which time to which.', { stops: 'Missing.' });
    const at = fanThrough(able.length, c.stops, c);
    const set = new Map(able.flatMap((f, i) => this.ownAttributes(f, c.attribute).map((a) => [slotKey(f.id, a), Math.max(0, Math.round((at[i] ?? 0) * 1000) / 1000)] as const)));
    return this.retime(actor, [...set.keys()], (key) => (c.what === 'fade' ? { fade_s: set.get(key) ?? 0 } : { delay_s: set.get(key) ?? 0 }));
  }

  private times(actor: Actor, fixtures: readonly FixtureRow[], c: Extract<LiveCommand, { command: 'times' }>): Answer {
    const ids = new Set(fixtures.map((f) => f.id));
    const keys = [...this.operator(actor).values].filter(([, v]) => ids.has(v.fixtureId) && (!c.attributes || c.attributes.includes(v.attribute)) && (!c.families || c.families.includes(familyOf(v.attribute)))).map(([key]) => key);
    if (keys.length === 0) return refuse('nothing', 'You hold nothing of these to give a time to: set values first.');
    return this.retime(actor, keys, () => ({ ...(c.fade_s === undefined ? {} : { fade_s: c.fade_s }), ...(c.delay_s === undefined ? {} : { delay_s: c.delay_s }) }));
  }

  private retime(actor: Actor, keys: readonly string[], times: (key: string) => Partial<Pick<HeldValue, 'fade_s' | 'delay_s'>>): Answer {
    const { values } = this.operator(actor);
    for (const key of keys) {
      const v = values.get(key);
      if (v) values.set(key, { ...v, ...times(key), recorded: false });
    }
    this.under.changed(actor.userId, 'soon');
    return { ok: true };
  }

  private colour(actor: Actor, fixtures: readonly FixtureRow[], c: { x?: number | undefined; y?: number | undefined; kelvin?: number | undefined; to?: Chromaticity | undefined; fade_s?: number | undefined }): Answer {
    const target = c.kelvin !== undefined ? kelvin(c.kelvin) : c.x !== undefined && c.y !== undefined ? { x: c.x, y: c.y } : undefined;
    if (!target) return refuse('invalid', 'Say a chromaticity, or a white point in kelvin.', { x: 'Missing.' });
    if (target.x + target.y > 1) return refuse('invalid', 'There is no such chromaticity: x and y are at most 1 together.', { x: 'Too high.' });
    // Units of one type and mode have one answer, unless a wheel of theirs has slots of its own.
    const answers = new Map<string, { levels: { attribute: string; level: number }[]; deltaE: number }>();
    const off: { number: number; deltaE: number }[] = [];
    const { to } = c;
    const values = fixtures.flatMap((fixture, i): Putting[] => {
      const type = this.show.types.get(fixture.typeId);
      const mode = this.modeOf(fixture);
      if (!type || !mode) return [];
      const own = to ? between(target, to, fixtures.length === 1 ? 0 : i / (fixtures.length - 1)) : target;
      const key = fixture.wheels || to ? fixture.id : `${type.id}/${mode.name}`;
      let answer = answers.get(key);
      if (!answer) {
        const parts = colourParts(type, mode).map((part) => colourLevels(type, part, own, fixture));
        answer = { levels: parts.flatMap((p) => p.levels), deltaE: Math.max(0, ...parts.map((p) => p.deltaE)) };
        answers.set(key, answer);
      }
      if (answer.levels.length > 0 && answer.deltaE > SEEN_DELTA_E) off.push({ number: fixture.number, deltaE: answer.deltaE });
      return answer.levels.map((l) => ({ fixtureId: fixture.id, ...l }));
    });
    if (values.length === 0) return refuse('not-found', 'None of these fixtures has a colour to change. Nothing was set.');
    const answer = this.put(actor, values, c.fade_s ?? 0);
    const worst = Math.max(0, ...off.map((o) => o.deltaE));
    return 'ok' in answer && off.length > 0 ? { ok: true, message: `${numberRanges(off.map((o) => o.number))} cannot make this colour; the nearest is ΔE ${worst.toFixed(0)} off.` } : answer;
  }

  private turnAt(actor: Actor, fixture: FixtureRow): Turn {
    return { Pan: this.levelAt(actor, fixture.id, 'Pan'), Tilt: this.levelAt(actor, fixture.id, 'Tilt') };
  }

  private aim(actor: Actor, fixtures: readonly FixtureRow[], c: Extract<LiveCommand, { command: 'aim' }>): Answer {
    const heads = fixtures.filter((f) => this.ownAttributes(f, 'Pan').length > 0 && this.ownAttributes(f, 'Tilt').length > 0);
    const [from, to] = c.points;
    if (!from) return refuse('invalid', 'Say where to look.', { points: 'Missing.' });
    if (heads.length === 0) return refuse('not-found', 'None of these fixtures turns. Nothing was set.');
    const points = to ? pointsAlong(from, to, heads.length) : heads.map(() => from);
    const lost: number[] = [];
    const values = heads.flatMap((fixture, i): Putting[] => {
      const mode = this.modeOf(fixture);
      const turn = mode ? aimUnit(fixture, mode, points[i] ?? from, this.turnAt(actor, fixture), c.flip) : undefined;
      if (!turn) lost.push(fixture.number);
      return turn ? [{ fixtureId: fixture.id, attribute: 'Pan', level: turn.Pan }, { fixtureId: fixture.id, attribute: 'Tilt', level: turn.Tilt }] : [];
    });
    const words = `${numberRanges(lost)} cannot look ${to ? 'along that line' : 'there'}${c.flip ? ' the other way' : ''}, and ${lost.length === 1 ? 'stays' : 'stay'} where ${lost.length === 1 ? 'it is' : 'they are'}.`;
    if (values.length === 0) return refuse('no-reach', words);
    const answer = this.put(actor, values, c.fade_s ?? 0);
    return 'ok' in answer && lost.length > 0 ? { ok: true, message: words } : answer;
  }

  private flip(actor: Actor, fixtures: readonly FixtureRow[], fade_s: number): Answer {
    const values = fixtures.flatMap((fixture): Putting[] => {
      const turn = flipped(this.show, fixture, this.turnAt(actor, fixture));
      return turn ? [{ fixtureId: fixture.id, attribute: 'Pan', level: turn.Pan }, { fixtureId: fixture.id, attribute: 'Tilt', level: turn.Tilt }] : [];
    });
    return values.length === 0 ? refuse('no-reach', 'None of these can look there the other way round.') : this.put(actor, values, fade_s);
  }

  /** Each fixture takes what the palette says for it; those that it does not reach are named. */
  private applyPalette(actor: Actor, paletteId: string, fixtures: readonly FixtureRow[], fade_s: number): Answer {
    const palette = this.show.palettes.get(paletteId);
    if (!palette) return refuse('not-found', 'This palette has been deleted meanwhile. Nothing was set.');
    const missed: number[] = [];
    const values = fixtures.flatMap((fixture) => {
      const reach = reachOf(this.show, palette, fixture);
      if (reach.size === 0) missed.push(fixture.number);
      return [...reach].map(([attribute, level]): Putting => ({ fixtureId: fixture.id, attribute, level, palette: paletteId }));
    });
    if (values.length === 0) return refuse('no-reach', `Palette ${palette.number} “${palette.name}” says nothing for ${numberRanges(missed)}. Nothing was set.`);
    const held = this.put(actor, values, fade_s);
    return 'ok' in held && missed.length > 0 ? { ok: true, message: `Palette ${palette.number} does not reach ${numberRanges(missed)}.` } : held;
  }

  private applyLook(actor: Actor, lookId: string, numbers: readonly number[] | undefined, fade_s: number): Answer {
    const look = this.show.looks.get(lookId);
    if (!look) return refuse('not-found', 'This look has been deleted meanwhile. Nothing was set.');
    const chosen = numbers ? new Set(numbers.map((n) => this.show.fixtureByNumber(n)?.id)) : undefined;
    const values = [...lookSlots(this.show, lookId).values()]
      .filter((s) => !chosen || chosen.has(s.fixtureId))
      .map((s): Putting => ({ fixtureId: s.fixtureId, attribute: s.attribute, level: s.level ?? this.levelAt(actor, s.fixtureId, s.attribute), look: lookId, effect: s.effect, fade_s: s.fade_s ?? fade_s, delay_s: s.delay_s }));
    if (values.length === 0) return refuse('no-reach', `Look ${look.number} “${look.name}” says nothing for ${chosen ? 'these fixtures' : 'any fixture'}. Nothing was set.`);
    return this.put(actor, values, fade_s);
  }

  private startEffect(actor: Actor, effectId: string, fixtures: readonly FixtureRow[], fade_s: number): Answer {
    const effect = this.show.effects.get(effectId);
    if (!effect) return refuse('not-found', 'This effect has been deleted meanwhile. Nothing was started.');
    const ids = fixtures.map((f) => f.id);
    const group = groupOf(this.show, ids);
    const values = effectUses(this.show, effect, group === undefined ? ids : [group]).map((u): Putting => ({ fixtureId: u.fixtureId, attribute: u.attribute, level: this.levelAt(actor, u.fixtureId, u.attribute), effect: u.effect, ...this.follows(actor, u.fixtureId, u.attribute) }));
    if (values.length === 0) return refuse('not-found', `None of these fixtures has what effect ${effect.number} “${effect.name}” moves. Nothing was started.`);
    return this.put(actor, values, fade_s);
  }

  /** What a held value follows, so that an effect on top of it changes nothing of that. */
  private follows(actor: Actor, fixtureId: string, attribute: string): { palette?: string; look?: string } {
    const v = this.operator(actor).values.get(slotKey(fixtureId, attribute));
    return { ...(v?.palette === undefined ? {} : { palette: v.palette }) };
  }

  private endEffect(actor: Actor, effectId: string, fixtures: readonly FixtureRow[], fade_s: number): Answer {
    const ids = new Set(fixtures.map((f) => f.id));
    const { values } = this.operator(actor);
    const running = [...values.values()].filter((v) => ids.has(v.fixtureId) && v.effect?.id === effectId);
    if (running.length === 0) return refuse('nothing', 'You do not run this effect on these fixtures.');
    for (const v of running) {
      const next = { ...v, recorded: false };
      delete next.effect;
      delete next.look;
      values.set(slotKey(v.fixtureId, v.attribute), next);
    }
    this.send(actor.userId, running.map((v) => ({ ...v, effect: undefined, fade_s, delay_s: 0 })));
    this.under.changed(actor.userId, 'soon');
    return { ok: true };
  }

  private home(actor: Actor, fixtures: readonly FixtureRow[], families: readonly Family[] | undefined, fade_s: number): Answer {
    const wanted = families ?? (['position', 'colour', 'beam'] as const);
    const values = fixtures.flatMap((fixture) => {
      const mode = this.modeOf(fixture);
      return (mode ? attributesOf(mode) : []).filter((a) => (wanted as readonly Family[]).includes(familyOf(a))).map((attribute): Putting => ({ fixtureId: fixture.id, attribute, level: mode?.channels.find((c) => c.attribute === attribute)?.default ?? 0 }));
    });
    return values.length === 0 ? refuse('nothing', 'These fixtures have nothing to bring home.') : this.put(actor, values, fade_s);
  }

  private take(actor: Actor, c: Extract<LiveCommand, { command: 'take' }>): Answer {
    const chosen = c.fixtures ? new Set(c.fixtures.map((n) => this.show.fixtureByNumber(n)?.id)) : undefined;
    const wanted = (fixtureId: string, attribute: string): boolean => (!chosen || chosen.has(fixtureId)) && (!c.families || c.families.includes(familyOf(attribute)));
    if (c.what === 'lit') {
      const values = byNumber(this.show).flatMap((fixture) => {
        const mode = this.modeOf(fixture);
        const at = (attribute: string): number => {
          const slot = this.under.slotOf(slotKey(fixture.id, attribute));
          return slot === undefined ? 0 : this.under.levelNow(slot);
        };
        return !mode || at('Dimmer') < LIT ? [] : attributesOf(mode).filter((a) => wanted(fixture.id, a)).map((attribute) => this.asRecorded(fixture.id, attribute, at(attribute)));
      });
      return values.length === 0 ? refuse('nothing', 'Nothing of these is lit.') : this.put(actor, values, 0);
    }
    const list = c.list ?? [...this.show.lists.values()].sort((a, b) => a.number - b.number)[0]?.id ?? '';
    const number = parseCueNumber(c.cue ?? '');
    const cue = number === undefined ? undefined : this.show.cuesOf(list).find((x) => x.number === number);
    if (!cue) return refuse('not-found', `There is no cue ${c.cue ?? ''}. Nothing was taken.`, { cue: 'Unknown.' });
    const rows: ValueRow[] = c.whole ? [...stateAt(this.show, list, cue.number).values()].map((t) => t.value) : [...this.show.valuesOf(cue.id).values()];
    const values = rows.flatMap((v): Putting[] => {
      const level = levelOf(this.show, v);
      return level === null || !wanted(v.fixtureId, v.attribute) ? [] : [{ fixtureId: v.fixtureId, attribute: v.attribute, level, palette: v.palette, look: v.look, effect: effectOf(this.show, v) }];
    });
    return values.length === 0 ? refuse('nothing', `Cue ${formatCueNumber(cue.number)} sets nothing of these.`) : this.put(actor, values, 0);
  }

  /** A level on stage with what it follows, where a cue says it. */
  private asRecorded(fixtureId: string, attribute: string, level: number): Putting {
    const slot = this.under.slotOf(slotKey(fixtureId, attribute));
    const tracked = slot === undefined ? undefined : this.under.recordedAt(slot);
    const said = tracked ? levelOf(this.show, tracked.value) : null;
    const effect = tracked ? effectOf(this.show, tracked.value) : undefined;
    if (!tracked || said === null || (Math.abs(said - level) > 1e-4 && !effect)) return { fixtureId, attribute, level };
    return { fixtureId, attribute, level: said, palette: tracked.value.palette, look: tracked.value.look, effect };
  }

  // --- the selection ---

  private select(actor: Actor, ids: readonly string[]): Answer {
    const operator = this.operator(actor);
    operator.selection = ids.filter((id) => this.show.fixtures.has(id));
    operator.stepping = null;
    if (operator.highlight) this.sendHighlight(actor.userId, operator);
    this.under.changed(actor.userId, 'soon');
    return { ok: true };
  }

  private step(actor: Actor, by: 1 | -1 | 0): Answer {
    const operator = this.operator(actor);
    const { stepping } = operator;
    const all = stepping?.all ?? operator.selection;
    if (all.length === 0) return NOTHING_SELECTED;
    if (by === 0) {
      operator.selection = [...all];
      operator.stepping = null;
    } else {
      const at = stepping ? (stepping.at + by + all.length) % all.length : by === 1 ? 0 : all.length - 1;
      operator.stepping = { all: [...all], at };
      operator.selection = all.slice(at, at + 1);
    }
    if (operator.highlight) this.sendHighlight(actor.userId, operator);
    this.under.changed(actor.userId, 'soon');
    return { ok: true };
  }

  private setHighlight(actor: Actor, on: boolean): Answer {
    const operator = this.operator(actor);
    operator.highlight = on;
    this.sendHighlight(actor.userId, operator);
    this.under.changed(actor.userId, 'soon');
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
            const level = channel?.highlight ?? (attribute === 'Dimmer' ? 1 : familyOf(attribute) === 'colour' || attribute.startsWith('Shutter') || attribute === 'Iris' ? channel?.default : undefined);
            return level === undefined ? [] : [{ key: slotKey(id, attribute), level }];
          });
        });
    this.under.highlight(userId, operator.name, at);
  }

  private setBlind(actor: Actor, blind: boolean): Answer {
    this.operator(actor).blind = blind;
    this.under.tell({ do: 'blind', showId: this.under.id, userId: actor.userId, blind });
    this.under.changed(actor.userId, 'now');
    return { ok: true, message: blind ? 'Blind: what you set is kept and does not show' : 'Live' };
  }

  // --- holding and letting go ---

  operator(actor: Pick<Actor, 'userId' | 'name'>): OperatorState {
    const known = this.operators.get(actor.userId);
    if (known) return known;
    const fresh: OperatorState = { name: actor.name, values: new Map(), selection: [], stepping: null, blind: false, highlight: false, cleared: [] };
    this.operators.set(actor.userId, fresh);
    return fresh;
  }

  private put(actor: Actor, given: readonly Putting[], fade_s: number, delay_s = 0): Answer {
    const able = this.overCells(given).filter((v) => this.under.slotOf(slotKey(v.fixtureId, v.attribute)) !== undefined);
    if (able.length === 0) return refuse('not-found', 'None of these fixtures has this attribute. Nothing was set.');
    const { values } = this.operator(actor);
    const held = able.map((v): HeldValue => {
      const key = slotKey(v.fixtureId, v.attribute);
      const effect = v.effect ?? this.kept(values.get(key));
      const next: HeldValue = {
        fixtureId: v.fixtureId,
        attribute: v.attribute,
        level: v.level,
        ...(v.palette === undefined ? {} : { palette: v.palette }),
        ...(v.look === undefined ? {} : { look: v.look }),
        ...(effect === undefined ? {} : { effect }),
        fade_s: v.fade_s ?? fade_s,
        delay_s: v.delay_s ?? delay_s,
        recorded: false,
      };
      values.set(key, next);
      return next;
    });
    this.send(actor.userId, held);
    this.under.changed(actor.userId, 'soon');
    const reached = new Set(able.map((v) => v.fixtureId));
    const without = new Set(given.filter((v) => !reached.has(v.fixtureId)).map((v) => v.fixtureId)).size;
    return without > 0 ? { ok: true, message: `${plural(without, 'fixture')} left out: no such attribute.` } : { ok: true };
  }

  /** A relative effect goes on over a new level; one that makes the level itself ends when a level is set by hand. */
  private kept(held: HeldValue | undefined): HeldValue['effect'] {
    const effect = held?.effect ? this.show.effects.get(held.effect.id) : undefined;
    const track = effect?.tracks.find((t) => t.attribute === held?.attribute) ?? effect?.tracks.find((t) => held?.attribute.startsWith(`${t.attribute}@`));
    return track?.mode === 'relative' ? held?.effect : undefined;
  }

  /** Tells the clock of held values. */
  private send(userId: string, values: readonly (Omit<HeldValue, 'effect'> & { effect?: HeldValue['effect'] })[], times = true): void {
    const at = values.flatMap((v) => {
      const slot = this.under.slotOf(slotKey(v.fixtureId, v.attribute));
      return slot === undefined ? [] : [{ slot, v }];
    });
    if (at.length === 0) return;
    this.under.tell({
      do: 'hold',
      showId: this.under.id,
      userId,
      holds: {
        slots: Uint32Array.from(at, (a) => a.slot),
        levels: Float32Array.from(at, (a) => a.v.level),
        fade_s: Float32Array.from(at, (a) => (times ? a.v.fade_s : 0)),
        delay_s: Float32Array.from(at, (a) => (times ? a.v.delay_s : 0)),
        wave: Int32Array.from(at, (a) => (a.v.effect ? this.under.findWave(a.v.effect.id, a.v.attribute) : -1)),
        phase: Float32Array.from(at, (a) => a.v.effect?.phase ?? 0),
      },
    });
  }

  /** An attribute that only the cells have means all of them. */
  private overCells(values: readonly Putting[]): Putting[] {
    return values.flatMap((v) => {
      if (this.under.slotOf(slotKey(v.fixtureId, v.attribute)) !== undefined) return [v];
      const fixture = this.show.fixtures.get(v.fixtureId);
      const mode = fixture ? this.modeOf(fixture) : undefined;
      return mode ? spreadOverCells(mode, v.attribute).map((attribute) => ({ ...v, attribute })) : [];
    });
  }

  /** Held keys that a command names; undefined for all of them. */
  private chosenKeys(actor: Actor, c: Extract<LiveCommand, { command: 'letgo' }>): string[] | undefined {
    if (c.slots) return c.slots.map((s) => slotKey(s.fixtureId, s.attribute));
    if (!c.fixtures && !c.families && !c.attributes) return undefined;
    const ids = c.fixtures ? new Set(c.fixtures.map((n) => this.show.fixtureByNumber(n)?.id)) : undefined;
    return [...this.operator(actor).values].filter(([, v]) => (!ids || ids.has(v.fixtureId)) && (!c.families || c.families.includes(familyOf(v.attribute))) && (!c.attributes || c.attributes.includes(v.attribute))).map(([key]) => key);
  }

  letGo(actor: Pick<Actor, 'userId' | 'name'>, slots: readonly string[] | undefined, fade_s: number, keep = true): Answer {
    const operator = this.operator(actor);
    const keys = (slots ?? [...operator.values.keys()]).filter((k) => operator.values.has(k));
    const gone = keys.flatMap((k) => operator.values.get(k) ?? []);
    if (keep && gone.some((v) => !v.recorded)) operator.cleared = gone.slice(0, CLEARED_KEPT);
    for (const key of keys) operator.values.delete(key);
    const indexes = keys.flatMap((k) => this.under.slotOf(k) ?? []);
    this.under.tell({ do: 'letgo', showId: this.under.id, userId: actor.userId, slots: Uint32Array.from(indexes), fade_s });
    this.under.changed(actor.userId, 'now');
    return { ok: true };
  }

  private bringBack(actor: Actor): Answer {
    const operator = this.operator(actor);
    const back = operator.cleared.filter((v) => this.under.slotOf(slotKey(v.fixtureId, v.attribute)) !== undefined);
    if (back.length === 0) return refuse('nothing', 'Nothing was cleared that could be brought back.');
    operator.cleared = [];
    for (const v of back) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
    this.send(actor.userId, back, false);
    this.under.changed(actor.userId, 'now');
    return { ok: true, message: `${plural(back.length, 'value')} brought back` };
  }

  // --- edits, as they arrive ---

  /** After a change of the rig: values of swapped units in their new attributes, nothing of what is gone. */
  rigChanged(swapped: readonly Swapped[]): void {
    for (const [userId, operator] of this.operators) {
      const converted = heldAfter(this.show, swapped, [...operator.values.values()]);
      for (const key of [...operator.values.keys()]) if (this.under.slotOf(key) === undefined) operator.values.delete(key);
      operator.selection = operator.selection.filter((id) => this.show.fixtures.has(id));
      if (operator.stepping) operator.stepping = { ...operator.stepping, all: operator.stepping.all.filter((id) => this.show.fixtures.has(id)) };
      for (const v of converted) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
      this.send(userId, converted, false);
      this.under.changed(userId, 'soon');
    }
  }

  /** What palettes, looks and effects say has changed: what follows them goes along; what follows what is gone stands for itself. */
  followed(concerned: (v: Valued) => boolean): void {
    for (const [userId, operator] of this.operators) {
      const moved = [...operator.values.values()].filter(concerned).map((v): HeldValue => {
        const next: HeldValue = { ...v, level: levelOf(this.show, v) ?? v.level };
        const effect = effectOf(this.show, v);
        if (v.palette !== undefined && !this.show.palettes.has(v.palette)) delete next.palette;
        if (v.look !== undefined && !this.show.looks.has(v.look)) delete next.look;
        if (effect) next.effect = effect;
        else delete next.effect;
        return next;
      });
      const changed = moved.filter((v) => !same(v, operator.values.get(slotKey(v.fixtureId, v.attribute))));
      for (const v of changed) operator.values.set(slotKey(v.fixtureId, v.attribute), v);
      if (changed.length === 0) continue;
      this.send(userId, changed, false);
      this.under.changed(userId, 'soon');
    }
  }

  /** Values that a palette was just recorded from follow it from now on, so that the next cue takes the palette and not the numbers. */
  followPalette(userId: string, palette: PaletteRow): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const [key, v] of operator.values) {
      const fixture = this.show.fixtures.get(v.fixtureId);
      const level = fixture ? reachOf(this.show, palette, fixture).get(v.attribute) : undefined;
      if (level !== undefined && Math.abs(level - v.level) < 1e-4) operator.values.set(key, { ...v, palette: palette.id });
    }
    this.under.changed(userId, 'soon');
  }

  followLook(userId: string, lookId: string): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const [key, slot] of lookSlots(this.show, lookId)) {
      const v = operator.values.get(key);
      if (v && (slot.level === undefined || Math.abs(slot.level - v.level) < 1e-4) && same(slot.effect, v.effect)) operator.values.set(key, { ...v, look: lookId });
    }
    this.under.changed(userId, 'soon');
  }

  /** Held values that a cue's state says as well. */
  inCue(userId: string, cue: CueRow): HeldValue[] {
    const operator = this.operators.get(userId);
    if (!operator) return [];
    const state = stateAt(this.show, cue.listId, cue.number);
    return [...operator.values.values()].filter((v) => {
      const value = state.get(slotKey(v.fixtureId, v.attribute))?.value;
      return value !== undefined && value.level === v.level && value.palette === v.palette && value.look === v.look && same(value.effect, v.effect);
    });
  }

  markRecorded(userId: string, values: readonly HeldValue[]): void {
    const operator = this.operators.get(userId);
    if (!operator) return;
    for (const v of values) operator.values.set(slotKey(v.fixtureId, v.attribute), { ...v, recorded: true });
    this.under.changed(userId, 'soon');
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

  /** What an operator holds, by slot key; a value that changes is a new object. */
  held(userId: string): ReadonlyMap<string, HeldValue> {
    return this.operators.get(userId)?.values ?? NO_VALUES;
  }

  state(userId: string): ProgrammerState {
    const o = this.operators.get(userId);
    return { selection: o?.selection ?? [], stepping: o?.stepping ?? null, blind: o?.blind ?? false, highlight: o?.highlight ?? false, cleared: o?.cleared.length ?? 0 };
  }

  others(userId: string): OtherProgrammer[] {
    return [...this.operators]
      .filter(([id, o]) => id !== userId && (o.values.size > 0 || o.selection.length > 0))
      .map(([id, o]) => ({ userId: id, name: o.name, values: o.values.size, unrecorded: [...o.values.values()].filter((v) => !v.recorded).length, selection: o.selection, blind: o.blind }));
  }

  saved(): [string, SavedOperator][] {
    return [...this.operators].map(([id, o]) => [id, { name: o.name, values: [...o.values], selection: o.selection, blind: o.blind, cleared: o.cleared }]);
  }
}

const NO_VALUES: ReadonlyMap<string, HeldValue> = new Map();
const unit = (level: number): number => Math.min(1, Math.max(0, level));
