import fc from 'fast-check';
import { cue, exampleShow, idOf, apply } from '../testing/example.ts';
import { completions } from './complete.ts';
import { readCommand } from './command.ts';
import type { CommandContext } from './reader.ts';

const show = exampleShow();
cue(show, 1, { 1: 50 }, { name: 'Preset' });
cue(show, 2, { 2: 50 });
apply(show, 'record-group', { name: 'Front', number: 2, fixtures: [idOf(show, 3), idOf(show, 1)] });
const context: CommandContext = {
  show,
  selection: [],
  listId: null,
  cueOn: () => show.cuesOf('main')[0]?.id ?? null,
  unrecorded: 3,
  held: () => 3,
  lit: () => [idOf(show, 2), idOf(show, 12)],
  levelOf: () => undefined,
};
const read = (text: string, more: Partial<CommandContext> = {}) =>
  readCommand(text, { ...context, ...more });
const numbers = (ids: readonly string[]): (number | undefined)[] =>
  ids.map((id) => show.fixtures.get(id)?.number);

function intent(text: string, more: Partial<CommandContext> = {}) {
  const result = read(text, more);
  if (!result.ok) throw new Error(`${text}: ${result.message}`);
  return result.intent;
}
function selected(text: string): (number | undefined)[] {
  const i = intent(text);
  return i.kind === 'select-and-set' ? numbers(i.select) : [];
}

test.each([
  ['1 thru 4', [1, 2, 3, 4]],
  ['4 thru 1', [4, 3, 2, 1]],
  ['1 + 3', [1, 3]],
  ['1 thru 6 - 4', [1, 2, 3, 5, 6]],
  ['group 2', [3, 1]],
  ['group 2 + 5', [3, 1, 5]],
  ['11 thru 102', [11, 12, 13, 14, 101, 102]],
])('“%s” selects in the order it says', (text, expected) => {
  expect(selected(text)).toEqual(expected);
});

test.each([
  ['1 thru 6 odd', [1, 3, 5]],
  ['1 thru 6 even reverse', [6, 4, 2]],
  ['1 thru 6 every 3 from 2', [2, 5]],
  ['1 thru 5 first half', [1, 2, 3]],
  ['1 thru 5 second', [4, 5]],
  ['type rgbw', [11, 12, 13, 14]],
  ['with pan', [101, 102]],
  ['lit', [2, 12]],
  ['all - lit + 12', [1, 3, 4, 5, 6, 11, 13, 14, 101, 102, 12]],
  ['in cue 1', [1]],
  ['in cue', [1]],
  ['group "front"', [3, 1]],
  ['11 thru 102 invert', [1, 2, 3, 4, 5, 6]],
])('“%s” selects by what units are and do', (text, expected) => {
  expect(selected(text)).toEqual(expected);
});

test('a part of the selection needs no numbers', () => {
  const selection = [1, 2, 3, 4].map((n) => idOf(show, n));
  expect(intent('odd', { selection })).toMatchObject({
    kind: 'select-and-set',
    select: [selection[0], selection[2]],
    command: null,
  });
  expect(intent('reverse at 30', { selection })).toMatchObject({
    command: { fixtures: [4, 3, 2, 1], level: 0.3 },
  });
  expect(intent('shuffle 7', { selection })).toEqual(intent('shuffle 7', { selection }));
});

test('spread, more, less and times', () => {
  expect(intent('1 thru 6 at 20 thru 80')).toMatchObject({
    command: { command: 'fan', fixtures: [1, 2, 3, 4, 5, 6], stops: [20, 80], what: 'value' },
  });
  expect(intent('1 thru 6 at 0 thru 100 thru 0 curve s')).toMatchObject({
    command: { stops: [0, 100, 0], curve: 's' },
  });
  expect(intent('101 + 102 pan fan 40 from first')).toMatchObject({
    command: { command: 'fan', attribute: 'Pan', by: 40, pivot: 'first' },
  });
  expect(intent('1 thru 6 at +10')).toMatchObject({ command: { command: 'nudge', add: 10 } });
  expect(intent('1 thru 6 at -10')).toMatchObject({ command: { command: 'nudge', add: -10 } });
  expect(intent('1 thru 6 at *0.9')).toMatchObject({ command: { command: 'nudge', times: 0.9 } });
  expect(intent('101 tilt by -15')).toMatchObject({
    command: { command: 'nudge', attribute: 'Tilt', add: -15 },
  });
  expect(intent('1 thru 6 at full time 0 thru 5')).toMatchObject({
    command: { command: 'set', level: 1 },
    then: [{ command: 'fan', what: 'fade', stops: [0, 5] }],
  });
  expect(intent('1 thru 6 time 4')).toMatchObject({ command: { command: 'times', fade_s: 4 } });
  expect(read('1 thru 6 at 20 thru 80 mirrored time 3')).toMatchObject({
    says: '6 fixtures · intensity 20 % to 80 %, mirrored in 3 s · into your programmer',
  });
});

