/**
 * The command line's grammar (docs/command-line.md). `readCommand` turns what is typed into an intent and a sentence
 * of what Enter will do, or into an error that points at the word. It does nothing itself.
 */
import { formatCueNumber } from '../cues/number.ts';
import type { CueRow } from '../cues/rows.ts';
import { cueAfter, cueBefore } from '../cues/tracking.ts';
import { plural } from '../words.ts';
import type { LiveCommand } from '../live/commands.ts';
import { fixturesOfLook } from '../looks/resolve.ts';
import { findAttribute } from '../rig/attributes.ts';
import { placing, track } from './along-time.ts';
import { LIMITS } from '../show/fields.ts';
import type { Intent } from './intent.ts';
import { aboutPlaying, cues, nothingToPlay, playedThing, say as sayCues } from './playing.ts';
import { patching, RIG_VERBS, rigVerb } from './rig.ts';
import { Complaint, Reader, type CommandContext } from './reader.ts';
import { PARTS, parts, sayChosen, selection, startsSelection } from './selection.ts';
import { FULL, percentage, setting } from './setting.ts';
import {
  aboutRow,
  familyNamed,
  keeping,
  lettingGo,
  recordingOther,
  stageVerb,
  taking,
} from './stage.ts';
import { SETTING_VERBS, splitWords, STAGE_VERBS, type Word } from './words.ts';

export type ReadCommand =
  | { ok: true; intent: Intent; says: string }
  | { ok: false; message: string; at: number; length: number }
  | { ok: false; empty: true; message: '' };

function recording(r: Reader, word: Word): { intent: Intent; says: string } {
  const { show, unrecorded } = r.context;
  const { list } = r;
  if (!list) throw new Complaint('This show has no cue list.', word);
  const update = word.key === 'update';
  if (update && r.takeKey('source')) return updatingSource(r, word);
  r.takeKey('cue');
  const on = r.onStage;
  let number: number;
  if (r.peek() && /^\d/.test(r.peek()?.text ?? '')) number = r.cueNumber();
  else if (update && on) number = on.number;
  else if (update)
    throw new Complaint(`No cue${r.ofList} is on stage: say which one to update.`, word);
  else number = (Math.floor((show.cuesOf(list.id).at(-1)?.number ?? 0) / 1000) + 1) * 1000;
  let name: string | undefined;
  let times: { up_s: number; down_s: number } | undefined;
  let mode: 'track' | 'only' = 'track';
  let how: 'merge' | 'over' | 'remove' = 'merge';
  while (!r.done) {
    const next = r.peek();
    if (next?.quoted) name = r.next()?.text;
    else if (r.takeKey('time', 'in')) times = r.upDown();
    else if (r.takeKey('only')) mode = 'only';
    else if (r.takeKey('track')) mode = 'track';
    else if (!update && r.takeKey('over')) how = 'over';
    else if (!update && r.takeKey('remove')) how = 'remove';
    else r.end();
  }
  const old = show.cuesOf(list.id).find((c) => c.number === number);
  if ((update || how === 'remove') && !old)
    throw new Complaint(
      `There is no cue ${formatCueNumber(number)}${r.ofList} to ${update ? 'update' : 'take these out of'}.`,
      word,
    );
  const into = `cue ${formatCueNumber(number)}${(name ?? old?.name) ? ` “${name ?? old?.name}”` : ''}${r.ofList}`;
  const before = cueBefore(show, list.id, number);
  const place = old
    ? 'changes'
    : cueAfter(show, list.id, number)
      ? before
        ? `new, after ${formatCueNumber(before.number)}`
        : 'new, at the start'
      : 'new, at the end';
  const what =
    unrecorded === 0 ? 'nothing is held: an empty cue that tracks' : plural(unrecorded, 'value');
  return {
    intent: {
      kind: 'record',
      listId: list.id,
      number,
      mode,
      existing: update ? 'must' : 'may',
      ...(how === 'merge' ? {} : { how }),
      ...(name === undefined ? {} : { name }),
      ...times,
    },
    says:
      how === 'remove'
        ? `${what} out of ${into}${mode === 'only' ? ' · this cue only' : ''}`
        : `${what} into ${into} · ${how === 'over' && old ? 'what it sets besides goes' : old && unrecorded === 0 ? 'only its name and times change' : place}${mode === 'only' ? ' · this cue only' : ''}`,
  };
}

