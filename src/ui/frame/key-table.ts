/**
 * Every key of the application in one table: the help, the search for actions, the listener and docs/command-line.md are
 * made from it. What changes light has a modifier or a key of its own row: a plain letter begins a line of the command
 * line (keys.test.ts of the browser presses each in each place).
 */

export interface KeyAction {
  id: string;
  label: string;
  /** tinykeys notation; `$mod` is Ctrl, or Cmd on a Mac. */
  key: string;
  group: 'Go' | 'Playback' | 'Faders' | 'Programmer' | 'Show';
  /** Works while a text field has the focus. */
  inFields?: boolean;
  /** Changes what is on stage, for whoever may. */
  light?: boolean;
}

const EIGHT = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/** For the page of faders in sight: what lies under each, and each up or down. */
const FADER_KEYS = EIGHT.flatMap(
  (n) =>
    [
      {
        id: `fader-key-${n}`,
        label: `The key under fader ${n} of the page`,
        key: `F${n}`,
        group: 'Faders',
        inFields: true,
        light: true,
      },
      {
        id: `fader-full-${n}`,
        label: `Fader ${n} of the page to full, or out`,
        key: `Alt+Shift+Digit${n}`,
        group: 'Faders',
        inFields: true,
        light: true,
      },
    ] as const,
);

