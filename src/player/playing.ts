/** A show that plays, as the commands find it that are carried out on it. */
import type { CommandOf, OfShow } from '../core/live/commands.ts';
import type { Show } from '../core/show/show.ts';
import type { Actor } from './actor.ts';
import type { CueActions } from './cue-actions.ts';
import type { Faders } from './faders.ts';
import type { Guards } from './guards.ts';
import type { Learning } from './hands/learning.ts';
import type { LeftLights } from './left-light.ts';
import type { Overlays } from './overlays.ts';
import type { Answer } from './answer.ts';
import type { Playbacks } from './lists/playbacks.ts';
import type { Played } from './played.ts';
import type { Programmers } from './programmers/programmers.ts';
import type { Together, Word } from './together.ts';

/** A show that plays, as commands find it. */
export interface Playing {
  readonly show: Show;
  readonly lists: Playbacks;
  readonly faders: Faders;
  readonly played: Played;
  readonly programmers: Programmers;
  readonly actions: CueActions;
  readonly overlays: Overlays;
  readonly guards: Guards;
  readonly together: Together;
  readonly left: LeftLights;
  readonly learning: Learning;
  setMaster: (set: { level?: number; blackout?: boolean }) => Answer;
  setTempo: (bpm: number) => Answer;
  setRemotes: (on: boolean) => Answer;
  readonly remotes: boolean;
  readonly blackout: boolean;
  /** By the actor's right, while the board lets them. */
  command: (actor: Actor, command: CommandOf<OfShow>) => Answer;
  /** Whoever is on the board. */
  whoever: (command: CommandOf<OfShow>, actor: Actor) => Answer;
  /** Said to somebody, on their screens. */
  tellWord: (userId: string, word: Word) => void;
}
