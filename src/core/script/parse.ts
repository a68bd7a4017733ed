/**
 * A script's text read as blocks: acts, scenes, speakers, lines, actions, items of an order of service. Blocks keep
 * their places in the text, so that a call on a word is a place in the text and nothing else.
 */
import { seconds } from '../cues/clock.ts';
import type { ScriptRow } from './rows.ts';

/** What a block of a script is. */
export type BlockKind = 'act' | 'scene' | 'speaker' | 'line' | 'lyric' | 'action' | 'item';
/** A piece of a script that is set as one. */
export interface Block {
  kind: BlockKind;
  /** What is shown is `text.slice(from, to)`. */
  from: number;
  to: number;
  /** Of the script, from 1. */
  page: number;
  /** Items of an order of service. */
  leader?: string;
  duration_s?: number;
}

/** Lines on a page where the script has no page marks of its own. */
const LINES_A_PAGE = 42;

interface Line {
  from: number;
  to: number;
  text: string;
}

function linesOf(text: string): Line[] {
  const lines: Line[] = [];
  let from = 0;
  for (const raw of text.split('\n')) {
    // Not by patterns: those take a run of spaces within a line for an end again and again (linear.test.ts).
    const trimmed = raw.trimStart();
    const start = from + raw.length - trimmed.length;
    const shown = trimmed.trimEnd();
    lines.push({ from: start, to: start + shown.length, text: shown });
    from += raw.length + 1;
  }
  return lines;
}

const ACT =
  /^(?:(?:act|part)\s+(?:\d+|[ivxlc]+|one|two|three|four|five)\b.*|prologue|epilogue|interval)$/i;
const SCENE =
  /^(?:scene\s+\S.*|(?:int|ext|est|int\.?\/ext|i\/e)[. ].+|song\s+\d+.*|no\.?\s*\d+\b.*)$/i;
const PAGE =
  /^(?:\f.*|(?:[-–—]\s*)?(?:page|p\.)\s*(\d{1,4})(?:\s*[-–—])?|[-–—]\s*(\d{1,4})\s*[-–—]|\[(?:page|p\.?)\s*(\d{1,4})\])$/i;
const IN_BRACKETS = /^[([].*[)\]][.,]?$/;
const isName = (text: string): boolean =>
  text.length <= 40 &&
  /\p{Lu}/u.test(text) &&
  text === text.toLocaleUpperCase() &&
  !/[.!?…]$/.test(text.replace(/\(.*\)$/, '').trim()) &&
  /^[\p{L}\d]/u.test(text);

type Read = Pick<Block, 'kind'> & {
  skip?: number;
  cut?: number;
  leader?: string;
  duration_s?: number;
};

function readPlain(line: Line, before: Line | undefined, after: Line | undefined): Read {
  if (ACT.test(line.text)) return { kind: 'act' };
  if (SCENE.test(line.text)) return { kind: 'scene' };
  if (IN_BRACKETS.test(line.text)) return { kind: 'action' };
  if (
    isName(line.text) &&
    after !== undefined &&
    after.text !== '' &&
    (before === undefined || before.text === '')
  )
    return { kind: 'speaker' };
  return { kind: 'line' };
}

