/** A fader's own decisions, to the edges: whose hand it is in, when it is picked up, and what the clock is told. */
import { compileSlots } from '../core/playback/slots.ts';
import type { FaderRow } from '../core/faders/rows.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import type { MutableShow } from '../core/show/show.ts';
import { slotKey } from '../core/cues/rows.ts';
import type { ShowMessage } from './clock-messages.ts';
import { faderPlayback, Faders, type SavedFader } from './faders.ts';
import type { Playbacks } from './lists/playbacks.ts';

const HAND = { userId: 'mara', name: 'Mara Kell' };
const OTHER = { userId: 'tam', name: 'Tam Brevik' };

/** Faders whose lists only write down what they are told. */
function board(show: MutableShow, saved: readonly SavedFader[] = []) {
  const told: ShowMessage[] = [];
  const lists: [string, ...unknown[]][] = [];
  const counts = { sized: 0, changed: [] as string[] };
  const at = new Map<string, number>();
  const clock = { now_ms: 10_000 };
  const slots = compileSlots(show);
  const index = new Map(slots.keys.map((k, i) => [k, i]));
  const asked =
    (name: string) =>
    (...given: unknown[]) => {
      lists.push([name, ...given]);
      return { ok: true };
    };
  const faders = new Faders(
    {
      id: 'show',
      show,
      lists: {
        at: (id: string) => at.get(id) ?? null,
        setMaster: asked('master'),
        setRate: asked('rate'),
        start: asked('start'),
        release: asked('release'),
        go: asked('go'),
      } as unknown as Playbacks,
      onto: () => ({ index, family: slots.family, find: () => -1 }),
      slots: () => slots,
      tell: (m) => void told.push(m),
      changed: (urgency) => void counts.changed.push(urgency),
      now_ms: () => clock.now_ms,
      sized: () => void counts.sized++,
    },
    saved,
  );
  const state = (number = 1) => {
    const id = faders.byNumber(number)?.id;
    return faders.statuses().find((s) => s.id === id);
  };
  /** What was told since the last asking, by what it does. */
  const since = () => told.splice(0).map(({ do: what, ...rest }) => ({ do: what, ...rest }));
  const asks = () => lists.splice(0);
  return { faders, state, since, asks, at, clock, counts, slots, index };
}

function made(
  holds: FaderRow['holds'] | 'group',
  more: Partial<FaderRow> = {},
): { show: MutableShow; id: string } {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
  apply(show, 'add-standard-effects', {});
  const group = [...show.groups.keys()].at(-1) ?? '';
  apply(show, 'set-fader', {
    set: {
      number: 1,
      name: 'One',
      holds: holds === 'group' ? { kind: 'group', id: group } : holds,
      mode: 'proportional',
      flash: 'full',
      startsWhenRaised: true,
      ...more,
    },
  });
  return { show, id: [...show.faders.keys()][0] ?? '' };
}
const MAIN = { kind: 'list', id: 'main' } as const;
const effectOf = (show: MutableShow): FaderRow['holds'] => ({
  kind: 'effect',
  id: [...show.effects.keys()][0] ?? '',
});
const set = (level: number, more: object = {}) => ({
  command: 'fader' as const,
  fader: 1,
  level,
  ...more,
});

describe('whose hand it is in', () => {
  test('another’s stands against it for a second after its last move, to the millisecond', () => {
    const b = board(made(MAIN).show);
    expect(b.faders.set(set(0.2), HAND)).toMatchObject({ ok: true });
    b.clock.now_ms += 999;
    expect(b.faders.set(set(0.9), OTHER)).toMatchObject({
      code: 'conflict',
      message: 'Mara Kell has fader 1 “One” in hand. It stays as they move it.',
    });
    expect(b.state()?.level).toBe(0.2);
    b.clock.now_ms += 1;
    expect(b.faders.set(set(0.9), OTHER)).toMatchObject({ ok: true });
    expect(b.faders.set(set(0.1), HAND)).toMatchObject({ code: 'conflict' });
  });

  test('what takes it at once asks nobody, but a page for remotes is a hand like any other', () => {
    const b = board(made(MAIN).show);
    b.faders.set(set(0.2), HAND);
    expect(b.faders.set(set(0.9, { take: true }), OTHER)).toMatchObject({ ok: true });
    b.faders.set(set(0.2, { take: true }), HAND);
    expect(b.faders.set(set(0.9, { take: true }), { ...OTHER, atPage: true })).toMatchObject({
      code: 'conflict',
    });
  });

  test('a fader that is not there is said to be unknown', () => {
    const b = board(made(MAIN).show);
    expect(b.faders.set({ ...set(1), fader: 2 }, HAND)).toMatchObject({
      code: 'not-found',
      fields: { fader: 'Unknown.' },
    });
    expect(b.faders.flash(2, true, 'f')).toMatchObject({ code: 'not-found' });
  });
});

