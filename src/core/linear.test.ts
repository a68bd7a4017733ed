/**
 * Every reader of text takes time in line with the length of the text: fed with long runs of every kind of character,
 * and with what their patterns look for, over and over. One that goes over its text again and again takes minutes for
 * these, and the test ends before.
 */
import { parseScript } from './script/parse.ts';
import { READERS } from './testing/readers.ts';

const LENGTH = 120_000;
const ATOMS = [
  ' ',
  '\t',
  '\n',
  '\r',
  '\n ',
  ' \n',
  'a',
  'A',
  '0',
  '1 ',
  '1,',
  '1+',
  '1.',
  '.',
  ',',
  ';',
  ':',
  '"',
  '""',
  '","',
  "'",
  '“',
  '”',
  '|',
  '| ',
  '#',
  '# ',
  '*',
  '**',
  '_',
  '> ',
  '<',
  '~',
  '!',
  '@',
  '(',
  ')',
  '[',
  ']',
  '[[',
  ']]',
  '/*',
  '*/',
  '[LX ',
  '[LX 1',
  '[Q 1:',
  '-',
  '–',
  '=',
  '===',
  '\f',
  '/',
  '\\',
  '%',
  '\u00a0',
  '\u2028',
  '\u0301',
  'é',
  '\u{1F4A1}',
  'Act ',
  'page ',
  'p. ',
  'int. ',
  'title: ',
  'thru ',
  'at ',
  '1 thru 2 ',
  'b2 ',
  '2.101 ',
];
const ENDS = ['', 'x', '\n', '"', ']'];
/** Runs of one thing, with something other at the end so that patterns that look for an end go back. */
const TEXTS = ATOMS.flatMap((atom) =>
  ENDS.map((end) => `${atom.repeat(Math.ceil(LENGTH / atom.length))}${end}`),
);

test.each(READERS)(
  '%s is read in one go, whatever it is a long run of',
  (_what, read) => {
    for (const text of TEXTS) expect(() => read(text)).not.toThrow();
  },
  60_000,
);

test('runs within runs: a line of sixty thousand spaces between two words, in every format', () => {
  const line = `Landfall${' '.repeat(60_000)}now`;
  for (const format of ['plain', 'markdown', 'fountain', 'order'] as const) {
    const blocks = parseScript(`${line}\n${line}\n\n${line}`, format);
    expect(blocks.length).toBe(3);
  }
}, 10_000);
