/** What each key of the table does. */
import type { FaderRow } from '@/core/faders/rows';
import { FADERS_A_PAGE } from '@/core/live/thing';
import { live, said } from '../state/commands';
import { reverse } from '../state/edits';
import { api } from '../state/api';
import { notice } from '../state/messages';
import { endLastMode } from '../state/modes';
import { usePreferences } from '../state/preferences';
import { useRun } from '../state/run';
import { setTool, useStage } from '../state/stage';
import { useScreen } from '../state/store';
import { keyOf, sayKey, type KeyId } from './key-table';

/** What keys need of the frame. */
export interface KeyTools {
  goTo: (place: string) => void;
  openHelp: () => void;
  openPalette: () => void;
  openRecord: () => void;
  openBoard: () => void;
  openWindows: () => void;
  focusCommand: () => void;
}

type Run = (tools: KeyTools, event?: KeyboardEvent) => void;
type FaderRuns = Record<Extract<KeyId, `fader-${string}`>, Run>;

/** Keys of the page of faders in sight. */
const FADER_RUNS = Object.fromEntries(
  [1, 2, 3, 4, 5, 6, 7, 8].flatMap((n): [string, Run][] => [
    [`fader-key-${n}`, (_, event) => faderKey(n, event)],
    [`fader-full-${n}`, (_, event) => faderFull(n, event)],
  ]),
) as FaderRuns;

/** What each key does. */
export const RUNS: Record<KeyId, Run> = {
  ...FADER_RUNS,
  rig: (t) => t.goTo('rig'),
  stage: (t) => t.goTo('stage'),
  book: (t) => t.goTo('book'),
  run: (t) => t.goTo('run'),
  sheets: (t) => t.goTo('sheets'),
  crew: (t) => t.goTo('crew'),
  palette: (t) => t.openPalette(),
  help: (t) => t.openHelp(),
  command: (t) => void (endLastMode() || t.focusCommand()),
  go: () => void live({ command: 'go' }),
  back: () => void live({ command: 'back' }),
  pause: () => void live({ command: 'pause' }),
  cut: () => void live({ command: 'cut' }),
  board: (t) => t.openBoard(),
  windows: (t) => t.openWindows(),
  call: () => void live({ command: 'call', do: 'go' }),
  'release-all': () => void said({ command: 'release-all' }),
  'hold-focus': () => holdForFocus(),
  record: (t) => t.openRecord(),
  letgo: () => void live({ command: 'letgo', fade_s: 2 }),
  // The other way, not what this screen has been told so far: a second press may come before that.
  highlight: () => void live({ command: 'highlight' }),
  home: () => void said({ command: 'home' }),
  next: () => void live({ command: 'step', by: 1 }),
  previous: () => void live({ command: 'step', by: -1 }),
  whole: () => void live({ command: 'step', by: 0 }),
  blind: () => void live({ command: 'blind', on: !useScreen.getState().programmer.blind }),
  aim,
  lit: () => void said({ command: 'take', what: 'lit', whole: false }),
  'bring-back': () => void said({ command: 'bring-back' }),
  lock: () => void lockScreen(),
  undo: () => void reverse('undo'),
  redo: () => void reverse('redo'),
};

/** The key that does this for the person at this screen, in words. */
export const useKeyName = (): ((id: KeyId) => string) => {
  const own = usePreferences((s) => s.keys);
  return (id) => sayKey(keyOf(id, own));
};

/** A fader by its place on the page in sight. */
function faderAt(n: number): FaderRow | undefined {
  const number = (useRun.getState().faderPage - 1) * FADERS_A_PAGE + n;
  return [...useScreen.getState().show.faders.values()].find((f) => f.number === number);
}

/** So long a press lasts that is no key: a choice in the search for actions. */
const TAP_MS = 250;

/** What lies under a fader is pressed for as long as the key is down; it ends with the key, or where the window loses it. */
function faderKey(n: number, event: KeyboardEvent | undefined): void {
  const fader = faderAt(n);
  if (!fader || event?.repeat) return;
  const press = (on: boolean): void => void live({ command: 'flash', fader: fader.number, on });
  press(true);
  if (!event) {
    setTimeout(() => press(false), TAP_MS);
    return;
  }
  const lifted = (e: Event): void => {
    if (e instanceof KeyboardEvent && e.code !== event.code) return;
    window.removeEventListener('keyup', lifted, true);
    window.removeEventListener('blur', lifted);
    press(false);
  };
  window.addEventListener('keyup', lifted, true);
  window.addEventListener('blur', lifted);
}

function faderFull(n: number, event: KeyboardEvent | undefined): void {
  const fader = faderAt(n);
  if (!fader || event?.repeat) return;
  const { playback } = useScreen.getState();
  const level = (playback.faders.find((f) => f.id === fader.id)?.level ?? 0) > 0 ? 0 : 1;
  void live({ command: 'fader', fader: fader.number, level, take: true });
}

/** Aiming is done on the plan: the key leads there. */
function aim({ goTo }: KeyTools): void {
  goTo('stage');
  useStage.setState((s) => ({ view: s.view === '3d' ? '3d' : 'plan' }));
  setTool('aim');
}

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
  await api('/api/me/lock', { method: 'POST', body: '{}' }).catch((error: unknown) =>
    notice.error((error as Error).message),
  );
}

/** Fields that take no letters: keys mean there what they mean elsewhere. */
const NOT_TEXT = new Set(['range', 'checkbox', 'radio', 'button', 'file']);

/** Whether a key goes into text. */
export const inTextField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.isContentEditable ||
    ['TEXTAREA', 'SELECT'].includes(target.tagName) ||
    (target instanceof HTMLInputElement && !NOT_TEXT.has(target.type)));
