/** What the player tells its process for sound: which files may be wanted, and where the tracks of the show on air are. */
import type { SoundsState } from '../../core/live/messages.ts';
import { LIGHT_AFTER_MS, trackSoundOf } from '../../core/sounds/track-sound.ts';
import type { SoundFile, SoundRow } from '../../core/sounds/rows.ts';
import type { Show } from '../../core/show/show.ts';
import { followedBy } from '../../core/lists/going.ts';
import { endOf } from '../../core/time/timed.ts';
import type { LiveShow } from '../live-show.ts';
import {
  monotonic,
  type CodeNow,
  type FromSound,
  type TimeHeard,
  type SoundProcess,
  type ToSound,
  type TrackNow,
} from './messages.ts';

/** Sound of the player’s machine. */
export interface SoundMachine {
  /** A cue of the show on air started a sound. @returns whether it is heard at this machine */
  play: (show: Show, soundId: string) => boolean;
  silence: () => void;
  /** Often: tells what has changed. */
  tick: (show: LiveShow | undefined) => void;
  state: () => SoundsState;
}

/** Told again so often, so that two clocks never part. */
const AGAIN_MS = 2000;
const RESTART_MS = 3000;
const NOTHING: SoundsState = {
  devices: [],
  inputs: [],
  inputProblem: null,
  problem: null,
  ready: {},
  off_ms: {},
};

const soundsHere = (show: Show): boolean =>
  (show.settings.get('show')?.soundOut?.at ?? 'screens') !== 'screens';

function filesOf(show: Show): SoundFile[] {
  const files = [...show.sounds.values()].flatMap((s: SoundRow) => s.file ?? []);
  return files.sort((a, b) => a.sha256.localeCompare(b.sha256));
}

/** A reading that took longer is made again: a place and its moment belong together. */
const QUICK_MS = 0.5;
const TRIES = 5;

/** Where a list is, and when that was by the clock that sound goes by; null where it is on no track (machine.test.ts). */
function placeOf(live: LiveShow, listId: string) {
  for (let i = 1; ; i++) {
    const before_ms = monotonic();
    const at = live.lists.onTrack(listId);
    const took_ms = monotonic() - before_ms;
    if (!at) return null;
    if (took_ms <= QUICK_MS || i === TRIES) return { ...at, at_ms: before_ms + took_ms / 2 };
  }
}

/** Where the lists with sound are on their tracks. */
function tracksOf(live: LiveShow): TrackNow[] {
  const { show } = live;
  return [...show.lists.values()].flatMap((list) => {
    const heard = trackSoundOf(show.sounds, list.time?.sound);
    const at = heard ? placeOf(live, list.id) : null;
    if (!heard || !at) return [];
    return [
      {
        key: list.id,
        file: heard.file,
        sound: heard.sound,
        end_s: endOf(show, list.id),
        position_s: at.position_s,
        at_ms: at.at_ms + LIGHT_AFTER_MS,
        rate: at.runs ? at.rate : 0,
      },
    ];
  });
}

/** Lists that give timecode as sound, where they are. */
function codesOf(live: LiveShow): CodeNow[] {
  return [...live.show.lists.values()].flatMap((list) => {
    const gives = list.time?.gives;
    const at = gives?.to.includes('ltc') === true ? placeOf(live, list.id) : null;
    if (!gives || !at) return [];
    return [
      {
        key: list.id,
        frames: gives.rate,
        offset_s: gives.offset_s,
        position_s: at.position_s,
        at_ms: at.at_ms,
        rate: at.runs ? at.rate : 0,
      },
    ];
  });
}
const givesCode = (show: Show): boolean =>
  [...show.lists.values()].some((l) => l.time?.gives?.to.includes('ltc'));

/** Whether a list wants timecode as sound, wherever it is heard: which inputs there are here is to be known then. */
const wantsCode = (show: Show): boolean =>
  [...show.lists.values()].some((l) => followedBy(l)?.from === 'ltc');