/** `update source`: each value back to the cue or palette that it comes from. */
function updatingSource(r: Reader, word: Word): { intent: Intent; says: string } {
  const { unrecorded } = r.context;
  const on = r.onStage;
  if (!on) throw new Complaint(`No cue${r.ofList} is on stage: say which cue to update.`, word);
  r.end();
  return {
    intent: {
      kind: 'record-held',
      edit: 'update-source',
      params: { listId: on.listId, number: on.number },
    },
    says: `${plural(unrecorded, 'value')} back to where each was set: its cue${r.ofList} or its palette`,
  };
}

function cueById(r: Reader): { id: string; label: string } {
  const cue = r.cue();
  return {
    id: cue.id,
    label: `cue ${formatCueNumber(cue.number)}${cue.name ? ` “${cue.name}”` : ''}${r.ofList}`,
  };
}

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
function ofOneList(r: Reader): { intent: Intent; says: string } {
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

function statement(r: Reader): { intent: Intent; says: string } {
  const word = r.peek();
  if (!word) throw new Complaint('', undefined);
  const live = (command: LiveCommand, says: string): { intent: Intent; says: string } => {
    r.end();
    return { intent: { kind: 'live', command }, says };
  };
  if (r.takeList()) return ofOneList(r);
  const playing = aboutPlaying(r, word);
  if (playing) return playing;
  switch (word.key) {
    case 'record':
    case 'update':
      r.next();
      return (r.listSaid ? undefined : recordingOther(r, word)) ?? recording(r, word);
    case 'patch':
      // With fixtures selected, `patch 3.21` moves them; a quantity and a type make new ones.
      if (/^(\d+\.\d+|off|back|at|to)$/.test(r.peek(1)?.key ?? '')) return selectAndSet(r, word);
      r.next();
      return patching(r, word);
    case 'clear':
      r.next();
      return live({ command: 'clear' }, 'empty your programmer; playback takes over at once');
    case 'let':
    case 'letgo':
      r.next();
      return lettingGo(r);
    case 'keep':
      r.next();
      return keeping(r);
    case 'take':
      r.next();
      return taking(r);
    case 'bring':
      r.next();
      r.takeKey('back');
      return live(
        { command: 'bring-back' },
        'what you cleared or let go last comes back into your programmer',
      );
    case 'blind':
      r.next();
      return live(
        { command: 'blind', on: true },
        'go blind: what you set is held and does not show',
      );
    case 'live':
      r.next();
      return live({ command: 'blind', on: false }, 'go live: what you hold shows on stage');
    case 'highlight': {
      r.next();
      const off = r.takeKey('off') !== undefined;
      return live(
        { command: 'highlight', on: !off },
        off ? 'highlight off' : 'the selection at full in white, until highlight off',
      );
    }
    case 'next':
    case 'previous':
    case 'prev': {
      r.next();
      const by = word.key === 'next' ? 1 : -1;
      return live(
        { command: 'step', by },
        `select ${by === 1 ? 'the next' : 'the one before'} of the selection`,
      );
    }
    case 'whole':
      r.next();
      return live({ command: 'step', by: 0 }, 'select all of it again');
    case 'tempo': {
      r.next();
      const bpm = r.whole('a tempo in beats a minute');
      if (bpm < 10 || bpm > 600)
        throw new Complaint(
          `A tempo goes from 10 to 600 beats a minute; ${bpm} does not.`,
          r.previous(),
        );
      return live({ command: 'tempo', bpm }, `shared tempo ${bpm} beats a minute`);
    }
    case 'look':
      return wholeLook(r);
    case 'master':
    case 'grand': {
      r.next();
      r.takeKey('master');
      r.takeKey('at', '@');
      const value = percentage(r);
      return live({ command: 'master', level: value.level }, `grand master ${value.says}`);
    }
    case 'undo':
      r.next();
      r.end();
      return { intent: { kind: 'undo' }, says: 'undo your last edit' };
    case 'redo':
      r.next();
      r.end();
      return { intent: { kind: 'redo' }, says: 'make your undone edit again' };
    case 'delete': {
      r.next();
      const other = r.listSaid ? undefined : aboutRow(r, 'delete');
      if (other) return other;
      if (!r.takeKey('cue'))
        throw new Complaint('Say what to delete: delete cue 2.5', r.peek() ?? word);
      const cue = cueById(r);
      r.end();
      return {
        intent: { kind: 'edit', edit: 'delete-cue', params: { id: cue.id } },
        says: `delete ${cue.label} · what tracked from it goes into the next cue`,
      };
    }
    case 'name':
    case 'label':
      r.next();
      return (r.listSaid ? undefined : aboutRow(r, 'name')) ?? naming(r, word);
    case 'track':
      r.next();
      return track(r);
    case 'cue':
      r.next();
      return timing(r, word);
    default:
      return selectAndSet(r, word);
  }
}

/** `name cue 2.5 Bell`, `label cue 102 thru 104 "Storm #"`. */
function naming(r: Reader, word: Word): { intent: Intent; says: string } {
  const rows = cues(r);
  const name = r.rest();
  if (name === '') throw new Complaint('Here the name is missing.', r.previous());
  if (name.length > LIMITS.nameLength)
    throw new Complaint(
      `A name has at most ${LIMITS.nameLength} characters; this has ${name.length}.`,
      word,
    );
  return changingCues(r, rows, { name }, `become${rows.length === 1 ? 's' : ''} “${name}”`, ' ');
}

/** `cue 5 time 5/7`, `cue 102 thru 104 follow 3`. */
function timing(r: Reader, word: Word): { intent: Intent; says: string } {
  const rows = cues(r);
  const change = (set: Record<string, unknown>, says: string) => changingCues(r, rows, set, says);
  if (r.takeKey('follow')) {
    const follow_s = r.seconds();
    return change({ follow_s }, `the next cue follows ${follow_s} s after its GO`);
  }
  if (r.takeKey('after')) {
    const after_s = r.seconds();
    return change({ after_s }, `the next cue follows ${after_s} s after it has ended`);
  }
  if (r.takeKey('wait'))
    return change({ follow_s: null, after_s: null }, 'the next cue waits for GO');
  if (r.takeKey('delay')) {
    const delay_s = r.seconds();
    return change({ delay_s }, `begins ${delay_s} s after its GO`);
  }
  if (r.takeKey('at')) return placing(r, rows);
  if (!r.takeKey('time'))
    throw new Complaint(
      'Say what to change: cue 2.5 time 5/7, delay 2, follow 3, after 1, wait, or at 1:12 on its track',
      r.peek() ?? word,
    );
  const times = r.upDown();
  return change(times, `up ${times.up_s} s, down ${times.down_s} s`);
}

/** One cue, or many at once. */
function changingCues(
  r: Reader,
  rows: readonly CueRow[],
  set: Record<string, unknown>,
  says: string,
  between = ' · ',
): { intent: Intent; says: string } {
  r.end();
  const [first] = rows;
  const [edit, params] =
    rows.length === 1
      ? ['change-cue', { id: first?.id, set }]
      : ['change-cues', { ids: rows.map((c) => c.id), set }];
  const called =
    rows.length === 1 && first?.name
      ? `${sayCues(rows)} “${first.name}”${r.ofList}`
      : `${sayCues(rows)}${r.ofList}`;
  return { intent: { kind: 'edit', edit, params }, says: `${called}${between}${says}` };
}

/** `look 3`: all that it says, for all its fixtures. */
function wholeLook(r: Reader): { intent: Intent; says: string } {
  const { show } = r.context;
  r.next();
  const number = r.whole('a look number');
  const look = [...show.looks.values()].find((l) => l.number === number);
  if (!look) throw new Complaint(`There is no look ${number}.`, r.previous());
  const family = familyNamed(r.peek());
  if (family) r.next();
  const fade_s = r.takeKey('time', 'in') ? r.seconds() : undefined;
  r.end();
  return {
    intent: {
      kind: 'live',
      command: {
        command: 'look',
        look: look.id,
        ...(family ? { families: [family] } : {}),
        ...(fade_s === undefined ? {} : { fade_s }),
      },
    },
    says: `look ${number} “${look.name}”, ${plural(fixturesOfLook(show, look).length, 'fixture')}${family ? `, ${family} alone` : ''}${fade_s ? ` in ${fade_s} s` : ''} · into your programmer`,
  };
}

function selectAndSet(r: Reader, word: Word): { intent: Intent; says: string } {
  const starts = startsSelection(word);
  const takesPart = PARTS.has(word.key);
  const isSetting =
    STAGE_VERBS.has(word.key) ||
    ['at', '@', 'by', 'fan', 'time', 'delay'].includes(word.key) ||
    FULL[word.key] !== undefined ||
    findAttribute(word.text) !== undefined;
  if (!starts && !takesPart && !isSetting && !RIG_VERBS.has(word.key))
    throw new Complaint(
      `“${word.text}” is not understood. Begin with fixture numbers, or with a word such as record, go or patch.`,
      word,
    );
  const ids = starts ? selection(r) : parts(r, r.context.selection);
  const typed = starts || takesPart;
  const verb = r.peek()?.key ?? '';
  if (RIG_VERBS.has(verb)) return rigVerb(r, ids, selection);
  if (r.done) {
    if (!typed) throw new Complaint('Here a level is missing: a percentage, full or out.', word);
    return {
      intent: { kind: 'select-and-set', select: ids, command: null },
      says: sayChosen(r, ids),
    };
  }
  if (r.takeKey('play')) return playedThing(r, true, ids) ?? nothingToPlay(r);
  if (STAGE_VERBS.has(verb) && !SETS.has(verb)) return stageVerb(r, ids, typed);
  return settings(r, ids, typed);
}

/** Verbs of the picture that set something, of which a line may say several. */
const SETS: ReadonlySet<string> = new Set(SETTING_VERBS);

const setsSomething = (word: Word): boolean =>
  SETS.has(word.key) ||
  ['at', '@', 'by', 'fan'].includes(word.key) ||
  FULL[word.key] !== undefined ||
  (!word.quoted && findAttribute(word.text) !== undefined);

/** `1 thru 6 at full colour "Dusk" time 3`: one setting after the other; a time goes for what was said before it without one. */
function settings(r: Reader, ids: string[], typed: boolean): { intent: Intent; says: string } {
  r.goesOn = setsSomething;
  const commands: LiveCommand[] = [];
  const said: string[] = [];
  let into = false;
  do {
    const word = r.peek();
    const one = STAGE_VERBS.has(word?.key ?? '')
      ? asSet(stageVerb(r, ids, typed))
      : setting(r, ids, typed);
    const twice = one.command && commands.find((c) => sameThing(c, one.command));
    if (twice) throw new Complaint('This is said twice on one line.', word);
    commands.push(...(one.command ? [one.command] : []), ...one.then);
    into ||= one.says.endsWith(INTO_PROGRAMMER);
    said.push(one.says.replace(INTO_PROGRAMMER, ''));
  } while (!r.done);
  const timed = inOneTime(commands);
  const [command = null, ...then] = timed.commands;
  return {
    intent: {
      kind: 'select-and-set',
      select: ids,
      command,
      ...(then.length > 0 ? { then } : {}),
    },
    says: `${saidTogether(timed.says === '' ? said : said.map((x) => x.replace(timed.says, '')))}${timed.says === '' ? '' : `, all${timed.says}`}${into ? INTO_PROGRAMMER : ''}`,
  };
}

const INTO_PROGRAMMER = ' · into your programmer';

/** Who it is about is said once. */
function saidTogether([first = '', ...others]: readonly string[]): string {
  const who = first.slice(0, first.indexOf(' · ') + 3);
  return [first, ...others.map((o) => (o.startsWith(who) ? o.slice(who.length) : o))].join(', ');
}

function asSet(read: { intent: Intent; says: string }): {
  command: LiveCommand | null;
  then: LiveCommand[];
  says: string;
} {
  const { intent, says } = read;
  if (intent.kind !== 'select-and-set') throw new Error('not a setting');
  return { command: intent.command, then: intent.then ?? [], says };
}

const attributeOf = (c: LiveCommand): string | undefined =>
  'attribute' in c && typeof c.attribute === 'string' ? c.attribute : undefined;

const sameThing = (a: LiveCommand, b: LiveCommand | null): boolean =>
  b !== null && attributeOf(a) !== undefined && attributeOf(a) === attributeOf(b);

/** Commands of a line whose time was said once, at its end: it goes for all before it that have none. */
function inOneTime(commands: readonly LiveCommand[]): { commands: LiveCommand[]; says: string } {
  let fade_s: number | undefined;
  let shared = false;
  const timed = [...commands].reverse().map((command): LiveCommand => {
    if ('fade_s' in command && command.fade_s !== undefined) fade_s = command.fade_s;
    else if (fade_s !== undefined && command.command !== 'times') {
      shared = true;
      return { ...command, fade_s } as LiveCommand;
    }
    return command;
  });
  return { commands: timed.reverse(), says: shared ? ` in ${fade_s} s` : '' };
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
