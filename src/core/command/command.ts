/**
 * The command line's grammar (docs/command-line.md). `readCommand` turns what is typed into an intent and a sentence
 * of what Enter will do, or into an error that points at the word. It does nothing itself.
 */
import { formatCueNumber } from '../cues/number.ts';
import { cueAfter, cueBefore } from '../cues/tracking.ts';
import { numberRanges, plural } from '../edits/edit.ts';
import type { LiveCommand } from '../live/messages.ts';
import { attributeInfo, findAttribute, spreadOverCells } from '../rig/attributes.ts';
import { reachOf } from '../palettes/resolve.ts';
import { modeOf } from '../rig/addresses.ts';
import { LIMITS, type FixtureRow } from '../show/rows.ts';
import { firstList, type Show } from '../show/show.ts';
import type { Intent } from './intent.ts';
import { patching, RIG_VERBS, rigVerb } from './rig.ts';
import { Complaint, Reader, SELECTION_END, THRU, type CommandContext } from './reader.ts';
import { splitWords, type Word } from './words.ts';

export type ReadCommand = { ok: true; intent: Intent; says: string } | { ok: false; message: string; at: number; length: number } | { ok: false; empty: true; message: '' };

const byNumber = (show: Show): FixtureRow[] => [...show.fixtures.values()].sort((a, b) => a.number - b.number);

/** `1 thru 8 + 12 - 3`, `group 2`, `all`: ids in the order they were named. */
function selection(r: Reader): string[] {
  const chosen = new Set<string>();
  const term = (): string[] => {
    if (r.takeKey('all')) return byNumber(r.context.show).map((f) => f.id);
    if (r.takeKey('group', 'g')) {
      const number = r.whole('a group number');
      const group = [...r.context.show.groups.values()].find((g) => g.number === number);
      if (!group) throw new Complaint(`There is no group ${number}.`, r.previous());
      return group.fixtures;
    }
    const first = r.fixture();
    const thru = r.peek();
    if (!thru || !THRU.has(thru.key)) return [first.id];
    r.next();
    const end = r.peek();
    if (!end || SELECTION_END.has(end.key)) throw new Complaint(`“${first.number} ${thru.text}” needs a last number.`, end ?? thru);
    const last = r.fixture();
    const [low, high] = first.number <= last.number ? [first.number, last.number] : [last.number, first.number];
    const range = byNumber(r.context.show).filter((f) => f.number >= low && f.number <= high);
    return (first.number <= last.number ? range : range.reverse()).map((f) => f.id);
  };
  for (const id of term()) chosen.add(id);
  for (;;) {
    if (r.takeKey('+', ',')) for (const id of term()) chosen.add(id);
    else if (r.takeKey('-')) for (const id of term()) chosen.delete(id);
    else break;
  }
  return [...chosen];
}

const FULL: Record<string, number> = { full: 1, fl: 1, out: 0 };

/** A level in the unit that people use for the attribute, as 0…1 of its range. */
function level(r: Reader, attribute: string, fixtures: readonly FixtureRow[]): { level: number; says: string } {
  const sign = r.takeKey('-');
  const word = r.next();
  const named = word ? FULL[word.key] : undefined;
  if (word && named !== undefined && !sign) return { level: named, says: named === 1 ? 'full' : 'out' };
  const info = attributeInfo(attribute);
  const number = word && /^\d+(\.\d+)?%?$/.test(word.text) ? Number.parseFloat(word.text) * (sign ? -1 : 1) : undefined;
  if (!word || number === undefined) throw new Complaint(word ? `“${word.text}” is not a level.` : 'Here a level is missing: a percentage, full or out.', word ?? r.previous());
  if (info.unit === '%') {
    if (number < 0 || number > 100) throw new Complaint(`A level goes from 0 to 100 %; ${number} does not.`, word);
    return { level: number / 100, says: `${number} %` };
  }
  const channel = fixtures.map((f) => modeOf(r.context.show, f)?.channels.find((c) => c.attribute === attribute)).find((c) => c);
  if (!channel) throw new Complaint(`None of these has ${info.label.toLowerCase()}.`, word);
  const low = Math.min(channel.physicalFrom, channel.physicalTo);
  const high = Math.max(channel.physicalFrom, channel.physicalTo);
  if (number < low || number > high) throw new Complaint(`${info.label} goes from ${low} to ${high} ${info.unit}; ${number} does not.`, word);
  return { level: (number - channel.physicalFrom) / (channel.physicalTo - channel.physicalFrom), says: `${number} ${info.unit}` };
}

