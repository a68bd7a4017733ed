/**
 * Hands at the machine of the player: MIDI devices plugged into it, and other desks over the network. They play the show
 * on air with the right that was given to them, while its remotes are on.
 */
import {
  actOn,
  AT_PLAYER,
  type ControlId,
  type HandAct,
  type HandRow,
} from '../../core/hands/rows.ts';
import {
  doesOf,
  pressOf,
  showControlDoes,
  type HandCommand,
  type Pressed,
} from '../../core/hands/does.ts';
import {
  freshMidi,
  liftAll,
  readMidi,
  tellMidi,
  type MidiState,
  type Moved,
} from '../../core/hands/midi.ts';
import { wordsMidi, wordsOfParts } from '../../core/hands/letters.ts';
import { placesOf, Told, type Telling } from '../../core/hands/tells.ts';
import type { LiveCommand } from '../../core/live/commands.ts';
import type { HandsState } from '../../core/live/messages.ts';
import { readShowControl } from '../../core/output/show-control.ts';
import { byItself } from '../../core/sheets/state.ts';
import { touchedAs } from '../../core/sheets/touch.ts';
import type { Actor } from '../actor.ts';
import type { LiveShow } from '../live-show.ts';
import type { Timecodes } from '../timecode.ts';
import type { UniversesIn } from '../network/universes-in.ts';
import { isLearned } from './learning.ts';
import type { MidiPorts } from './native-midi.ts';
import { Pace } from './pace.ts';

/** Who listens to universes for hands. */
const HANDS = 'hands';
type HandPorts = Pick<UniversesIn, 'want' | 'names' | 'problem'>;
interface Ports {
  midi: MidiPorts[];
  desks: HandPorts;
}

/** What hands at the player’s machine are played with. */
export interface HandsNeeds {
  /** The show that is on air here, if any. */
  onAir: () => LiveShow | undefined;
  shows: () => Iterable<LiveShow>;
  play: (show: LiveShow, actor: Actor, command: LiveCommand) => void;
  timecodes: Timecodes;
  /** To the screens of a show. */
  tell: (show: LiveShow, state: HandsState) => void;
}

/** Hands at the player’s machine, of whichever show is on air. */
export interface HandsAtPlayer {
  /** Raw bytes of a MIDI port. */
  bytes: (port: string, bytes: readonly number[]) => void;
  moved: (port: string, moved: readonly Moved[]) => void;
  gone: (port: string) => void;
  /** Once a second: which ports are wanted, and which are there. */
  look: () => void;
  /** What plays is told back, and what was heard is shown. */
  tell: () => void;
  use: (ports: Ports) => void;
  /** For a screen that has just come. */
  state: (show: LiveShow) => HandsState;
  /** MIDI out of a cue, to every device that a hand at this machine is. */
  sendAll: (bytes: readonly number[]) => void;
}

const handsOf = (show: LiveShow): HandRow[] =>
  [...show.show.hands.values()].filter((h) => h.at === 'player');
