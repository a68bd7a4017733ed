/** What a cue does besides light, as its form has it: every field as it is typed, and the action that it makes. */
import { rowsByNumber } from '@/core/show/numbered';
import { z } from 'zod';
import { seconds, timeProblem } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { CueAction, LIST_ACTS, SENT_SHOW_CONTROL } from '@/core/cues/rows';
import type { Show } from '@/core/show/show';

/** What a cue may do, in the order of the choice. */
export const ACTION_KINDS = [
  'list',
  'fader',
  'flash',
  'release-looks',
  'let-off',
  'remotes',
  'osc',
  'midi',
  'show-control',
  'bytes',
  'macro',
  'sound',
] as const satisfies readonly CueAction['do'][];
/** Messages of MIDI that a cue may send. */
export const MIDI_KINDS = ['note-on', 'note-off', 'control', 'program'] as const;
/** An OSC message takes so many arguments. */
const OSC_ARGUMENTS = 16;
const NO_FADER = 'This show has no faders yet: make one in Run.';

const Fields = z.object({
  kind: z.enum(ACTION_KINDS),
  list: z.string(),
  what: z.enum(LIST_ACTS),
  cue: z.string(),
  fader: z.string(),
  level: z.string(),
  time: z.string(),
  on: z.enum(['on', 'off']),
  address: z.string().trim(),
  args: z.string().trim(),
  midiKind: z.enum(MIDI_KINDS),
  channel: z.string(),
  number: z.string(),
  value: z.string(),
  showControl: z.enum(SENT_SHOW_CONTROL),
  device: z.string(),
  outCue: z.string().trim(),
  outList: z.string().trim(),
  bytes: z.string().trim(),
  macro: z.string(),
  /** Units that are selected when the macro is chosen. */
  fixtures: z.array(z.string()),
  sound: z.string(),
});
export type ActionDraft = z.infer<typeof Fields>;

const SC_NUMBER = /^\d{1,5}(?:\.\d{1,3})?$/;

type Problem = { field: keyof ActionDraft; says: string };

const isWhole = (t: string, low: number, high: number): boolean =>
  /^\d+$/.test(t.trim()) && Number(t) >= low && Number(t) <= high;
const isPercent = (t: string): boolean => t.trim() !== '' && Number(t) >= 0 && Number(t) <= 100;

/** What is wrong with the fields that this kind of action has. */
const PROBLEMS: Partial<Record<CueAction['do'], (d: ActionDraft) => Problem | undefined>> = {
  list: (d) =>
    d.what === 'goto' && parseCueNumber(d.cue) === undefined
      ? { field: 'cue', says: 'Say which cue, like 2 or 2.5.' }
      : undefined,
  fader: (d) => {
    if (d.fader === '') return { field: 'fader', says: NO_FADER };
    if (!isPercent(d.level)) return { field: 'level', says: 'A level goes from 0 to 100 %.' };
    const wrong = timeProblem(d.time);
    return wrong === undefined ? undefined : { field: 'time', says: wrong };
  },
  flash: (d) => (d.fader === '' ? { field: 'fader', says: NO_FADER } : undefined),
  osc: (d) =>
    /^\/[\x21-\x7e]*$/.test(d.address)
      ? undefined
      : { field: 'address', says: 'An OSC address begins with / and has no spaces.' },
  midi: (d) => {
    if (!isWhole(d.channel, 1, 16))
      return { field: 'channel', says: 'A MIDI channel goes from 1 to 16.' };
    const field = (['number', 'value'] as const).find((f) => !isWhole(d[f], 0, 127));
    return field && { field, says: 'MIDI numbers and values go from 0 to 127.' };
  },
  'show-control': (d) => {
    if (!isWhole(d.device, 0, 127))
      return { field: 'device', says: 'A device is 0 to 127; 127 is all of them.' };
    const field = (['outCue', 'outList'] as const).find(
      (f) => d[f] !== '' && !SC_NUMBER.test(d[f]),
    );
    return field && { field, says: 'A number like 12 or 12.5, or nothing.' };
  },
  bytes: (d) =>
    CueAction.safeParse({ do: 'bytes', bytes: d.bytes }).success
      ? undefined
      : { field: 'bytes', says: 'Pairs of hexadecimal digits, like 90 3C 7F; at most 200.' },
  macro: (d) =>
    d.macro === ''
      ? { field: 'macro', says: 'Select fixtures with a control macro first.' }
      : undefined,
  sound: (d) => (d.sound === '' ? { field: 'sound', says: 'Take in a sound first.' } : undefined),
};

/** A problem stands at its field; fields of other kinds are not looked at. */
export const ActionDraft = Fields.superRefine((d, ctx) => {
  const problem = PROBLEMS[d.kind]?.(d);
  if (problem) ctx.addIssue({ code: 'custom', path: [problem.field], message: problem.says });
});

const NUMBER = /^-?\d+(\.\d+)?(e[+-]?\d+)?$/;
/** What would be read as something else without quotation marks. */
const isQuoted = (a: string): boolean =>
  a === '' || /\s/.test(a) || a.startsWith('"') || NUMBER.test(a);

