/** What a cue does besides light, in words. */
import { ALL_DEVICES, type ShowControlCommand } from '../output/show-control.ts';
import type { Show } from '../show/show.ts';
import { formatTime } from './clock.ts';
import { formatCueNumber } from './number.ts';
import type { CueAction } from './rows.ts';

/** Commands of MIDI Show Control in words for people. */
export const SHOW_CONTROL_WORDS: Record<ShowControlCommand, string> = {
  go: 'GO',
  stop: 'stop',
  resume: 'resume',
  'timed-go': 'timed GO',
  set: 'set',
  'all-off': 'all off',
  restore: 'restore',
  reset: 'reset',
  'go-off': 'GO off',
};

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
    case 'show-control':
      return `Sends show control ${[SHOW_CONTROL_WORDS[action.command], action.cue, action.list === undefined ? undefined : `list ${action.list}`].filter((w) => w !== undefined).join(' ')}, ${action.device === ALL_DEVICES ? 'all devices' : `device ${action.device}`}`;
    case 'bytes':
      return `Sends MIDI bytes ${action.bytes}`;
    case 'macro':
      return `Runs “${action.macro}” on ${action.fixtures.length} ${action.fixtures.length === 1 ? 'fixture' : 'fixtures'}`;
    case 'sound':
      return `Starts the sound “${show.sounds.get(action.sound)?.name ?? 'that is gone'}”`;
  }
}
