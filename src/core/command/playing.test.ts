/** Lines that play, and lines about cues. */
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { readCommand } from './command.ts';

const show = exampleShow();
for (const n of [1, 2, 3, 4]) cue(show, n, { [n]: 50 }, { name: `Cue ${n}` });
apply(show, 'make-list', {
  name: 'Lanterns',
  set: { chase: { on: true, speed: { bpm: 60 }, share: 0.5, direction: 'forward' } },
});
const lanterns = [...show.lists.values()].find((l) => l.name === 'Lanterns')?.id ?? '';
apply(show, 'make-cues', { listId: lanterns, cues: [{ number: 7000 }] });
apply(show, 'set-fader', {
  set: {
    number: 3,
    name: 'House',
    holds: { kind: 'list', id: lanterns },
    mode: 'proportional',
    flash: 'full',
  },
});
const id = (n: number): string => show.cuesOf('main').find((c) => c.number === n * 1000)?.id ?? '';
const read = (text: string) =>
  readCommand(text, {
    show,
    selection: [idOf(show, 2)],
    listId: null,
    cueOn: (list) => (list === 'main' ? id(2) : null),
    unrecorded: 2,
    held: () => 2,
    lit: () => [],
    levelOf: () => undefined,
  });
const meant = (text: string): unknown => {
  const result = read(text);
  if (!result.ok) throw new Error(`${text}: ${result.message}`);
  const { intent } = result;
  if (intent.kind === 'live') return intent.command;
  const edits = intent.kind === 'edit' || intent.kind === 'record-held';
  return edits ? [intent.edit, intent.params] : intent;
};

const steps = (text: string): unknown => {
  const result = read(text);
  if (!result.ok) throw new Error(`${text}: ${result.message}`);
  const { intent } = result;
  return intent.kind === 'select-and-set' ? [intent.command, ...(intent.then ?? [])] : intent;
};

describe('several settings on one line', () => {
  const units = { fixtures: [1, 2, 3] };
  test('a time at the end is for all of them', () => {
    expect(steps('1 thru 3 at full white 3200 time 3')).toMatchObject([
      { command: 'set', ...units, attribute: 'Dimmer', level: 1, fade_s: 3 },
      { command: 'colour', ...units, fade_s: 3 },
    ]);
    expect(read('1 thru 3 at full white 3200 time 3')).toMatchObject({
      says: '3 fixtures · intensity full, white 3200 K, all in 3 s · into your programmer',
    });
  });
  test('one that has its own keeps it', () => {
    expect(steps('1 thru 3 at 50 time 1 white 3200 time 4')).toMatchObject([
      { command: 'set', level: 0.5, fade_s: 1 },
      { command: 'colour', fade_s: 4 },
    ]);
  });
  test('what is said first without a time is not given a later one’s by a setting between', () => {
    expect(steps('1 thru 3 at 20 thru 80 white 3200')).toMatchObject([
      { command: 'fan', what: 'value', stops: [20, 80] },
      { command: 'colour' },
    ]);
  });
  test('the same thing twice points at the second', () => {
    expect(read('1 thru 3 at 50 full')).toMatchObject({
      ok: false,
      message: 'This is said twice on one line.',
      at: 15,
    });
    expect(read('1 thru 3 at 50 record cue 3')).toMatchObject({ ok: false, at: 15 });
  });
});

