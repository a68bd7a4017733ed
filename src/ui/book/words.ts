/** How a cue comes and goes, in a few words. */
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import type { CueAction, CueRow } from '@/core/cues/rows';
import type { Show } from '@/core/show/show';

/** What makes a cue go: the cue before it, a time of day, a word. */
export function triggerOf(
  cue: CueRow,
  before: CueRow | undefined,
): { short: string; long: string; spoken: boolean } {
  if (cue.clock)
    return { short: `at ${cue.clock}`, long: `goes by itself at ${cue.clock}`, spoken: false };
  if (before && !before.link && before.follow_s !== null)
    return {
      short: `follow ${formatTime(before.follow_s)} s`,
      long: `follows ${formatTime(before.follow_s)} s after GO of ${formatCueNumber(before.number)}`,
      spoken: false,
    };
  if (before && !before.link && before.after_s !== undefined)
    return {
      short: `after ${formatTime(before.after_s)} s`,
      long: `follows ${formatTime(before.after_s)} s after ${formatCueNumber(before.number)} has ended`,
      spoken: false,
    };
  if (cue.call) return { short: `“${cue.call}”`, long: `called on “${cue.call}”`, spoken: true };
  return { short: 'go', long: 'waits for GO', spoken: false };
}

/** An action in words: `Starts list “Lanterns”`. */
export function actionWords(show: Show, action: CueAction): string {
  const fader = (id: string): string => {
    const f = show.faders.get(id);
    return f ? `fader ${f.number} “${f.name}”` : 'a fader that is gone';
  };
  switch (action.do) {
    case 'list': {
      const list = show.lists.get(action.list);
      const name = list ? `“${list.name}”` : 'a list that is gone';
      const verb = {
        start: 'Starts',
        go: 'GO on',
        pause: 'Pauses',
        release: 'Releases',
        goto: `Goes to cue ${formatCueNumber(action.cue ?? 0)} of`,
      }[action.what];
      return `${verb} ${name}`;
    }
    case 'fader':
      return `Moves ${fader(action.fader)} to ${Math.round(action.level * 100)} %${action.time_s > 0 ? ` in ${formatTime(action.time_s)} s` : ''}`;
    case 'flash':
      return `${action.on ? 'Presses' : 'Lifts'} the flash of ${fader(action.fader)}`;
    case 'release-looks':
      return 'Releases all looks on faders';
    case 'let-off':
      return 'Lets off what is held for focus';
    case 'remotes':
      return `Switches remote controls ${action.on ? 'on' : 'off'}`;
    case 'osc':
      return `Sends OSC ${action.address}${action.args.length > 0 ? ` ${action.args.join(' ')}` : ''}`;
    case 'midi':
      return `Sends MIDI ${{ 'note-on': 'note', 'note-off': 'note off', control: 'control', program: 'program' }[action.kind]} ${action.number}${action.kind === 'program' ? '' : ` value ${action.value}`}, channel ${action.channel}`;
    case 'macro':
      return `Runs “${action.macro}” on ${action.fixtures.length} ${action.fixtures.length === 1 ? 'fixture' : 'fixtures'}`;
    case 'sound':
      return `Starts the sound “${show.sounds.get(action.sound)?.name ?? 'that is gone'}”`;
  }
}
