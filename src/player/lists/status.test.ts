/** What screens are told of a list, and what a next player is given of it: from plain state, at a moment. */
import { apply, cue, exampleShow } from '../../core/testing/example.ts';
import type { MutableShow } from '../../core/show/show.ts';
import { countRound, cueNamed, nextOf } from './next.ts';
import { ListStates, type ListState } from './states.ts';
import { statuses, statusOf } from './status.ts';

function playing(states: [string, ListState][] = [], show = twoCues()) {
  const clock = { now_ms: 50_000 };
  const unused = (): never => {
    throw new Error('not asked for here');
  };
  const lists = new ListStates(
    {
      id: 'show',
      show,
      onto: unused,
      rig: unused,
      tell: unused,
      changed: unused,
      act: unused,
      released: unused,
      now_ms: () => clock.now_ms,
    },
    states,
  );
  const list = show.lists.get('main');
  if (!list) throw new Error('no list');
  return { lists, clock, list, show };
}
function twoCues(): MutableShow {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  cue(show, 2, { 1: 80 });
  return show;
}
const fade = {
  is: 'status' as const,
  showId: 'show',
  listId: 'main',
  fading: true,
  elapsed_s: 2,
  total_s: 10,
  paused: false,
  rate: 1,
  hand: null,
  followIn_s: 6,
};

describe('a fade that the clock told of', () => {
  test('goes on from there at its rate, to its end and no further', () => {
    const { lists, clock, list } = playing();
    lists.heard({ ...fade, rate: 2 });
    expect(statusOf(lists, list)).toMatchObject({ elapsed_s: 2, followIn_s: 6, running: true });
    clock.now_ms += 1500;
    expect(statusOf(lists, list)).toMatchObject({ elapsed_s: 5, followIn_s: 3, running: true });
    clock.now_ms += 2500;
    expect(statusOf(lists, list)).toMatchObject({ elapsed_s: 10, followIn_s: 0, running: false });
  });

  test('paused, neither goes on; by hand the fade stands', () => {
    const { lists, clock, list } = playing();
    lists.heard({ ...fade, paused: true });
    clock.now_ms += 3000;
    expect(statusOf(lists, list)).toMatchObject({ elapsed_s: 2, followIn_s: 6, paused: true });
    lists.heard({ ...fade, hand: 0.4, followIn_s: null });
    clock.now_ms += 3000;
    expect(statusOf(lists, list)).toMatchObject({ elapsed_s: 2, followIn_s: null, hand: 0.4 });
  });

  test('of a list that never played there is nothing to tell', () => {
    const { lists, list, show } = playing();
    expect(statusOf(lists, list)).toMatchObject({
      cueId: null,
      cueNumber: null,
      nextId: show.cuesOf('main')[0]?.id,
      elapsed_s: 0,
      total_s: 0,
      running: false,
      active: false,
      rate: 1,
      master: 1,
      bpm: null,
      chase: null,
      track: null,
    });
    expect(lists.all.size).toBe(0);
  });

  test('lists are told in the order of their numbers', () => {
    const show = twoCues();
    for (const name of ['B', 'C']) apply(show, 'make-list', { name });
    const numbers = statuses(playing([], show).lists).map((s) => show.lists.get(s.id)?.number);
    expect(numbers).toEqual([1, 2, 3]);
  });
});

describe('a track', () => {
  const on = { position_s: 30, since_ms: 1, base_s: 20, passed: 'c' };
  const state = (track: ListState['track'], more = {}): ListState => ({
    cueId: null,
    cueNumber: null,
    ...(track && { track }),
    ...more,
  });

  test('saved while it runs, it is saved where it is; the next player goes on from there by its own clock', () => {
    const { lists, clock } = playing([['main', state(on, { rate: 2 })]]);
    expect(lists.onTrack('main')).toEqual({ position_s: 30, runs: true, rate: 2 });
    clock.now_ms += 2000;
    expect(lists.position('main')).toBe(34);
    expect(lists.saved()).toEqual([
      ['main', state({ ...on, position_s: 34, since_ms: 50_000 }, { rate: 2 })],
    ]);
    expect(playing(lists.saved()).lists.position('main')).toBe(34);
  });

  test('stood, it stands; a list on none has no position', () => {
    const { lists, clock, list } = playing([
      ['main', state({ ...on, since_ms: null, loop: { from_s: 1, to_s: 4 } })],
    ]);
    clock.now_ms += 9000;
    expect(lists.onTrack('main')).toEqual({ position_s: 30, runs: false, rate: 1 });
    expect(statusOf(lists, list).track).toEqual({
      position_s: 30,
      told_ms: 59_000,
      runs: false,
      loop: { from_s: 1, to_s: 4 },
    });
    expect([lists.position('other'), lists.onTrack('other')]).toEqual([undefined, null]);
  });
});

describe('what comes next', () => {
  const at = (number: number, cueId: string | null, more: Partial<ListState> = {}): ListState => ({
    cueId,
    cueNumber: number,
    ...more,
  });

  test('where the cue on stage was deleted it is what followed its number, in full', () => {
    const { show } = playing();
    const [first, second] = show.cuesOf('main');
    expect(nextOf(show, 'main', undefined)).toEqual({ cue: first, inOrder: true, armed: false });
    expect(nextOf(show, 'main', at(1500, null))).toEqual({
      cue: second,
      inOrder: false,
      armed: false,
    });
    expect(nextOf(show, 'main', at(2000, second?.id ?? ''))).toBeUndefined();
    expect(nextOf(show, 'main', at(1000, first?.id ?? ''))?.inOrder).toBe(true);
  });

  test('a cue that was armed in another list is not gone into from here', () => {
    const show = twoCues();
    apply(show, 'make-list', { name: 'Other' });
    const other = [...show.lists.keys()].at(-1) ?? '';
    const [first, second] = show.cuesOf('main');
    const armed = at(1000, first?.id ?? '', { armedId: second?.id ?? '' });
    expect(nextOf(show, 'main', armed)).toMatchObject({ armed: true, inOrder: false });
    expect(nextOf(show, other, armed)?.armed ?? false).toBe(false);
  });

  test('a counted link leads back until it is counted, then on; past it the count begins anew', () => {
    const show = twoCues();
    const [first, second] = show.cuesOf('main');
    cue(show, 3, { 1: 10 });
    apply(show, 'change-cue', { id: second?.id, set: { link: { to: first?.id, times: 2 } } });
    const list = show.lists.get('main');
    const third = show.cuesOf('main')[2];
    if (!list || !first || !second || !third) throw new Error('not made');
    const state = at(2000, second.id);
    for (const rounds of [1, 2]) {
      expect(nextOf(show, 'main', state)?.cue.id).toBe(first.id);
      countRound(show, list, state, first);
      expect(state.rounds).toEqual({ [second.id]: rounds });
    }
    expect(nextOf(show, 'main', state)?.cue.id).toBe(third.id);
    countRound(show, list, state, third);
    expect(state.rounds).toEqual({});
    state.armedId = first.id;
    countRound(show, list, state, first);
    expect(state.rounds).toEqual({});
  });

  test('a cue is named by its number, and what is wrong with it is said', () => {
    const { show } = playing();
    expect(cueNamed(show, 'main', '2')).toBe(show.cuesOf('main')[1]);
    expect(cueNamed(show, 'main', '2.5.1')).toMatchObject({
      code: 'invalid',
      fields: { cue: 'Not a cue number.' },
    });
    expect(cueNamed(show, 'main', '7')).toMatchObject({
      code: 'not-found',
      message: 'There is no cue 7.',
    });
  });
});