test.each<[string, unknown]>([
  [
    'cue 2 thru 4 time 4/6',
    ['change-cues', { ids: [id(2), id(3), id(4)], set: { up_s: 4, down_s: 6 } }],
  ],
  ['cue 2 + 4 delay 1', ['change-cues', { ids: [id(2), id(4)], set: { delay_s: 1 } }]],
  ['label cue 2 "Dusk"', ['change-cue', { id: id(2), set: { name: 'Dusk' } }]],
  ['label 2 thru 3 "Storm #"', ['change-cues', { ids: [id(2), id(3)], set: { name: 'Storm #' } }]],
  [
    'list 2 chase 120 bounce fade 30 rounds 4',
    { command: 'chase', list: lanterns, bpm: 120, direction: 'bounce', share: 0.3, count: 4 },
  ],
  ['fader 3 at 60 time 5', { command: 'fader', fader: 3, level: 0.6, time: 5, take: true }],
  ['sub 3 at full', { command: 'fader', fader: 3, level: 1, take: true }],
  ['list 2 go', { command: 'go', list: lanterns }],
  ['list "lanterns" goto 7 time 0', { command: 'goto', cue: '7', time: 0, list: lanterns }],
  ['list 2 master at 40', { command: 'list-master', level: 0.4, list: lanterns }],
  ['list 2 release time 1:30', { command: 'release', list: lanterns, time: 90 }],
  ['release all time 3', { command: 'release-all', time: 3 }],
  ['release', { command: 'release', list: 'main' }],
  ['cut', { command: 'cut' }],
  ['cut to 3', { command: 'cut', cue: '3' }],
  ['arm 4', { command: 'arm', cue: '4' }],
  ['arm off', { command: 'arm', cue: null }],
  ['rate 150', { command: 'rate', rate: 1.5 }],
  ['go to cue 3', { command: 'goto', cue: '3' }],
  ['1 thru 2 hold at 70', { command: 'focus', fixtures: [1, 2], level: 0.7, on: true }],
  ['hold off', { command: 'focus', fixtures: [2], level: 1, on: false }],
  ['move cue 2 thru 3 after 4', ['move-cues', { ids: [id(2), id(3)], after: 4000 }]],
  ['copy cue 1 + 3 after 4', ['copy-cues', { ids: [id(1), id(3)], after: 4000 }]],
  [
    'renumber cue 3 thru 4 from 30 by 10',
    ['renumber-cues', { ids: [id(3), id(4)], from: 30_000, step: 10_000 }],
  ],
  ['join cue 2 thru 3', ['join-cues', { ids: [id(2), id(3)] }]],
  ['block cue 3', ['block-cue', { ids: [id(3)], on: true }]],
  ['unblock cue 3', ['block-cue', { ids: [id(3)], on: false }]],
  [
    'insert cue after 2 "Bell"',
    ['make-cues', { listId: 'main', cues: [{ number: 2500, name: 'Bell' }] }],
  ],
  ['insert cue before 1', ['make-cues', { listId: 'main', cues: [{ number: 500, name: '' }] }]],
  [
    'make 3 cues from 101 "Scene 1, #"',
    [
      'make-cues',
      {
        listId: 'main',
        cues: [
          { number: 101_000, name: 'Scene 1, 1' },
          { number: 102_000, name: 'Scene 1, 2' },
          { number: 103_000, name: 'Scene 1, 3' },
        ],
      },
    ],
  ],
  ['cue 2 follow 3', ['change-cue', { id: id(2), set: { follow_s: 3 } }]],
  ['cue 2 after 0.5', ['change-cue', { id: id(2), set: { after_s: 0.5 } }]],
  ['cue 2 wait', ['change-cue', { id: id(2), set: { follow_s: null, after_s: null } }]],
  [
    'record cue 2 over',
    { kind: 'record', listId: 'main', number: 2000, mode: 'track', existing: 'may', how: 'over' },
  ],
  [
    'record cue 2 remove only',
    { kind: 'record', listId: 'main', number: 2000, mode: 'only', existing: 'may', how: 'remove' },
  ],
  ['update source', ['update-source', { listId: 'main', number: 2000 }]],
])('“%s”', (text, expected) => expect(meant(text)).toEqual(expected));

test.each([
  ['fader 9 at 50', 'no fader 9'],
  ['list 5 go', 'no list 5'],
  ['list 2', 'Say what to do in this list'],
  ['list 2 at 50', 'Say what to do in this list'],
  ['list 2 delete palette 1', 'Say what to delete: delete cue'],
  ['list 2 record colour palette 5', 'not understood'],
  ['list 2 update', 'No cue of list 2 “Lanterns” is on stage'],
  ['list 2 cue 99 time 3', 'no cue 99 of list 2'],
  ['rate 5', 'from 10 to 1000'],
  ['move cue 2', 'Say where'],
  ['insert cue 2', 'Say where'],
  ['cue 2 time 1:75', 'go to 59'],
  ['cue 2 time -3', 'not negative'],
  ['make 0 cues', '1 to 2000'],
  ['record cue 9 remove', 'no cue 9'],
  ['arm 77', 'no cue 77'],
])('“%s” is refused: %s', (text, words) => {
  const result = read(text);
  expect(result).toMatchObject({ ok: false, message: expect.stringContaining(words) });
});