describe('one that was let go of from elsewhere', () => {
  const waiting = () => {
    const { show } = made('group');
    const b = board(show);
    b.faders.set(set(0.6), HAND);
    b.faders.releaseAll(3);
    return b;
  };

  test('gives nothing and waits where it stands; at zero it has nothing to wait for', () => {
    const b = waiting();
    expect(b.state()).toMatchObject({ level: 0.6, real: 0, waiting: true });
    expect(b.since().at(-1)).toMatchObject({ do: 'release', time_s: 3 });
    expect(b.faders.releaseAll(3)).toBe(0);
    const still = board(made('group').show);
    expect(still.faders.releaseAll(undefined)).toBe(0);
    expect(still.state()).toMatchObject({ real: 0, waiting: false });
  });

  test('moved on its side it gives nothing, and says where it is picked up', () => {
    const b = waiting();
    b.since();
    expect(b.faders.set(set(0.1), HAND)).toMatchObject({
      message: 'Fader 1 waits: move it across 0 % to pick it up',
    });
    expect([b.state()?.real, b.state()?.level, b.since()]).toEqual([0, 0.1, []]);
  });

  test('met exactly, it is picked up; so it is where it is taken at once', () => {
    const b = waiting();
    b.faders.set(set(0), HAND);
    expect(b.state()).toMatchObject({ waiting: false, real: 0 });
    b.faders.set(set(0.3), HAND);
    expect(b.state()?.real).toBe(0.3);
    const taken = waiting();
    taken.faders.set(set(0.4, { take: true }), HAND);
    expect(taken.state()).toMatchObject({ waiting: false, real: 0.4 });
  });

  test('a list that was released elsewhere leaves only its own faders waiting, and only those that start it', () => {
    const { show } = made(MAIN);
    const more = { name: 'n', flash: 'full', startsWhenRaised: true };
    const add = (number: number, set_: object) =>
      apply(show, 'set-fader', { set: { ...more, number, ...set_ } });
    apply(show, 'make-list', { name: 'Second' });
    const second = [...show.lists.values()].find((l) => l.name === 'Second')?.id;
    add(2, { holds: { kind: 'list', id: second }, mode: 'proportional' });
    add(3, { holds: MAIN, mode: 'rate' });
    add(4, { holds: MAIN, mode: 'proportional', startsWhenRaised: false });
    const b = board(show);
    for (const fader of [1, 2, 3, 4]) b.faders.set({ ...set(0.7), fader }, HAND);
    b.faders.listReleased('main');
    expect([1, 2, 3, 4].map((n) => b.state(n)?.waiting)).toEqual([true, false, false, false]);
    b.faders.set(set(0), HAND);
    b.faders.listReleased('main');
    expect(b.state(1)).toMatchObject({ waiting: false, real: 0 });
    expect(b.faders.keptLists()).toEqual(new Set());
  });
});

describe('a list under it', () => {
  test('raised from nothing it starts, at once or in its own time; raised further it does not again', () => {
    const b = board(made(MAIN).show);
    b.faders.set(set(0.5), HAND);
    expect(b.asks()).toEqual([
      ['master', 'main', 0.5, 0],
      ['start', 'main', 0],
    ]);
    b.faders.set(set(0.8), HAND);
    expect(b.asks()).toEqual([['master', 'main', 0.8, 0]]);
    const own = board(made(MAIN, { inListTime: true }).show);
    own.faders.set(set(0.5), HAND);
    expect(own.asks().at(-1)).toEqual(['start', 'main', undefined]);
  });

  test('led up in a time it comes from nothing; one that plays already is not started', () => {
    const b = board(made(MAIN).show);
    b.at.set('main', 1000);
    b.faders.set(set(0.5, { time: 4 }), HAND);
    expect(b.asks()).toEqual([
      ['master', 'main', 0, 0],
      ['master', 'main', 0.5, 4],
    ]);
    b.faders.set(set(0.7, { time: 4 }), HAND);
    expect(b.asks()).toEqual([['master', 'main', 0.7, 4]]);
  });

  test('at zero it lets go only where it is to, and is not left waiting', () => {
    const b = board(made(MAIN, { releasesAtZero: true }).show);
    b.faders.set(set(0), HAND);
    expect(b.asks()).toEqual([['master', 'main', 0, 0]]);
    b.faders.set(set(0.5), HAND);
    b.asks();
    b.faders.set(set(0, { time: 2 }), HAND);
    expect(b.asks()).toEqual([
      ['master', 'main', 0, 2],
      ['release', 'main', 2],
    ]);
    expect(b.state()).toMatchObject({ real: 0, waiting: false });
    const stays = board(made(MAIN).show);
    stays.faders.set(set(0.5), HAND);
    stays.faders.set(set(0), HAND);
    expect(stays.asks().some(([what]) => what === 'release')).toBe(false);
  });

  test('a fader that does not start it stands at full until it is moved', () => {
    const b = board(made(MAIN, { startsWhenRaised: false }).show);
    expect(b.state()).toMatchObject({ level: 1, real: 1 });
    expect(board(made(MAIN).show).state()).toMatchObject({ level: 0, real: 0 });
  });

  test('as its pace: itself in the middle, a tenth at the foot, ten times at the top', () => {
    const b = board(made(MAIN, { mode: 'rate', startsWhenRaised: false }).show);
    expect(b.state()?.level).toBe(0.5);
    for (const level of [0.5, 0, 1]) b.faders.set(set(level), HAND);
    const rates = b.asks().map(([what, id, rate]) => [what, id, Number(rate).toFixed(6)]);
    expect(rates).toEqual([
      ['rate', 'main', '1.000000'],
      ['rate', 'main', '0.100000'],
      ['rate', 'main', '10.000000'],
    ]);
  });

  test('kept through release by its fader', () => {
    const b = board(made(MAIN, { keepsThroughRelease: true }).show);
    expect(b.faders.keptLists()).toEqual(new Set(['main']));
  });
});

