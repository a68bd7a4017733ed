/** What a cue does besides light. Each action is tried; one that fails is reported and stops neither the others nor the cue. */
import { formatCueNumber } from '../core/cues/number.ts';
import type { Report } from '../core/live/messages.ts';
import { oscMessage } from '../core/output/osc.ts';
import { bytesOf, midiMessage } from '../core/output/midi.ts';
import { showControlMessage } from '../core/output/show-control.ts';
import { isRefusal, refuse } from '../core/refusal.ts';
import type { CueAction, CueRow } from '../core/cues/rows.ts';
import type { Show } from '../core/show/show.ts';
import type { Faders } from './faders.ts';
import type { Answer } from './answer.ts';
import type { Playbacks } from './lists/playbacks.ts';

/** Lists that start each other within one GO end here: nobody could follow it. */
const DEEPEST = 8;
const REPORTS_KEPT = 20;

/** Where messages to other machines go; an error is a sentence. */
export interface Outside {
  osc: (packet: Uint8Array) => Promise<string | undefined>;
  midi: (bytes: Uint8Array) => Promise<string | undefined>;
}

interface CueActionsNeeds {
  readonly show: Show;
  readonly lists: Playbacks;
  readonly faders: Faders;
  readonly outside: Outside;
  releaseLooks: () => void;
  letOff: () => void;
  remotes: (on: boolean) => void;
  macro: (fixtures: readonly number[], name: string) => Answer;
  /** @returns at how many places it is heard */
  sound: (soundId: string) => number;
  reported: () => void;
  now: () => Date;
}

/** What cues do beside their light when they are started. */
export class CueActions {
  readonly reports: Report[] = [];
  private depth = 0;

  constructor(private readonly needs: CueActionsNeeds) {}

  run(cue: CueRow): void {
    if (!cue.actions || cue.actions.length === 0) return;
    if (this.depth >= DEEPEST) {
      this.report(
        ofCue(cue),
        `Lists start each other in a circle: stopped after ${DEEPEST} of them.`,
      );
      return;
    }
    this.depth++;
    try {
      for (const action of cue.actions) this.try(ofCue(cue), action);
    } finally {
      this.depth--;
    }
  }

  /** A single action that was pressed somewhere. @returns what went wrong at once; what goes wrong later is reported */
  press(name: string, action: CueAction): Answer {
    const failed = this.act({ cue: '', from: name }, action);
    return failed === undefined ? { ok: true } : refuse('nothing', failed);
  }

  private try(from: From, action: CueAction): void {
    const failed = this.act(from, action);
    if (failed !== undefined) this.report(from, failed);
  }

  /** @returns what went wrong, if something did */
  private act(from: From, action: CueAction): string | undefined {
    const { show, lists, faders, outside } = this.needs;
    switch (action.do) {
      case 'list': {
        const list = show.lists.get(action.list);
        if (!list) return 'Its action is for a list that has been deleted.';
        return wrong(act(lists, action, list.id));
      }
      case 'fader': {
        const fader = show.faders.get(action.fader);
        return fader
          ? wrong(faders.move(fader, action.level, action.time_s, true))
          : 'Its action is for a fader that has been deleted.';
      }
      case 'flash': {
        const fader = show.faders.get(action.fader);
        if (!fader) return 'Its flash is for a fader that has been deleted.';
        faders.press(fader, action.on);
        return undefined;
      }
      case 'release-looks':
        this.needs.releaseLooks();
        return undefined;
      case 'let-off':
        this.needs.letOff();
        return undefined;
      case 'remotes':
        this.needs.remotes(action.on);
        return undefined;
      case 'osc':
        this.later(from, outside.osc(oscMessage(action.address, action.args)), 'OSC was not sent');
        return undefined;
      case 'midi':
        this.later(from, outside.midi(midiMessage(action)), 'MIDI was not sent');
        return undefined;
      case 'show-control':
        this.later(from, outside.midi(showControlMessage(action)), 'Show control was not sent');
        return undefined;
      case 'bytes':
        this.later(from, outside.midi(bytesOf(action.bytes)), 'The bytes were not sent');
        return undefined;
      case 'macro': {
        const numbers = action.fixtures.flatMap((id) => show.fixtures.get(id)?.number ?? []);
        if (numbers.length === 0) return `The fixtures of “${action.macro}” have been deleted.`;
        return wrong(this.needs.macro(numbers, action.macro));
      }
      case 'sound': {
        const sound = show.sounds.get(action.sound);
        if (!sound) return 'Its sound has been deleted.';
        return this.needs.sound(sound.id) === 0
          ? `“${sound.name}” was not heard: no screen plays sound, nor does the player’s machine. Switch it on in Run, or say in Time where sounds are heard.`
          : undefined;
      }
    }
  }

  private later(from: From, sent: Promise<string | undefined>, what: string): void {
    void sent.then((problem) => {
      if (problem !== undefined) this.report(from, `${what}: ${problem}`);
    });
  }

  private report(from: From, text: string): void {
    this.reports.push({ at: this.needs.now().toISOString(), ...from, text });
    if (this.reports.length > REPORTS_KEPT) this.reports.shift();
    this.needs.reported();
  }
}

/** Whose action it is: a cue’s, or what was pressed. */
type From = Pick<Report, 'cue' | 'from'>;
const ofCue = (cue: CueRow): From => ({ cue: formatCueNumber(cue.number) });

const wrong = (answer: Answer): string | undefined =>
  isRefusal(answer) ? answer.message : undefined;

function act(lists: Playbacks, action: Extract<CueAction, { do: 'list' }>, listId: string): Answer {
  switch (action.what) {
    case 'start':
      // Running already is what was wanted.
      return lists.at(listId) === null ? lists.go(listId, null) : { ok: true };
    case 'go':
      return lists.go(listId, null);
    case 'pause':
      return lists.pause(listId, true);
    case 'release':
      return lists.at(listId) === null ? { ok: true } : lists.release(listId, undefined);
    case 'goto':
      return lists.goTo(listId, formatCueNumber(action.cue ?? 0), undefined);
  }
}