const seventh = show.cuesOf(lanterns)[0]?.id ?? '';
test.each<[string, unknown]>([
  [
    'list 2 record cue 5 "Sway" time 2',
    {
      kind: 'record',
      listId: lanterns,
      number: 5000,
      name: 'Sway',
      up_s: 2,
      down_s: 2,
      mode: 'track',
      existing: 'may',
    },
  ],
  [
    'list 2 record',
    { kind: 'record', listId: lanterns, number: 8000, mode: 'track', existing: 'may' },
  ],
  [
    'list "Lanterns" update cue 7',
    { kind: 'record', listId: lanterns, number: 7000, mode: 'track', existing: 'must' },
  ],
  [
    'list 2 make 2 cues',
    ['make-cues', { listId: lanterns, cues: [{ number: 8000 }, { number: 9000 }] }],
  ],
  [
    'list 2 insert cue before 7',
    ['make-cues', { listId: lanterns, cues: [{ number: 1000, name: '' }] }],
  ],
  [
    'list 2 insert cue at 1:12.5 "Bell"',
    ['make-cues', { listId: lanterns, cues: [{ number: 1000, name: 'Bell', at_s: 72.5 }] }],
  ],
  ['list 2 move cue 7 after 9', ['move-cues', { ids: [seventh], after: 9000 }]],
  ['list 2 copy cue 7 after 7', ['copy-cues', { ids: [seventh], after: 7000 }]],
  ['list 2 block cue 7', ['block-cue', { ids: [seventh], on: true }]],
  ['list 2 delete cue 7', ['delete-cue', { id: seventh }]],
  ['list 2 name cue 7 Sway', ['change-cue', { id: seventh, set: { name: 'Sway' } }]],
  ['list 2 cue 7 time 5/7', ['change-cue', { id: seventh, set: { up_s: 5, down_s: 7 } }]],
  ['list 2 take cue 7', { command: 'take', what: 'cue', cue: '7', list: lanterns, whole: false }],
  ['list 1 goto 3', { command: 'goto', cue: '3' }],
])('of a list: “%s”', (text, expected) => expect(meant(text)).toEqual(expected));

test('groups by range, in the order that is said', () => {
  const record = (number: number, name: string, units: number[]): void =>
    void apply(show, 'record-group', { number, name, fixtures: units.map((n) => idOf(show, n)) });
  record(1, 'Ends', [4]);
  record(2, 'Mid', [2, 3]);
  record(3, 'All', [1, 2]);
  const chosen = (text: string) => (read(text) as { intent: { select: string[] } }).intent.select;
  expect(chosen('group 1 thru 3')).toEqual([4, 2, 3, 1].map((n) => idOf(show, n)));
  expect(chosen('group 2 thru 1 + 1')).toEqual([2, 3, 4, 1].map((n) => idOf(show, n)));
  expect(read('group 1 thru 9')).toMatchObject({ ok: false, message: 'There is no group 9.' });
});

test('fans are typed as they are drawn, for values and for times alike', () => {
  expect(steps('1 thru 4 at 20 thru 80 curve s together 2')).toMatchObject([
    { command: 'fan', what: 'value', stops: [20, 80], pivot: 'first', curve: 's', together: 2 },
  ]);
  expect(steps('1 thru 4 at 50 time 0 thru 5 from middle curve out again 4')).toMatchObject([
    { command: 'set', level: 0.5 },
    { command: 'fan', what: 'fade', stops: [0, 5], pivot: 'middle', curve: 'out', again: 4 },
  ]);
  expect(read('1 thru 4 at 20 thru 80 again 1')).toMatchObject({
    ok: false,
    message: 'It begins again after at least two.',
  });
});

