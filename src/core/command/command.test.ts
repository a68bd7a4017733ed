import fc from 'fast-check';
import { cue, exampleShow, idOf, apply } from '../testing/example.ts';
import { readCommand } from './command.ts';
import type { CommandContext } from './reader.ts';

const show = exampleShow();
cue(show, 1, { 1: 50 }, { name: 'Preset' });
cue(show, 2, { 2: 50 });
apply(show, 'record-group', { name: 'Front', number: 2, fixtures: [idOf(show, 3), idOf(show, 1)] });
const context: CommandContext = { show, selection: [], cueId: show.cuesOf('main')[0]?.id ?? null, unrecorded: 3 };
const read = (text: string, more: Partial<CommandContext> = {}) => readCommand(text, { ...context, ...more });
const numbers = (ids: readonly string[]): (number | undefined)[] => ids.map((id) => show.fixtures.get(id)?.number);

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

test('levels in percent, full and out', () => {
  expect(intent('1 thru 6 at full')).toMatchObject({ command: { command: 'set', fixtures: [1, 2, 3, 4, 5, 6], attribute: 'Dimmer', level: 1 } });
  expect(intent('1 + 3 at 50')).toMatchObject({ command: { fixtures: [1, 3], level: 0.5 } });
  expect(intent('2 at out')).toMatchObject({ command: { level: 0 } });
  expect(intent('2 full')).toMatchObject({ command: { level: 1 } });
});

test('times and delays', () => {
  expect(intent('3 thru 6 at 70 time 4')).toMatchObject({ command: { level: 0.7, fade_s: 4 } });
  expect(intent('3 at 70 time 4.5 delay 1')).toMatchObject({ command: { fade_s: 4.5, delay_s: 1 } });
});

test('attributes in their own unit', () => {
  expect(intent('101 pan at 135')).toMatchObject({ command: { attribute: 'Pan', level: 0.75 } });
  expect(intent('101 tilt at -135')).toMatchObject({ command: { attribute: 'Tilt', level: 0 } });
  expect(intent('11 red at 20')).toMatchObject({ command: { attribute: 'ColorAdd_R', level: 0.2 } });
});

test('a level alone is for the selection', () => {
  expect(intent('at 30', { selection: [idOf(show, 2)] })).toMatchObject({ command: { fixtures: [2], level: 0.3 } });
  expect(read('at 30')).toMatchObject({ ok: false, message: expect.stringContaining('Nothing is selected') });
});

test('the sentence says what Enter will do', () => {
  expect(read('3 thru 6 at 70 time 4')).toMatchObject({ says: '4 fixtures · intensity 70 % in 4 s · into your programmer' });
  expect(read('1 + 101 pan at 0')).toMatchObject({ says: '1 fixture · pan 0 ° (1 have none) · into your programmer' });
  expect(read('record cue 2.5 "Bell" time 5/7')).toMatchObject({ says: '3 values into cue 2.5 “Bell” · new, at the end' });
  expect(read('record cue 1.5')).toMatchObject({ says: '3 values into cue 1.5 · new, after 1' });
  expect(read('goto 1 time 0')).toMatchObject({ says: 'go to cue 1 “Preset”, cut · all that it shows' });
  expect(read('patch 6 dimmer from 201 at 2.101')).toMatchObject({ says: '6 new fixtures, 201–206 · Dimmer 8 bit, 1 ch · 2.101 to 2.106 · nothing in the way' });
});

test('recording', () => {
  expect(intent('record cue 2.5 "Bell" time 5/7')).toEqual({ kind: 'record', number: 2500, name: 'Bell', up_s: 5, down_s: 7, mode: 'track', existing: 'may' });
  expect(intent('record')).toMatchObject({ number: 3000 });
  expect(intent('record 2 only')).toMatchObject({ number: 2000, mode: 'only' });
  expect(intent('update')).toMatchObject({ number: 1000, existing: 'must' });
});

test('playing', () => {
  expect(intent('go')).toEqual({ kind: 'live', command: { command: 'go' } });
  expect(intent('go to 2')).toEqual({ kind: 'live', command: { command: 'goto', cue: '2' } });
  expect(intent('goto cue 2 time 3')).toEqual({ kind: 'live', command: { command: 'goto', cue: '2', time: 3 } });
  expect(intent('let go time 3')).toEqual({ kind: 'live', command: { command: 'letgo', fade_s: 3 } });
  expect(intent('master at 80')).toEqual({ kind: 'live', command: { command: 'master', level: 0.8 } });
});

test('changing cues', () => {
  const second = show.cuesOf('main')[1]?.id;
  expect(intent('cue 2 time 5/7')).toMatchObject({ edit: 'change-cue', params: { id: second, set: { up_s: 5, down_s: 7 } } });
  expect(intent('name cue 2 All aboard')).toMatchObject({ edit: 'change-cue', params: { set: { name: 'All aboard' } } });
  expect(intent('name cue 2 One, two/three - four')).toMatchObject({ params: { set: { name: 'One, two/three - four' } } });
  expect(intent('delete cue 2')).toMatchObject({ edit: 'delete-cue', params: { id: second } });
});

test.each([
  ['1 thru at full', 'needs a last number', 7],
  ['1 at 300', 'from 0 to 100', 5],
  ['7 at 50', 'no fixture 7', 0],
  ['1 at', 'level is missing', 2],
  ['1 at at', 'not a level', 5],
  ['101 pan at 500', 'from -270 to 270', 11],
  ['1 pan at 5', 'has pan', 9],
  ['record cue 2.5.5', 'not a cue number', 11],
  ['goto 99', 'no cue 99', 5],
  ['patch 6 puffin from 1', 'no fixture type', 8],
  ['patch 1 dimmer from 1', 'exists already', 0],
  ['fly me to the moon', 'not understood', 0],
  ['1 at 50 time -3', 'not a time', 13],
  ['1 at 50 please', 'not understood here', 8],
  ['group 9 at 5', 'no group 9', 6],
])('“%s” is refused in words that point at the word', (text, words, at) => {
  const result = read(text);
  expect(result).toMatchObject({ ok: false, message: expect.stringContaining(words) });
  if (!result.ok && 'at' in result) expect(result.at).toBe(at);
});

test('an empty line says nothing, a very long one is refused', () => {
  expect(read('   ')).toEqual({ ok: false, empty: true, message: '' });
  expect(read('1 + '.repeat(1000))).toMatchObject({ ok: false, message: expect.stringContaining('2000') });
});

test('nothing that can be typed makes it fail', () => {
  const word = fc.oneof(fc.constantFrom('thru', 'at', '1', '101', 'pan', 'record', 'cue', 'time', '/', '+', '-', '"', 'go', 'to', '2.5', 'full', 'patch', 'group', 'undo', 'name', 'delete', 'let'), fc.string({ maxLength: 6 }));
  fc.assert(fc.property(fc.array(word, { maxLength: 8 }), (words) => 'ok' in read(words.join(' '))), { numRuns: 500 });
});