/** Every key with what it does, as it is before anybody gives it another. */
export const KEYS = [
  { id: 'rig', label: 'Rig: patching', key: 'Alt+Digit1', group: 'Go', inFields: true },
  { id: 'stage', label: 'Stage: making pictures', key: 'Alt+Digit2', group: 'Go', inFields: true },
  { id: 'book', label: 'Book: the cue list', key: 'Alt+Digit3', group: 'Go', inFields: true },
  { id: 'run', label: 'Run: the show', key: 'Alt+Digit4', group: 'Go', inFields: true },
  {
    id: 'sheets',
    label: 'Sheets: surfaces to play from',
    key: 'Alt+Digit5',
    group: 'Go',
    inFields: true,
  },
  { id: 'crew', label: 'Crew: people and history', key: 'Alt+Digit6', group: 'Go', inFields: true },
  {
    id: 'windows',
    label: 'Windows: panels and sheets on a second screen',
    key: 'Alt+KeyW',
    group: 'Go',
    inFields: true,
  },
  { id: 'palette', label: 'Find an action', key: '$mod+KeyK', group: 'Go', inFields: true },
  { id: 'help', label: 'All keys and lines', key: 'Shift+?', group: 'Go' },
  {
    id: 'command',
    label: 'End the last mode begun, or to the command line',
    key: 'Escape',
    group: 'Go',
  },
  { id: 'go', label: 'GO', key: 'F12', group: 'Playback', inFields: true, light: true },
  {
    id: 'back',
    label: 'Back to the cue before',
    key: 'F9',
    group: 'Playback',
    inFields: true,
    light: true,
  },
  {
    id: 'pause',
    label: 'Pause, or go on',
    key: 'F10',
    group: 'Playback',
    inFields: true,
    light: true,
  },
  {
    id: 'cut',
    label: 'Cut to the next cue',
    key: 'Shift+F12',
    group: 'Playback',
    inFields: true,
    light: true,
  },
  {
    id: 'board',
    label: 'The board: ask for it, hand it over',
    key: 'Alt+KeyB',
    group: 'Playback',
    inFields: true,
  },
  { id: 'call', label: 'Call the next cue', key: 'Alt+KeyC', group: 'Playback', inFields: true },
  {
    id: 'release-all',
    label: 'Release everything',
    key: 'Shift+F9',
    group: 'Playback',
    inFields: true,
    light: true,
  },
  ...FADER_KEYS,
  {
    id: 'hold-focus',
    label: 'Hold the selection for focus, or let it off',
    key: '$mod+KeyH',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  { id: 'record', label: 'Record a cue', key: '$mod+KeyR', group: 'Programmer', inFields: true },
  {
    id: 'letgo',
    label: 'Let go in two seconds',
    key: '$mod+KeyL',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  {
    id: 'highlight',
    label: 'Highlight the selection, or end it',
    key: 'Alt+KeyH',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  {
    id: 'home',
    label: 'Home: at full, straight ahead, open white',
    key: 'Alt+Shift+KeyH',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  { id: 'next', label: 'The next of the selection', key: 'PageDown', group: 'Programmer' },
  { id: 'previous', label: 'The one before', key: 'PageUp', group: 'Programmer' },
  { id: 'whole', label: 'All of the selection again', key: 'Shift+PageDown', group: 'Programmer' },
  {
    id: 'blind',
    label: 'Blind, or live',
    key: 'Alt+Shift+KeyB',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  {
    id: 'aim',
    label: 'Aim: click where the heads should look',
    key: 'Alt+KeyA',
    group: 'Programmer',
    inFields: true,
  },
  {
    id: 'lit',
    label: 'Take what is lit into the programmer',
    key: '$mod+KeyJ',
    group: 'Programmer',
    inFields: true,
  },
  {
    id: 'bring-back',
    label: 'Bring back what was cleared',
    key: '$mod+Shift+KeyL',
    group: 'Programmer',
    inFields: true,
    light: true,
  },
  { id: 'lock', label: 'Lock this screen', key: 'Alt+KeyL', group: 'Show', inFields: true },
  { id: 'undo', label: 'Undo your last edit', key: '$mod+KeyZ', group: 'Show' },
  { id: 'redo', label: 'Redo', key: '$mod+Shift+KeyZ', group: 'Show' },
] as const satisfies readonly KeyAction[];

export type KeyId = (typeof KEYS)[number]['id'];
/** Keys that a person has chosen instead, by what they do. */
export type OwnKeys = Partial<Record<KeyId, string>>;

/** The key of something, a person’s own before the table’s. */
export const keyOf = (id: KeyId, own: OwnKeys): string =>
  own[id] ?? KEYS.find((k) => k.id === id)?.key ?? '';

const WORDS: Record<string, string> = {
  $mod: 'Ctrl',
  Escape: 'Esc',
  PageDown: 'Page Down',
  PageUp: 'Page Up',
  'Shift+?': '?',
};

/** `Alt+Shift+KeyB` as `Alt Shift B`. */
export const sayKey = (key: string): string =>
  WORDS[key] ??
  key
    .split('+')
    .map((part) => WORDS[part] ?? part.replace(/^(Key|Digit)/, '').replace(/^Arrow/, ''))
    .join(' ');

interface Pressed {
  code: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}

const MODIFIERS = /^(Control|Shift|Alt|Meta|OS|CapsLock)/;
const OF_ITS_OWN =
  /^(F\d{1,2}|Page(Up|Down)|Insert|Pause|ScrollLock|Numpad(Add|Subtract|Multiply|Divide|Enter|Decimal))$/;
/** What the browser or the system does itself, whatever a page says. */
const RESERVED = new Set([
  '$mod+KeyW',
  '$mod+KeyT',
  '$mod+KeyN',
  '$mod+Shift+KeyW',
  '$mod+Shift+KeyT',
  '$mod+Shift+KeyN',
  '$mod+KeyQ',
  'Alt+F4',
  'F11',
  '$mod+KeyC',
  '$mod+KeyV',
  '$mod+KeyX',
  '$mod+KeyA',
]);

/** What was pressed, in the table's notation; undefined while only modifiers are down. */
export function keyPressed({
  code,
  ctrlKey,
  metaKey,
  altKey,
  shiftKey,
}: Pressed): string | undefined {
  if (code === '' || MODIFIERS.test(code)) return undefined;
  return [
    ...(ctrlKey || metaKey ? ['$mod'] : []),
    ...(altKey ? ['Alt'] : []),
    ...(shiftKey ? ['Shift'] : []),
    code,
  ].join('+');
}

/** Why a key cannot do this, in a sentence; undefined when it can. */
export function keyProblem(id: KeyId, key: string, own: OwnKeys): string | undefined {
  const plain = !key.includes('$mod+') && !key.includes('Alt+');
  const bare = key.split('+').at(-1) ?? '';
  if (RESERVED.has(key)) return `${sayKey(key)} belongs to the browser or to cut and paste.`;
  if (bare === 'Escape' || bare === 'Enter' || bare === 'Tab' || bare === 'Space')
    return `${sayKey(bare)} means the same everywhere and stays as it is.`;
  if (plain && !OF_ITS_OWN.test(bare))
    return `${sayKey(key)} types, or moves in a table. Take it with Ctrl or Alt, or a key such as F2.`;
  const taken = KEYS.find((k) => k.id !== id && keyOf(k.id, own) === key);
  return taken
    ? `${sayKey(key)} is “${taken.label}” already. Give that another key first.`
    : undefined;
}

/** Keys and the pointer where something has the focus or lies under it: where, what is pressed, what it does. */
export const PLACE_KEYS: readonly [where: string, pressed: string, does: string][] = [
  ['Run', 'Space, or a foot switch', 'GO, for whoever is on the board'],
  ['Cue spine', 'Click', 'look at the cue; in Run make it the next one'],
  ['Cue spine', 'Space', 'GO, for whoever is on the board'],
  ['Cue spine', 'Ctrl Enter', 'go to the cue that has the focus'],
  [
    'Cue spine',
    'Right click, or Shift F10',
    'its menu: look, open, go to, cut to, make it the next',
  ],
  ['Cue sheet', 'Arrows, with Shift', 'from cell to cell, take more'],
  ['Cue sheet', 'Letter, digit, Enter or F2', 'type into the cells'],
  ['Cue sheet', 'Delete', 'take the value out'],
  ['Cue sheet', 'Space', 'look at the cue'],
  ['Cue sheet', 'Drag a number', 'the cue, or all that are chosen, to another place in the list'],
  ['Cue sheet', 'Double click', 'change a number, a name, a time, what lets the next one follow'],
  [
    'Cue sheet',
    'Tab, ↓ and ↑ while it is typed',
    'the next field, the same one of the cue below or above',
  ],
  [
    'Cue sheet',
    'Double click on one of many chosen',
    'a name (# counts) or a time (also *0.5) for all of them',
  ],
  ['Fixture table', 'Arrows, with Shift', 'from cell to cell, take more'],
  ['Fixture table', 'Letter, digit, # or Enter', 'type into the cells'],
  ['Fixture table', 'Ctrl D, Ctrl Shift D', 'the first cell into those below it, or counted on'],
  ['Address map', 'Arrows, with Alt', 'move the cursor, carry the selection'],
  ['Address map', 'Shift and arrows, Delete', 'take more, off the rig'],
  ['Address map', 'Enter', 'select, patch, put down'],
  ['Address map', 'Page Up, Page Down', 'the universe before, the next'],
  ['Plan', 'Click, with Ctrl', 'select, add'],
  ['Plan', 'Drag', 'select what is in the box'],
  ['Plan', 'Wheel, middle button, double click', 'zoom, move, fit'],
  ['Faders', 'Arrows, Page Up and Down, Home, End', 'one percent, ten, out, full'],
  ['Command line', 'Tab, with Shift', 'complete the word, the one before'],
  ['Command line', 'Up, Down', 'lines from before'],
  ['Command line', 'Esc', 'take the line back; when it is empty, end the last mode'],
];
