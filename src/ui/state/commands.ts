/** Live commands of this screen: with a word on what is refused, and what is filtered left out. */
import type { LiveCommand } from '@/core/live/commands';
import { filtered } from './filter';
import { send } from './link';
import type { Reply } from './live';
import { notice } from './messages';
import { useScreen } from './store';
import { noteTaken } from './taken';

/** Sends a live command; whoever asks says what comes of it. */
export function ask(command: LiveCommand): Promise<Reply> {
  const passed = filtered(command);
  if ('stopped' in passed)
    return Promise.resolve({ ok: false, code: 'filter', message: passed.stopped });
  return send(passed.command);
}

/** Sends a live command; a refusal is said, and so is what whoever gave it should know at once. */
export async function live(command: LiveCommand): Promise<Reply> {
  const reply = await ask(command);
  if (!reply.ok) notice.error(reply.message, { id: `live-${reply.code}` });
  else {
    noteTaken(command);
    if (reply.warning) notice.warning(reply.warning, { id: 'live-warning', duration: 6000 });
  }
  return reply;
}

/** What these did is seen on the spine. */
const PLAYS = new Set<LiveCommand['command']>(['go', 'goto', 'back', 'pause', 'blind']);
/** The same; what the player has to say about it is said too: who could not follow, what came back. */
export async function said(command: LiveCommand): Promise<Reply> {
  const reply = await live(command);
  if (reply.ok && reply.message && !PLAYS.has(command.command))
    notice(reply.message, { id: `said-${command.command}` });
  return reply;
}

/** The selection shows at once here, and is kept by the player. */
export function select(fixtures: readonly string[]): void {
  useScreen.setState({ selection: fixtures });
  void live({ command: 'select', fixtures: [...fixtures] });
}

/** Takes a fixture into the selection, or out of it. */
export function toggleSelected(id: string): void {
  const { selection } = useScreen.getState();
  select(selection.includes(id) ? selection.filter((s) => s !== id) : [...selection, id]);
}

/** A command that is given again and again while a control is dragged: at most one a frame, and the last one always. */
const waiting = new Map<string, LiveCommand>();
let frame = 0;
/** A command that follows a hand: of many in a frame the last is sent. */
export function streamCommand(key: string, command: LiveCommand): void {
  waiting.set(key, command);
  if (frame !== 0) return;
  const flush = (): void => {
    frame = 0;
    const batch = [...waiting.values()];
    waiting.clear();
    for (const c of batch) void live(c);
    if (batch.length > 0) frame = requestAnimationFrame(flush);
  };
  flush();
}
