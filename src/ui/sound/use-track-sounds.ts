/** Tracks that sound at this screen, led after the player’s clock. Once for each window with a frame; of several windows one sounds. */
'use client';
import { useEffect } from 'react';
import { heardAt, LIGHT_AFTER_MS, trackSoundOf } from '@/core/sounds/track-sound';
import { endOf } from '@/core/time/timed';
import { playerNow, positionAt } from '../state/player-clock';
import { useRun } from '../state/run';
import { soundAt, soundUrl, useSounds } from '../state/sounds';
import { useScreen } from '../state/store';
import { soundContext } from './context';
import { listenAgain } from './timecode-in';
import { TrackPlayer } from './track-player';

const STEP_MS = 50;
/** What is shown of how well it is in step. */
const TELL_MS = 500;
const LOCK = 'wingman-track-sound';

class Sounding {
  private readonly players = new Map<string, TrackPlayer>();
  /** By list: why it does not sound. */
  private readonly problems = new Map<string, string>();
  private readonly stepping = setInterval(() => this.step(), STEP_MS);
  private readonly telling = setInterval(() => this.tell(), TELL_MS);

  private step(): void {
    const { show, playback, connection } = useScreen.getState();
    const isOn = useRun.getState().sound && soundAt() !== 'player';
    const now = playerNow();
    const wanted = new Set<string>();
    for (const status of playback.lists) {
      const { track } = status;
      const time = show.lists.get(status.id)?.time;
      const heard = trackSoundOf(show.sounds, time?.sound);
      if (!isOn || !track || !heard || now === undefined || connection !== 'live') continue;
      wanted.add(status.id);
      const at_s = positionAt(track, status.rate, now - LIGHT_AFTER_MS);
      const at = track.runs
        ? heardAt(heard.sound, heard.file.length_s, endOf(show, status.id), at_s)
        : null;
      this.playerOf(status.id, soundUrl(heard.row)).step(at && { ...at, rate: status.rate });
    }
    for (const [id, player] of this.players)
      if (!wanted.has(id)) {
        player.close();
        this.players.delete(id);
        this.problems.delete(id);
      }
  }

  private playerOf(list: string, url: string): TrackPlayer {
    const known = this.players.get(list);
    if (known?.url === url) return known;
    known?.close();
    this.problems.delete(list);
    const made = new TrackPlayer(soundContext(), url, (why) => {
      if (why === null) this.problems.delete(list);
      else this.problems.set(list, why);
    });
    this.players.set(list, made);
    return made;
  }

  private tell(): void {
    const off_ms = Object.fromEntries([...this.players].map(([id, p]) => [id, p.off_s * 1000]));
    const [problem = null] = this.problems.values();
    const { here } = useSounds.getState();
    if (
      here.problem === problem &&
      this.players.size === 0 &&
      Object.keys(here.off_ms).length === 0
    )
      return;
    useSounds.setState({ here: { off_ms, problem } });
  }

  stop(): void {
    clearInterval(this.stepping);
    clearInterval(this.telling);
    for (const player of this.players.values()) player.close();
    this.players.clear();
    useSounds.setState({ here: { off_ms: {}, problem: null } });
  }
}

/** Sounds of tracks for as long as they are heard here. */
export function useTrackSounds(): void {
  useEffect(() => {
    let sounding: Sounding | null = null;
    const leave = new AbortController();
    let release = (): void => undefined;
    const hold = (): Promise<void> => {
      sounding = new Sounding();
      listenAgain();
      return new Promise<void>((done) => (release = done));
    };
    // Where windows cannot agree each sounds for itself.
    if ('locks' in navigator)
      navigator.locks.request(LOCK, { signal: leave.signal }, hold).catch(() => undefined);
    else void hold();
    return () => {
      leave.abort();
      sounding?.stop();
      release();
    };
  }, []);
}
