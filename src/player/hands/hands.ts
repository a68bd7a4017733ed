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
import { placesOf, Told } from '../../core/hands/tells.ts';
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

/** Of what streams, the latest counts, so often. */
const STREAM_MS = 15;
/** Presses a second from all of a port; more is noise. */
const PRESSES = 200;

/** Who listens to universes for hands. */
const HANDS = 'hands';
type HandPorts = Pick<UniversesIn, 'want' | 'names' | 'problem'>;

export interface HandsNeeds {
  /** The show that is on air here, if any. */
  onAir: () => LiveShow | undefined;
  shows: () => Iterable<LiveShow>;
  play: (show: LiveShow, actor: Actor, command: LiveCommand) => void;
  timecodes: Timecodes;
  /** To the screens of a show. */
  tell: (show: LiveShow, state: HandsState) => void;
}

export interface HandsAtPlayer {
  /** Raw bytes of a MIDI port. */
  bytes: (port: string, bytes: readonly number[]) => void;
  moved: (port: string, moved: readonly Moved[]) => void;
  gone: (port: string) => void;
  /** Once a second: which ports are wanted, and which are there. */
  look: () => void;
  /** What plays is told back, and what was heard is shown. */
  tell: () => void;
  use: (ports: { midi: MidiPorts[]; desks: HandPorts }) => void;
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

/** What lasts from its press to its lift, and which of the two this is. */
function lastingOf(command: LiveCommand): { of: string; on: boolean | undefined } | undefined {
  if (command.command === 'flash') return { of: `flash ${command.fader}`, on: command.on };
  return command.command === 'touch' ? { of: command.piece, on: command.on } : undefined;
}

export function makeHands(needs: HandsNeeds): HandsAtPlayer {
  const midi = new Map<string, MidiState>();
  const pressed: Pressed = new Map();
  const pages = new Map<string, number>();
  const told = new Told();
  const heard = new Map<string, Map<ControlId, number>>();
  const waiting = new Map<string, () => void>();
  let ports: { midi: MidiPorts[]; desks: HandPorts } | null = null;
  let flushing: NodeJS.Timeout | null = null;
  let presses = PRESSES;
  /** What lasts, and was begun by a press that was let through. */
  const begun = new Set<string>();
  let shown = '';

  const pageOf = (hand: HandRow): number => Math.min(pages.get(hand.id) ?? 1, hand.pages.length);
  const stateOf = (port: string): MidiState => {
    const state = midi.get(port) ?? freshMidi();
    midi.set(port, state);
    return state;
  };
  const flush = (): void => {
    flushing = null;
    if (waiting.size === 0) return;
    const all = [...waiting.values()];
    waiting.clear();
    flushing = setTimeout(flush, STREAM_MS);
    for (const play of all) play();
  };
  /** The first goes at once; of those that come right after it the latest. */
  const stream = (key: string, play: () => void): void => {
    if (flushing) waiting.set(key, play);
    else {
      flushing = setTimeout(flush, STREAM_MS);
      play();
    }
  };
  /** Of more presses than anybody makes the rest is noise; what a press of those began is ended all the same. */
  const once = (show: LiveShow, hand: HandRow, command: LiveCommand): void => {
    const lasting = lastingOf(command);
    const key = `${hand.id}/${lasting?.of ?? ''}`;
    const isEnd = lasting?.on === false && begun.delete(key);
    if (!isEnd && presses-- <= 0) return;
    if (lasting?.on === true) begun.add(key);
    needs.play(show, actorOf(hand), command);
  };

  const playPiece = (
    show: LiveShow,
    hand: HandRow,
    id: string,
    moved: Moved,
    edge: boolean | undefined,
  ) => {
    const is = show.show.sheetpieces.get(id)?.is;
    if (!is) return;
    const touch = { command: 'touch' as const, piece: id };
    const as = touchedAs(is);
    if (as === 'hold') {
      if (edge !== undefined) once(show, hand, { ...touch, on: edge });
    } else if (as === 'level')
      stream(`${hand.id}/${id}`, () =>
        needs.play(show, actorOf(hand), { ...touch, level: moved.value }),
      );
    else if (edge === true) once(show, hand, touch);
  };

  /** @param now what the part does now; undefined where it may not, or does nothing */
  const play = (show: LiveShow, hand: HandRow, moved: Moved, now: HandAct | undefined): void => {
    const { act, edge } = pressOf(show.show, pressed, hand, moved, now);
    if (!act) return;
    if (act.do === 'piece') playPiece(show, hand, act.piece, moved, edge);
    else if (act.do === 'line') {
      if (edge === true) once(show, hand, { command: 'type', text: act.text });
    } else if (act.do === 'page') {
      const n = hand.pages.length;
      if (edge === true) pages.set(hand.id, ((pageOf(hand) - 1 + act.by + n) % n) + 1);
    } else {
      const does = doesOf(show.show, show.blackout, act, moved, edge);
      if (does?.streams !== undefined)
        stream(`${hand.id}/${does.streams}`, () => needs.play(show, actorOf(hand), does.command));
      else if (does) once(show, hand, does.command);
    }
  };

  const moved = (port: string, all: readonly Moved[]): void => {
    const now = performance.now();
    const onAir = needs.onAir();
    for (const one of all) {
      told.movedTo(`${port}/${one.control}`, one.value, now);
      for (const show of needs.shows())
        for (const hand of handsOf(show)) {
          if (!isFor(hand, port)) continue;
          const of = heard.get(hand.id) ?? new Map<ControlId, number>();
          heard.set(hand.id, of.set(one.control, one.value));
          const plays = show === onAir && !isLearned(show.learning, hand.id, now);
          play(show, hand, one, plays ? actOn(hand, pageOf(hand), one.control) : undefined);
        }
    }
  };
  const showControl = (port: string, bytes: readonly number[]): boolean => {
    const message = readShowControl(bytes);
    const show = needs.onAir();
    if (!message || !show) return message !== undefined;
    for (const hand of handsOf(show)) {
      if (hand.showControl === undefined || hand.kind !== 'midi' || !isFor(hand, port)) continue;
      const command: HandCommand | undefined = showControlDoes(
        show.show,
        hand.showControl,
        message,
        (list) => show.lists.next(list)?.cue.id,
      );
      if (command) once(show, hand, command);
    }
    return true;
  };

  const names = (): string[] => [
    ...(ports?.midi.flatMap((m) => m.names()) ?? []),
    ...(ports?.desks.names(HANDS) ?? []),
  ];
  const problems = (): string[] => {
    const all = [...(ports?.midi.map((m) => m.problem()) ?? []), ports?.desks.problem() ?? null];
    return all.filter((p): p is string => p !== null);
  };
  const tellBack = (show: LiveShow, now_ms: number): void => {
    const hands = handsOf(show).filter((h) => h.kind === 'midi');
    if (hands.length === 0 || !ports) return;
    const now = { ...byItself(show.playback()), time_s: null, levelOfUnit: () => undefined };
    const tell = (hand: HandRow, send: (bytes: readonly number[]) => void, port: string): void => {
      for (const [control, level] of placesOf(show.show, now, hand, pageOf(hand))) {
        const bytes = tellMidi(control, level);
        if (bytes && told.stands(`${port}/${control}`, level, now_ms) === 'told') send(bytes);
      }
      for (const [control, words] of wordsOfParts(show.show, hand, pageOf(hand))) {
        const bytes = wordsMidi(hand, control, words);
        if (bytes && told.reads(`${port}/${control}`, words)) send(bytes);
      }
    };
    for (const hand of hands)
      for (const out of ports.midi)
        for (const port of out.names())
          if (isFor(hand, port)) tell(hand, (bytes) => out.send(port, bytes), port);
  };
  const stateOfShow = (show: LiveShow): HandsState => {
    const hands = handsOf(show);
    return {
      ports: names(),
      timecode: needs.timecodes.states(),
      problems: hands.length > 0 ? problems() : [],
      pages: Object.fromEntries(hands.map((h) => [h.id, pageOf(h)])),
      heard: Object.fromEntries(
        hands.map((h) => [h.id, Object.fromEntries(heard.get(h.id) ?? [])]),
      ),
    };
  };

  return {
    bytes: (port, bytes) => {
      if (needs.timecodes.midi(port, bytes)) return;
      if (bytes[0] === 0xf0 && showControl(port, bytes)) return;
      moved(port, readMidi(stateOf(port), bytes, performance.now()));
    },
    moved,
    gone: (port) => {
      moved(port, liftAll(stateOf(port)));
      told.forget(port);
    },
    look: () => {
      presses = PRESSES;
      if (!ports) return;
      const hands = [...needs.shows()].flatMap(handsOf);
      const desks = hands.filter((h) => h.kind === 'desk').map((h) => h.port);
      ports.desks.want(HANDS, new Set(desks), performance.now());
      if (hands.some((h) => h.kind === 'midi')) for (const m of ports.midi) m.look();
    },
    tell: () => {
      const onAir = needs.onAir();
      const isOther = needs.timecodes.tick(onAir);
      if (onAir) tellBack(onAir, performance.now());
      const all = [...needs.shows()];
      const now = JSON.stringify([
        names(),
        [...pages],
        [...heard].map(([hand, of]) => [hand, [...of]]),
        all.map((s) => handsOf(s).map((h) => h.id)),
      ]);
      if (now === shown && !isOther) return;
      shown = now;
      for (const show of all)
        if (isOther || handsOf(show).length > 0 || names().length > 0)
          needs.tell(show, stateOfShow(show));
    },
    use: (given) => {
      ports = given;
    },
    state: stateOfShow,
    sendAll: (bytes) => {
      const [devices] = ports?.midi ?? [];
      for (const port of devices?.names() ?? []) devices?.send(port, bytes);
    },
  };
}
