/**
 * Universes of other desks that the show on air merges or follows: what is heard goes to the clock; what is lost holds, and
 * then lets go, so that a cable that comes back in time is not seen on stage. What is followed is held until somebody takes
 * over (inputs.test.ts).
 */
import { heardAs, type InputRow } from '../../core/inputs/rows.ts';
import type { InputSeen } from '../../core/live/messages.ts';
import { deafBy, type Card } from '../../core/wires/cards.ts';
import type { Source } from '../../core/wires/received.ts';
import type { ShowMessage } from '../clock-messages.ts';
import type { LiveShow } from '../live-show.ts';
import type { UniversesIn } from './universes-in.ts';

/** A source that is lost stands for so long, and then goes over so long. */
export const HOLDS_MS = 10_000;
/** Milliseconds after the last packet until a universe counts as gone. */
export const LETS_GO_MS = 3000;
/** Following begins and ends over so long. */
export const TAKES_OVER_MS = 2000;
const INPUTS = 'inputs';

type Ports = Pick<UniversesIn, 'want' | 'shown'>;
interface InputsNeeds {
  onAir: () => LiveShow | undefined;
  shows: () => Iterable<LiveShow>;
  tell: (message: ShowMessage) => void;
  ports: () => Ports | null;
  cards: () => readonly Card[];
  now_ms: () => number;
}

/** What a port gave last, and since when nothing came. */
interface Last {
  slots: Uint8Array;
  by: Pick<Source, 'name' | 'address' | 'priority'>;
  lost_ms: number | null;
}

/** What is merged of an input, and as what it is listened to. */
interface Merged {
  showId: string;
  universe: number;
  instead: boolean;
  as: string;
}

/** Universes that a house listens to, and what each does. */
export interface Inputs {
  /** A port shows something else. */
  shows: (port: string, slots: Uint8Array) => void;
  gone: (port: string) => void;
  /** Ten times a second: what is wanted, what holds, what lets go. */
  look: () => void;
  /** What an input shows now; null where nobody is heard. */
  levels: (input: InputRow) => Uint8Array | null;
  seen: (show: LiveShow) => InputSeen[];
}

const inputsOf = (show: LiveShow): InputRow[] => [...show.show.inputs.values()].filter((i) => i.on);

/** How much of what was there is left, 1…0. */
function left(last: Last, now_ms: number): number {
  if (last.lost_ms === null) return 1;
  const going_ms = now_ms - last.lost_ms - HOLDS_MS;
  return going_ms <= 0 ? 1 : Math.max(0, 1 - going_ms / LETS_GO_MS);
}

/** `silent` where nothing has come, `held` where what came last is kept for a while. */
function stateOf(last: Last | undefined): InputSeen['state'] {
  if (!last) return 'silent';
  return last.lost_ms === null ? 'heard' : 'held';
}

/** None of them heard yet. */
export function makeInputs(needs: InputsNeeds): Inputs {
  const last = new Map<string, Last>();
  /** By input: the show and universe that it is merged into. */
  const merged = new Map<string, Merged>();

  const tell = (show: LiveShow, input: InputRow, levels: Uint8Array | null): void => {
    const { universe, id, merge } = input;
    const instead = merge === 'follow';
    const fade_ms = instead && !merged.has(id) ? TAKES_OVER_MS : 0;
    if (levels) merged.set(id, { showId: show.id, universe, instead, as: heardAs(input) });
    else merged.delete(id);
    needs.tell({ do: 'input', showId: show.id, universe, source: id, levels, instead, fade_ms });
  };
  const mergesFor = (show: LiveShow | undefined, port: string | null): InputRow[] =>
    show === undefined
      ? []
      : inputsOf(show).filter((i) => i.merge !== 'look' && (port === null || heardAs(i) === port));
  /** Those that merge no more, are of another universe here or there, or of a show that has left the air. */
  const takeOff = (onAir: LiveShow | undefined): void => {
    const stay = new Map(mergesFor(onAir, null).map((i) => [i.id as string, i]));
    for (const [id, { showId, universe, instead, as }] of merged) {
      const now = showId === onAir?.id ? stay.get(id) : undefined;
      const isSame = now?.universe === universe && heardAs(now) === as;
      if (isSame && (now.merge === 'follow') === instead) continue;
      merged.delete(id);
      const fade_ms = instead ? TAKES_OVER_MS : 0;
      needs.tell({ do: 'input', showId, universe, source: id, levels: null, instead, fade_ms });
    }
  };
  const letGo = (onAir: LiveShow | undefined, port: string, was: Last, now_ms: number): void => {
    const share = left(was, now_ms);
    if (share === 1) return;
    const all = mergesFor(onAir, port);
    for (const input of all)
      if (input.merge === 'highest')
        tell(onAir as LiveShow, input, share === 0 ? null : was.slots.map((v) => v * share));
    // A backup goes on with the last look for as long as nobody takes over.
    if (share === 0 && !all.some((i) => i.merge === 'follow')) last.delete(port);
  };

  return {
    shows: (port, slots) => {
      const by = needs.ports()?.shown(port);
      if (!by) return;
      last.set(port, { slots, by, lost_ms: null });
      const onAir = needs.onAir();
      for (const input of mergesFor(onAir, port)) tell(onAir as LiveShow, input, slots);
    },
    gone: (port) => {
      const was = last.get(port);
      if (was) was.lost_ms ??= needs.now_ms();
    },
    look: () => {
      const now = needs.now_ms();
      const ports = new Set([...needs.shows()].flatMap(inputsOf).map(heardAs));
      needs.ports()?.want(INPUTS, ports, now);
      for (const port of last.keys()) if (!ports.has(port)) last.delete(port);
      const onAir = needs.onAir();
      takeOff(onAir);
      for (const [port, was] of last) letGo(onAir, port, was, now);
      // A merge that was switched on shows what has been heard before.
      for (const input of mergesFor(onAir, null)) {
        const heard = last.get(heardAs(input));
        if (heard && heard.lost_ms === null && !merged.has(input.id))
          tell(onAir as LiveShow, input, heard.slots);
      }
    },
    levels: (input) => last.get(heardAs(input))?.slots ?? null,
    seen: (show) =>
      [...show.show.inputs.values()].map((i) => {
        const was = i.on ? last.get(heardAs(i)) : undefined;
        return {
          id: i.id,
          state: stateOf(was),
          from: was?.by ?? null,
          problem: i.on ? deafBy(needs.cards(), i.card) : null,
          levels: was ? Buffer.from(was.slots).toString('base64') : null,
        };
      }),
  };
}