/** `… at 70 time 4 delay 1`, `… pan at 30`: what is set on a selection. */
function setting(r: Reader, ids: readonly string[], typed: boolean): { command: LiveCommand; says: string } {
  const { show } = r.context;
  const fixtures = ids.flatMap((id) => show.fixtures.get(id) ?? []);
  if (fixtures.length === 0) throw new Complaint('Nothing is selected: begin with fixture numbers, such as 1 thru 8.', r.peek());
  let attribute = 'Dimmer';
  const word = r.peek();
  if (word && word.key !== 'at' && FULL[word.key] === undefined) {
    const found = findAttribute(word.text);
    if (!found) throw new Complaint(`“${word.text}” is not understood here; expected “at”, “time” or an attribute such as pan.`, word);
    attribute = found;
    r.next();
  }
  const at = r.takeKey('at', '@');
  const value = level(r, attribute, fixtures);
  void at;
  const able = fixtures.filter((f) => {
    const mode = modeOf(show, f);
    return mode !== undefined && spreadOverCells(mode, attribute).length > 0;
  });
  const label = attributeInfo(attribute).label.toLowerCase();
  if (able.length === 0) throw new Complaint(`None of these has ${label}.`, word);
  let fade_s = 0;
  let delay_s = 0;
  for (;;) {
    if (r.takeKey('time', 'in')) fade_s = r.seconds();
    else if (r.takeKey('delay')) delay_s = r.seconds();
    else break;
  }
  r.end();
  const some = able.length < fixtures.length ? ` (${fixtures.length - able.length} have none)` : '';
  const times = `${fade_s > 0 ? ` in ${fade_s} s` : ''}${delay_s > 0 ? ` after ${delay_s} s` : ''}`;
  const who = typed ? plural(able.length, 'fixture') : `the ${plural(able.length, 'selected fixture')}`;
  return {
    command: { command: 'set', fixtures: able.map((f) => f.number), attribute, level: value.level, ...(fade_s > 0 ? { fade_s } : {}), ...(delay_s > 0 ? { delay_s } : {}) },
    says: `${who} · ${label} ${value.says}${times}${some} · into your programmer`,
  };
}

function recording(r: Reader, word: Word): { intent: Intent; says: string } {
  const { show, cueId, unrecorded } = r.context;
  const list = firstList(show);
  if (!list) throw new Complaint('This show has no cue list.', word);
  const update = word.key === 'update';
  r.takeKey('cue');
  const on = cueId ? show.cues.get(cueId) : undefined;
  let number: number;
  if (r.peek() && /^\d/.test(r.peek()?.text ?? '')) number = r.cueNumber();
  else if (update && on) number = on.number;
  else if (update) throw new Complaint('No cue is on stage: say which one to update.', word);
  else number = (Math.floor((show.cuesOf(list.id).at(-1)?.number ?? 0) / 1000) + 1) * 1000;
  let name: string | undefined;
  let times: { up_s: number; down_s: number } | undefined;
  let mode: 'track' | 'only' = 'track';
  while (!r.done) {
    const next = r.peek();
    if (next?.quoted) name = r.next()?.text;
    else if (r.takeKey('time', 'in')) times = r.upDown();
    else if (r.takeKey('only')) mode = 'only';
    else if (r.takeKey('track')) mode = 'track';
    else r.end();
  }
  const old = show.cuesOf(list.id).find((c) => c.number === number);
  if (update && !old) throw new Complaint(`There is no cue ${formatCueNumber(number)} to update.`, word);
  const into = `cue ${formatCueNumber(number)}${(name ?? old?.name) ? ` “${name ?? old?.name}”` : ''}`;
  const place = old ? 'changes' : cueAfter(show, list.id, number) ? `new, after ${formatCueNumber(cueBefore(show, list.id, number)?.number ?? 0)}` : 'new, at the end';
  const what = unrecorded === 0 ? 'nothing is held: an empty cue that tracks' : plural(unrecorded, 'value');
  return {
    intent: { kind: 'record', number, mode, existing: update ? 'must' : 'may', ...(name === undefined ? {} : { name }), ...times },
    says: `${what} into ${into} · ${old && unrecorded === 0 ? 'only its name and times change' : place}${mode === 'only' ? ' · this cue only' : ''}`,
  };
}

