/** Where levels come from, in words. */
import { heldBy, nameOf } from './programmers/seen.ts';
import { cueCalled } from '../core/cues/called.ts';
import { prePositions } from '../core/cues/pre-position.ts';
import { cueAfter, trackedAt, type Tracked } from '../core/cues/tracking.ts';
import { effectOf, type Valued } from '../core/looks/value.ts';
import type { Shared } from '../core/playback/engine.ts';
import { GUARDED, OPERATOR } from '../core/playback/winner.ts';
import type { MutableShow, Show } from '../core/show/show.ts';
import { faderPlayback } from './faders.ts';
import type { Overlays } from './overlays.ts';
import { readSlotKey } from '../core/cues/rows.ts';
import { guardedBy, type Guards } from './guards.ts';
import { playedBy, ridingOn, type Played } from './played.ts';
import type { Playbacks } from './lists/playbacks.ts';
import type { Programmers } from './programmers/programmers.ts';
import type { Rig } from './rig.ts';

interface SourcesNeeds {
  readonly copy: { readonly show: MutableShow; readonly seq: number };
  readonly rig: Rig;
  readonly lists: Playbacks;
  readonly programmers: Programmers;
  readonly overlays: Overlays;
  readonly played: Played;
  readonly guards: Guards;
}

type Early = ReadonlyMap<string, { number: number; value: Valued }>;

/** `, look 4 Storm, effect 2 Breathe`: what a value follows, in words. */
function following(show: Show, value: Valued): string {
  const look = value.look === undefined ? undefined : show.looks.get(value.look);
  const palette = value.palette === undefined ? undefined : show.palettes.get(value.palette);
  const use = effectOf(show, value);
  const effect = use ? show.effects.get(use.id) : undefined;
  const source = look ?? palette;
  const kind = look ? 'look' : 'palette';
  return (
    (source ? `, ${kind} ${source.number} ${source.name}` : '') +
    (effect ? `, effect ${effect.number} ${effect.name}` : '')
  );
}

/** What the list that wins a slot recorded there, if one does. */
export function recordedAt(
  { copy: { show }, rig, lists }: Pick<SourcesNeeds, 'copy' | 'rig' | 'lists'>,
  slot: number,
): Tracked | undefined {
  const winner = rig.shared?.winner[slot] ?? -1;
  if (winner < 0 || winner >= OPERATOR) return undefined;
  const listId = rig.lists[winner] ?? '';
  const at = lists.at(listId);
  return at === null ? undefined : trackedAt(show, listId, at, rig.slots.keys[slot] ?? '');
}

/** Where the values of cues come from: palettes, looks, effects, what is set in the dark. */
export class Sources {
  /** By list: for which cue and state of the show, and the slots. */
  private readonly early = new Map<string, { of: string; slots: Early }>();

  constructor(private readonly needs: SourcesNeeds) {}

  private get show(): MutableShow {
    return this.needs.copy.show;
  }

  /** Where the level of a slot comes from. */
  of(slot: number, { winner: winners }: Shared): string {
    const { rig, overlays } = this.needs;
    const winner = winners[slot] ?? -1;
    const key = rig.slots.keys[slot] ?? '';
    if (winner === GUARDED) return guardedBy(this.needs.guards, readSlotKey(key).fixtureId);
    if (winner < -1) return overlays.sourceOfSlot(key, winner);
    const riding = ridingOn(this.needs.played, key);
    const source = this.beneath(winner, key);
    // What a hand holds, nothing rides on.
    return winner >= OPERATOR ? source : [source, ...riding].join(', with ');
  }

  private beneath(winner: number, key: string): string {
    const { rig, played } = this.needs;
    if (winner < 0) return 'default';
    if (winner >= OPERATOR) return this.held(rig.operators[winner - OPERATOR] ?? '', key);
    const playback = rig.lists[winner] ?? '';
    if (playback.startsWith('fader:')) return this.fader(playback);
    return playedBy(played, playback) ?? this.list(playback, key);
  }

  private held(userId: string, key: string): string {
    const { programmers } = this.needs;
    const value = heldBy(programmers, userId).get(key);
    return `programmer of ${nameOf(programmers, userId)}${value ? following(this.show, value) : ''}`;
  }

  private fader(playback: string): string {
    const fader = [...this.show.faders.values()].find((f) => faderPlayback(f.id) === playback);
    return fader ? `fader ${fader.number} “${fader.name}”` : 'a fader';
  }

  private list(listId: string, key: string): string {
    const early = this.earlyOf(listId).get(key);
    if (early) {
      const cue = cueCalled(this.show, { listId, number: early.number });
      return `moves early for ${cue}${following(this.show, early.value)}`;
    }
    const at = this.needs.lists.at(listId);
    const tracked = at === null ? undefined : trackedAt(this.show, listId, at, key);
    if (!tracked) return `list ${this.show.lists.get(listId)?.name ?? ''}`;
    const { number } = tracked.cue;
    const how = number === at ? '' : 'tracks from ';
    return `${how}${cueCalled(this.show, { listId, number })}${following(this.show, tracked.value)}`;
  }

  /** Slots of a list that have moved already for its next cue, found once for each cue and state of the show. */
  private earlyOf(listId: string): Early {
    const { cueId } = this.needs.lists.state(listId);
    const of = `${cueId ?? ''}/${this.needs.copy.seq}`;
    const known = this.early.get(listId);
    if (known?.of === of) return known.slots;
    const cue = cueId === null ? undefined : this.show.cues.get(cueId);
    const next = cue ? cueAfter(this.show, listId, cue.number) : undefined;
    const slots = new Map(
      cue && next
        ? prePositions(this.show, cue).map((e) => [e.key, { number: next.number, value: e.value }])
        : [],
    );
    this.early.set(listId, { of, slots });
    return slots;
  }
}
