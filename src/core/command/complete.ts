/** What a line can go on with: words that begin as the last one does and that the line would understand there. */
import { attributeInfo, KNOWN_ATTRIBUTES } from '../rig/attributes.ts';
import { readCommand } from './command.ts';
import type { CommandContext } from './reader.ts';

const WORDS = [
  'all',
  'group',
  'type',
  'with',
  'lit',
  'lights',
  'on',
  'could',
  'in',
  'thru',
  'odd',
  'even',
  'every',
  'first',
  'second',
  'reverse',
  'pairs',
  'across',
  'shuffle',
  'invert',
  'none',
  'next',
  'previous',
  'whole',
  'at',
  'full',
  'out',
  'by',
  'fan',
  'from',
  'middle',
  'last',
  'mirrored',
  'together',
  'again',
  'curve',
  'time',
  'delay',
  'palette',
  'look',
  'effect',
  'off',
  'colour',
  'white',
  'hue',
  'sat',
  'aim',
  'flip',
  'home',
  'like',
  'take',
  'cue',
  'let',
  'go',
  'keep',
  'clear',
  'bring',
  'back',
  'blind',
  'live',
  'highlight',
  'record',
  'update',
  'delete',
  'name',
  'label',
  'for',
  'any',
  'undo',
  'redo',
  'goto',
  'pause',
  'master',
  'tempo',
  'list',
  'fader',
  'sub',
  'release',
  'play',
  'everything',
  'cut',
  'arm',
  'rate',
  'chase',
  'rounds',
  'insert',
  'make',
  'move',
  'renumber',
  'join',
  'block',
  'unblock',
  'after',
  'before',
  'follow',
  'track',
  'bar',
  'mark',
  'wait',
  'over',
  'remove',
  'source',
  'only',
  'hold',
  'guard',
  'patch',
  'number',
  'copy',
  'park',
  'place',
  'hang',
  'rotate',
  'lean',
  'align',
  'distribute',
  'intensity',
  'position',
  'beam',
  'control',
] as const;
const KEPT = 12;

/** Names are offered as they are typed: in quotes. */
function vocabulary({ show }: CommandContext): string[] {
  const quoted = (rows: Iterable<{ name: string }>): string[] =>
    [...rows].flatMap((r) => (r.name === '' ? [] : [`"${r.name}"`]));
  return [
    ...WORDS,
    ...KNOWN_ATTRIBUTES.map((a) => attributeInfo(a).label.toLowerCase()).filter(
      (l) => !l.includes(' '),
    ),
    ...quoted(show.groups.values()),
    ...quoted(show.lists.values()),
    ...quoted(show.looks.values()),
    ...quoted(show.effects.values()),
    ...quoted(show.palettes.values()),
    ...quoted(show.pieces.values()),
  ];
}

/** @returns whole lines, each with its last word completed, and what that word is */
export function completions(
  text: string,
  context: CommandContext,
): { line: string; word: string }[] {
  const start = /(?:^|\s)("[^"]*|\S*)$/.exec(text);
  const begun = start?.[1] ?? '';
  const before = text.slice(0, text.length - begun.length);
  const wanted = begun.toLowerCase().replace(/^"/, '');
  if (before.trim() === '' && wanted === '') return [];
  const found: { line: string; word: string }[] = [];
  for (const word of new Set(vocabulary(context))) {
    const bare = word.toLowerCase().replace(/"/g, '');
    if (
      !bare.startsWith(wanted) ||
      bare === wanted ||
      (begun.startsWith('"') && !word.startsWith('"'))
    )
      continue;
    const line = `${before}${word}`;
    const read = readCommand(line, context);
    // Understood so far: nothing wrong, or something missing after the word.
    const understood =
      read.ok ||
      ('at' in read &&
        (read.at >= line.length ||
          (read.at >= before.length &&
            /missing|say|needs|what|whom|which|expected/i.test(read.message))));
    if (understood) found.push({ line: `${line} `, word });
    if (found.length === KEPT) break;
  }
  return found;
}
