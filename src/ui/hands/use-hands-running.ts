/** Hands at work: what is heard is learned or played, and what plays is told back. Once for each window with a frame. */
'use client';
import { followedBy } from '@/core/lists/going';
import { useEffect } from 'react';
import {
  freshMidi,
  liftAll,
  readMidi,
  tellMidi,
  type MidiState,
  type Moved,
} from '@/core/hands/midi';
import { wordsMidi, wordsOfParts } from '@/core/hands/letters';
import { actOn, type ControlId, type HandRow } from '@/core/hands/rows';
import { readShowControl } from '@/core/output/show-control';
import { freshMtc, isMtc, readMtc, type MtcState } from '@/core/timecode/mtc';
import { inTextField } from '../frame/keys';
import { live } from '../state/commands';
import { edit } from '../state/edits';
import { loadHeld, pageOf, useHands, type HandsState } from '../state/hands';
import { mayPlay, useScreen } from '../state/store';
import { Told } from '@/core/hands/tells';
import { placesOf } from './feedback';
import { askToLead, isLearnedAnywhere, tellLearning } from './lead';
import { PAD_PORT, Pads } from './pads';
import { play, playShowControl } from './play';
import { canHear, Ports } from './ports';

const SYSTEM_EXCLUSIVE = 0xf0;
/** What is heard is shown at most this often, and told back. */
const TELL_MS = 50;

const heldHands = (): HandRow[] => {
  const { held } = useHands.getState();
  return [...useScreen.getState().show.hands.values()].filter(
    (h) => held.includes(h.id) && h.at !== 'player',
  );
};
const kindOf = (port: string): HandRow['kind'] => (port.startsWith(PAD_PORT) ? 'gamepad' : 'midi');
const isFor = (hand: HandRow, port: string): boolean =>
  (hand.kind === 'midi' || hand.kind === 'gamepad') &&
  hand.kind === kindOf(port) &&
  (hand.port === '' || hand.port === port);

/** The next part that moves does what was touched; nothing plays meanwhile. */
function learn(hand: HandRow, moved: Moved): boolean {
  const { learning } = useHands.getState();
  if (learning?.hand !== hand.id) return false;
  if (learning.act && (moved.on || !moved.isKey)) {
    const { act } = learning;
    useHands.setState({ learning: { hand: hand.id, act: null } });
    void edit('bind', { hand: hand.id, page: pageOf(hand.id), control: moved.control, act });
  }
  return true;
}

/** Where parts stand, gathered and shown a few times a second: a flood of messages draws nothing more. */
class Heard {
  private waiting = new Map<string, Map<ControlId, number>>();
  private timer: ReturnType<typeof setTimeout> | undefined;

  note(hand: string, control: ControlId, value: number): void {
    const of = this.waiting.get(hand) ?? new Map<ControlId, number>();
    of.set(control, value);
    this.waiting.set(hand, of);
    this.timer ??= setTimeout(() => this.show(), TELL_MS);
  }

  private show(): void {
    this.timer = undefined;
    const now = this.waiting;
    this.waiting = new Map();
    useHands.setState((s) => {
      const heard = { ...s.heard };
      for (const [hand, parts] of now)
        heard[hand] = { ...heard[hand], ...Object.fromEntries(parts) };
      return { heard };
    });
  }

  stop(): void {
    clearTimeout(this.timer);
  }
}

/** Everything of hands that lives as long as the window. */
class Running {
  private readonly states = new Map<string, MidiState>();
  private readonly heard = new Heard();
  private readonly told = new Told();
  private leads = false;
  private tellTimer: ReturnType<typeof setTimeout> | undefined;
  readonly ports = new Ports({
    heard: (port, bytes) => this.bytes(port, bytes),
    gone: (port) => this.gone(port),
    ports: (ports) => {
      const before = useHands.getState().ports;
      for (const port of ports) if (!before.includes(port)) this.told.forget(port);
      useHands.setState({ ports });
      this.tellSoon();
    },
  });

  /** Gamepads are asked while one is held here: they say nothing by themselves. */
  readonly pads = new Pads(
    () => heldHands().some((h) => h.kind === 'gamepad'),
    (port, all) => this.moved(port, all, performance.now()),
  );

  private stateOf(port: string): MidiState {
    const state = this.states.get(port) ?? freshMidi();
    this.states.set(port, state);
    return state;
  }

  private readonly times = new Map<string, MtcState>();