function cueById(r: Reader): { id: string; label: string } {
  const list = firstList(r.context.show);
  const number = r.cueNumber();
  const cue = list ? r.context.show.cuesOf(list.id).find((c) => c.number === number) : undefined;
  if (!cue) throw new Complaint(`There is no cue ${formatCueNumber(number)}.`, r.previous());
  return { id: cue.id, label: `cue ${formatCueNumber(number)}${cue.name ? ` “${cue.name}”` : ''}` };
}

function statement(r: Reader): { intent: Intent; says: string } {
  const word = r.peek();
  if (!word) throw new Complaint('', undefined);
  const live = (command: LiveCommand, says: string): { intent: Intent; says: string } => {
    r.end();
    return { intent: { kind: 'live', command }, says };
  };
  switch (word.key) {
    case 'record':
    case 'update':
      r.next();
      return recording(r, word);
    case 'patch':
      // With fixtures selected, `patch 3.21` moves them; a quantity and a type make new ones.
      if (/^(\d+\.\d+|off|back|at|to)$/.test(r.peek(1)?.key ?? '')) return selectAndSet(r, word);
      r.next();
      return patching(r, word);
    case 'go':
      r.next();
      if (!r.takeKey('to')) return live({ command: 'go' }, 'GO: the next cue');
      r.takeKey('cue');
      return goTo(r);
    case 'goto':
      r.next();
      r.takeKey('cue');
      return goTo(r);
    case 'back':
      r.next();
      return live({ command: 'back' }, 'back to the cue before');
    case 'pause':
      r.next();
      return live({ command: 'pause' }, 'pause the running fades, or go on');
    case 'clear':
      r.next();
      return live({ command: 'clear' }, 'empty your programmer; playback takes over at once');
    case 'let':
    case 'letgo': {
      r.next();
      r.takeKey('go');
      const fade_s = r.takeKey('time', 'in') ? r.seconds() : 2;
      return live({ command: 'letgo', fade_s }, `your values fade back to playback in ${fade_s} s`);
    }
    case 'master':
    case 'grand': {
      r.next();
      r.takeKey('master');
      r.takeKey('at', '@');
      const value = level(r, 'Dimmer', []);
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
      if (!r.takeKey('cue')) throw new Complaint('Say what to delete: delete cue 2.5', r.peek() ?? word);
      const cue = cueById(r);
      r.end();
      return { intent: { kind: 'edit', edit: 'delete-cue', params: { id: cue.id } }, says: `delete ${cue.label} · what tracked from it goes into the next cue` };
    }
    case 'name': {
      r.next();
      r.takeKey('cue');
      const cue = cueById(r);
      const name = r.rest();
      if (name === '') throw new Complaint('Here the name is missing.', r.previous());
      if (name.length > LIMITS.nameLength) throw new Complaint(`A name has at most ${LIMITS.nameLength} characters; this has ${name.length}.`, word);
      return { intent: { kind: 'edit', edit: 'change-cue', params: { id: cue.id, set: { name } } }, says: `${cue.label} becomes “${name}”` };
    }
    case 'cue': {
      r.next();
      const cue = cueById(r);
      if (!r.takeKey('time')) throw new Complaint('Say what to change: cue 2.5 time 5/7', r.peek() ?? word);
      const times = r.upDown();
      r.end();
      return { intent: { kind: 'edit', edit: 'change-cue', params: { id: cue.id, set: times } }, says: `${cue.label} · up ${times.up_s} s, down ${times.down_s} s` };
    }
    default:
      return selectAndSet(r, word);
  }
}

