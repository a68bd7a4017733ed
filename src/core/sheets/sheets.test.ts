/** Sheets: what may be put on one, and what a touch plays. */
import { apply, cue, exampleShow, idOf, refused, sheet } from '../testing/example.ts';
import { inReadingOrder, nameOf, piecesOf, pointsAtNothing, pointsTo } from './pieces.ts';
import { MOST_PIECES, type PieceIs, type PieceRow } from './rows.ts';
import { playedBy, type Playing, type Touch } from './touch.ts';

const place = { x: 0, y: 0, w: 4, h: 4, z: 0 };
const words = (text: string) => ({ ...place, is: { kind: 'words', text } });

describe('edits', () => {
  test('pieces are put down, moved and taken off, one edit each; names of sheets are their own', () => {
    const show = exampleShow();
    const made = sheet(show, 'The house', [{ kind: 'unit', fixture: idOf(show, 1) }]);
    expect(
      refused(show, 'set-sheet', { set: { name: 'the HOUSE', columns: 48, rows: 34 } }).code,
    ).toBe('clash');
    const [first] = piecesOf(show, made.sheet);
    const moved = apply(show, 'put-pieces', {
      sheet: made.sheet,
      pieces: [{ ...first, sheet: undefined, x: 12.5 }],
    });
    expect(moved.summary).toBe('Changed “1 FOH 1” on sheet “The house”');
    expect(show.sheetpieces.get(first?.id ?? '')?.x).toBe(12.5);
    apply(show, 'put-pieces', { sheet: made.sheet, pieces: [words('Port'), words('Starboard')] });
    expect(piecesOf(show, made.sheet)).toHaveLength(3);
    apply(show, 'delete-pieces', { ids: [first?.id] });
    expect(piecesOf(show, made.sheet)).toHaveLength(2);
    apply(show, 'delete-sheet', { id: made.sheet });
    expect([show.sheets.size, show.sheetpieces.size]).toEqual([0, 0]);
  });

  test('a piece may be one cell of a unit, and is called so', () => {
    const show = exampleShow();
    const made = sheet(show, 'Strips', [{ kind: 'unit', fixture: idOf(show, 1), cell: 3 }]);
    const [piece] = piecesOf(show, made.sheet);
    expect(piece && nameOf(show, piece)).toBe('1 FOH 1, cell 3');
    expect(
      refused(show, 'put-pieces', {
        sheet: made.sheet,
        pieces: [{ ...place, is: { kind: 'unit', fixture: idOf(show, 1), cell: 0 } }],
      }).code,
    ).toBe('invalid');
  });

  test('a piece says what it points at, with its number and what a press does', () => {
    const show = exampleShow();
    cue(show, 1.5, { 1: 50 }, { name: 'Preset' });
    apply(show, 'record-group', { name: 'Front', number: 7, fixtures: [idOf(show, 1)] });
    apply(show, 'record-palette', {
      number: 3,
      name: 'Half',
      family: 'intensity',
      values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5 }],
    });
    const id = (rows: Iterable<{ id: string }>): string => [...rows][0]?.id ?? '';
    const says = (is: unknown) => pointsTo(show, is as PieceIs);
    expect(says({ kind: 'unit', fixture: idOf(show, 1) })).toMatch(/^unit 1, \S/);
    expect(says({ kind: 'group', group: id(show.groups.values()) })).toBe('group 7');
    const tile = { kind: 'tile', of: 'palette', id: id(show.palettes.values()) };
    expect(says({ ...tile, press: 'play' })).toBe('palette 3 of intensity, played by itself');
    expect(says({ ...tile, press: 'give' })).toBe(
      'palette 3 of intensity, given to what is selected',
    );
    expect(says({ kind: 'cue', cue: id(show.cues.values()) })).toBe(
      `cue 1.5 of ${show.lists.get('main')?.name}`,
    );
    expect(says({ kind: 'level' })).toBe('of what is selected');
    expect(says({ kind: 'pad', group: id(show.groups.values()) })).toBe('of group 7');
    // What has gone is no number, and what needs no words has none.
    expect(says({ kind: 'list', list: 'gone' })).toBe('list ?');
    expect(says({ kind: 'clock', shows: 'time' })).toBeUndefined();
  });

  test('a sheet has its bounds: so many pieces, and none that points at nothing', () => {
    const show = exampleShow();
    const made = sheet(show, 'Full', []);
    const many = Array.from({ length: MOST_PIECES }, (_, i) => words(String(i)));
    apply(show, 'put-pieces', { sheet: made.sheet, pieces: many });
    expect(
      refused(show, 'put-pieces', { sheet: made.sheet, pieces: [words('one more')] }),
    ).toMatchObject({
      code: 'limit',
      message: 'A sheet has at most 1000 pieces. Nothing was changed.',
    });
    const both = [...many, ...many];
    expect(
      refused(show, 'set-sheet', { set: { name: 'Too much', columns: 48, rows: 34 }, pieces: both })
        .code,
    ).toBe('invalid');
    const other = sheet(show, 'Other', []);
    for (const is of [
      { kind: 'group', group: 'none' },
      { kind: 'cue', cue: 'none' },
      { kind: 'tile', of: 'look', id: 'none', press: 'play' },
      { kind: 'fader', fader: 'none', as: 'knob' },
    ])
      expect(
        refused(show, 'put-pieces', { sheet: other.sheet, pieces: [{ ...place, is }] }),
      ).toMatchObject({ code: 'not-found', message: expect.stringContaining('would do nothing') });
  });

  test('what a piece points at may be deleted: it says so, may be moved and pointed anew', () => {
    const show = exampleShow();
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1)] });
    const [group] = show.groups.values();
    const made = sheet(show, 'House', [{ kind: 'group', group: group?.id }]);
    apply(show, 'delete-group', { id: group?.id });
    const piece = show.sheetpieces.get(made.pieces[0] ?? '') as PieceRow;
    expect(pointsAtNothing(show, piece.is)).toBe('its group has been deleted');
    const { sheet: on, ...put } = piece;
    apply(show, 'put-pieces', { sheet: on, pieces: [{ ...put, x: 20 }] });
    apply(show, 'put-pieces', {
      sheet: on,
      pieces: [{ ...put, is: { kind: 'unit', fixture: idOf(show, 2) } }],
    });
    expect(pointsAtNothing(show, show.sheetpieces.get(piece.id)?.is ?? piece.is)).toBeUndefined();
  });

  test('sheets that lead to each other in a ring are refused, through however many', () => {
    const show = exampleShow();
    const [a, b, c] = ['A', 'B', 'C'].map((name) => sheet(show, name, []).sheet);
    const lead = (from: string | undefined, to: string | undefined) => ({
      sheet: from,
      pieces: [{ ...place, is: { kind: 'sheet', sheet: to } }],
    });
    expect(refused(show, 'put-pieces', lead(a, a)).code).toBe('loop');
    apply(show, 'put-pieces', lead(a, b));
    apply(show, 'put-pieces', lead(b, c));
    expect(refused(show, 'put-pieces', lead(c, a))).toMatchObject({
      code: 'loop',
      message: 'Sheet “C” would lead to itself through “A”. Nothing was changed.',
    });
    apply(show, 'put-pieces', lead(a, c));
  });

  test('sheets stand in the order in which they were put', () => {
    const show = exampleShow();
    const ids = ['A', 'B', 'C'].map((name) => sheet(show, name, []).sheet);
    apply(show, 'order-sheets', { ids: [ids[2], ids[0]] });
    const names = [...show.sheets.values()].sort((x, y) => x.number - y.number).map((s) => s.name);
    expect(names).toEqual(['C', 'A', 'B']);
    expect(refused(show, 'order-sheets', { ids: [ids[2]] }).code).toBe('nothing');
  });
});

