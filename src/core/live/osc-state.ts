/** What a show tells over OSC to those who asked with `/wingman/subscribe`: where everything stands that a remote control plays. */
import { formatCueNumber } from '../cues/number.ts';
import { pieceStates } from '../sheets/osc.ts';
import type { Show } from '../show/show.ts';
import type { ListStatus, PlaybackState } from './messages.ts';

type Args = readonly (number | string)[];

/** One kind of message: its address, what it says, and who stands so now. */
interface Told {
  address: string;
  says: string;
  now: (show: Show, playback: PlaybackState) => Iterable<readonly [string, Args]>;
}

const ofLists = (what: string, args: (show: Show, list: ListStatus) => Args): Told['now'] =>
  function* (show, { lists }) {
    for (const status of lists) {
      const number = show.lists.get(status.id)?.number;
      if (number !== undefined) yield [`/wingman/list/${number}/${what}`, args(show, status)];
    }
  };
const ofFaders = (
  what: string,
  args: (fader: PlaybackState['faders'][number]) => Args,
): Told['now'] =>
  function* (show, { faders }) {
    for (const status of faders) {
      const number = show.faders.get(status.id)?.number;
      if (number !== undefined) yield [`/wingman/${what}/${number}`, args(status)];
    }
  };
const cueWords = (show: Show, id: string | null): Args => {
  const cue = show.cues.get(id ?? '');
  return cue ? [formatCueNumber(cue.number), cue.name] : ['', ''];
};
function stateWord({ paused, running, active }: ListStatus): string {
  if (paused) return 'paused';
  if (running) return 'running';
  return active ? 'stands' : 'out';
}

/** Levels are told in thousandths: finer nobody sees, and a fade would be a flood. */
const told = (level: number): number => Math.round(level * 1000) / 1000;

/** Everything that a subscriber by OSC is told when it changes. */
export const TOLD: readonly Told[] = [
  {
    address: '/wingman/list/N/cue',
    says: 'number and name of the cue on stage, or two empty texts',
    now: ofLists('cue', (show, list) => cueWords(show, list.cueId)),
  },
  {
    address: '/wingman/list/N/next',
    says: 'number and name of the next cue, or two empty texts',
    now: ofLists('next', (show, list) => cueWords(show, list.nextId)),
  },
  {
    address: '/wingman/list/N/state',
    says: '`running` while it fades, `paused`, `stands`, or `out`',
    now: ofLists('state', (_, list) => [stateWord(list)]),
  },
  {
    address: '/wingman/list/N/master',
    says: 'its master, 0 to 1',
    now: ofLists('master', (_, list) => [told(list.master)]),
  },
  {
    address: '/wingman/fader/N',
    says: 'where it stands, 0 to 1',
    now: ofFaders('fader', (f) => [told(f.level)]),
  },
  {
    address: '/wingman/flash/N',
    says: '1 while its key is down',
    now: ofFaders('flash', (f) => [Number(f.flash)]),
  },
  {
    address: '/wingman/master',
    says: 'the grand master, 0 to 1',
    now: (_, { master }) => [['/wingman/master', [told(master)]]],
  },
  {
    address: '/wingman/blackout',
    says: '1 while it is on',
    now: (_, { blackout }) => [['/wingman/blackout', [Number(blackout)]]],
  },
  {
    address: '/wingman/sheet/N/NAME',
    says: 'a piece of sheet N: its level, or 1 while it is on and 0 while it is not',
    now: function* (show, playback) {
      for (const [address, [level = 0]] of pieceStates(show, playback))
        yield [address, [told(level)]];
    },
  },
];

/** Everything as it stands, by address. */
export function oscState(show: Show, playback: PlaybackState): Map<string, Args> {
  const all = new Map<string, Args>();
  for (const { now } of TOLD)
    for (const [address, args] of now(show, playback)) all.set(address, args);
  return all;
}
