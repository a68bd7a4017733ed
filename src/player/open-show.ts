/**
 * A live show is put together here, once, from the top to the bottom: each part is given what it needs of the others.
 * What is named before it stands is needed only when something happens, and by then everything stands.
 */
import { sumOf, holders } from './programmers/seen.ts';
import { takeOver, letGo } from './programmers/holding.ts';
import { compileEffects, NO_PROGRAMS, type Programs } from '../core/playback/programs.ts';
import { PLAYERS } from '../core/roles.ts';
import { firstList, type MutableShow } from '../core/show/show.ts';
import { Arrivals } from './arrivals.ts';
import type { Clock } from './clock-client.ts';
import type { ShowMessage } from './clock-messages.ts';
import { CueActions, type Outside } from './cue-actions.ts';
import { Faders } from './faders.ts';
import { LeftLights } from './left-light.ts';
import { LiveShow, type Audience } from './live-show.ts';
import { Overlays } from './overlays.ts';
import { makeGuards, sendGuards } from './guards.ts';
import { makePlayed } from './played.ts';
import { Playbacks } from './lists/playbacks.ts';
import { makeProgrammers, type Programmers } from './programmers/programmers.ts';
import { configsOf, makeRig, ontoOf, routesOf, setPrograms } from './rig.ts';
import { NOTHING_SAVED, type SavedShow } from './saved-show.ts';
import { recordedAt, Sources } from './sources.ts';
import { enterSection, leaveSections, type Standing } from './standing.ts';
import { Together } from './together.ts';

/** Nothing to send to: for shows that play without an outside, such as a rehearsal of checks. */
const NO_OUTSIDE: Outside = {
  osc: () => Promise.resolve(undefined),
  midi: () => Promise.resolve(undefined),
};

/** What a show is opened with. */
export interface Opened {
  id: string;
  copy: { show: MutableShow; seq: number };
  clock: Pick<Clock, 'tell' | 'copy'>;
  audience: Audience;
  /** What it played last; null: nothing. */
  saved: SavedShow | null;
  outside?: Outside | undefined;
  /** Milliseconds that count on. */
  now_ms?: () => number;
}

/** Tells the clock of the show as it stands; the clock goes on from what was saved. */
function openOnClock(
  tell: (message: ShowMessage) => void,
  { id, copy: { show } }: Opened,
  live: { rig: ReturnType<typeof makeRig>; programs: Programs; saved: SavedShow },
): void {
  tell({
    do: 'open',
    showId: id,
    slots: live.rig.slots,
    version: live.rig.version,
    saved: live.saved.engine,
    ...routesOf(show),
    programs: live.programs,
    configs: configsOf(show),
  });
}

/**
 * What goes with where a list stands, and with what hands hold: kept with the one and not the other, a restart would leave a
 * cue out, or light that nobody holds.
 */
const STEPS: ReadonlySet<ShowMessage['do']> = new Set([
  'move',
  'release',
  'seek',
  'follow',
  'hand',
  'pause',
  'letgo',
  'blind',
  'guard',
]);