  /** Time code at this machine leads the show on air, by the right of whoever is here. @returns whether it was time */
  private time(port: string, bytes: ArrayLike<number>): boolean {
    if (!isMtc(bytes)) return false;
    const state = this.times.get(port) ?? freshMtc();
    this.times.set(port, state);
    const heard = readMtc(state, bytes);
    const { show, you } = useScreen.getState();
    const isWanted = [...show.lists.values()].some((l) => followedBy(l)?.from === 'midi');
    if (heard && isWanted && this.leads && mayPlay(you.role))
      void live({
        command: 'timecode',
        ...heard.time,
        way: heard.way,
        stands: heard.stands,
        from: 'midi',
      });
    return true;
  }

  private bytes(port: string, bytes: ArrayLike<number>): void {
    if (this.time(port, bytes)) return;
    const control = bytes[0] === SYSTEM_EXCLUSIVE ? readShowControl(bytes) : undefined;
    if (control) {
      if (!this.leads || !mayPlay(useScreen.getState().you.role)) return;
      for (const hand of heldHands()) if (isFor(hand, port)) playShowControl(hand, control);
      return;
    }
    const now = performance.now();
    this.moved(port, readMidi(this.stateOf(port), bytes, now), now);
  }

  private moved(port: string, all: readonly Moved[], now_ms: number): void {
    for (const moved of all) {
      this.told.movedTo(`${port}/${moved.control}`, moved.value, now_ms);
      for (const hand of heldHands()) if (isFor(hand, port)) this.byHand(hand, moved);
    }
    if (all.length > 0) this.tellSoon();
  }

  /** @param own from this window alone: its keys */
  byHand(hand: HandRow, moved: Moved, own = false): void {
    this.heard.note(hand.id, moved.control, moved.value);
    // Of several windows one plays; a hand that is learned with in another plays nothing.
    const isOthers = learn(hand, moved) || (!own && !this.leads) || isLearnedAnywhere(hand.id);
    const plays = !isOthers && mayPlay(useScreen.getState().you.role);
    play(hand, moved, plays ? actOn(hand, pageOf(hand.id), moved.control) : undefined);
  }

  /** Pulled out while something was down: that is lifted. */
  private gone(port: string): void {
    this.moved(port, liftAll(this.stateOf(port)), performance.now());
    this.told.forget(port);
  }

  tellSoon(): void {
    this.tellTimer ??= setTimeout(() => this.tell(), TELL_MS);
  }

  private tell(): void {
    this.tellTimer = undefined;
    if (!this.leads) return;
    const now = performance.now();
    const { show } = useScreen.getState();
    let isLater = false;
    for (const hand of heldHands())
      for (const port of useHands.getState().ports) {
        if (hand.kind !== 'midi' || !isFor(hand, port)) continue;
        for (const [control, level] of placesOf(hand)) {
          const bytes = tellMidi(control, level);
          if (!bytes) continue;
          const stands = this.told.stands(`${port}/${control}`, level, now);
          if (stands === 'told') this.ports.send(port, bytes);
          isLater ||= stands === 'later';
        }
        for (const [control, words] of wordsOfParts(show, hand, pageOf(hand.id))) {
          const bytes = wordsMidi(hand, control, words);
          if (bytes && this.told.reads(`${port}/${control}`, words)) this.ports.send(port, bytes);
        }
      }
    // What a finger had is told when it has let go.
    if (isLater)
      this.later ??= setTimeout(() => ((this.later = undefined), this.tell()), TELL_AGAIN_MS);
  }
  private later: ReturnType<typeof setTimeout> | undefined;

  // The last of its fields: a window may lead at once.
  private readonly giveUp = askToLead(() => {
    this.leads = true;
    this.tellSoon();
  });

  stop(): void {
    this.heard.stop();
    clearTimeout(this.tellTimer);
    clearTimeout(this.later);
    for (const port of this.states.keys()) this.gone(port);
    this.giveUp();
    this.ports.close();
    this.pads.close();
  }
}
const TELL_AGAIN_MS = 500;

const isAtPlayer = (id: string | undefined): boolean =>
  id !== undefined && useScreen.getState().show.hands.get(id)?.at === 'player';

/** A hand at the machine of the player plays nothing while it is learned with. */
function tellPlayer(now: string | undefined, before: string | undefined): void {
  if (now === before) return;
  if (before !== undefined && isAtPlayer(before))
    void live({ command: 'learn', hand: before, on: false });
  if (now !== undefined && isAtPlayer(now)) void live({ command: 'learn', hand: now, on: true });
}

