/**
 * Palettes, looks and effects that play by themselves, without anybody's programmer: sources like a fader, each in its own
 * time, released in it (docs/playback.md, Played by themselves).
 */
import type { CommandOf } from '../core/live/commands.ts';
import type { PlayedStatus } from '../core/live/messages.ts';
import { effectUses } from '../core/looks/resolve.ts';
import type { Valued } from '../core/looks/value.ts';
import { contentsOfPalette } from '../core/palettes/resolve.ts';
import type { Onto } from '../core/playback/moves.ts';
import { RIDES } from '../core/playback/playback.ts';
import { HELD_TABLES } from '../core/faders/rows.ts';
import { PLAY_S, type PlayedKind } from '../core/palettes/rows.ts';
import { RELEASE_S } from '../core/lists/rows.ts';
import { refuse } from '../core/refusal.ts';
import type { Show } from '../core/show/show.ts';
import { capital, numberRanges, plural } from '../core/words.ts';
import type { Actor } from './actor.ts';
import type { ShowMessage } from './clock-messages.ts';
import { anew, contentsOf, keysOf, movesTo } from './contents.ts';
import type { Answer } from './answer.ts';

/** A palette, look, group or effect that was pressed and plays. */
export interface PlayedThing {
  kind: PlayedKind;
  id: string;
  /** Whose press it was. */
  by: string;
  /** Units that it plays on; absent: those that it was made for. */
  fixtures?: string[];
}

interface PlayedNeeds {
  readonly id: string;
  readonly show: Show;
  onto: () => Onto;
  tell: (message: ShowMessage) => void;
  changed: (urgency: 'now' | 'soon') => void;
}

/** Everything that plays without a list or fader. */
export interface Played {
  readonly needs: PlayedNeeds;
  /** By the name of the playback. */
  readonly playing: Map<string, PlayedThing>;
  /** Keys of the slots that each gave when it last said what it holds. */
  readonly gave: Map<string, ReadonlySet<string>>;
}

const MOST = 64;

/** An effect has no level of its own: it rides. */
const playbackOf = ({ kind, id }: Pick<PlayedThing, 'kind' | 'id'>): string =>
  `${kind === 'effect' ? RIDES : ''}played:${kind}/${id}`;

/** As it was saved. */
export function makePlayed(needs: PlayedNeeds, saved: readonly PlayedThing[]): Played {
  const played: Played = { needs, playing: new Map(), gave: new Map() };
  for (const thing of saved) {
    played.playing.set(playbackOf(thing), thing);
    played.gave.set(playbackOf(thing), keysOf(valuesOf(needs.show, thing)));
  }
  return played;
}

/** Units on which an effect runs anywhere in the show. */
function unitsWith(show: Show, effectId: string): string[] {
  const units = new Set<string>();
  for (const v of show.values.values()) if (v.effect?.id === effectId) units.add(v.fixtureId);
  return [...show.fixtures.keys()].filter((id) => units.has(id));
}

/** What it says, slot by slot. */
function valuesOf(show: Show, { kind, id, fixtures }: PlayedThing): Valued[] {
  if (kind === 'effect') {
    const effect = show.effects.get(id);
    if (!effect) return [];
    return effectUses(show, effect, fixtures ?? unitsWith(show, id)).map((u) => ({
      fixtureId: u.fixtureId,
      attribute: u.attribute,
      level: 0,
      effect: u.effect,
    }));
  }
  if (!fixtures) return contentsOf(show, { kind, id });
  const palette = kind === 'palette' ? show.palettes.get(id) : undefined;
  if (palette) return contentsOfPalette(show, palette, fixtures);
  return contentsOf(show, { kind, id }).filter((v) => fixtures.includes(v.fixtureId));
}

/** The time that it plays in where none is said: its own, or a plain one. */
function ownTime(show: Show, { kind, id }: Pick<PlayedThing, 'kind' | 'id'>): number {
  if (kind === 'effect') return PLAY_S;
  return show[HELD_TABLES[kind]].get(id)?.play_s ?? PLAY_S;
}

const called = (show: Show, { kind, id }: Pick<PlayedThing, 'kind' | 'id'>): string => {
  const row = show[HELD_TABLES[kind]].get(id);
  return row ? `${kind} ${row.number} “${row.name}”` : `the ${kind}`;
};