test('what plays by itself: on its own units, or on those that are said', () => {
  apply(show, 'record-palette', {
    number: 7,
    family: 'intensity',
    name: 'Glow',
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.6 }],
  });
  apply(show, 'record-palette', {
    number: 8,
    family: 'intensity',
    name: 'Any',
    any: { level: 0.5 },
  });
  const at = (number: number) =>
    [...show.palettes.values()].find((p) => p.number === number)?.id ?? '';
  const play = { command: 'play', kind: 'palette', on: true };
  expect(meant('play palette 7 time 3')).toEqual({ ...play, id: at(7), time: 3 });
  // The selection, for what is for any unit.
  expect(meant('play palette 8')).toEqual({ ...play, id: at(8), fixtures: [2] });
  expect(meant('3 thru 4 play palette 7')).toEqual({ ...play, id: at(7), fixtures: [3, 4] });
  expect(meant('release palette 7')).toEqual({ ...play, id: at(7), on: false });
  expect(read('play')).toMatchObject({ ok: false });
  expect(read('play palette 99')).toMatchObject({ message: 'There is no palette 99.' });
});

test('guards are typed', () => {
  expect(meant('1 thru 2 guard')).toEqual({ command: 'guard', fixtures: [1, 2], on: true });
  expect(meant('1 guard off time 5')).toEqual({
    command: 'guard',
    fixtures: [1],
    on: false,
    time: 5,
  });
});

test('a line without a list is about the one that is shown, and says so', () => {
  const shown = (text: string) =>
    readCommand(text, {
      show,
      selection: [],
      listId: lanterns,
      cueOn: () => null,
      unrecorded: 2,
      held: () => 2,
      lit: () => [],
      levelOf: () => undefined,
    });
  expect(shown('record cue 5')).toMatchObject({
    intent: { listId: lanterns },
    says: '2 values into cue 5 of list 2 “Lanterns” · new, at the start',
  });
  expect(shown('go')).toMatchObject({
    intent: { command: { command: 'go', list: lanterns } },
    says: 'GO: the next cue of list 2 “Lanterns”',
  });
  expect(shown('goto 2')).toMatchObject({
    ok: false,
    message: 'There is no cue 2 of list 2 “Lanterns”.',
  });
  expect(shown('list 1 goto 2')).toMatchObject({
    intent: { command: { command: 'goto', cue: '2' } },
    says: expect.stringContaining('of list 1'),
  });
  expect(shown('in list 1 cue 2 at 30')).toMatchObject({ intent: { select: [idOf(show, 2)] } });
  expect(shown('in cue 7')).toMatchObject({ ok: true });
});

test('what Enter will do is said with what it does to the others', () => {
  const says = (text: string): string => {
    const result = read(text);
    return result.ok ? result.says : result.message;
  };
  expect(says('sub 3 at 60 time 5')).toBe(
    'fader 3 “House” to 60 % in 5 s · playback only, nothing is recorded',
  );
  expect(says('move cue 2 after 4')).toBe(
    'move cue 2 of list 1 “Main list” to after 4 · no other cue looks different',
  );
  expect(says('block cue 3')).toBe(
    'block cue 3 of list 1 “Main list” · nothing upstream reaches past',
  );
});

test('a list of palettes is a cue for each, in the order that was said', () => {
  const made = exampleShow();
  for (const name of ['Dusk', 'Dawn', 'Noon'])
    apply(made, 'record-palette', { family: 'colour', name, any: { kelvin: 3200 } });
  const [dusk, dawn, noon] = [...made.palettes.values()];
  const line = (text: string) =>
    readCommand(text, {
      show: made,
      selection: [],
      listId: null,
      cueOn: () => null,
      unrecorded: 0,
      held: () => 0,
      lit: () => [],
      levelOf: () => undefined,
    });
  expect(line('make list of palettes 3 + 1 thru 2 time 4 "Day"')).toMatchObject({
    intent: {
      edit: 'make-list-of',
      params: {
        name: 'Day',
        fade_s: 4,
        of: [noon, dusk, dawn].map((p) => ({ kind: 'palette', id: p?.id })),
      },
    },
    says: 'a new list “Day” of 3 cues: Noon, Dusk, Dawn, each 4 s',
  });
  expect(line('make list of looks 7')).toMatchObject({ message: 'There is no look 7.' });
});