describe('a touch', () => {
  const show = exampleShow();
  const cueId = cue(show, 1, { 1: 10 });
  cue(show, 2, { 1: 20 });
  const last = show.cuesOf('main').at(-1)?.id ?? '';
  apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1)] });
  apply(show, 'set-fader', {
    set: {
      name: 'Front',
      holds: { kind: 'group', id: [...show.groups.keys()][0] },
      mode: 'inhibiting',
      flash: 'full',
    },
  });
  const fader = [...show.faders.keys()][0] ?? '';
  const still: Playing = {
    faderLevel: () => 0,
    isPlayed: () => false,
    cueOn: () => null,
    isBlackout: () => false,
  };
  const touch = (is: PieceIs, playing: Partial<Playing> = {}, t: Touch = {}) =>
    playedBy(show, { id: 'p', is }, { ...still, ...playing }, t);

  test('plays lists by what their pieces say: once, on and off, round and round', () => {
    const list = (press: 'go' | 'toggle' | 'round') =>
      ({ kind: 'list', list: 'main', press }) as const;
    expect(touch(list('go'))).toEqual({ command: 'go', list: 'main' });
    expect(touch(list('toggle'))).toEqual({ command: 'go', list: 'main' });
    expect(touch(list('toggle'), { cueOn: () => cueId }, { time: 4 })).toEqual({
      command: 'release',
      list: 'main',
      time: 4,
    });
    expect(touch(list('round'), { cueOn: () => cueId })).toEqual({ command: 'go', list: 'main' });
    expect(touch(list('round'), { cueOn: () => last })).toMatchObject({
      command: 'goto',
      cue: '1',
    });
    expect(touch({ kind: 'cue', cue: last }, {}, { time: 2 })).toEqual({
      command: 'goto',
      list: 'main',
      cue: '2',
      time: 2,
    });
  });

  test('brings faders to a level and down again, and holds their keys while they are pressed', () => {
    const to = { kind: 'to', fader, level: 0.8, time_s: 3 } as const;
    expect(touch(to)).toEqual({ command: 'fader', fader: 1, level: 0.8, time: 3, take: true });
    expect(touch(to, { faderLevel: () => 0.8 })).toMatchObject({ level: 0 });
    expect(touch(to, {}, { time: 0 })).toMatchObject({ time: 0 });
    const upright = { kind: 'fader', fader, as: 'upright' } as const;
    expect(touch(upright)).toMatchObject({ code: 'invalid' });
    expect(touch(upright, {}, { level: 0.4 })).toMatchObject({ command: 'fader', level: 0.4 });
    const flash = { kind: 'fader', fader, as: 'flash' } as const;
    expect([touch(flash, {}, { on: true }), touch(flash, {}, { on: false })]).toEqual([
      { command: 'flash', fader: 1, on: true },
      { command: 'flash', fader: 1, on: false },
    ]);
    expect(touch({ kind: 'master', as: 'blackout' }, { isBlackout: () => true })).toEqual({
      command: 'blackout',
      on: false,
    });
  });

  test('of what is given to a selection, or only shows, plays nothing', () => {
    expect(touch({ kind: 'unit', fixture: idOf(show, 1) })).toMatchObject({ code: 'nothing' });
    expect(touch({ kind: 'words', text: 'Port' })).toMatchObject({ code: 'nothing' });
    expect(touch({ kind: 'cue', cue: 'gone' })).toMatchObject({ code: 'not-found' });
  });
});

test('pieces are read from the top, and in a row from the left', () => {
  const at = (id: string, x: number, y: number) => ({ id, x, y });
  const order = inReadingOrder([at('c', 0, 9), at('b', 8, 0.2), at('a', 0, 0.4), at('d', 9, 9)]);
  expect(order.map((p) => p.id).join('')).toBe('abcd');
});

test('a cue with another goes to and fro between the two', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 10 });
  const second = cue(show, 2, { 1: 20 });
  const press = (on: string | null) =>
    playedBy(
      show,
      { id: 'p', is: { kind: 'cue', cue: first, other: second } },
      { faderLevel: () => 0, isPlayed: () => false, cueOn: () => on, isBlackout: () => false },
      {},
    );
  expect([null, first, second].map((on) => (press(on) as { cue: string }).cue)).toEqual([
    '1',
    '2',
    '1',
  ]);
});