/** A word in quotation marks, as JSON has it; undefined where it is none. */
function unquoted(text: string): string | undefined {
  try {
    return text.startsWith('"') ? z.string().parse(JSON.parse(text)) : undefined;
  } catch {
    return undefined;
  }
}

/** Words and numbers with spaces between; in quotation marks it is a word, whatever is in it. */
const argumentsOf = (text: string): (string | number)[] =>
  [...text.matchAll(/"(?:[^"\\]|\\.)*"|\S+/g)]
    .slice(0, OSC_ARGUMENTS)
    .map(([a]) => unquoted(a) ?? (NUMBER.test(a) ? Number(a) : a));
/** As {@link argumentsOf} reads them. */
const sayArguments = (args: readonly (string | number)[]): string =>
  args.map((a) => (typeof a === 'string' && isQuoted(a) ? JSON.stringify(a) : String(a))).join(' ');

/** The action of a draft that the schema has let through. */
export function actionOf(d: ActionDraft): CueAction {
  switch (d.kind) {
    case 'list': {
      const cue = d.what === 'goto' ? parseCueNumber(d.cue) : undefined;
      return { do: 'list', list: d.list, what: d.what, ...(cue === undefined ? {} : { cue }) };
    }
    case 'fader':
      return {
        do: 'fader',
        fader: d.fader,
        level: Math.round(Number(d.level) * 1000) / 100_000,
        time_s: seconds(d.time) ?? 0,
      };
    case 'flash':
      return { do: 'flash', fader: d.fader, on: d.on === 'on' };
    case 'release-looks':
    case 'let-off':
      return { do: d.kind };
    case 'remotes':
      return { do: 'remotes', on: d.on === 'on' };
    case 'osc':
      return { do: 'osc', address: d.address, args: argumentsOf(d.args) };
    case 'midi':
      return {
        do: 'midi',
        kind: d.midiKind,
        channel: Number(d.channel),
        number: Number(d.number),
        value: Number(d.value),
      };
    case 'show-control':
      return {
        do: 'show-control',
        device: Number(d.device),
        command: d.showControl,
        ...(d.outCue === '' ? {} : { cue: d.outCue }),
        ...(d.outList === '' ? {} : { list: d.outList }),
      };
    case 'bytes':
      return { do: 'bytes', bytes: d.bytes };
    case 'macro':
      return { do: 'macro', fixtures: d.fixtures, macro: d.macro };
    case 'sound':
      return { do: 'sound', sound: d.sound };
  }
}

/** Control macros that some of these units have. */
export const macrosOf = (show: Show, fixtures: readonly string[]): string[] => [
  ...new Set(
    fixtures.flatMap(
      (id) => show.types.get(show.fixtures.get(id)?.typeId ?? '')?.macros?.map((m) => m.name) ?? [],
    ),
  ),
];

/** What a form begins with: the first of each that there is. */
export function firstDraft(show: Show, selection: readonly string[]): ActionDraft {
  return {
    kind: 'list',
    list: rowsByNumber(show.lists).at(-1)?.id ?? '',
    what: 'start',
    cue: '1',
    fader: rowsByNumber(show.faders)[0]?.id ?? '',
    level: '100',
    time: '0',
    on: 'on',
    address: '/',
    args: '',
    midiKind: 'note-on',
    channel: '1',
    showControl: 'go',
    device: '127',
    outCue: '',
    outList: '',
    bytes: '90 3C 7F',
    number: '60',
    value: '127',
    macro: macrosOf(show, selection)[0] ?? '',
    fixtures: [...selection],
    sound: [...show.sounds.keys()][0] ?? '',
  };
}

/** The fields that an action has, as they are typed. */
function fieldsOf(action: CueAction): Partial<ActionDraft> {
  switch (action.do) {
    case 'list':
      return {
        list: action.list,
        what: action.what,
        ...(action.cue === undefined ? {} : { cue: formatCueNumber(action.cue) }),
      };
    case 'fader':
      return {
        fader: action.fader,
        level: String(Math.round(action.level * 100_000) / 1000),
        time: String(action.time_s),
      };
    case 'flash':
      return { fader: action.fader, on: action.on ? 'on' : 'off' };
    case 'release-looks':
    case 'let-off':
      return {};
    case 'remotes':
      return { on: action.on ? 'on' : 'off' };
    case 'osc':
      return { address: action.address, args: sayArguments(action.args) };
    case 'midi':
      return {
        midiKind: action.kind,
        channel: String(action.channel),
        number: String(action.number),
        value: String(action.value),
      };
    case 'show-control':
      return {
        device: String(action.device),
        showControl: action.command,
        outCue: action.cue ?? '',
        outList: action.list ?? '',
      };
    case 'bytes':
      return { bytes: action.bytes };
    case 'macro':
      return { macro: action.macro, fixtures: [...action.fixtures] };
    case 'sound':
      return { sound: action.sound };
  }
}

/** What a form begins with where an action is changed: {@link actionOf} makes the same of it. */
export const draftOf = (
  show: Show,
  selection: readonly string[],
  action: CueAction,
): ActionDraft => ({ ...firstDraft(show, selection), kind: action.do, ...fieldsOf(action) });
