/** Lines that begin with a selection, or go for the one there is: what is set of it, one after the other on a line. */
import type { LiveCommand } from '../live/commands.ts';
import { findAttribute } from '../rig/attributes.ts';
import type { Read } from './intent.ts';
import { nothingToPlay, playedThing } from './playing.ts';
import { Complaint, type Reader } from './reader.ts';
import { RIG_VERBS, rigVerb } from './rig.ts';
import { PARTS, parts, sayChosen, selection, startsSelection } from './selection.ts';
import { FULL, setting } from './setting.ts';
import { stageVerb } from './stage.ts';
import { SETTING_VERBS, STAGE_VERBS, type Word } from './words.ts';

/** `1 thru 8 at full`, `group 2 palette 3`, `101 patch 2.1`, `at 50` */
export function selectAndSet(r: Reader, word: Word): Read {
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
function settings(r: Reader, ids: string[], typed: boolean): Read {
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

function asSet(read: Read): {
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
