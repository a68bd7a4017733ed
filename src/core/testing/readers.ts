/** Every reader of text that a person, a file or another program may send: for the tests and the measures of how long they take. */
import { completions } from '../command/complete.ts';
import { readCommand } from '../command/command.ts';
import type { CommandContext } from '../command/reader.ts';
import { readCell } from '../cues/cell-text.ts';
import { seconds, timeProblem } from '../cues/clock.ts';
import { parseCueNumber } from '../cues/number.ts';
import { readCueLines } from '../formats/cues-csv.ts';
import { readCsv } from '../formats/csv-table.ts';
import { checkImport } from '../formats/patch-check.ts';
import { guessMapping, mapRows } from '../formats/patch-csv.ts';
import { measureJson } from '../formats/json-measured.ts';
import { oscCommand } from '../live/osc-commands.ts';
import { readOsc } from '../output/osc.ts';
import { isRefusal } from '../refusal.ts';
import { parsePoints } from '../fixtures/points.ts';
import { findTypes, indexTypes } from '../rig/search.ts';
import { libraryTypes } from '../rig/library/index.ts';
import { decodeText, guessFormat, placeAt, reanchor } from '../script/anchors.ts';
import { flagsIn, parseScript } from '../script/parse.ts';
import { exampleShow } from './example.ts';
import { oddTextIn } from '../text.ts';

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);

const show = exampleShow();
const context: CommandContext = {
  show,
  selection: [],
  listId: null,
  cueOn: () => null,
  unrecorded: 0,
  held: () => 0,
  lit: () => [],
  levelOf: () => undefined,
};
const index = indexTypes(libraryTypes());
const call = { ...placeAt('The tide is out, the tide is in.', 4, 8), standby: 0 };

/** Each with the words for what it reads. */
export const READERS: [string, (text: string) => unknown][] = [
  ['a plain script', (t) => parseScript(t, 'plain')],
  ['a Markdown script', (t) => parseScript(t, 'markdown')],
  ['a Fountain script', (t) => parseScript(t, 'fountain')],
  ['an order of service', (t) => parseScript(t, 'order')],
  ['cues that a script names', (t) => flagsIn(t)],
  ['the kind of a script', (t) => guessFormat('script.txt', t)],
  ['a script’s bytes', (t) => decodeText(bytesOf(t))],
  [
    'calls in a later draft',
    (t) =>
      reanchor(t, `${t}!`, [
        call,
        { ...placeAt(t, 10, 11) },
        { ...placeAt(t, Math.floor(t.length / 2), Math.floor(t.length / 2) + 150) },
      ]),
  ],
  ['a line of the command line', (t) => readCommand(t, context)],
  ['what a line can go on with', (t) => completions(t.slice(0, 20_000), context)],
  ['a search', (t) => findTypes(index, t)],
  ['a CSV file', (t) => readCsv(bytesOf(t))],
  [
    'a patch as CSV',
    (t) => {
      const table = readCsv(bytesOf(`number,label,type,address\n${t}`));
      return isRefusal(table)
        ? table
        : checkImport(show, mapRows(table, guessMapping(table.header)));
    },
  ],
  [
    'cues as CSV',
    (t) => {
      const table = readCsv(bytesOf(`cue,name,up,note\n${t}`));
      return isRefusal(table) ? table : readCueLines(table);
    },
  ],
  ['addresses', (t) => parsePoints(t)],
  ['a cue number', (t) => parseCueNumber(t)],
  ['a time', (t) => [seconds(t), timeProblem(t)]],
  ['a cell of the cue sheet', (t) => readCell(show, 'intensity', t)],
  [
    'an OSC message',
    (t) => {
      const read = readOsc(bytesOf(`/wingman/goto\0\0\0${t}`.slice(0, 60_000)));
      return read && oscCommand(show, read.address, read.args);
    },
  ],
  [
    'an OSC address',
    (t) => {
      const read = readOsc(bytesOf(`/${t}`.slice(0, 60_000)));
      return read && oscCommand(show, read.address, read.args);
    },
  ],
  ['how much JSON there is', (t) => measureJson(bytesOf(t))],
  ['text that cannot be kept', (t) => oddTextIn({ t })],
];