/** Marks at the start and end of a line that are not shown. */
function readMarkdown(line: Line, before: Line | undefined, after: Line | undefined): Read {
  const heading = /^(#{1,6})\s+/.exec(line.text);
  if (heading)
    return { kind: (heading[1]?.length ?? 1) === 1 ? 'act' : 'scene', skip: heading[0].length };
  const bold = /^\*\*([^*]+?):?\*\*:?$/.exec(line.text);
  if (bold) return { kind: 'speaker', skip: 2, cut: line.text.length - 2 - (bold[1]?.length ?? 0) };
  const quote = /^>\s*/.exec(line.text);
  if (quote) return { kind: 'action', skip: quote[0].length };
  const italic = /^[*_]([^*_].*[^*_])[*_]$/.exec(line.text);
  if (italic) return { kind: 'action', skip: 1, cut: 1 };
  return readPlain(line, before, after);
}

/** Fountain's elements as fountain.io describes them, as far as a stage script has them. */
function readFountain(
  line: Line,
  before: Line | undefined,
  after: Line | undefined,
  inSpeech: boolean,
): Read {
  const section = /^(#{1,6})\s*/.exec(line.text);
  if (section)
    return { kind: (section[1]?.length ?? 1) === 1 ? 'act' : 'scene', skip: section[0].length };
  if (/^\.[^.]/.test(line.text)) return { kind: 'scene', skip: 1 };
  if (SCENE.test(line.text)) return { kind: 'scene' };
  if (line.text.startsWith('@')) return { kind: 'speaker', skip: 1 };
  if (line.text.startsWith('~'))
    return { kind: 'lyric', skip: 1 + (/^~\s*/.exec(line.text)?.[0].length ?? 1) - 1 };
  if (line.text.startsWith('!')) return { kind: 'action', skip: 1 };
  if (/^>.*<$/.test(line.text))
    return { kind: ACT.test(line.text.slice(1, -1).trim()) ? 'act' : 'action', skip: 1, cut: 1 };
  if (line.text.startsWith('>')) return { kind: 'action', skip: 1 };
  if (ACT.test(line.text)) return { kind: 'act' };
  if (IN_BRACKETS.test(line.text)) return { kind: 'action' };
  if (
    isName(line.text) &&
    after !== undefined &&
    after.text !== '' &&
    (before === undefined || before.text === '')
  )
    return { kind: 'speaker' };
  return { kind: inSpeech ? 'line' : 'action' };
}

/** `Title | leader | 4:30`. */
function readItem(line: Line): Read {
  const [title = '', leader = '', time = ''] = line.text.split('|').map((s) => s.trim());
  if (/^#+\s/.test(title))
    return { kind: 'scene', skip: title.length - title.replace(/^#+\s+/, '').length };
  const duration_s = seconds(time);
  return {
    kind: 'item',
    cut: line.text.length - title.length,
    ...(leader === '' ? {} : { leader }),
    ...(duration_s === undefined ? {} : { duration_s }),
  };
}

const READERS: Readonly<
  Record<
    ScriptRow['format'],
    (line: Line, before: Line | undefined, after: Line | undefined, inSpeech: boolean) => Read
  >
> = { plain: readPlain, markdown: readMarkdown, fountain: readFountain, order: readItem };

/** What is not part of the play: notes and cuts of Fountain become blanks of the same length, so that places stay. */
const blank = (text: string): string => text.replace(/[^\n]/g, ' ');
const NOTES = [
  ['/*', '*/'],
  ['[[', ']]'],
] as const;
function withoutNotes(text: string): string {
  let out = '';
  let at = 0;
  // Where each kind begins next; one whose end is nowhere is looked for no more.
  const next = NOTES.map(([open]) => text.indexOf(open));
  for (;;) {
    const which = next[0] !== -1 && (next[1] === -1 || (next[0] ?? 0) < (next[1] ?? 0)) ? 0 : 1;
    const from = next[which] ?? -1;
    if (from === -1) return out + text.slice(at);
    const [, close] = NOTES[which];
    const end = text.indexOf(close, from + 2);
    if (end === -1) {
      next[which] = -1;
      continue;
    }
    out += text.slice(at, from) + blank(text.slice(from, end + 2));
    at = end + 2;
    NOTES.forEach(([open], i) => {
      const known = next[i] ?? -1;
      if (known !== -1 && known < at) next[i] = text.indexOf(open, at);
    });
  }
}

function titlePageEnd(text: string): number {
  return /^(?:title|credit|author|authors|source|draft date|contact|copyright)\s*:/i.test(text)
    ? Math.max(0, text.search(/\n\s*\n/))
    : 0;
}

/** Reads a script. Never fails: what is not understood is a line. */
export function parseScript(text: string, format: ScriptRow['format']): Block[] {
  const source = format === 'fountain' ? withoutNotes(text) : text;
  const start = format === 'fountain' ? titlePageEnd(source) : 0;
  const lines = linesOf(source);
  const hasPages = lines.some(
    (l) =>
      PAGE.test(l.text) ||
      l.text.includes('\f') ||
      (format === 'fountain' && /^={3,}$/.test(l.text)),
  );
  const blocks: Block[] = [];
  let page = 1;
  let counted = 0;
  let inSpeech = false;
  lines.forEach((line, i) => {
    if (line.from < start && start > 0) return;
    const mark = PAGE.exec(line.text);
    if (format === 'fountain' && /^={3,}$/.test(line.text)) {
      page++;
      return;
    }
    if (mark) {
      page = Number(mark[1] ?? mark[2] ?? mark[3] ?? page + 1);
      return;
    }
    if (!hasPages && ++counted > LINES_A_PAGE) {
      page++;
      counted = 1;
    }
    if (line.text === '' || /^[-*_]{3,}$/.test(line.text)) {
      inSpeech = false;
      return;
    }
    const [before, after] = [lines[i - 1], lines[i + 1]];
    const read = READERS[format](line, before, after, inSpeech);
    inSpeech =
      read.kind === 'speaker' || (inSpeech && read.kind !== 'act' && read.kind !== 'scene');
    const from = line.from + (read.skip ?? 0);
    const to = line.to - (read.cut ?? 0);
    if (to > from)
      blocks.push({
        kind: read.kind,
        from,
        to,
        page,
        ...(read.leader === undefined ? {} : { leader: read.leader }),
        ...(read.duration_s === undefined ? {} : { duration_s: read.duration_s }),
      });
  });
  return blocks;
}

const kept = new WeakMap<ScriptRow, Block[]>();
/** The blocks of a script, read once for each of its drafts. */
export function blocksOf(script: ScriptRow): Block[] {
  const known = kept.get(script);
  if (known) return known;
  const blocks = parseScript(script.text, script.format);
  kept.set(script, blocks);
  return blocks;
}

/** Act and scene that a place of the text lies in. */
export function sectionAt(
  script: ScriptRow,
  at: number,
): { act: string; scene: string; page: number } {
  let act = '';
  let scene = '';
  let page = 1;
  for (const b of blocksOf(script)) {
    if (b.from > at) break;
    page = b.page;
    if (b.kind === 'act') {
      act = script.text.slice(b.from, b.to);
      scene = '';
    } else if (b.kind === 'scene') scene = script.text.slice(b.from, b.to);
  }
  return { act, scene, page };
}

/** A cue that the script itself names: `[LX 12 Quay at dusk]`. */
export interface Flag {
  /** Thousandths. */
  number: number;
  name: string;
  /** The word after it, on which it is called. */
  from: number;
  to: number;
}
const FLAG = /\[(?:LX|LIGHTS?|Q)\s*(\d{1,5})(?:\.(\d{1,3}))?(?:[:\s]+([^\]\n]{1,80}))?\]/gi;

/** Cues that a script names in its text, as `[LX 12: Bell]`. */
export function flagsIn(text: string): Flag[] {
  return [...text.matchAll(FLAG)].flatMap((m) => {
    const number = Number(m[1]) * 1000 + Number((m[2] ?? '').padEnd(3, '0'));
    const end = m.index + m[0].length;
    const word = /[\p{L}\p{N}][^\s[\]]*/u.exec(text.slice(end, end + 400));
    const from = word ? end + word.index : m.index;
    return number === 0
      ? []
      : [{ number, name: (m[3] ?? '').trim(), from, to: word ? from + word[0].length : end }];
  });
}
