/**
 * The command line's grammar (docs/command-line.md). `readCommand` turns what is typed into an intent and a sentence
 * of what Enter will do, or into an error that points at the word. It does nothing itself.
 */
import type { LiveCommand } from '../live/commands.ts';
import { fixturesOfLook } from '../looks/resolve.ts';
import { plural } from '../words.ts';
import { track } from './along-time.ts';
import { deleting, naming, recording, timing } from './cue-lines.ts';
import type { Read } from './intent.ts';
import { aboutPlaying } from './playing.ts';
import { Complaint, Reader, type CommandContext } from './reader.ts';
import { patching } from './rig.ts';
import { aboutRow, recordingHeld } from './of-rows.ts';
import { family, live, named, ofFamily, seconds, timed } from './said.ts';
import { selectAndSet } from './select-and-set.ts';
import { percentage } from './setting.ts';
import { stageVerb } from './stage.ts';
import { keeping, lettingGo, taking } from './taking.ts';
import { splitWords, type Word } from './words.ts';

/** A line that was understood, one that was not, with where it went wrong, or none at all. */
export type ReadCommand =
  | ({ ok: true } & Read)
  | { ok: false; message: string; at: number; length: number }
  | { ok: false; empty: true; message: '' };

/** What may be said of a list that the line begins with: all that plays, and all that is about cues. */
const OF_A_LIST = new Set([
  'go',
  'goto',
  'back',
  'pause',
  'cut',
  'arm',
  'rate',
  'chase',
  'master',
  'release',
  'record',
  'update',
  'insert',
  'make',
  'move',
  'copy',
  'renumber',
  'join',
  'block',
  'unblock',
  'delete',
  'name',
  'cue',
  'label',
  'take',
  'track',
]);

/** `list 2 go`, `list "Lanterns" record cue 5`. */
function ofOneList(r: Reader): Read {
  const verb = r.peek();
  const known =
    verb &&
    OF_A_LIST.has(verb.key) &&
    (verb.key !== 'copy' || /^cues?$/.test(r.peek(1)?.key ?? ''));
  if (!known)
    throw new Complaint(
      'Say what to do in this list: go, goto 5, cut, arm 7, rate 150, master at 80, release, record cue 5, insert, move, name cue 5 …',
      verb ?? r.previous(),
    );
  return statement(r);
}

type Statement = (r: Reader, word: Word) => Read;

/** What is live, and takes no more words. */
const alone =
  (command: LiveCommand, says: string): Statement =>
  (r) =>
    live(r, command, says);

/** Rows of their own come before cues; of a list that is named there are only cues. */
const record: Statement = (r, word) => {
  if (r.listSaid) return recording(r, word);
  const held = recordingHeld(r, word);
  if (held) return held;
  if (r.peek()?.key !== 'group') return recording(r, word);
  // One word back: a group is recorded of the selection, as `1 thru 8 record group 5` does.
  r.backTo(word);
  return stageVerb(r, r.context.selection, false);
};

const highlight: Statement = (r) => {
  const isOn = r.takeKey('off') === undefined;
  const says = isOn ? 'the selection at full in white, until highlight off' : 'highlight off';
  return live(r, { command: 'highlight', on: isOn }, says);
};

const tempo: Statement = (r) => {
  const bpm = r.whole('a tempo in beats a minute');
  if (bpm < 10 || bpm > 600)
    throw new Complaint(
      `A tempo goes from 10 to 600 beats a minute; ${bpm} does not.`,
      r.previous(),
    );
  return live(r, { command: 'tempo', bpm }, `shared tempo ${bpm} beats a minute`);
};

const grandMaster: Statement = (r) => {
  r.takeKey('master');
  r.takeKey('at', '@');
  const value = percentage(r);
  return live(r, { command: 'master', level: value.level }, `grand master ${value.says}`);
};

const bringBack: Statement = (r) => {
  r.takeKey('back');
  return live(
    r,
    { command: 'bring-back' },
    'what you cleared or let go last comes back into your programmer',
  );
};