function goTo(r: Reader): { intent: Intent; says: string } {
  const number = r.cueNumber();
  const list = firstList(r.context.show);
  const cue = list ? r.context.show.cuesOf(list.id).find((c) => c.number === number) : undefined;
  if (!cue) throw new Complaint(`There is no cue ${formatCueNumber(number)}.`, r.previous());
  const time = r.takeKey('time', 'in') ? r.seconds() : undefined;
  r.end();
  const label = formatCueNumber(number);
  return {
    intent: { kind: 'live', command: { command: 'goto', cue: label, ...(time === undefined ? {} : { time }) } },
    says: `go to cue ${label}${cue.name ? ` “${cue.name}”` : ''}${time === undefined ? ' in its own time' : time === 0 ? ', cut' : ` in ${time} s`} · all that it shows`,
  };
}

/** `1 thru 8 palette 3` */
function palette(r: Reader, ids: readonly string[]): { intent: Intent; says: string } {
  const { show } = r.context;
  const number = r.whole('a palette number');
  const found = [...show.palettes.values()].find((p) => p.number === number);
  if (!found) throw new Complaint(`There is no palette ${number}.`, r.previous());
  const fixtures = ids.flatMap((id) => show.fixtures.get(id) ?? []);
  if (fixtures.length === 0) throw new Complaint('Nothing is selected: begin with fixture numbers, such as 1 thru 8.', r.previous());
  const fade_s = r.takeKey('time', 'in') ? r.seconds() : 0;
  r.end();
  const reached = fixtures.filter((f) => reachOf(show, found, f).size > 0);
  if (reached.length === 0) throw new Complaint(`Palette ${number} “${found.name}” says nothing for ${numberRanges(fixtures.map((f) => f.number))}.`, r.previous());
  const some = reached.length < fixtures.length ? ` (it does not reach ${numberRanges(fixtures.filter((f) => !reached.includes(f)).map((f) => f.number))})` : '';
  const command: LiveCommand = { command: 'palette', palette: found.id, fixtures: fixtures.map((f) => f.number), ...(fade_s > 0 ? { fade_s } : {}) };
  return { intent: { kind: 'select-and-set', select: [...ids], command }, says: `${plural(reached.length, 'fixture')} · ${found.family} as palette ${number} “${found.name}”${fade_s > 0 ? ` in ${fade_s} s` : ''}${some} · into your programmer` };
}

function selectAndSet(r: Reader, word: Word): { intent: Intent; says: string } {
  const startsSelection = /^\d/.test(word.text) || word.key === 'all' || word.key === 'group' || word.key === 'g';
  const isSetting = word.key === 'palette' || word.key === 'at' || word.key === '@' || FULL[word.key] !== undefined || findAttribute(word.text) !== undefined;
  if (!startsSelection && !isSetting && !RIG_VERBS.has(word.key)) throw new Complaint(`“${word.text}” is not understood. Begin with fixture numbers, or with a word such as record, go or patch.`, word);
  const ids = startsSelection ? selection(r) : [...r.context.selection];
  if (RIG_VERBS.has(r.peek()?.key ?? '')) return rigVerb(r, ids, selection);
  if (r.done) {
    const numbers = ids.flatMap((id) => r.context.show.fixtures.get(id)?.number ?? []);
    if (!startsSelection) throw new Complaint('Here a level is missing: a percentage, full or out.', word);
    return { intent: { kind: 'select-and-set', select: ids, command: null }, says: ids.length === 0 ? 'select nothing' : `select ${plural(ids.length, 'fixture')}, ${numberRanges(numbers)}` };
  }
  if (r.takeKey('palette')) return palette(r, ids);
  const set = setting(r, ids, startsSelection);
  return { intent: { kind: 'select-and-set', select: ids, command: set.command }, says: set.says };
}

/** Reads a line. Never throws for what a person can type. */
export function readCommand(text: string, context: CommandContext): ReadCommand {
  if (text.trim() === '') return { ok: false, empty: true, message: '' };
  if (text.length > 2000) return { ok: false, message: 'A command has at most 2000 characters.', at: 0, length: text.length };
  const reader = new Reader(splitWords(text), context, text);
  try {
    return { ok: true, ...statement(reader) };
  } catch (error) {
    if (!(error instanceof Complaint)) throw error;
    const at = error.word?.at ?? text.length;
    return { ok: false, message: error.message, at, length: Math.max(1, error.word?.text.length ?? 1) };
  }
}