describe('an effect under it', () => {
  const under = (mode: 'size' | 'rate') => {
    const { show } = made(MAIN);
    const holds = effectOf(show);
    for (const number of [2, 3])
      apply(show, 'set-fader', { set: { number, name: 'E', holds, mode, flash: 'full' } });
    return { b: board(show), id: holds.id };
  };

  test('two that size it are multiplied, and so are two that pace it', () => {
    const sizes = under('size');
    expect(sizes.b.faders.sizes()).toEqual(new Map([[sizes.id, 1]]));
    sizes.b.faders.set({ ...set(0.5), fader: 2 }, HAND);
    sizes.b.faders.set({ ...set(0.4), fader: 3 }, HAND);
    expect(sizes.b.faders.sizes().get(sizes.id)).toBeCloseTo(0.2, 6);
    expect([sizes.b.faders.paces().size, sizes.b.counts.sized]).toEqual([0, 2]);
    const paces = under('rate');
    paces.b.faders.set({ ...set(1), fader: 2 }, HAND);
    expect(paces.b.faders.paces().get(paces.id)).toBeCloseTo(10, 5);
    paces.b.faders.set({ ...set(0), fader: 3 }, HAND);
    expect(paces.b.faders.paces().get(paces.id)).toBeCloseTo(1, 5);
    expect([paces.b.faders.sizes().size, paces.b.since()]).toEqual([0, []]);
  });
});