const own =
  (kind: 'undo' | 'redo', says: string): Statement =>
  (r) => {
    r.end();
    return { intent: { kind }, says };
  };

/** `look 3`: all that it says, for all its fixtures. */
const wholeLook: Statement = (r) => {
  const { show } = r.context;
  const row = named(r, show.looks.values(), 'a look');
  const of = family(r);
  const fade_s = seconds(r);
  return live(
    r,
    { command: 'look', look: row.id, ...ofFamily(of), ...timed(fade_s) },
    `look ${row.number} “${row.name}”, ${plural(fixturesOfLook(show, row).length, 'fixture')}${of ? `, ${of} alone` : ''}${fade_s ? ` in ${fade_s} s` : ''} · into your programmer`,
  );
};

/** Lines by the word that they begin with; it is read already. Whatever is not here begins with a selection. */
const STATEMENTS: ReadonlyMap<string, Statement> = new Map<string, Statement>([
  ['record', record],
  ['update', record],
  ['patch', patching],
  ['clear', alone({ command: 'clear' }, 'empty your programmer; playback takes over at once')],
  ['let', (r) => lettingGo(r)],
  ['letgo', (r) => lettingGo(r)],
  ['keep', keeping],
  ['take', (r) => taking(r)],
  ['bring', bringBack],
  [
    'blind',
    alone({ command: 'blind', on: true }, 'go blind: what you set is held and does not show'),
  ],
  ['live', alone({ command: 'blind', on: false }, 'go live: what you hold shows on stage')],
  ['highlight', highlight],
  ['next', alone({ command: 'step', by: 1 }, 'select the next of the selection')],
  ['previous', alone({ command: 'step', by: -1 }, 'select the one before of the selection')],
  ['prev', alone({ command: 'step', by: -1 }, 'select the one before of the selection')],
  ['whole', alone({ command: 'step', by: 0 }, 'select all of it again')],
  ['tempo', tempo],
  ['look', wholeLook],
  ['master', grandMaster],
  ['grand', grandMaster],
  ['undo', own('undo', 'undo your last edit')],
  ['redo', own('redo', 'make your undone edit again')],
  ['delete', (r, word) => (r.listSaid ? undefined : aboutRow(r, 'delete')) ?? deleting(r, word)],
  ['name', (r, word) => (r.listSaid ? undefined : aboutRow(r, 'name')) ?? naming(r, word)],
  ['label', (r, word) => (r.listSaid ? undefined : aboutRow(r, 'name')) ?? naming(r, word)],
  ['track', track],
  ['cue', timing],
]);

/** With fixtures selected, `patch 3.21` moves them; a quantity and a type make new ones. */
const movesSelection = (r: Reader, word: Word): boolean =>
  word.key === 'patch' && /^(\d+\.\d+|off|back|at|to)$/.test(r.peek(1)?.key ?? '');

function statement(r: Reader): Read {
  const word = r.peek();
  if (!word) throw new Complaint('', undefined);
  if (r.takeList()) return ofOneList(r);
  const playing = aboutPlaying(r, word);
  if (playing) return playing;
  const begins = STATEMENTS.get(word.key);
  if (!begins || movesSelection(r, word)) return selectAndSet(r, word);
  r.next();
  return begins(r, word);
}

/** Reads a line. Never throws for what a person can type. */
export function readCommand(text: string, context: CommandContext): ReadCommand {
  if (text.trim() === '') return { ok: false, empty: true, message: '' };
  if (text.length > 2000)
    return {
      ok: false,
      message: 'A command has at most 2000 characters.',
      at: 0,
      length: text.length,
    };
  const reader = new Reader(splitWords(text), context, text);
  try {
    return { ok: true, ...statement(reader) };
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    const at = error.word?.at ?? text.length;
    return {
      ok: false,
      message: error.message,
      at,
      length: Math.max(1, error.word?.text.length ?? 1),
    };
  }
}
