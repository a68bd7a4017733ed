/** What pieces say of themselves: on, partly, waiting, by whom; and what is together while they are arranged. */
import { apply, cue, exampleShow, idOf, sheet } from '@/core/testing/example';
import type { PieceIs } from '@/core/sheets/rows';
import { piecesOf } from '@/core/sheets/pieces';
import { useScreen } from '../state/store';
import { withTheirs } from './arrange/use-arranged';
import { turned } from './pieces/PlanPiece';
import { stateOf } from '@/core/sheets/state';

const show = exampleShow();
const first = cue(show, 1, { 1: 10 });
const second = cue(show, 2, { 1: 20 });
apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
apply(show, 'record-palette', { family: 'colour', name: 'Dusk', any: { kelvin: 3200 } });
const group = [...show.groups.keys()][0] ?? '';
const palette = [...show.palettes.values()].find((p) => p.name === 'Dusk')?.id ?? '';
apply(show, 'set-fader', {
  set: { name: 'Front', holds: { kind: 'group', id: group }, mode: 'inhibiting', flash: 'full' },
});
const fader = [...show.faders.keys()][0] ?? '';

const now = useScreen.getState();
const you = { userId: 'mara', name: 'Mara Kell', role: 'owner' as const };
type Now = Parameters<typeof stateOf>[2];
const state = (is: PieceIs, more: Partial<Now> = {}, time: number | null = null) =>
  stateOf(show, is, { ...now, you, ...more }, time);
const playing = (set: object): Partial<Now> => ({ playback: { ...now.playback, ...set } });
const list = (press: 'go' | 'toggle' | 'back') => ({ kind: 'list', list: 'main', press }) as const;
const status = { id: 'main', cueId: first, nextId: second, active: true };

test('a list says its cue and whose board it is on; only what plays it shines', () => {
  const on = playing({
    lists: [status],
    boards: [{ thing: { list: 'main' }, userId: 'tam', name: 'Tam Brevik', freeIn_s: null }],
  });
  expect(state(list('go'), on)).toEqual({ on: true, says: 'cue 1', by: 'Tam Brevik' });
  expect(state(list('back'), on).on).toBe(false);
  expect(
    state(list('toggle'), playing({ lists: [{ ...status, cueId: null, active: false }] })),
  ).toEqual({
    on: false,
    says: 'next 2',
  });
  expect(state({ kind: 'cue', cue: first }, on)).toMatchObject({ on: true, says: '1 · on stage' });
  expect(state({ kind: 'cue', cue: second }, on)).toMatchObject({ on: false, says: '2 · next' });
});

test('a fader is up, partly up, or waits for its hand; its key is on only while it is held', () => {
  const at = (set: object) =>
    playing({
      faders: [{ id: fader, level: 0.4, real: 0.4, waiting: false, flash: false, ...set }],
    });
  const to = { kind: 'to', fader, level: 0.8, time_s: 0 } as const;
  expect(state(to, at({}))).toMatchObject({ on: false, partly: true, says: '40 %' });
  expect(state(to, at({ level: 0.8 }))).toMatchObject({ on: true, partly: false });
  expect(state(to, at({ waiting: true }))).toMatchObject({ waiting: true });
  const key = { kind: 'fader', fader, as: 'flash' } as const;
  expect(state(key, at({ level: 1 })).on).toBe(false);
  expect(state(key, at({ flash: true })).on).toBe(true);
});

test('a group is selected, or partly; a unit by itself', () => {
  const some = { selection: [idOf(show, 1)] };
  expect(state({ kind: 'group', group }, some)).toMatchObject({ on: false, partly: true });
  const all = { selection: [idOf(show, 2), idOf(show, 1)] };
  expect(state({ kind: 'group', group }, all)).toMatchObject({ on: true, partly: false });
  expect(state({ kind: 'unit', fixture: idOf(show, 1) }, some).on).toBe(true);
  expect(state({ kind: 'unit', fixture: idOf(show, 2) }, some).on).toBe(false);
});

test('a tile that plays says who played it; one that is given shines for what is selected', () => {
  const play = { kind: 'tile', of: 'palette', id: palette, press: 'play' } as const;
  const byTam = playing({
    played: [{ kind: 'palette', id: palette, by: 'Tam Brevik', units: null }],
  });
  expect(state(play, byTam)).toEqual({ on: true, says: 'on stage', by: 'Tam Brevik' });
  expect(state(play).on).toBe(false);
  const give = { ...play, press: 'give' } as const;
  const value = {
    fixtureId: idOf(show, 11),
    attribute: 'ColorAdd_R',
    level: 1,
    palette,
    fade_s: 0,
    delay_s: 0,
    recorded: false,
  };
  const values = new Map([['x', value]]);
  expect(state(give, { values })).toMatchObject({ on: true });
  expect(state(give, { values, selection: [idOf(show, 12)] })).toMatchObject({
    on: false,
    partly: true,
  });
});

test('a time is on while it is chosen; a blackout while it is dark', () => {
  expect(state({ kind: 'time', time_s: 3 }, {}, 3).on).toBe(true);
  expect(state({ kind: 'time', time_s: 3 }, {}, null).on).toBe(false);
  expect(state({ kind: 'master', as: 'blackout' }, playing({ blackout: true })).on).toBe(true);
});

test('what is together is chosen together', () => {
  const made = sheet(
    show,
    'House',
    [1, 2, 3].map((n) => ({ kind: 'words', text: String(n) })),
  );
  const joined = piecesOf(show, made.sheet).map((p, i) => (i < 2 ? { ...p, together: 't' } : p));
  expect(withTheirs(joined, [made.pieces[0] ?? ''])).toEqual(made.pieces.slice(0, 2));
  expect(withTheirs(joined, [made.pieces[2] ?? ''])).toEqual([made.pieces[2]]);
});

test('a plan turned by a quarter has upstage at the right, and four of them bring it back', () => {
  expect(turned({ x: 0, y: 3 }, 90)).toEqual({ x: 3, y: -0 });
  expect(turned({ x: 2, y: 3 }, 180)).toEqual({ x: -2, y: -3 });
  let at = { x: 2, y: 3 };
  for (let i = 0; i < 4; i++) at = turned(at, 90);
  expect(at).toEqual({ x: 2, y: 3 });
});
