/**
 * Every key of the application in one table: the help, the command palette and the listener are made from it. What
 * changes light has a modifier or a key of its own row: a plain letter begins a line of the command line (hands.test.ts).
 */
import { toast } from 'sonner';
import { live, reverse, said } from '../state/actions';
import { api } from '../state/api';
import { setTool } from '../state/stage';
import { useScreen } from '../state/store';

export interface KeyAction {
  id: string;
  label: string;
  /** tinykeys notation; `$mod` is Ctrl, or Cmd on a Mac. */
  key: string;
  shown: string;
  group: 'Go' | 'Playback' | 'Programmer' | 'Show';
  /** Works while a text field has the focus. */
  inFields?: boolean;
  run: (tools: KeyTools) => void;
}

export interface KeyTools {
  goTo: (place: string) => void;
  openHelp: () => void;
  openPalette: () => void;
  openRecord: () => void;
  openBoard: () => void;
  focusCommand: () => void;
}

export const KEYS: readonly KeyAction[] = [
  { id: 'rig', label: 'Rig: patching', key: 'Alt+Digit1', shown: 'Alt 1', group: 'Go', inFields: true, run: (t) => t.goTo('rig') },
  { id: 'stage', label: 'Stage: making pictures', key: 'Alt+Digit2', shown: 'Alt 2', group: 'Go', inFields: true, run: (t) => t.goTo('stage') },
  { id: 'book', label: 'Book: the cue list', key: 'Alt+Digit3', shown: 'Alt 3', group: 'Go', inFields: true, run: (t) => t.goTo('book') },
  { id: 'run', label: 'Run: the show', key: 'Alt+Digit4', shown: 'Alt 4', group: 'Go', inFields: true, run: (t) => t.goTo('run') },
  { id: 'crew', label: 'Crew: people and history', key: 'Alt+Digit6', shown: 'Alt 6', group: 'Go', inFields: true, run: (t) => t.goTo('crew') },
  { id: 'palette', label: 'Find an action', key: '$mod+KeyK', shown: 'Ctrl K', group: 'Go', inFields: true, run: (t) => t.openPalette() },
  { id: 'help', label: 'All keys', key: 'Shift+?', shown: '?', group: 'Go', run: (t) => t.openHelp() },
  { id: 'command', label: 'To the command line', key: 'Escape', shown: 'Esc', group: 'Go', run: (t) => t.focusCommand() },
  { id: 'go', label: 'GO', key: 'F12', shown: 'F12', group: 'Playback', inFields: true, run: () => void live({ command: 'go' }) },
  { id: 'back', label: 'Back to the cue before', key: 'F9', shown: 'F9', group: 'Playback', inFields: true, run: () => void live({ command: 'back' }) },
  { id: 'pause', label: 'Pause, or go on', key: 'F10', shown: 'F10', group: 'Playback', inFields: true, run: () => void live({ command: 'pause' }) },
  { id: 'cut', label: 'Cut to the next cue', key: 'Shift+F12', shown: 'Shift F12', group: 'Playback', inFields: true, run: () => void live({ command: 'cut' }) },
  { id: 'board', label: 'The board: ask for it, hand it over', key: 'Alt+KeyB', shown: 'Alt B', group: 'Playback', inFields: true, run: (t) => t.openBoard() },
  { id: 'call', label: 'Call the next cue', key: 'Alt+KeyC', shown: 'Alt C', group: 'Playback', inFields: true, run: () => void live({ command: 'call' }) },
  { id: 'release-all', label: 'Release everything', key: 'Shift+F9', shown: 'Shift F9', group: 'Playback', inFields: true, run: () => void said({ command: 'release-all' }) },
  { id: 'hold-focus', label: 'Hold the selection for focus, or let it off', key: '$mod+KeyH', shown: 'Ctrl H', group: 'Programmer', inFields: true, run: () => holdForFocus() },
  { id: 'record', label: 'Record a cue', key: '$mod+KeyR', shown: 'Ctrl R', group: 'Programmer', inFields: true, run: (t) => t.openRecord() },
  { id: 'letgo', label: 'Let go in two seconds', key: '$mod+KeyL', shown: 'Ctrl L', group: 'Programmer', inFields: true, run: () => void live({ command: 'letgo', fade_s: 2 }) },
  { id: 'highlight', label: 'Highlight the selection, or end it', key: 'Alt+KeyH', shown: 'Alt H', group: 'Programmer', inFields: true, run: () => void live({ command: 'highlight', on: !useScreen.getState().programmer.highlight }) },
  { id: 'home', label: 'Home: straight ahead, open white', key: 'Alt+Shift+KeyH', shown: 'Alt Shift H', group: 'Programmer', inFields: true, run: () => void said({ command: 'home' }) },
  { id: 'next', label: 'The next of the selection', key: 'PageDown', shown: 'Page Down', group: 'Programmer', run: () => void live({ command: 'step', by: 1 }) },
  { id: 'previous', label: 'The one before', key: 'PageUp', shown: 'Page Up', group: 'Programmer', run: () => void live({ command: 'step', by: -1 }) },
  { id: 'whole', label: 'All of the selection again', key: 'Shift+PageDown', shown: 'Shift Page Down', group: 'Programmer', run: () => void live({ command: 'step', by: 0 }) },
  { id: 'blind', label: 'Blind, or live', key: 'Alt+Shift+KeyB', shown: 'Alt Shift B', group: 'Programmer', inFields: true, run: () => void live({ command: 'blind', on: !useScreen.getState().programmer.blind }) },
  { id: 'aim', label: 'Aim: click where the heads should look', key: 'Alt+KeyA', shown: 'Alt A', group: 'Programmer', inFields: true, run: () => setTool('aim') },
  { id: 'lit', label: 'Take what is lit into the programmer', key: '$mod+KeyJ', shown: 'Ctrl J', group: 'Programmer', inFields: true, run: () => void said({ command: 'take', what: 'lit', whole: false }) },
  { id: 'bring-back', label: 'Bring back what was cleared', key: '$mod+Shift+KeyL', shown: 'Ctrl Shift L', group: 'Programmer', inFields: true, run: () => void said({ command: 'bring-back' }) },
  { id: 'lock', label: 'Lock this screen', key: 'Alt+KeyL', shown: 'Alt L', group: 'Show', inFields: true, run: () => void lockScreen() },
  { id: 'undo', label: 'Undo your last edit', key: '$mod+KeyZ', shown: 'Ctrl Z', group: 'Show', run: () => void reverse('undo') },
  { id: 'redo', label: 'Redo', key: '$mod+Shift+KeyZ', shown: 'Ctrl Shift Z', group: 'Show', run: () => void reverse('redo') },
];

/** Selected lights stay at full whatever plays; when all of them are held, they are let off. */
function holdForFocus(): void {
  const { selection, show, over } = useScreen.getState();
  const fixtures = selection.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  if (fixtures.length === 0) return;
  const held = new Set(over.focus.map((f) => f.fixtureId));
  void said({ command: 'focus', fixtures, level: 1, on: !selection.every((id) => held.has(id)) });
}

/** Shows what plays and takes nothing until the PIN is given. */
async function lockScreen(): Promise<void> {
  await api('/api/me/lock', { method: 'POST', body: '{}' }).catch((error: unknown) => toast.error((error as Error).message));
}

/** Fields that take no letters: keys mean there what they mean elsewhere. */
const NOT_TEXT = new Set(['range', 'checkbox', 'radio', 'button', 'file']);

export const inTextField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName) || (target instanceof HTMLInputElement && !NOT_TEXT.has(target.type)));