/** What of a track is told when it changes; its position goes on by itself, from a moment at which it was 0. */
interface Gist {
  rest: string;
  begins_ms: number;
}
const gistOf = ({ position_s, at_ms, ...rest }: TrackNow | CodeNow): Gist => ({
  rest: JSON.stringify(rest),
  begins_ms: rest.rate > 0 ? at_ms - (position_s * 1000) / rest.rate : position_s * 1000,
});
/** Nearer than this it is where it was said to be. */
const NEAR_MS = 3;
const sameTracks = (a: readonly Gist[], b: readonly Gist[]): boolean =>
  a.length === b.length &&
  a.every(({ rest, begins_ms }, i) => {
    const other = b[i];
    return other?.rest === rest && Math.abs(other.begins_ms - begins_ms) < NEAR_MS;
  });

/** Starts its process, and starts it again when it ends. */
export function makeSoundMachine(
  start: (heard: (message: FromSound) => void, ended: () => void) => SoundProcess,
  told: (state: SoundsState) => void,
  timecode: (heard: TimeHeard) => void,
): SoundMachine {
  let process: SoundProcess | null = null;
  let state = NOTHING;
  let waits_ms = 0;
  const untold = () => ({
    device: '',
    code: '=null',
    input: '=null',
    ready: '',
    tracks: { gists: null as Gist[] | null, at_ms: 0 },
    codes: { gists: null as Gist[] | null, at_ms: 0 },
  });
  let last = untold();

  const begin = (): SoundProcess =>
    (process ??= start(
      (message) => {
        const { is, ...heard } = message;
        void is;
        if (message.is === 'time') return timecode(message);
        state = heard as SoundsState;
        told(state);
      },
      () => {
        process = null;
        last = untold();
        waits_ms = monotonic() + RESTART_MS;
        state = {
          ...NOTHING,
          problem: 'The sound of this machine has ended; it is started again.',
        };
        told(state);
      },
    ));

  /** Where something is, when that is not where it was said to be. */
  const tellPlaces = <T extends TrackNow | CodeNow>(
    of: 'tracks' | 'codes',
    places: T[],
    message: (places: T[]) => ToSound,
  ): void => {
    if (!process) return;
    const told = last[of];
    // Nothing is where nothing was said to be.
    if (!told.gists && places.length === 0) return;
    const gists = places.map(gistOf);
    const now = monotonic();
    const isDue = places.length > 0 && now - told.at_ms > AGAIN_MS;
    if (told.gists && !isDue && sameTracks(told.gists, gists)) return;
    last[of] = { gists, at_ms: now };
    process.send(message(places));
  };
  const tellTracks = (tracks: TrackNow[]): void =>
    tellPlaces('tracks', tracks, (all) => ({ do: 'tracks', tracks: all }));
  const tellCodes = (codes: CodeNow[]): void =>
    tellPlaces('codes', codes, (all) => ({ do: 'codes', codes: all }));
  const tell = (of: 'device' | 'code' | 'input' | 'ready', as: string, message: ToSound): void => {
    if (last[of] === as) return;
    last[of] = as;
    process?.send(message);
  };

  return {
    play: (show, soundId) => {
      const file = show.sounds.get(soundId)?.file;
      if (!file || !soundsHere(show) || !process) return false;
      process.send({ do: 'once', key: `${soundId}/${monotonic()}`, file });
      return true;
    },
    silence: () => process?.send({ do: 'silence' }),
    tick: (live) => {
      const sounds = live !== undefined && soundsHere(live.show);
      const codes = live !== undefined && givesCode(live.show);
      if (!sounds) tellTracks([]);
      if (!codes) tellCodes([]);
      const wants = live !== undefined && wantsCode(live.show);
      // Where it is heard at this machine; null: nowhere.
      const input = wants ? (live.show.settings.get('show')?.soundOut?.codeIn ?? null) : null;
      if (input === null) tell('input', '=null', { do: 'code-input', name: null });
      if (!live || (!sounds && !codes && !wants) || monotonic() < waits_ms) return;
      begin();
      tell('input', `=${input}`, { do: 'code-input', name: input });
      const out = live.show.settings.get('show')?.soundOut;
      const codeDevice = codes ? (out?.code ?? '') : null;
      tell('code', `=${codeDevice}`, { do: 'code-device', name: codeDevice });
      if (codes) tellCodes(codesOf(live));
      if (!sounds) return;
      const device = out?.device ?? null;
      tell('device', `=${device}`, { do: 'device', name: device });
      const files = filesOf(live.show);
      tell('ready', files.map((f) => f.sha256).join(), { do: 'ready', files });
      tellTracks(tracksOf(live));
    },
    state: () => state,
  };
}