const isFor = (hand: HandRow, port: string): boolean =>
  AT_PLAYER.includes(hand.kind) &&
  (hand.kind === 'desk'
    ? hand.port === port
    : !/^(?:sacn|artnet)\//.test(port) && (hand.port === '' || hand.port === port));

const actorOf = (hand: HandRow): Actor => ({
  userId: `hand/${hand.id}`,
  name: `the hand “${hand.name}”`,
  role: hand.role ?? 'operator',
  via: 'a hand at the player’s machine',
  remote: true,
});

/** What is known of hands at this machine while it runs. */
interface Hands {
  readonly needs: HandsNeeds;
  readonly pace: Pace;
  ports: Ports | null;
  /** By port: what its bytes are in the middle of. */
  readonly midi: Map<string, MidiState>;
  readonly pressed: Pressed;
  /** By hand: the page that is turned to, from 1. */
  readonly pages: Map<string, number>;
  /** By hand: where its parts were last heard. */
  readonly heard: Map<string, Map<ControlId, number>>;
  /** What the ports show by now. */
  readonly told: Told;
  /** What the screens were shown last. */
  shown: string;
}

const pageOf = (hands: Hands, hand: HandRow): number =>
  Math.min(hands.pages.get(hand.id) ?? 1, hand.pages.length);
function midiOf(hands: Hands, port: string): MidiState {
  const state = hands.midi.get(port) ?? freshMidi();
  hands.midi.set(port, state);
  return state;
}
const names = ({ ports }: Hands): string[] =>
  ports ? [...ports.midi.flatMap((m) => m.names()), ...ports.desks.names(HANDS)] : [];
const problems = ({ ports }: Hands): string[] =>
  ports
    ? [...ports.midi.map((m) => m.problem()), ports.desks.problem()].filter((p) => p !== null)
    : [];

/* What a hand plays. */

const once = (
  { pace, needs }: Hands,
  show: LiveShow,
  hand: HandRow,
  command: LiveCommand,
): void => {
  if (pace.lets(hand.id, command)) needs.play(show, actorOf(hand), command);
};
const stream = (
  { pace, needs }: Hands,
  show: LiveShow,
  hand: HandRow,
  of: string,
  command: LiveCommand,
): void => pace.stream(`${hand.id}/${of}`, () => needs.play(show, actorOf(hand), command));

/** A part that moved: where to, and whether it went down or up with it. */
interface Turn {
  show: LiveShow;
  hand: HandRow;
  moved: Moved;
  edge: boolean | undefined;
}

function playPiece(hands: Hands, { show, hand, moved, edge }: Turn, id: string): void {
  const is = show.show.sheetpieces.get(id)?.is;
  if (!is) return;
  const touch = { command: 'touch' as const, piece: id };
  const as = touchedAs(is);
  if (as === 'level') stream(hands, show, hand, id, { ...touch, level: moved.value });
  else if (as === 'hold') {
    if (edge !== undefined) once(hands, show, hand, { ...touch, on: edge });
  } else if (edge === true) once(hands, show, hand, touch);
}

function turnPage(hands: Hands, hand: HandRow, by: number): void {
  const n = hand.pages.length;
  hands.pages.set(hand.id, ((pageOf(hands, hand) - 1 + by + n) % n) + 1);
}

function playAct(hands: Hands, act: HandAct, turn: Turn): void {
  const { show, hand, moved, edge } = turn;
  if (act.do === 'piece') playPiece(hands, turn, act.piece);
  else if (act.do === 'line') {
    if (edge === true) once(hands, show, hand, { command: 'type', text: act.text });
  } else if (act.do === 'page') {
    if (edge === true) turnPage(hands, hand, act.by);
  } else {
    const does = doesOf(show.show, show.blackout, act, moved, edge);
    if (does?.streams !== undefined) stream(hands, show, hand, does.streams, does.command);
    else if (does) once(hands, show, hand, does.command);
  }
}

/** One part of one port moved: every hand that is at this port hears it; of the show on air it plays. */
function hear(hands: Hands, show: LiveShow, port: string, moved: Moved, now_ms: number): void {
  const isOnAir = show === hands.needs.onAir();
  for (const hand of handsOf(show)) {
    if (!isFor(hand, port)) continue;
    const of = hands.heard.get(hand.id) ?? new Map<ControlId, number>();
    hands.heard.set(hand.id, of.set(moved.control, moved.value));
    // Where it may not, or does nothing, a press that began before is still lifted.
    const plays = isOnAir && !isLearned(show.learning, hand.id, now_ms);
    const does = plays ? actOn(hand, pageOf(hands, hand), moved.control) : undefined;
    const { act, edge } = pressOf(show.show, hands.pressed, hand, moved, does);
    if (act) playAct(hands, act, { show, hand, moved, edge });
  }
}

function movedAt(hands: Hands, port: string, all: readonly Moved[]): void {
  const now_ms = performance.now();
  for (const one of all) {
    hands.told.movedTo(`${port}/${one.control}`, one.value, now_ms);
    for (const show of hands.needs.shows()) hear(hands, show, port, one, now_ms);
  }
}

/** @returns whether it was a message of show control */
function showControl(hands: Hands, port: string, bytes: readonly number[]): boolean {
  const message = readShowControl(bytes);
  const show = hands.needs.onAir();
  if (!message || !show) return message !== undefined;
  for (const hand of handsOf(show)) {
    if (hand.showControl === undefined || hand.kind !== 'midi' || !isFor(hand, port)) continue;
    const command: HandCommand | undefined = showControlDoes(
      show.show,
      hand.showControl,
      message,
      (list) => show.lists.next(list)?.cue.id,
    );
    if (command) once(hands, show, hand, command);
  }
  return true;
}

/* What a hand is told. */

/** Levels and words of its parts, where they are not what the port shows by now. */
function tellPort(
  hands: Hands,
  show: LiveShow,
  hand: HandRow,
  { port, out, now, now_ms }: { port: string; out: MidiPorts; now: Telling; now_ms: number },
): void {
  const { told } = hands;
  const page = pageOf(hands, hand);
  for (const [control, level] of placesOf(show.show, now, hand, page)) {
    const bytes = tellMidi(control, level);
    if (bytes && told.stands(`${port}/${control}`, level, now_ms) === 'told') out.send(port, bytes);
  }
  for (const [control, words] of wordsOfParts(show.show, hand, page)) {
    const bytes = wordsMidi(hand, control, words);
    if (bytes && told.reads(`${port}/${control}`, words)) out.send(port, bytes);
  }
}

function tellBack(hands: Hands, show: LiveShow): void {
  const of = handsOf(show).filter((h) => h.kind === 'midi');
  if (of.length === 0 || !hands.ports) return;
  const now_ms = performance.now();
  const now = { ...byItself(show.playback()), time_s: null, levelOfUnit: () => undefined };
  for (const hand of of)
    for (const out of hands.ports.midi)
      for (const port of out.names())
        if (isFor(hand, port)) tellPort(hands, show, hand, { port, out, now, now_ms });
}

function stateOfShow(hands: Hands, show: LiveShow): HandsState {
  const all = handsOf(show);
  return {
    ports: names(hands),
    timecode: hands.needs.timecodes.states(),
    problems: all.length > 0 ? problems(hands) : [],
    pages: Object.fromEntries(all.map((h) => [h.id, pageOf(hands, h)])),
    heard: Object.fromEntries(
      all.map((h) => [h.id, Object.fromEntries(hands.heard.get(h.id) ?? [])]),
    ),
  };
}

/** The screens, where something of this is other than they were shown. */
function tellScreens(hands: Hands, isOther: boolean): void {
  const shows = [...hands.needs.shows()];
  const ports = names(hands);
  const now = JSON.stringify([
    ports,
    [...hands.pages],
    [...hands.heard].map(([hand, of]) => [hand, [...of]]),
    shows.map((s) => handsOf(s).map((h) => h.id)),
  ]);
  if (now === hands.shown && !isOther) return;
  hands.shown = now;
  for (const show of shows)
    if (isOther || handsOf(show).length > 0 || ports.length > 0)
      hands.needs.tell(show, stateOfShow(hands, show));
}

/** Asks for what the hands of all shows are at. */
function look({ ports, needs }: Hands): void {
  if (!ports) return;
  const all = [...needs.shows()].flatMap(handsOf);
  const desks = all.filter((h) => h.kind === 'desk').map((h) => h.port);
  ports.desks.want(HANDS, new Set(desks), performance.now());
  if (all.some((h) => h.kind === 'midi')) for (const m of ports.midi) m.look();
}

/** Begins to listen. */
export function makeHands(needs: HandsNeeds): HandsAtPlayer {
  const hands: Hands = {
    needs,
    pace: new Pace(),
    ports: null,
    midi: new Map(),
    pressed: new Map(),
    pages: new Map(),
    heard: new Map(),
    told: new Told(),
    shown: '',
  };
  const moved = (port: string, all: readonly Moved[]): void => movedAt(hands, port, all);
  return {
    bytes: (port, bytes) => {
      if (needs.timecodes.midi(port, bytes)) return;
      if (bytes[0] === 0xf0 && showControl(hands, port, bytes)) return;
      moved(port, readMidi(midiOf(hands, port), bytes, performance.now()));
    },
    moved,
    gone: (port) => {
      moved(port, liftAll(midiOf(hands, port)));
      hands.told.forget(port);
    },
    look: () => {
      hands.pace.refill();
      look(hands);
    },
    tell: () => {
      const onAir = needs.onAir();
      const isOther = needs.timecodes.tick(onAir);
      if (onAir) tellBack(hands, onAir);
      tellScreens(hands, isOther);
    },
    use: (ports) => {
      hands.ports = ports;
    },
    state: (show) => stateOfShow(hands, show),
    sendAll: (bytes) => {
      const [devices] = hands.ports?.midi ?? [];
      for (const port of devices?.names() ?? []) devices?.send(port, bytes);
    },
  };
}
