/**
 * Every reader of text takes time in line with the length of the text: fed with long runs of every kind of character,
 * and with what their patterns look for, over and over. One that goes over its text again and again takes minutes for
 * these, and the test ends before.
 */
import { completions } from './command/complete.ts';
import { readCommand } from './command/command.ts';
import type { CommandContext } from './command/reader.ts';
import { readCell } from './cues/cell-text.ts';
import { seconds, timeProblem } from './cues/clock.ts';
import { parseCueNumber } from './cues/number.ts';
import { readCueLines } from './formats/cues-csv.ts';
import { checkImport, guessMapping, mapRows, readCsv } from './formats/patch-csv.ts';
import { measureJson } from './formats/show-file.ts';
import { oscCommand } from './live/osc-commands.ts';
import { readOsc } from './output/osc.ts';
import { isRefusal } from './refusal.ts';
import { parsePoints } from './rig/addresses.ts';
import { findTypes, indexTypes } from './rig/search.ts';
import { libraryTypes } from './rig/library/index.ts';
import { decodeText, guessFormat, placeAt, reanchor } from './script/anchors.ts';
import { flagsIn, parseScript } from './script/parse.ts';
import { exampleShow } from './testing/example.ts';
import { oddTextIn } from './text.ts';

const LENGTH = 120_000;
const ATOMS = [' ', '\t', '\n', '\r', '\n ', ' \n', 'a', 'A', '0', '1 ', '1,', '1+', '1.', '.', ',', ';', ':', '"', '""', '","', "'", '“', '”', '|', '| ', '#', '# ', '*', '**', '_', '> ', '<', '~', '!', '@', '(', ')', '[', ']', '[[', ']]', '/*', '*/', '[LX ', '[LX 1', '[Q 1:', '-', '–', '=', '===', '\f', '/', '\\', '%', '\u00a0', '\u2028', '\u0301', 'é', '\u{1F4A1}', 'Act ', 'page ', 'p. ', 'int. ', 'title: ', 'thru ', 'at ', '1 thru 2 ', 'b2 ', '2.101 '];
const ENDS = ['', 'x', '\n', '"', ']'];
/** Runs of one thing, with something other at the end so that patterns that look for an end go back. */
const TEXTS = ATOMS.flatMap((atom) => ENDS.map((end) => `${atom.repeat(Math.ceil(LENGTH / atom.length))}${end}`));
const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

const show = exampleShow();
const context: CommandContext = { show, selection: [], cueId: null, unrecorded: 0, held: () => 0, lit: () => [] };
const index = indexTypes(libraryTypes());
const call = { ...placeAt('The tide is out, the tide is in.', 4, 8), standby: 0 };

const READERS: [string, (text: string) => unknown][] = [
  ['a plain script', (t) => parseScript(t, 'plain')],
  ['a Markdown script', (t) => parseScript(t, 'markdown')],
  ['a Fountain script', (t) => parseScript(t, 'fountain')],
  ['an order of service', (t) => parseScript(t, 'order')],
  ['cues that a script names', (t) => flagsIn(t)],
  ['the kind of a script', (t) => guessFormat('script.txt', t)],
  ['a script’s bytes', (t) => decodeText(bytesOf(t))],
  ['calls in a later draft', (t) => reanchor(t, `${t}!`, [call, { ...placeAt(t, 10, 11) }, { ...placeAt(t, Math.floor(t.length / 2), Math.floor(t.length / 2) + 150) }])],
  ['a line of the command line', (t) => readCommand(t, context)],
  ['what a line can go on with', (t) => completions(t.slice(0, 20_000), context)],
  ['a search', (t) => findTypes(index, t)],
  ['a CSV file', (t) => readCsv(bytesOf(t))],
  ['a patch as CSV', (t) => { const table = readCsv(bytesOf(`number,label,type,address\n${t}`)); return isRefusal(table) ? table : checkImport(show, mapRows(table, guessMapping(table.header))); }],
  ['cues as CSV', (t) => { const table = readCsv(bytesOf(`cue,name,up,note\n${t}`)); return isRefusal(table) ? table : readCueLines(table); }],
  ['addresses', (t) => parsePoints(t)],
  ['a cue number', (t) => parseCueNumber(t)],
  ['a time', (t) => [seconds(t), timeProblem(t)]],
  ['a cell of the cue sheet', (t) => readCell(show, 'intensity', t)],
  ['an OSC message', (t) => { const read = readOsc(bytesOf(`/wingman/goto\0\0\0${t}`.slice(0, 60_000))); return read && oscCommand(show, read.address, read.args); }],
  ['an OSC address', (t) => { const read = readOsc(bytesOf(`/${t}`.slice(0, 60_000))); return read && oscCommand(show, read.address, read.args); }],
  ['how much JSON there is', (t) => measureJson(bytesOf(t))],
  ['text that cannot be kept', (t) => oddTextIn({ t })],
];

test.each(READERS)('%s is read in one go, whatever it is a long run of', (_what, read) => {
  for (const text of TEXTS) expect(() => read(text)).not.toThrow();
}, 60_000);

test('runs within runs: a line of sixty thousand spaces between two words, in every format', () => {
  const line = `Landfall${' '.repeat(60_000)}now`;
  for (const format of ['plain', 'markdown', 'fountain', 'order'] as const) {
    const blocks = parseScript(`${line}\n${line}\n\n${line}`, format);
    expect(blocks.length).toBe(3);
  }
}, 10_000);