/** The first part of such a hand that stands elsewhere than before does what was touched. */
function learnAtPlayer(before: HandsState['player']['heard']): void {
  const { learning, player } = useHands.getState();
  if (!learning?.act || !isAtPlayer(learning.hand)) return;
  const was = before[learning.hand] ?? {};
  const moved = Object.entries(player.heard[learning.hand] ?? {}).find(
    ([control, value]) => was[control] !== value && value > 0,
  );
  const hand = useScreen.getState().show.hands.get(learning.hand);
  if (moved && hand) learn(hand, { control: moved[0], value: moved[1], on: true, isKey: false });
}

let running: Running | null = null;

/** Asks for the devices of this browser. */
export async function hearDevices(): Promise<void> {
  if (!canHear()) {
    useHands.setState({
      deaf: 'This browser gives MIDI to no page, or not to this address: it wants https, or this machine itself.',
    });
    return;
  }
  try {
    await running?.ports.hear();
    useHands.setState({ hears: true, deaf: null });
  } catch {
    useHands.setState({
      deaf: 'The browser does not let this page hear MIDI. Its settings decide.',
    });
  }
}

/** A key with what is held with it, as a part of a hand. */
const keyControl = (e: KeyboardEvent): ControlId =>
  `key.${e.ctrlKey ? 'Control+' : ''}${e.altKey ? 'Alt+' : ''}${e.shiftKey ? 'Shift+' : ''}${e.code}`;
const MODIFIERS = /^(?:Control|Alt|Shift|Meta)(?:Left|Right)$/;

/** Keys that are down, with what they were when they were pressed: lifted they are the same, whatever is held by then. */
const downKeys = new Map<string, ControlId>();

/** Keys of this keyboard, where a hand of the keyboard is held here. @returns whether it took it */
function byKey(e: KeyboardEvent): boolean {
  if (MODIFIERS.test(e.code) || e.repeat) return false;
  if (inTextField(e.target) || document.querySelector('[role="dialog"]')) return false;
  const control = keyControl(e);
  const took = moveKey(control, true);
  if (took) downKeys.set(e.code, control);
  return took;
}

function liftKey(code: string): void {
  const control = downKeys.get(code);
  downKeys.delete(code);
  if (control !== undefined) moveKey(control, false);
}

function moveKey(control: ControlId, on: boolean): boolean {
  const hands = heldHands().filter((h) => h.kind === 'keyboard');
  const { learning } = useHands.getState();
  let took = false;
  for (const hand of hands) {
    const isLearned = learning?.hand === hand.id && learning.act !== null;
    // What is lifted was taken when it was pressed, whatever page is shown by then.
    if (on && !isLearned && !actOn(hand, pageOf(hand.id), control)) continue;
    running?.byHand(hand, { control, value: Number(on), on, isKey: true }, true);
    took = true;
  }
  return took;
}

/** Hands at this screen play, for as long as it is open. */
export function useHandsRunning(): void {
  useEffect(() => {
    loadHeld();
    const own = new Running();
    running = own;
    const stopScreen = useScreen.subscribe((now, before) => {
      if (
        now.playback !== before.playback ||
        now.selection !== before.selection ||
        now.values !== before.values ||
        now.revision !== before.revision
      )
        own.tellSoon();
    });
    const stopHands = useHands.subscribe((now, before) => {
      if (now.pages !== before.pages || now.held !== before.held) own.tellSoon();
      if (now.learning !== before.learning) {
        tellLearning(now.learning?.hand ?? null);
        tellPlayer(now.learning?.hand, before.learning?.hand);
      }
      if (now.player !== before.player) learnAtPlayer(before.player.heard);
    });
    const pressed = (e: KeyboardEvent): void => {
      if (!byKey(e)) return;
      e.preventDefault();
      e.stopPropagation();
    };
    const lifted = (e: KeyboardEvent): void => liftKey(e.code);
    // Keys that are lifted elsewhere are not heard of here.
    const left = (): void => [...downKeys.keys()].forEach(liftKey);
    window.addEventListener('keydown', pressed, true);
    window.addEventListener('keyup', lifted, true);
    window.addEventListener('blur', left);
    return () => {
      stopScreen();
      stopHands();
      window.removeEventListener('keydown', pressed, true);
      window.removeEventListener('keyup', lifted, true);
      window.removeEventListener('blur', left);
      own.stop();
      if (running === own) running = null;
    };
  }, []);
}
