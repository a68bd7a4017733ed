/**
 * What each live command does to what plays: one line for each, from what it says to whoever does it. Who may give it,
 * whose board stands against it and what is noted of it stand with its definition (`core/live/commands.ts`).
 */
import { tryEffect } from './programmers/trying.ts';
import {
  onFixtures,
  holdValues,
  holding,
  endEffect,
  keepOnly,
  letGo,
  chosenKeys,
  bringBack,
} from './programmers/holding.ts';
import { fanTimes, setTimes } from './programmers/times.ts';
import { setHighlight, stepSelection, setBlind, selectUnits } from './programmers/selecting.ts';
import type { CommandOf, OfShow } from '../core/live/commands.ts';
import { firstList } from '../core/show/show.ts';
import { fingerOf, type Actor } from './actor.ts';
import type { Playing } from './playing.ts';
import { learn } from './hands/learning.ts';
import { act, touch } from './sheets.ts';
import { guard } from './guards.ts';
import { play, releaseAllPlayed } from './played.ts';
import type { Answer } from './answer.ts';
import {
  aim,
  applyLook,
  applyPalette,
  colour,
  fan,
  flip,
  home,
  like,
  nudge,
  set,
  startEffect,
  take,
} from './settings.ts';

type Run<Name extends OfShow> = (show: Playing, c: CommandOf<Name>, by: Actor) => Answer;

const listOf = ({ show }: Playing, c: { list?: string | undefined }): string =>
  c.list ?? firstList(show)?.id ?? '';

function releaseAll({ lists, faders, played }: Playing, time: number | undefined): Answer {
  const count =
    lists.releaseAll(time, faders.keptLists()) +
    faders.releaseAll(time) +
    releaseAllPlayed(played, time);
  if (count === 0) return { ok: true, message: 'Nothing was playing that lets go' };
  return { ok: true, message: `Released ${count === 1 ? 'one playback' : `${count} playbacks`}` };
}

const RUN: { readonly [Name in OfShow]: Run<Name> } = {
  go: (show, c, by) => show.lists.go(listOf(show, c), by.userId),
  back: (show, c) => show.lists.back(listOf(show, c)),
  pause: (show, c) => show.lists.pause(listOf(show, c), c.on),
  goto: (show, c) => show.lists.goTo(listOf(show, c), c.cue, c.time),
  cut: (show, c) => show.lists.cut(listOf(show, c), c.cue),
  arm: (show, c) => show.lists.arm(listOf(show, c), c.cue),
  rate: (show, c) => show.lists.setRate(listOf(show, c), c.rate),
  hand: (show, c) => show.lists.hand(listOf(show, c), c.position),
  track: (show, c) => show.lists.track(listOf(show, c), c),
  release: (show, c) => show.lists.release(listOf(show, c), c.time),
  'list-master': (show, c) => show.lists.setMaster(listOf(show, c), c.level, c.time ?? 0),
  'chase-speed': (show, c) => show.lists.chase(listOf(show, c), { bpm: c.bpm }),
  play: ({ played }, c, by) => play(played, by, c),
  chase: (show, c) => show.lists.chase(listOf(show, c), c),
  'release-all': (show, c) => releaseAll(show, c.time),
  fader: ({ faders }, c, by) => faders.set(c, by),
  flash: ({ faders }, c, by) => faders.flash(c.fader, c.on, fingerOf(by), by.userId),

  master: (show, { level }) => show.setMaster({ level }),
  blackout: (show, { on }) => show.setMaster({ blackout: on }),
  tempo: (show, { bpm }) => show.setTempo(bpm),
  remotes: (show, { on }) => show.setRemotes(on),

  set: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => set(hands, fixtures, c)),
  'set-many': ({ programmers }, c, by) => holdValues(programmers, by, c.values, c.fade_s ?? 0),
  nudge: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => nudge(hands, fixtures, c)),
  fan: ({ programmers }, c, by) =>
    c.what === 'value'
      ? onFixtures(programmers, by, c, (hands, fixtures) => fan(hands, fixtures, c))
      : fanTimes(programmers, by, c),
  times: ({ programmers }, c, by) => setTimes(programmers, by, c),
  colour: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => colour(hands, fixtures, c)),
  aim: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => aim(hands, fixtures, c)),
  flip: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => flip(hands, fixtures, c.fade_s ?? 0)),
  palette: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) =>
      applyPalette(hands, c.palette, fixtures, c.fade_s ?? 0),
    ),
  look: ({ programmers }, c, by) =>
    holding(programmers, by, (hands) => applyLook(hands, c.look, c, c.fade_s ?? 0)),
  effect: ({ programmers }, c, by) =>
    c.on
      ? onFixtures(programmers, by, c, (hands, fixtures) =>
          startEffect(hands, c.effect, fixtures, c.fade_s ?? 0),
        )
      : endEffect(programmers, by, c),
  'try-effect': ({ programmers }, c, by) => tryEffect(programmers, by, c),
  home: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) =>
      home(hands, fixtures, c.families, c.fade_s ?? 0),
    ),
  like: ({ programmers }, c, by) =>
    onFixtures(programmers, by, c, (hands, fixtures) => like(hands, fixtures, c)),
  take: ({ programmers }, c, by) => holding(programmers, by, (hands) => take(hands, c)),
  keep: ({ programmers }, { families }, by) => keepOnly(programmers, by, families),
  clear: ({ programmers }, _, by) => letGo(programmers, by, undefined, 0),
  letgo: ({ programmers }, c, by) =>
    letGo(programmers, by, chosenKeys(programmers, by, c), c.fade_s ?? 2),
  'bring-back': ({ programmers }, _, by) => bringBack(programmers, by),
  highlight: ({ programmers }, { on }, by) => setHighlight(programmers, by, on),
  step: ({ programmers }, c, by) => stepSelection(programmers, by, c.by),
  blind: ({ programmers }, { on }, by) => setBlind(programmers, by, on),
  select: ({ programmers }, { fixtures }, by) => selectUnits(programmers, by, fixtures),

  focus: ({ overlays }, c, by) => overlays.focus(by, c.fixtures, c.level, c.on, new Date()),
  guard: ({ guards }, c, by) => guard(guards, by, c, new Date()),
  park: ({ overlays }, c, by) => overlays.park(by, c.fixtures, c.attribute, c.level, c.on),
  check: ({ overlays }, c, by) => overlays.check(by, c.universe, c.address, c.value),
  macro: ({ overlays }, c, by) => overlays.macro(by, c.fixtures, c.macro, c.stagger_s, c.together),
  'macro-cancel': ({ overlays }, { id }) => overlays.cancelMacro(id),

  board: ({ together }, c, by) => together.board(by, c),
  'left-light': ({ left }, c, by) => left.command(by, c),
  ask: ({ together }, c, by) => together.ask(by, c),
  'keep-part': ({ together }, c, by) => together.keepPart(by, c),
  call: ({ together }, c, by) => together.calls.call(by, c),
  'answer-call': ({ together }, c, by) => together.calls.answer(by, c.call),
  touch: (show, c, by) => touch(show, by, c),
  act: (show, c) => act(show, c),
  learn: (show, c) => learn(show, c),
};

/** Does it, whoever's board it is. */
export function carryOut(show: Playing, command: CommandOf<OfShow>, by: Actor): Answer {
  const run = RUN[command.command] as Run<OfShow>;
  return run(show, command, by);
}