test('colours, stage points, home', () => {
  expect(intent('11 thru 14 white 3200')).toMatchObject({
    command: { command: 'colour', kelvin: 3200 },
  });
  expect(intent('11 colour "port red" time 2')).toMatchObject({
    command: { command: 'colour', fade_s: 2, x: expect.any(Number) },
  });
  expect(intent('11 hue 212 sat 40')).toMatchObject({
    command: { command: 'colour', y: expect.any(Number) },
  });
  expect(intent('101 + 102 aim at -1.5 3.4 1.6')).toMatchObject({
    command: { command: 'aim', points: [{ x: -1.5, y: 3.4, z: 1.6 }], flip: false },
  });
  expect(intent('101 + 102 aim -3 2 thru 3,2 flip')).toMatchObject({
    command: {
      points: [
        { x: -3, y: 2, z: 0 },
        { x: 3, y: 2, z: 0 },
      ],
      flip: true,
    },
  });
  expect(intent('1 thru 3 like 101 colour time 2')).toMatchObject({
    command: { command: 'like', from: 101, families: ['colour'], fade_s: 2 },
  });
  expect(intent('101 home position')).toMatchObject({
    command: { command: 'home', families: ['position'] },
  });
});

test('what is held: taken, kept, let go, brought back, blind', () => {
  expect(intent('take lit')).toMatchObject({ command: { command: 'take', what: 'lit' } });
  expect(intent('1 thru 4 take cue 2 whole')).toMatchObject({
    command: { command: 'take', what: 'cue', cue: '2', whole: true, fixtures: [1, 2, 3, 4] },
  });
  expect(intent('keep colour')).toMatchObject({
    command: { command: 'keep', families: ['colour'] },
  });
  expect(intent('5 let go')).toMatchObject({ command: { command: 'letgo', fixtures: [5] } });
  expect(intent('let go colour time 3')).toMatchObject({
    command: { command: 'letgo', families: ['colour'], fade_s: 3 },
  });
  expect(intent('bring back')).toMatchObject({ command: { command: 'bring-back' } });
  expect(intent('blind')).toMatchObject({ command: { command: 'blind', on: true } });
  expect(intent('next')).toMatchObject({ command: { command: 'step', by: 1 } });
  expect(intent('highlight off')).toMatchObject({ command: { command: 'highlight', on: false } });
});

test('palettes, looks and groups from what is held', () => {
  expect(intent('record colour palette 5 "Dusk" for any')).toEqual({
    kind: 'record-held',
    edit: 'record-palette',
    params: { number: 5, name: 'Dusk', family: 'colour', scope: 'any' },
  });
  expect(intent('record look 4 "Storm"')).toEqual({
    kind: 'record-held',
    edit: 'record-look',
    params: { number: 4, name: 'Storm' },
  });
  expect(
    intent('record group 7 "Ends"', { selection: [idOf(show, 6), idOf(show, 1)] }),
  ).toMatchObject({
    kind: 'edit',
    edit: 'record-group',
    params: { number: 7, name: 'Ends', fixtures: [idOf(show, 6), idOf(show, 1)] },
  });
  expect(read('record look', { held: () => 0 })).toMatchObject({
    ok: false,
    message: expect.stringContaining('You hold nothing'),
  });
});

test('units are put in place by a line too', () => {
  expect(intent('101 place 2 4.5 6')).toMatchObject({
    edit: 'change-fixtures',
    params: { fixtures: [{ set: { position: { x: 2, y: 4.5, z: 6 } } }] },
  });
  expect(intent('1 thru 4 hang "Bar 2"')).toMatchObject({
    params: {
      fixtures: [
        { set: { hang: 'Bar 2', position: { x: -4.5, y: 3.6, z: 6 } } },
        {},
        {},
        { set: { position: { x: 4.5, y: 3.6, z: 6 } } },
      ],
    },
  });
  expect(intent('1 rotate -30')).toMatchObject({
    params: { fixtures: [{ set: { rotation: -30 } }] },
  });
});