/** Wires the parts of a show, as it was saved. */
export function openShow(opened: Opened): LiveShow {
  const { id, copy, clock, audience, outside = NO_OUTSIDE } = opened;
  const now_ms = opened.now_ms ?? (() => performance.now());
  const saved = opened.saved ?? NOTHING_SAVED;
  const { show } = copy;
  const { tempo_bpm, master, blackout, remotes, act, scene } = saved;
  const standing: Standing = { tempo_bpm, master, blackout, remotes, act, scene };
  const rig = makeRig(show, NO_PROGRAMS);
  let steps = 0;
  const tell = (message: ShowMessage): void => {
    if (STEPS.has(message.do)) steps++;
    clock.tell(message);
  };
  const changed = (urgency: 'now' | 'soon'): void => {
    audience.playback();
    audience.touched(urgency);
  };
  const slots = { slots: () => rig.slots, slotOf: (key: string) => rig.index.get(key) };
  const playing = {
    id,
    show,
    onto: () => ontoOf(rig),
    rig: () => ({
      ...ontoOf(rig),
      resting: rig.slots.defaults,
      snap: rig.slots.snap,
      programs: rig.programs,
    }),
    tell,
    changed,
    now_ms,
  };

  const lists: Playbacks = new Playbacks(
    {
      ...playing,
      act: (cue) => {
        enterSection(standing, show, cue, new Date());
        actions.run(cue);
      },
      released: (listId) => {
        faders.listReleased(listId);
        if (listId === firstList(show)?.id) leaveSections(standing);
      },
    },
    saved.lists,
  );
  const faders: Faders = new Faders(
    { ...playing, ...slots, lists, sized: () => sendPrograms() },
    saved.faders,
  );

  const played = makePlayed(playing, saved.played);

  const compilePrograms = (): Programs => {
    const programs = compileEffects(show, standing.tempo_bpm, faders.sizes(), faders.paces());
    return setPrograms(rig, programs);
  };
  const sendPrograms = (): void =>
    tell({ do: 'programs', showId: id, programs: compilePrograms() });
  openOnClock(tell, opened, { rig, programs: compilePrograms(), saved });

  const overlays = new Overlays(
    {
      show,
      ...slots,
      levelNow: (slot) => rig.shared?.out[slot] ?? 0,
      tell: (overrides) => tell({ do: 'override', showId: id, overrides }),
      changed: () => {
        audience.over();
        audience.touched('soon');
      },
    },
    saved,
  );
  const guards = makeGuards(
    {
      id,
      show,
      slotOf: slots.slotOf,
      tell,
      changed: () => {
        audience.over();
        audience.touched('now');
      },
    },
    saved.guards,
  );
  const actions: CueActions = new CueActions({
    show,
    lists,
    faders,
    outside,
    releaseLooks: () => faders.releaseAll(undefined),
    letOff: () => overlays.focus({ userId: '', name: '' }, undefined, 1, false, new Date()),
    remotes: (on) => live.setRemotes(on),
    macro: (fixtures, name) =>
      overlays.macro({ userId: '', name: 'a cue' }, fixtures, name, 0, fixtures.length),
    sound: audience.sound,
    reported: () => changed('soon'),
    now: () => new Date(),
  });
  const programmers: Programmers = makeProgrammers(
    {
      id,
      show,
      ...slots,
      levelNow: (slot) => rig.shared?.merged[slot] ?? 0,
      recordedAt: (slot) => recordedAt({ copy, rig, lists }, slot),
      findWave: (effectId, attribute, fixtureId) => rig.find(effectId, attribute, fixtureId),
      tell,
      highlight: (userId, name, at) => overlays.highlight(userId, name, at),
      othersPart: (actor, ids) => together.othersPart(actor, ids),
      both: (actor, other, values) => together.both(actor, other, values),
      present: audience.present,
      lay: (rows) => live.lay(rows),
      changed: (userId, urgency) => {
        audience.programmer(userId);
        audience.touched(urgency);
      },
    },
    saved.programmers,
  );
  const together: Together = new Together(
    {
      show,
      people: audience.people,
      present: audience.present,
      now_ms,
      changed: () => changed('now'),
      tell: audience.playback,
      word: audience.word,
      journal: audience.journal,
      version: audience.version,
      next: (listId) => lists.next(listId)?.cue.id,
    },
    saved.boards,
  );
  const left = new LeftLights(
    {
      holds: (userId) => sumOf(programmers, userId),
      holders: () => holders(programmers),
      present: audience.present,
      someoneDecides: () => audience.people().some((p) => PLAYERS.includes(p.role)),
      takeOver: (from, to) => takeOver(programmers, from, to),
      letGo: (userId, name, fade_s) => void letGo(programmers, { userId, name }, undefined, fade_s),
      now_ms,
      changed: () => changed('now'),
      journal: audience.journal,
    },
    saved.left,
  );
  const arrivals = new Arrivals(
    { ...playing, lists, programmers, saved: () => audience.touched('soon') },
    saved.recordings,
  );
  const sources = new Sources({ copy, rig, lists, programmers, overlays, played, guards });
  const live: LiveShow = new LiveShow({
    id,
    copy,
    rig,
    standing,
    audience,
    tell,
    copyEngine: () => clock.copy(id),
    steps: () => steps,
    sendPrograms,
    lists,
    faders,
    played,
    actions,
    programmers,
    together,
    left,
    arrivals,
    overlays,
    guards,
    sources,
  });
  if (overlays.any) overlays.send();
  if (guards.on.size > 0) sendGuards(guards);
  faders.sendInhibit();
  return live;
}