/** It comes in on its units, or lets go of them; pressed again on other units it plays there instead. */
export function play(p: Played, by: Actor, c: CommandOf<'play'>): Answer {
  const { show } = p.needs;
  if (!show[HELD_TABLES[c.kind]].has(c.id))
    return refuse('not-found', `This ${c.kind} has been deleted meanwhile. Nothing was played.`);
  const thing = thingFor(p, by, c);
  const name = playbackOf(thing);
  const time_s = c.time ?? ownTime(show, thing);
  if (!c.on) {
    if (!p.playing.has(name))
      return refuse('nothing', `${capital(called(show, thing))} does not play.`);
    release(p, name, time_s);
    p.needs.changed('now');
    return { ok: true, message: `${capital(called(show, thing))} lets go` };
  }
  if (!p.playing.has(name) && p.playing.size >= MOST)
    return refuse('limit', `${MOST} of them play already: let some go first.`);
  const values = valuesOf(show, thing);
  if (values.length === 0) return refuse('not-found', saysNothing(p, thing));
  const keys = keysOf(values);
  const old = p.gave.get(name);
  if (old && [...old].some((key) => !keys.has(key)))
    p.needs.tell({ do: 'release', showId: p.needs.id, listId: name, time_s });
  p.playing.set(name, thing);
  p.gave.set(name, keys);
  p.needs.tell({
    do: 'move',
    showId: p.needs.id,
    listId: name,
    moves: movesTo(show, p.needs.onto(), values, time_s),
    follow_s: null,
  });
  p.needs.changed('now');
  const units = new Set(values.map((v) => v.fixtureId)).size;
  return { ok: true, message: `${capital(called(show, thing))} plays on ${plural(units, 'unit')}` };
}

function thingFor(p: Played, by: Actor, c: CommandOf<'play'>): PlayedThing {
  const fixtures = c.fixtures?.flatMap((n) => p.needs.show.fixtureByNumber(n)?.id ?? []);
  return { kind: c.kind, id: c.id, by: by.name, ...(fixtures?.length ? { fixtures } : {}) };
}

function saysNothing({ needs: { show } }: Played, thing: PlayedThing): string {
  if (thing.fixtures) {
    const numbers = thing.fixtures.flatMap((id) => show.fixtures.get(id)?.number ?? []);
    return `${capital(called(show, thing))} says nothing for ${numberRanges(numbers)}. Nothing was played.`;
  }
  return thing.kind === 'effect'
    ? `Select the units first: ${called(show, thing)} runs nowhere yet. Nothing was played.`
    : `${capital(called(show, thing))} reaches no unit. Nothing was played.`;
}

function release(p: Played, name: string, time_s: number): void {
  p.playing.delete(name);
  p.gave.delete(name);
  p.needs.tell({ do: 'release', showId: p.needs.id, listId: name, time_s });
}

/** Its last round is over: it plays no more, and a press plays it anew. @param name of its playback */
export function endedPlayed(p: Played, name: string): void {
  if (!p.playing.delete(name)) return;
  p.gave.delete(name);
  p.needs.changed('now');
}

/** @returns how many let go */
export function releaseAllPlayed(p: Played, time: number | undefined): number {
  const all = [...p.playing];
  for (const [name, thing] of all) release(p, name, time ?? ownTime(p.needs.show, thing));
  if (all.length > 0) p.needs.changed('now');
  return all.length;
}

/** The show or the rig has changed: what plays says it anew; what is gone lets go. */
export function refreshPlayed(p: Played): void {
  const { show } = p.needs;
  for (const [name, thing] of [...p.playing]) {
    if (!show[HELD_TABLES[thing.kind]].has(thing.id)) {
      release(p, name, RELEASE_S);
      p.needs.changed('now');
      continue;
    }
    const values = valuesOf(show, thing);
    const says = anew(show, p.needs.onto(), values, p.gave.get(name) ?? new Set());
    p.gave.set(name, keysOf(values));
    p.needs.tell({ do: 'retarget', showId: p.needs.id, listId: name, ...says, asBefore: true });
  }
}

/** Whether it plays. */
export const isPlayed = (p: Played, thing: Pick<PlayedThing, 'kind' | 'id'>): boolean =>
  p.playing.has(playbackOf(thing));

/** As screens are told. */
export const playedStatuses = (p: Played): PlayedStatus[] =>
  [...p.playing.values()].map(({ kind, id, by, fixtures }) => ({
    kind,
    id,
    by,
    units: fixtures?.length ?? null,
  }));

/** As it is saved. */
export const savedPlayed = (p: Played): PlayedThing[] => [...p.playing.values()];

/** `palette 3 “Dusk”, played by Mara` */
export function playedBy(p: Played, playback: string): string | undefined {
  const thing = p.playing.get(playback);
  return thing && `${called(p.needs.show, thing)}, played by ${thing.by}`;
}

/** Effects that ride on a slot, in words. */
export const ridingOn = (p: Played, key: string): string[] =>
  [...p.playing].flatMap(([name, thing]) =>
    thing.kind === 'effect' && p.gave.get(name)?.has(key) ? (playedBy(p, name) ?? []) : [],
  );