test('a line is completed with what it would understand there', () => {
  const words = (text: string): string[] => completions(text, context).map((c) => c.word);
  expect(words('1 thru 4 pal')).toEqual(['palette']);
  expect(words('group ')).toContain('"Front"');
  expect(words('rec')).toEqual(['record']);
  expect(words('1 thru 4 at 20 thru 80 mi')).toEqual(['mirrored']);
  expect(words('101 ti')).toEqual(expect.arrayContaining(['time', 'tilt']));
  expect(words('zzz')).toEqual([]);
});

test('every word that a line may begin with is completed from its first letters', () => {
  const beginnings = [
    'all',
    'group',
    'type',
    'with',
    'lit',
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
    'look',
    'tempo',
    'take',
    'let',
    'keep',
    'clear',
    'bring',
    'blind',
    'live',
    'highlight',
    'record',
    'update',
    'name',
    'delete',
    'undo',
    'redo',
    'make',
    'insert',
    'move',
    'copy',
    'renumber',
    'join',
    'block',
    'unblock',
    'cue',
    'go',
    'back',
    'pause',
    'goto',
    'cut',
    'arm',
    'rate',
    'master',
    'fader',
    'sub',
    'release',
    'list',
    'patch',
  ];
  const missing = beginnings.filter(
    (word) =>
      !completions(word.slice(0, Math.max(1, Math.min(3, word.length - 1))), {
        ...context,
        selection: [idOf(show, 2)],
      }).some((c) => c.word === word),
  );
  expect(missing).toEqual([]);
});

test('levels in percent, full and out', () => {
  expect(intent('1 thru 6 at full')).toMatchObject({
    command: { command: 'set', fixtures: [1, 2, 3, 4, 5, 6], attribute: 'Dimmer', level: 1 },
  });
  expect(intent('1 + 3 at 50')).toMatchObject({ command: { fixtures: [1, 3], level: 0.5 } });
  expect(intent('2 at out')).toMatchObject({ command: { level: 0 } });
  expect(intent('2 full')).toMatchObject({ command: { level: 1 } });
});

test('times and delays', () => {
  expect(intent('3 thru 6 at 70 time 4')).toMatchObject({ command: { level: 0.7, fade_s: 4 } });
  expect(intent('3 at 70 time 4.5 delay 1')).toMatchObject({
    command: { fade_s: 4.5, delay_s: 1 },
  });
});

test('attributes in their own unit', () => {
  expect(intent('101 pan at 135')).toMatchObject({ command: { attribute: 'Pan', physical: 135 } });
  expect(intent('101 tilt at -135')).toMatchObject({
    command: { attribute: 'Tilt', physical: -135 },
  });
  expect(intent('11 red at 20')).toMatchObject({
    command: { attribute: 'ColorAdd_R', level: 0.2 },
  });
});

test('a level alone is for the selection', () => {
  expect(intent('at 30', { selection: [idOf(show, 2)] })).toMatchObject({
    command: { fixtures: [2], level: 0.3 },
  });
  expect(read('at 30')).toMatchObject({
    ok: false,
    message: expect.stringContaining('Nothing is selected'),
  });
});

test('the sentence says what Enter will do', () => {
  expect(read('3 thru 6 at 70 time 4')).toMatchObject({
    says: '4 fixtures · intensity 70 % in 4 s · into your programmer',
  });
  expect(read('1 + 101 pan at 0')).toMatchObject({
    says: '1 fixture · pan 0 ° (1 have none) · into your programmer',
  });
  expect(read('record cue 2.5 "Bell" time 5/7')).toMatchObject({
    says: '3 values into cue 2.5 “Bell” · new, at the end',
  });
  expect(read('record cue 1.5')).toMatchObject({ says: '3 values into cue 1.5 · new, after 1' });
  expect(read('goto 1 time 0')).toMatchObject({
    says: 'go to cue 1 “Preset”, cut · all that it shows',
  });
  expect(read('patch 6 dimmer from 201 at 2.101')).toMatchObject({
    says: '6 new fixtures, 201–206 · Dimmer 8 bit, 1 ch · 2.101 to 2.106 · nothing in the way',
  });
});

test('recording', () => {
  expect(intent('record cue 2.5 "Bell" time 5/7')).toEqual({
    kind: 'record',
    listId: 'main',
    number: 2500,
    name: 'Bell',
    up_s: 5,
    down_s: 7,
    mode: 'track',
    existing: 'may',
  });
  expect(intent('record')).toMatchObject({ number: 3000 });
  expect(intent('record 2 only')).toMatchObject({ number: 2000, mode: 'only' });
  expect(intent('update')).toMatchObject({ number: 1000, existing: 'must' });
});

