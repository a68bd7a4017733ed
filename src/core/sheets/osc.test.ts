/** Sheets over OSC: which pieces have an address, what is said there, and how they stand. */
import { apply, cue, exampleShow, sheet } from '../testing/example.ts';
import { oscState } from '../live/osc-state.ts';
import type { PlaybackState } from '../live/messages.ts';
import { addressesOf, asPart, oscTouch } from './osc.ts';
import type { PieceIs } from './rows.ts';

const show = exampleShow();
cue(show, 1, { 1: 10 }, { name: 'House to half' });
apply(show, 'set-fader', {
  set: { name: 'Wärme', holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
});
const fader = [...show.faders.keys()][0] ?? '';
const pieces: PieceIs[] = [
  { kind: 'list', list: 'main', press: 'go' },
  { kind: 'fader', fader, as: 'upright' },
  { kind: 'fader', fader, as: 'flash' },
  { kind: 'level' },
  { kind: 'master', as: 'blackout' },
  { kind: 'action', action: { do: 'release-looks' } },
];
const sunday = sheet(show, 'Sunday', pieces, [
  'Go on',
  'Wärme',
  'Wärme!',
  'Front',
  'Go on',
  '日本',
]);
const sheetId = sunday.sheet;

test('a name becomes letters, digits and dashes', () => {
  expect([asPart('Wärme, 2'), asPart('  '), asPart('日本'), asPart('A/B*?')]).toEqual([
    'warme-2',
    'piece',
    'piece',
    'a-b',
  ]);
});

test('pieces that play have an address, in reading order; a second of the same name is numbered', () => {
  expect(addressesOf(show, sheetId).map((a) => [a.address, a.played])).toEqual([
    ['/wingman/sheet/1/go-on', 'press'],
    ['/wingman/sheet/1/warme', 'level'],
    ['/wingman/sheet/1/warme-2', 'hold'],
    ['/wingman/sheet/1/go-on-2', 'press'],
    ['/wingman/sheet/1/piece', 'press'],
  ]);
});

test('keys are pressed and held, faders moved, with a time where one is said', () => {
  expect(oscTouch(show, '/wingman/sheet/1/go-on', [])).toEqual({
    command: 'touch',
    piece: sunday.pieces[0],
  });
  expect(oscTouch(show, '/wingman/sheet/1/go-on', [1, 4])).toMatchObject({ time: 4 });
  expect(oscTouch(show, '/wingman/sheet/1/go-on', [0])).toBeNull();
  expect(oscTouch(show, '/wingman/sheet/1/warme', [0.25])).toMatchObject({ level: 0.25 });
  expect(oscTouch(show, '/wingman/sheet/1/warme', [7])).toMatchObject({ level: 1 });
  expect(oscTouch(show, '/wingman/sheet/1/warme-2', [1])).toMatchObject({ on: true });
  expect(oscTouch(show, '/wingman/sheet/1/warme-2', [0])).toMatchObject({ on: false });
});

test('what is nowhere, says no number, or needs a level and has none is not understood', () => {
  for (const [address, ...args] of [
    ['/wingman/sheet/2/go-on'],
    ['/wingman/sheet/1/front'],
    ['/wingman/sheet/1/../1/go-on'],
    ['/wingman/sheet/1/warme'],
    ['/wingman/sheet/1/warme', 'full'],
    ['/wingman/sheet/1/warme', NaN],
    ['/wingman/go'],
  ] as const)
    expect([address, oscTouch(show, address, args)]).toEqual([address, undefined]);
});

test('everything that can be played tells how it stands, at the address that plays it', () => {
  const cueId = [...show.cues.keys()][0] ?? null;
  const playback = {
    lists: [
      { id: 'main', cueId, nextId: null, paused: false, running: true, active: true, master: 0.5 },
    ],
    faders: [{ id: fader, level: 0.25, real: 0.25, waiting: false, flash: true }],
    boards: [],
    played: [],
    master: 0.123456,
    blackout: true,
  } as unknown as PlaybackState;
  expect(Object.fromEntries(oscState(show, playback))).toMatchObject({
    '/wingman/list/1/cue': ['1', 'House to half'],
    '/wingman/list/1/next': ['', ''],
    '/wingman/list/1/state': ['running'],
    '/wingman/list/1/master': [0.5],
    '/wingman/fader/1': [0.25],
    '/wingman/flash/1': [1],
    '/wingman/master': [0.123],
    '/wingman/blackout': [1],
    '/wingman/sheet/1/go-on': [1],
    '/wingman/sheet/1/warme': [0.25],
    '/wingman/sheet/1/warme-2': [1],
    '/wingman/sheet/1/go-on-2': [1],
    '/wingman/sheet/1/piece': [0],
  });
});