describe('a group under it', () => {
  test('comes up once, goes by its level, and lets go at zero in the time of the hand', () => {
    const { show, id } = made('group');
    const b = board(show);
    const listId = faderPlayback(id);
    b.faders.set(set(0.5, { time: 2 }), HAND);
    const up = b.since();
    expect(up.map((m) => m.do)).toEqual(['list-master', 'move', 'list-master']);
    expect(up[0]).toMatchObject({ listId, level: 0, time_s: 0 });
    expect(up[2]).toMatchObject({ listId, level: 0.5, time_s: 2 });
    b.faders.set(set(0.8), HAND);
    expect(b.since()).toMatchObject([{ do: 'list-master', level: 0.8, time_s: 0 }]);
    b.faders.set(set(0, { time: 3 }), HAND);
    expect(b.since()).toMatchObject([
      { do: 'list-master', level: 0 },
      { do: 'release', listId, time_s: 3 },
    ]);
    b.faders.set(set(0), HAND);
    expect(b.since().map((m) => m.do)).toEqual(['list-master']);
  });

  test('taking away: what it leaves of its units’ intensities, and of nothing else', () => {
    const { show } = made('group', { mode: 'inhibiting', startsWhenRaised: false });
    const b = board(show);
    expect(b.state()?.real).toBe(1);
    b.faders.sendInhibit();
    expect(new Set(inhibits(b.since()))).toEqual(new Set([1]));
    b.faders.set(set(0.25), HAND);
    const levels = inhibits(b.since());
    const of = (n: number) => levels[b.index.get(slotKey(idOf(show, n), 'Dimmer')) ?? -1];
    expect([of(1), of(2), of(3)]).toEqual([0.25, 0.25, 1]);
    expect(levels.filter((l) => l !== 1)).toHaveLength(2);
  });

  const inhibits = (told: { do: string }[]): number[] => [
    ...((told.find((m) => m.do === 'inhibit') as { levels?: Float32Array } | undefined)?.levels ??
      []),
  ];

  test('a flash brings it alone up and takes it away; a second press of the same says nothing', () => {
    const { show, id } = made('group', { flash: 'solo' });
    const b = board(show);
    const listId = faderPlayback(id);
    b.faders.flash(1, true, 'left');
    expect(b.since().at(-1)).toMatchObject({ do: 'flash', listId, on: true, solo: true });
    b.faders.flash(1, true, 'right');
    expect(b.since()).toEqual([]);
    expect(b.state()?.flash).toBe(true);
    b.faders.flash(1, false, 'left');
    expect(b.since()).toEqual([]);
    b.faders.flash(1, false, 'right');
    expect(b.since().map((m) => m.do)).toEqual(['flash', 'release']);
    expect(b.faders.lift(show.faders.get(id), 'right')).toBe(false);
  });

  test('flashed twice it comes and goes twice; a list that was started otherwise meanwhile stays', () => {
    const b = board(made('group').show);
    const flashes = (): string[] => {
      b.faders.flash(1, true, 'f');
      b.faders.flash(1, false, 'f');
      return b.since().map((m) => m.do);
    };
    const first = flashes();
    expect([first.includes('release'), flashes()]).toEqual([true, first]);
    const l = board(made(MAIN).show);
    const press = (on: boolean): unknown[] => {
      l.faders.flash(1, on, 'f');
      return l.asks().map(([name]) => name);
    };
    expect([press(true), press(false)]).toEqual([['go'], ['release']]);
    l.at.set('main', 1000);
    expect([press(true), press(false)]).toEqual([[], []]);
  });

  test('what it holds no more, it lets go of when it says itself anew', () => {
    const { show } = made('group');
    const b = board(show);
    b.faders.set(set(0.5), HAND);
    b.since();
    const group = [...show.groups.values()].at(-1);
    if (group)
      show.apply([
        {
          table: 'groups',
          id: group.id,
          before: group,
          after: { ...group, fixtures: [idOf(show, 1)] },
        },
      ]);
    b.faders.refresh();
    const said = b.since().find((m) => m.do === 'retarget') as unknown as {
      slots: Uint32Array;
      levels: Float32Array;
    };
    const at = (n: number): number =>
      said.levels[said.slots.indexOf(b.index.get(slotKey(idOf(show, n), 'Dimmer')) ?? -1)] ?? -1;
    expect([at(1), at(2)]).toEqual([1, NaN]);
  });

  test('a flash over a fader that is up leaves it up', () => {
    const b = board(made('group').show);
    b.faders.set(set(0.5), HAND);
    b.since();
    b.faders.flash(1, true, 'f');
    b.faders.flash(1, false, 'f');
    expect(b.since().map((m) => m.do)).toEqual(['flash', 'flash']);
  });

  test('deleted while it is up, it lets go, and what is saved knows nothing of fingers', () => {
    const { show, id } = made('group');
    const b = board(show);
    b.faders.set(set(0.5), HAND);
    b.faders.flash(1, true, 'f');
    expect(Object.keys(b.faders.saved()[0]?.[1] ?? {}).sort()).toEqual(
      ['level', 'others', 'real', 'up', 'waiting'].sort(),
    );
    b.since();
    apply(show, 'delete-fader', { id });
    b.faders.refresh();
    expect(b.since()[0]).toMatchObject({ do: 'release', listId: faderPlayback(id) });
    expect(b.faders.saved()).toEqual([]);
  });

  test('what it holds has changed: said anew while it is up, and not while it is down', () => {
    const { show } = made('group');
    const b = board(show);
    b.faders.refresh();
    expect(b.since().map((m) => m.do)).toEqual(['inhibit']);
    b.faders.set(set(0.5), HAND);
    b.since();
    b.faders.refresh();
    expect(b.since().map((m) => m.do)).toEqual(['retarget', 'inhibit']);
  });
});

test('keys: out and full by turns, at whatever level it stood; the next cue of its list', () => {
  const b = board(made('group', { flash: 'toggle' }).show);
  b.faders.flash(1, true, 'f');
  expect(b.state()?.real).toBe(1);
  expect(b.faders.flash(1, false, 'f')).toEqual({ ok: true });
  expect(b.state()?.real).toBe(1);
  b.faders.set(set(0.3), HAND);
  b.faders.flash(1, true, 'f');
  expect(b.state()?.real).toBe(0);
  const goes = board(made(MAIN, { flash: 'go' }).show);
  goes.faders.flash(1, true, 'f', 'mara');
  goes.faders.flash(1, false, 'f', 'mara');
  expect(goes.asks()).toEqual([['go', 'main', 'mara']]);
});

test('one that comes back stands where it was saved, and is pressed by nobody', () => {
  const { show, id } = made('group');
  const b = board(show, [[id, { level: 0.6, real: 0.6, waiting: false, up: true }]]);
  expect(b.state()).toMatchObject({ level: 0.6, real: 0.6, flash: false });
  b.faders.set(set(0.7), HAND);
  expect(b.since().map((m) => m.do)).toEqual(['list-master']);
});