test('playing', () => {
  expect(intent('go')).toEqual({ kind: 'live', command: { command: 'go' } });
  expect(intent('go to 2')).toEqual({ kind: 'live', command: { command: 'goto', cue: '2' } });
  expect(intent('goto cue 2 time 3')).toEqual({
    kind: 'live',
    command: { command: 'goto', cue: '2', time: 3 },
  });
  expect(intent('let go time 3')).toEqual({
    kind: 'live',
    command: { command: 'letgo', fade_s: 3 },
  });
  expect(intent('master at 80')).toEqual({
    kind: 'live',
    command: { command: 'master', level: 0.8 },
  });
});

test('changing cues', () => {
  const second = show.cuesOf('main')[1]?.id;
  expect(intent('cue 2 time 5/7')).toMatchObject({
    edit: 'change-cue',
    params: { id: second, set: { up_s: 5, down_s: 7 } },
  });
  expect(intent('name cue 2 All aboard')).toMatchObject({
    edit: 'change-cue',
    params: { set: { name: 'All aboard' } },
  });
  expect(intent('name cue 2 One, two/three - four')).toMatchObject({
    params: { set: { name: 'One, two/three - four' } },
  });
  expect(intent('delete cue 2')).toMatchObject({ edit: 'delete-cue', params: { id: second } });
});

test.each([
  ['1 thru at full', 'needs a last number', 7],
  ['1 at 300', 'from 0 to 100', 5],
  ['7 at 50', 'no fixture 7', 0],
  ['1 at', 'level is missing', 2],
  ['1 at at', 'not a level', 5],
  ['101 pan at 500', 'from -270 to 270', 11],
  ['1 pan at 5', 'has pan', 2],
  ['1 at 20 thru 80', 'at least two fixtures', 13],
  ['group "Nobody"', 'no group “Nobody”', 6],
  ['type puffin', 'a type like “puffin”', 5],
  ['with prism', 'No fixture has prism', 5],
  ['1 + 2 look 9', 'no look 9', 11],
  ['1 thru 4 colour "Puce"', 'no colour called “Puce”', 16],
  ['101 aim at 0', 'metres upstage is missing', 11],
  ['11 white 900', 'from 1667 to 25000 K', 9],
  ['keep everything', 'One of intensity', 5],
  ['1 thru 4 curve', 'not understood', 9],
  ['tempo 5', 'from 10 to 600', 6],
  ['record palette 5', 'of which family', 0],
  ['1 hang "Bar 9"', 'no bar called “Bar 9”', 7],
  ['record cue 2.5.5', 'not a cue number', 11],
  ['goto 99', 'no cue 99', 5],
  ['patch 6 puffin from 1', 'no fixture type', 8],
  ['patch 1 dimmer from 1', 'exists already', 0],
  ['fly me to the moon', 'not understood', 0],
  ['1 at 50 time -3', 'not negative', 13],
  ['1 at 50 please', 'not understood here', 8],
  ['group 9 at 5', 'no group 9', 6],
])('“%s” is refused in words that point at the word', (text, words, at) => {
  const result = read(text);
  expect(result).toMatchObject({ ok: false, message: expect.stringContaining(words) });
  if (!result.ok && 'at' in result) expect(result.at).toBe(at);
});

test('an empty line says nothing, a very long one is refused', () => {
  expect(read('   ')).toEqual({ ok: false, empty: true, message: '' });
  expect(read('1 + '.repeat(1000))).toMatchObject({
    ok: false,
    message: expect.stringContaining('2000'),
  });
});

test('nothing that can be typed makes it fail', () => {
  const word = fc.oneof(
    fc.constantFrom(
      'thru',
      'at',
      '1',
      '101',
      'pan',
      'record',
      'cue',
      'time',
      '/',
      '+',
      '-',
      '"',
      'go',
      'to',
      '2.5',
      'full',
      'patch',
      'group',
      'undo',
      'name',
      'delete',
      'let',
      'odd',
      'every',
      'fan',
      'colour',
      'white',
      'aim',
      'look',
      'effect',
      'type',
      'with',
      'lit',
      'in',
      'take',
      'keep',
      'home',
      'like',
      'hang',
      'place',
      'tempo',
      'for',
      'any',
      'mirrored',
      'curve',
      '*',
      'by',
    ),
    fc.string({ maxLength: 6 }),
  );
  fc.assert(
    fc.property(fc.array(word, { maxLength: 8 }), (words) => 'ok' in read(words.join(' '))),
    { numRuns: 500 },
  );
});
