/** The player against a simulated clock: lists, follows, loops, links, chases, hands, faders, and what cues do besides light. */
import { slotKey } from '../../core/cues/rows.ts';
import type { MutableShow } from '../../core/show/show.ts';
import { apply, cue, exampleShow, idOf, refused, sheet } from '../../core/testing/example.ts';
import { readMidi } from '../../core/output/midi.ts';
import { readOsc } from '../../core/output/osc.ts';
import { desk, mara, tam } from '../simulated-desk.ts';

const id = (show: MutableShow, n: number, list = 'main'): string =>
  show.cuesOf(list).find((c) => c.number === n * 1000)?.id ?? '';
const set = (
  show: MutableShow,
  n: number,
  fields: Record<string, unknown>,
  list = 'main',
): unknown => apply(show, 'change-cue', { id: id(show, n, list), set: fields });
const near = (v: number): number => expect.closeTo(v, 3) as number;

/** Cue n brings dimmer n to full in 2 s; nothing goes out. */
function ladder(count = 4): MutableShow {
  const show = exampleShow();
  for (let n = 1; n <= count; n++) cue(show, n, { [n]: 100 }, { up_s: 2, down_s: 2 });
  return show;
}

/** A second list, whose cue n sets dimmer 6. */
function twoLists(levels: number[], more: object = {}): { show: MutableShow; second: string } {
  const show = ladder();
  apply(show, 'make-list', { name: 'Lanterns', set: more });
  const second = [...show.lists.values()].find((l) => l.name === 'Lanterns')?.id ?? '';
  levels.forEach((level, i) =>
    apply(show, 'record-cue', {
      listId: second,
      number: (i + 1) * 1000,
      up_s: 0,
      values: [{ fixtureId: idOf(show, 6), attribute: 'Dimmer', level: level / 100 }],
    }),
  );
  return { show, second };
}

describe('follows', () => {
  test('a follow comes so many seconds after GO, an “after” when the longest fade has ended: to the millisecond', () => {
    const show = ladder();
    set(show, 1, { follow_s: 1.337 });
    set(show, 2, { after_s: 0.5 });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    d.pass(1.33);
    expect(d.list()?.cueNumber).toBe(1000);
    d.pass(0.67);
    expect(d.list()?.cueNumber).toBe(2000);
    // At 2 s since GO the second fade has run for 0.663 s of 2: it began on time, not when a frame noticed.
    expect(d.level(2)).toEqual(near(0.663 / 2));
    d.pass(1.83);
    expect(d.list()?.cueNumber).toBe(2000);
    d.pass(1);
    // 1.337 + 2 + 0.5 = 3.837; now it is 4.83.
    expect([d.list()?.cueNumber, d.level(3)]).toEqual([3000, near(0.993 / 2)]);
  });

  test('a chain of follows keeps no debt of frames', () => {
    const show = ladder(6);
    for (let n = 1; n < 6; n++) set(show, n, { follow_s: 0.1 });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    d.pass(1.5);
    expect([1, 2, 3, 4, 5, 6].map((n) => d.level(n))).toEqual(
      [0.75, 0.7, 0.65, 0.6, 0.55, 0.5].map(near),
    );
  });

  test('pause during a follow freezes fade and follow; a rate paces both', () => {
    const show = ladder();
    set(show, 1, { follow_s: 1 });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    d.pass(0.5);
    d.say(mara, { command: 'pause' });
    d.pass(10);
    expect([d.list()?.cueNumber, d.level(1), d.list()?.followIn_s]).toEqual([
      1000,
      near(0.25),
      near(0.5),
    ]);
    d.say(mara, { command: 'pause' });
    d.say(mara, { command: 'rate', rate: 2 });
    d.pass(0.26);
    expect([d.list()?.cueNumber, d.level(1)]).toEqual([2000, near(0.51)]);
  });

  test('a pause straight after GO, before the clock has said a word, is a pause', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'go' });
    expect(d.say(mara, { command: 'pause' })).toMatchObject({ message: 'Paused' });
    d.pass(10);
    expect(d.level(1)).toBe(0);
  });

  test('a cue with a time of day goes by itself then: as the next one, or from anywhere', () => {
    const show = ladder();
    set(show, 2, { clock: '19:30:00' });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    const at = (time: string, day = 24): Date => new Date(`2026-11-${day}T${time}`);
    d.live.lists.clockCame(at('19:29:59'), at('19:30:00'));
    d.pass(3);
    expect([d.list()?.cueNumber, d.level(2)]).toEqual([2000, 1]);
    d.live.lists.clockCame(at('19:30:00'), at('19:30:01'));
    expect(d.list()?.cueNumber).toBe(2000);
  });

  test('several that come at one look go in the order of their times, also over midnight', () => {
    const show = ladder();
    set(show, 2, { clock: '00:00:10' });
    set(show, 3, { clock: '23:59:58' });
    set(show, 4, { clock: '12:00:00' });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    d.live.lists.clockCame(new Date('2026-11-24T23:59:30'), new Date('2026-11-25T00:00:20'));
    expect(d.list()?.cueNumber).toBe(2000);
    d.live.lists.clockCame(new Date('2026-11-25T23:59:30'), new Date('2026-11-25T23:59:59'));
    expect(d.list()?.cueNumber).toBe(3000);
  });
});

describe('order', () => {
  test('an armed cue is played next, in full, and the list goes on from there', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'arm', cue: '3' });
    expect(d.list()).toMatchObject({ armed: true, nextId: id(d.show, 3) });
    d.say(mara, { command: 'go' });
    d.pass(3);
    expect([1, 2, 3].map((n) => d.level(n))).toEqual([1, 1, 1]);
    expect(d.list()).toMatchObject({ armed: false, nextId: id(d.show, 4) });
    expect(d.say(mara, { command: 'arm', cue: '77' })).toMatchObject({ refused: true });
    d.say(mara, { command: 'arm', cue: '1' });
    d.say(mara, { command: 'arm', cue: null });
    expect(d.list()?.nextId).toBe(id(d.show, 4));
  });

  test('a cue armed in the middle of a counted round is gone into, and is no round', () => {
    const show = ladder();
    set(show, 2, { link: { to: id(show, 1), times: 2 } });
    const d = desk(show);
    const go = (): number | null | undefined => (
      d.pass(0.1),
      d.say(mara, { command: 'go' }),
      d.list()?.cueNumber
    );
    expect([go(), go()]).toEqual([1000, 2000]);
    // Armed is the very cue that the link leads to: somebody's wish, and not the link's.
    d.say(mara, { command: 'arm', cue: '1' });
    expect(go()).toBe(1000);
    expect(d.list()?.rounds).toEqual({});
    expect([go(), go(), go(), go(), go(), go()]).toEqual([2000, 1000, 2000, 1000, 2000, 3000]);
    // And an armed cue elsewhere leaves the round that was begun: it counts anew when it is met again.
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    expect([go(), go()]).toEqual([2000, 1000]);
    d.say(mara, { command: 'goto', cue: '2', time: 0 });
    d.say(mara, { command: 'arm', cue: '4' });
    expect([go(), d.list()?.rounds]).toEqual([4000, {}]);
  });

  test('a counted link goes round so many times, then on; the next time it counts anew', () => {
    const show = ladder();
    set(show, 2, { link: { to: id(show, 1), times: 2 } });
    const d = desk(show);
    const seen: (number | null | undefined)[] = [];
    for (let i = 0; i < 8; i++) {
      d.say(mara, { command: 'go' });
      d.pass(0.2);
      seen.push(d.list()?.cueNumber);
    }
    expect(seen).toEqual([1000, 2000, 1000, 2000, 1000, 2000, 3000, 4000]);
    d.say(mara, { command: 'goto', cue: '2' });
    d.say(mara, { command: 'go' });
    expect(d.list()?.cueNumber).toBe(1000);
  });

  test.each([
    ['stop', 4000],
    ['loop', 1000],
    ['release', null],
  ] as const)('at its end a list that says %s is in cue %s', (atEnd, expected) => {
    const show = ladder();
    apply(show, 'change-list', { id: 'main', set: { atEnd } });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '4', time: 0 });
    d.say(mara, { command: 'go' });
    d.pass(3);
    expect([d.list()?.cueNumber ?? null, d.level(4)]).toEqual([
      expected,
      expected === 4000 ? 1 : 0,
    ]);
  });

  test('cut goes to the next cue in no time', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'cut' });
    expect([d.list()?.cueNumber, d.level(1)]).toEqual([1000, 1]);
    d.say(mara, { command: 'cut', cue: '4' });
    expect([d.list()?.cueNumber, d.level(3)]).toEqual([4000, 1]);
  });

  test('the running cue is deleted: levels stay, and GO goes on from where it was', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'goto', cue: '2', time: 0 });
    d.edit(mara, 'delete-cue', { id: id(d.show, 2) });
    expect([d.level(1), d.level(2), d.list()?.cueId, d.list()?.cueNumber]).toEqual([
      1,
      1,
      null,
      2000,
    ]);
    d.say(mara, { command: 'go' });
    expect(d.list()?.cueNumber).toBe(3000);
  });
});

describe('by hand', () => {
  test('a fade is taken over where it is, led either way without a jump, and given back to time', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'go' });
    d.pass(1);
    expect(d.level(1)).toEqual(near(0.5));
    d.say(mara, { command: 'hand', position: 0.5 });
    expect(d.level(1)).toEqual(near(0.5));
    d.say(mara, { command: 'hand', position: 0.9 });
    d.pass(5);
    expect([d.level(1), d.list()?.hand]).toEqual([near(0.9), 0.9]);
    d.say(mara, { command: 'hand', position: 0.2 });
    d.pass(0.1);
    expect(d.level(1)).toEqual(near(0.2));
    d.say(mara, { command: 'hand', position: null });
    d.pass(1);
    expect(d.level(1)).toEqual(near(0.7));
  });

  test('from a standing list the hand leads the next cue in from its start; at the end it is done', () => {
    const show = ladder();
    set(show, 1, { follow_s: 3 });
    const d = desk(show);
    d.say(mara, { command: 'hand', position: 0 });
    d.pass(5);
    expect([d.list()?.cueNumber, d.level(1)]).toEqual([1000, 0]);
    d.say(mara, { command: 'hand', position: 0.5 });
    d.say(mara, { command: 'hand', position: 1 });
    expect([d.level(1), d.list()?.hand]).toEqual([1, null]);
    d.pass(1.1);
    expect(d.list()?.cueNumber).toBe(2000);
  });

  test('a hand takes a finished fade back as well, releases apart', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'go' });
    d.say(mara, { command: 'hand', position: 0.6 });
    d.say(mara, { command: 'hand', position: 0.99 });
    d.say(mara, { command: 'hand', position: 0.3 });
    d.pass(0.1);
    expect(d.level(1)).toEqual(near(0.3));
  });
});

describe('many lists', () => {
  test('intensity: the highest of those merged so; a list by the latest meets it as one', () => {
    const { show, second } = twoLists([40, 90]);
    cue(show, 5, { 6: 60 }, { up_s: 0, down_s: 0 });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '5', time: 0 });
    d.say(mara, { command: 'go', list: second });
    expect([d.level(6), d.source(6)]).toEqual([near(0.6), 'cue 5']);
    d.pass(0.1);
    d.say(mara, { command: 'go', list: second });
    expect(d.level(6)).toEqual(near(0.9));
    d.say(mara, { command: 'list-master', list: second, level: 0.5 });
    expect(d.level(6)).toEqual(near(0.6));
    d.say(mara, { command: 'list-master', list: second, level: 0.8, time: 2 });
    d.pass(1.5);
    expect(d.level(6)).toEqual(near(0.9 * 0.725));
  });

  test.each<[what: string, main: object, second: object, expected: number]>([
    [
      'both by the latest, the same priority: the latest',
      { intensity: 'ltp' },
      { intensity: 'ltp' },
      0.4,
    ],
    [
      'both by the latest: the higher priority',
      { intensity: 'ltp', priority: 80 },
      { intensity: 'ltp' },
      0.6,
    ],
    [
      'one by the latest and lower, one by the highest: the highest',
      {},
      { intensity: 'ltp', priority: 90 },
      0.6,
    ],
  ])('%s', (_what, main, more, expected) => {
    const { show, second } = twoLists([40], more);
    apply(show, 'change-list', { id: 'main', set: main });
    cue(show, 5, { 6: 60 }, { up_s: 0, down_s: 0 });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '5', time: 0 });
    d.say(mara, { command: 'go', list: second });
    expect(d.level(6)).toEqual(near(expected));
  });

  test('a release goes in its time to what is beneath; releasing everything spares what keeps', () => {
    const { show, second } = twoLists([80], { release_s: 4, keepsThroughRelease: true });
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    expect(d.say(mara, { command: 'release-all', time: 0 })).toMatchObject({
      message: 'Released one playback',
    });
    expect([d.level(1), d.level(6)]).toEqual([0, near(0.8)]);
    d.say(mara, { command: 'release', list: second });
    d.pass(2);
    expect(d.level(6)).toEqual(near(0.4));
    d.pass(2.1);
    expect([d.level(6), d.source(6), d.list(second)?.active]).toEqual([0, 'default', false]);
    expect(d.say(mara, { command: 'release', list: second })).toMatchObject({
      refused: true,
      code: 'nothing',
    });
    expect(d.say(mara, { command: 'release-all' })).toMatchObject({
      message: 'Nothing was playing that lets go',
    });
  });

  test('a list that is deleted while it plays lets go', () => {
    const { show, second } = twoLists([80]);
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    d.edit(mara, 'delete-list', { id: second });
    d.pass(3);
    expect(d.level(6)).toBe(0);
  });
});

describe('edits of what plays', () => {
  test('a list that ceases to track lets go of what only tracked, and takes it back', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'goto', cue: '3', time: 0 });
    d.edit(mara, 'change-list', { id: 'main', set: { tracking: false } });
    d.pass(0.1);
    expect([1, 2, 3].map((n) => d.level(n))).toEqual([0, 0, 1]);
    d.edit(mara, 'change-list', { id: 'main', set: { tracking: null } });
    d.pass(0.1);
    expect([1, 2, 3].map((n) => d.level(n))).toEqual([1, 1, 1]);
  });

  test('what is recorded into a list that does not play does not start it', () => {
    const { show, second } = twoLists([]);
    const d = desk(show);
    d.say(mara, { command: 'set', fixtures: [6], attribute: 'Dimmer', level: 0.8 });
    d.edit(mara, 'record-cue', {
      listId: second,
      number: 1000,
      values: [{ fixtureId: idOf(show, 6), attribute: 'Dimmer', level: 0.8 }],
    });
    expect([d.list(second)?.active, d.level(6), d.source(6)]).toEqual([
      false,
      near(0.8),
      'programmer of Mara Kell',
    ]);
    expect(d.live.held('mara').values).toMatchObject([{ recorded: true }]);
  });

  test('an update at the source frees the programmer, and the stage does not move', () => {
    const show = ladder();
    cue(show, 1, { 5: 40 });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '3', time: 0 });
    d.say(mara, { command: 'set', fixtures: [5], attribute: 'Dimmer', level: 0.7 });
    d.edit(mara, 'update-source', {
      listId: 'main',
      number: 3000,
      values: [{ fixtureId: idOf(show, 5), attribute: 'Dimmer', level: 0.7 }],
    });
    d.pass(0.1);
    expect([d.level(5), d.source(5), d.live.held('mara').values]).toEqual([
      near(0.7),
      'tracks from cue 1',
      [],
    ]);
  });
});

describe('chases', () => {
  const chase = (more: object = {}): ReturnType<typeof twoLists> =>
    twoLists([10, 20, 30], {
      chase: { on: true, speed: { bpm: 60 }, share: 0.5, direction: 'forward', ...more },
    });
  const steps = (more: object, seconds: number): (number | null | undefined)[] => {
    const { show, second } = chase(more);
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    const seen: (number | null | undefined)[] = [];
    for (let i = 0; i < seconds; i++) {
      d.pass(i === 0 ? 0.5 : 1);
      const n = d.list(second)?.cueNumber;
      seen.push(n === null || n === undefined ? n : n / 1000);
    }
    return seen;
  };

  test('of a single cue each step is a round: so many, and it is over', () => {
    const { show, second } = twoLists([10], {
      chase: { on: true, speed: { bpm: 60 }, share: 0.5, direction: 'forward', count: 3 },
    });
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    const steps = (): boolean => typeof d.list(second)?.followIn_s === 'number';
    d.pass(1.5);
    expect(steps()).toBe(true);
    d.pass(10);
    expect([steps(), d.list(second)?.cueNumber]).toEqual([false, 1000]);
  });
  test.each<[string, object, number[]]>([
    ['forward, round and round', {}, [1, 2, 3, 1, 2, 3, 1]],
    ['back', { direction: 'back' }, [1, 3, 2, 1, 3, 2, 1]],
    ['there and back', { direction: 'bounce' }, [1, 2, 3, 2, 1, 2, 3]],
    ['two rounds, then it stays', { count: 2 }, [1, 2, 3, 1, 2, 3, 3]],
    ['at two steps a second', { speed: { step_s: 0.5 } }, [1, 3, 2, 1, 3, 2, 1]],
  ])('%s', (_what, more, expected) => expect(steps(more, expected.length)).toEqual(expected));

  test('at random never the same step twice in a row, and each machine the same', () => {
    const seen = steps({ direction: 'random' }, 12);
    for (let i = 1; i < seen.length; i++) expect(seen[i]).not.toBe(seen[i - 1]);
    expect(steps({ direction: 'random' }, 12)).toEqual(seen);
  });

  test('its fade is a share of the step, and a tapped tempo takes over at once', () => {
    const { show, second } = chase();
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    d.pass(1.25);
    // A quarter second into a half-second fade from 10 to 20 %.
    expect(d.level(6)).toEqual(near(0.15));
    d.say(mara, { command: 'chase-speed', list: second, bpm: 120 });
    expect(d.list(second)?.bpm).toBe(120);
    d.pass(0.5);
    expect(d.list(second)?.cueNumber).toBe(3000);
    expect(d.say(mara, { command: 'chase-speed', bpm: 90 })).toMatchObject({ refused: true });
    expect(d.say(mara, { command: 'chase', share: 0 })).toMatchObject({ refused: true });
  });

  test('its direction, fade and rounds are changed while it runs, until it is released', () => {
    const { show, second } = chase();
    const d = desk(show);
    const at = (): number | null | undefined => d.list(second)?.cueNumber;
    d.say(mara, { command: 'go', list: second });
    d.pass(1.5);
    expect(at()).toBe(2000);
    d.say(mara, { command: 'chase', list: second, direction: 'back', share: 0 });
    expect(d.list(second)?.chase).toEqual({
      share: 0,
      direction: 'back',
      count: 0,
      differs: true,
    });
    d.pass(0.75);
    // Back to the first, without a fade.
    expect([at(), d.level(6)]).toEqual([1000, near(0.1)]);
    d.say(mara, { command: 'chase', list: second, count: 1 });
    d.pass(3);
    expect(at()).toBe(1000);
    d.say(mara, { command: 'chase', list: second, count: 0 });
    d.pass(1.25);
    expect(at()).not.toBe(1000);
    d.say(mara, { command: 'release', list: second, time: 0 });
    expect(d.list(second)?.chase).toMatchObject({ direction: 'forward', differs: false });
  });

  test('kept in the show it goes on as the show says, and what was set live is gone', () => {
    const { show, second } = chase();
    const d = desk(show);
    d.say(mara, { command: 'go', list: second });
    d.say(mara, { command: 'chase', list: second, bpm: 30, direction: 'back' });
    d.edit(mara, 'change-list', {
      id: second,
      set: { chase: { on: true, speed: { bpm: 120 }, share: 0.5, direction: 'forward' } },
    });
    expect(d.list(second)).toMatchObject({ bpm: 120, chase: { differs: false } });
    d.pass(0.75);
    expect(d.list(second)?.cueNumber).toBe(2000);
    // It does not run by itself any more: nothing follows.
    d.edit(mara, 'change-list', {
      id: second,
      set: { chase: { on: false, speed: { bpm: 120 }, share: 0.5, direction: 'forward' } },
    });
    d.pass(3);
    expect(d.list(second)?.cueNumber).toBe(2000);
  });
});

describe('faders', () => {
  const withFader = (
    show: MutableShow,
    holds: { kind: string; id: string },
    more: object = {},
  ): void =>
    void apply(show, 'set-fader', {
      set: { number: 1, name: 'One', holds, mode: 'proportional', flash: 'full', ...more },
    });

  describe('other families of a look', () => {
    const RED = 'ColorAdd_R';
    const colours = (others: object): ReturnType<typeof desk> => {
      const show = ladder();
      apply(show, 'record-look', {
        name: 'Warm',
        values: [
          { fixtureId: idOf(show, 11), attribute: 'Dimmer', level: 0.8 },
          { fixtureId: idOf(show, 11), attribute: RED, level: 0.2 },
        ],
      });
      withFader(show, { kind: 'look', id: [...show.looks.keys()][0] ?? '' }, { others });
      return desk(show);
    };
    const to = (d: ReturnType<typeof desk>, level: number, more: object = {}): void =>
      void d.say(mara, { command: 'fader', fader: 1, level, ...more });

    test('over the travel: as much of them as the fader stands at, over what is beneath', () => {
      const d = colours({ come: 'travel' });
      const seen: number[] = [];
      for (const level of [0.25, 0.5, 1, 0.5, 0]) {
        to(d, level);
        d.pass(0.1);
        seen.push(d.level(11, RED));
      }
      // Red is full where nothing says otherwise.
      expect(seen).toEqual([near(0.8), near(0.6), near(0.2), near(0.6), near(1)]);
      to(d, 1, { time: 2 });
      d.pass(1);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.4), near(0.6)]);
      d.pass(1.1);
      expect(d.level(11, RED)).toEqual(near(0.2));
      // What the look says is changed while it stands half way: half of it shows.
      to(d, 0.5);
      const look = [...d.show.looks.values()][0];
      d.edit(mara, 'record-look', {
        id: look?.id,
        values: [{ fixtureId: idOf(d.show, 11), attribute: RED, level: 0.6 }],
      });
      d.pass(0.6);
      expect(d.level(11, RED)).toEqual(near(0.8));
    });

    test('at a level: in and out where the fader passes it, in their own time', () => {
      const d = colours({ come: 'at', at: 0.4, time_s: 1 });
      to(d, 0.3);
      d.pass(0.5);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.24), 1]);
      to(d, 0.5);
      d.pass(0.5);
      expect(d.level(11, RED)).toEqual(near(0.6));
      d.pass(0.6);
      expect(d.level(11, RED)).toEqual(near(0.2));
      to(d, 0.39);
      d.pass(1.1);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.312), near(1)]);
      to(d, 0);
      d.pass(0.1);
      expect([d.level(11), d.level(11, RED), d.source(11, RED)]).toEqual([0, 1, 'default']);
    });

    test('at a level, raised again after everything was released: not before it is there', () => {
      const d = colours({ come: 'at', at: 0.4, time_s: 1 });
      to(d, 0.9);
      d.pass(1.1);
      d.say(mara, { command: 'release-all', time: 0 });
      d.pass(0.1);
      to(d, 0);
      to(d, 0.3);
      d.pass(0.1);
      expect([d.level(11), d.level(11, RED), d.source(11, RED)]).toEqual([
        near(0.24),
        1,
        'default',
      ]);
      to(d, 0.4);
      d.pass(1.1);
      expect(d.level(11, RED)).toEqual(near(0.2));
    });

    test('as it is raised, in a time of their own; down again in it', () => {
      const d = colours({ come: 'raised', time_s: 2 });
      to(d, 1);
      d.pass(1);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.8), near(0.6)]);
      d.pass(1.1);
      to(d, 0);
      d.pass(1);
      expect([d.level(11), d.level(11, RED)]).toEqual([0, near(0.6)]);
      d.pass(1.1);
      expect(d.source(11, RED)).toBe('default');
    });

    test('a flash brings all of it, and takes it away again', () => {
      const d = colours({ come: 'travel' });
      to(d, 0.25);
      d.say(mara, { command: 'flash', fader: 1, on: true });
      d.pass(0.1);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.8), near(0.2)]);
      d.say(mara, { command: 'flash', fader: 1, on: false });
      d.pass(0.1);
      expect([d.level(11), d.level(11, RED)]).toEqual([near(0.2), near(0.8)]);
    });

    test('a wheel is there from the middle on, and never sweeps', () => {
      const show = exampleShow();
      apply(show, 'patch-fixtures', {
        typeId: 'generic-spot-cmy',
        mode: 'Full',
        quantity: 1,
        first: 201,
        universe: 3,
        address: 1,
      });
      const wheel = desk(show).live.slots.keys.find((k) => /:(Gobo1|Color1)$/.test(k)) ?? '';
      const attribute = wheel.slice(wheel.indexOf(':') + 1);
      apply(show, 'record-look', {
        name: 'Glass',
        values: [{ fixtureId: idOf(show, 201), attribute, level: 0.7 }],
      });
      withFader(
        show,
        { kind: 'look', id: [...show.looks.keys()][0] ?? '' },
        { others: { come: 'travel' } },
      );
      const d = desk(show);
      const rest = d.level(201, attribute);
      expect(attribute).not.toBe('');
      for (const level of [0.1, 0.3, 0.49]) {
        to(d, level);
        d.pass(0.1);
        expect(d.level(201, attribute)).toBe(rest);
      }
      to(d, 0.5);
      d.pass(0.1);
      expect(d.level(201, attribute)).toEqual(near(0.7));
    });
  });

  test('keys under faders: up and down by turns, the next cue of its list', () => {
    const { show, second } = twoLists([10, 20]);
    withFader(show, { kind: 'list', id: second }, { flash: 'go' });
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1)] });
    apply(show, 'set-fader', {
      set: {
        number: 2,
        name: 'Front',
        holds: { kind: 'group', id: [...show.groups.keys()].at(-1) },
        mode: 'proportional',
        flash: 'toggle',
      },
    });
    const d = desk(show);
    const key = (fader: number): void => {
      d.say(mara, { command: 'flash', fader, on: true });
      d.pass(0.2);
      d.say(mara, { command: 'flash', fader, on: false });
      d.pass(0.2);
    };
    key(1);
    expect(d.list(second)?.cueNumber).toBe(1000);
    key(1);
    expect(d.list(second)?.cueNumber).toBe(2000);
    key(2);
    expect([d.level(1), d.fader(2)?.level]).toEqual([1, 1]);
    key(2);
    expect([d.level(1), d.fader(2)?.level]).toEqual([0, 0]);
    expect(
      refused(show, 'set-fader', {
        set: {
          name: 'X',
          holds: { kind: 'group', id: [...show.groups.keys()][0] },
          mode: 'proportional',
          flash: 'go',
        },
      }).message,
    ).toContain('Only a list has a next cue');
  });

  test('two hands on one fader: it stays as the first moves it, until that lets go', () => {
    const { show, second } = twoLists([80]);
    withFader(show, { kind: 'list', id: second }, { startsWhenRaised: true });
    const d = desk(show);
    const fader = [...show.faders.keys()][0] ?? '';
    const { pieces } = sheet(d.show, 'Service', [{ kind: 'fader', fader, as: 'upright' }]);
    const other = (level: number) =>
      d.say({ ...tam, remote: true }, { command: 'touch', piece: pieces[0] ?? '', level });
    d.say(mara, { command: 'remotes', on: true });
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    d.pass(0.3);
    expect(other(0.9)).toMatchObject({
      code: 'conflict',
      message: 'Mara Kell has fader 1 “One” in hand. It stays as they move it.',
    });
    expect([d.fader(1)?.level, d.level(6)]).toEqual([0.5, near(0.4)]);
    d.say(mara, { command: 'fader', fader: 1, level: 0.6 });
    d.pass(1.1);
    expect(other(0.9)).toMatchObject({ ok: true });
    expect(d.fader(1)?.level).toBe(0.9);
    // A line takes it whoever has it.
    expect(d.say(mara, { command: 'fader', fader: 1, level: 0.2, take: true })).toMatchObject({
      ok: true,
    });
    expect(d.fader(1)?.level).toBe(0.2);
  });

  test('a look on a fader: its intensity by the fader, its colour as soon as it is up', () => {
    const show = ladder();
    apply(show, 'record-look', {
      name: 'Warm',
      values: [
        { fixtureId: idOf(show, 6), attribute: 'Dimmer', level: 0.8 },
        { fixtureId: idOf(show, 11), attribute: 'ColorAdd_R', level: 0.3 },
      ],
    });
    withFader(show, { kind: 'look', id: [...show.looks.keys()][0] ?? '' });
    const d = desk(show);
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    expect([d.level(6), d.level(11, 'ColorAdd_R'), d.source(6)]).toEqual([
      near(0.4),
      near(0.3),
      'fader 1 “One”',
    ]);
    d.say(mara, { command: 'fader', fader: 1, level: 1, time: 2 });
    d.pass(1);
    expect(d.level(6)).toEqual(near(0.6));
    d.pass(1.1);
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    expect([d.level(6), d.source(6)]).toEqual([0, 'default']);
    expect(d.say(mara, { command: 'fader', fader: 9, level: 1 })).toMatchObject({
      refused: true,
      message: 'There is no fader 9.',
    });
  });

  test('a group master takes away, under the grand master and not from house lights', () => {
    const show = ladder();
    apply(show, 'record-group', { name: 'Front', fixtures: [idOf(show, 1), idOf(show, 2)] });
    withFader(
      show,
      { kind: 'group', id: [...show.groups.keys()][0] ?? '' },
      { mode: 'inhibiting' },
    );
    apply(show, 'change-fixtures', {
      fixtures: [{ id: idOf(show, 2), set: { noGrandMaster: true } }],
    });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '3', time: 0 });
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    d.say(mara, { command: 'master', level: 0.5 });
    expect([d.level(1), d.level(2), d.level(3)]).toEqual([near(0.25), near(1), near(0.5)]);
  });

  test('a palette under a fader that takes away: its units are scaled, others are not', () => {
    const show = ladder();
    apply(show, 'record-palette', {
      family: 'intensity',
      name: 'Front',
      values: [{ fixtureId: idOf(show, 6), attribute: 'Dimmer', level: 0.5 }],
    });
    withFader(
      show,
      { kind: 'palette', id: [...show.palettes.keys()][0] ?? '' },
      { mode: 'inhibiting' },
    );
    const d = desk(show);
    d.say(mara, { command: 'set', fixtures: [5, 6], attribute: 'Dimmer', level: 1 });
    d.say(mara, { command: 'fader', fader: 1, level: 0.25 });
    d.pass(0.1);
    expect([d.level(5), d.level(6)]).toEqual([1, near(0.25)]);
  });

  test('starts when raised, releases at zero, flashes to full while pressed', () => {
    const { show, second } = twoLists([80]);
    withFader(show, { kind: 'list', id: second }, { startsWhenRaised: true, releasesAtZero: true });
    const d = desk(show);
    expect(d.fader(1)).toMatchObject({ level: 0, real: 0 });
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    expect([d.level(6), d.list(second)?.cueNumber]).toEqual([near(0.4), 1000]);
    d.say(mara, { command: 'flash', fader: 1, on: true });
    expect(d.level(6)).toEqual(near(0.8));
    d.say(mara, { command: 'flash', fader: 1, on: false });
    expect(d.level(6)).toEqual(near(0.4));
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    expect(d.list(second)?.active).toBe(false);
    d.say(mara, { command: 'flash', fader: 1, on: true });
    expect(d.level(6)).toEqual(near(0.8));
    d.say(mara, { command: 'flash', fader: 1, on: false });
    expect([d.level(6), d.list(second)?.active]).toEqual([0, false]);
  });

  test('a list that it starts follows the hand at once, or comes in its own time by choice', () => {
    for (const [inListTime, after] of [
      [false, 0.8],
      [true, 0.2],
    ] as const) {
      const { show, second } = twoLists([80]);
      const [cue] = show.cuesOf(second);
      apply(show, 'change-cue', { id: cue?.id ?? '', set: { up_s: 4, down_s: 4 } });
      withFader(show, { kind: 'list', id: second }, { startsWhenRaised: true, inListTime });
      const d = desk(show);
      d.say(mara, { command: 'fader', fader: 1, level: 1 });
      d.pass(1);
      expect(d.level(6)).toEqual(near(after));
    }
  });

  test('a palette on a fader comes up on the units that it was made for', () => {
    const show = ladder();
    apply(show, 'record-palette', {
      family: 'intensity',
      name: 'Half',
      values: [5, 6].map((n) => ({
        fixtureId: idOf(show, n),
        attribute: 'Dimmer',
        level: 0.6,
      })),
    });
    withFader(show, { kind: 'palette', id: [...show.palettes.keys()].at(-1) ?? '' });
    const d = desk(show);
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    expect([5, 6, 4].map((n) => d.level(n))).toEqual([near(0.3), near(0.3), 0]);
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    expect(d.level(6)).toBe(0);
  });

  test('what a fader holds cannot be deleted under it: its light stays', () => {
    const show = ladder();
    apply(show, 'record-look', {
      name: 'Warm',
      values: [{ fixtureId: idOf(show, 6), attribute: 'Dimmer', level: 0.8 }],
    });
    const look = [...show.looks.keys()][0] ?? '';
    withFader(show, { kind: 'look', id: look });
    const d = desk(show);
    d.say(mara, { command: 'fader', fader: 1, level: 1 });
    expect(() => d.edit(mara, 'delete-look', { id: look })).toThrow('fader 1 “One” uses it now');
    d.pass(1);
    expect(d.level(6)).toEqual(near(0.8));
  });

  test('an effect is paced by a fader: itself in the middle, ten times as fast at the top', () => {
    const show = ladder();
    apply(show, 'set-effect', {
      as: 'pulse',
      set: {
        name: 'Pulse',
        tracks: [
          {
            attribute: 'Dimmer',
            wave: 'rise',
            mode: 'absolute',
            size: 1,
            base: 0,
            width: 1,
            offset: 0,
          },
        ],
        speed: { round_s: 10 },
        direction: 'forward',
        spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
      },
    });
    apply(show, 'put-on-fader', { holds: { kind: 'effect', id: 'pulse' }, mode: 'rate' });
    const d = desk(show);
    d.say(mara, { command: 'effect', fixtures: [6], effect: 'pulse', on: true });
    d.pass(1);
    expect(d.level(6)).toBeCloseTo(0.1, 1);
    d.say(mara, { command: 'fader', fader: 1, level: 1 });
    d.pass(0.5);
    expect(d.level(6)).toBeCloseTo(0.6, 1);
  });

  test('released from elsewhere, it waits until it is moved across what it gives', () => {
    const { show, second } = twoLists([80]);
    withFader(show, { kind: 'list', id: second }, { startsWhenRaised: true });
    const d = desk(show);
    d.say(mara, { command: 'fader', fader: 1, level: 0.7 });
    d.say(mara, { command: 'release', list: second, time: 0 });
    expect(d.fader(1)).toMatchObject({ level: 0.7, real: 0, waiting: true });
    d.say(mara, { command: 'fader', fader: 1, level: 0.9 });
    expect([d.level(6), d.fader(1)?.waiting]).toEqual([0, true]);
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    expect([d.level(6), d.fader(1)?.waiting]).toEqual([near(0.4), false]);
    // A line that is typed, and a cue, do not wait.
    d.say(mara, { command: 'release', list: second, time: 0 });
    d.say(mara, { command: 'fader', fader: 1, level: 0.6, take: true });
    expect([d.level(6), d.fader(1)?.waiting]).toEqual([near(0.48), false]);
  });

  test('solo leaves only its own while pressed', () => {
    const { show, second } = twoLists([80]);
    withFader(show, { kind: 'list', id: second }, { flash: 'solo' });
    const d = desk(show);
    d.say(mara, { command: 'goto', cue: '2', time: 0 });
    d.say(mara, { command: 'go', list: second });
    d.say(mara, { command: 'flash', fader: 1, on: true });
    expect([1, 2, 6].map((n) => d.level(n))).toEqual([0, 0, near(0.8)]);
    d.say(mara, { command: 'flash', fader: 1, on: false });
    expect([1, 2, 6].map((n) => d.level(n))).toEqual([1, 1, near(0.8)]);
  });

  test('a rate fader paces its list: a tenth at its foot, itself in the middle', () => {
    const show = ladder();
    withFader(show, { kind: 'list', id: 'main' }, { mode: 'rate' });
    const d = desk(show);
    d.say(mara, { command: 'go' });
    d.say(mara, { command: 'fader', fader: 1, level: 0 });
    d.pass(2);
    expect(d.level(1)).toEqual(near(0.1));
    expect(d.fader(1)?.level).toBe(0);
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    expect(d.list()?.rate).toBe(1);
  });

  test('what stands on faders comes back with the next player', async () => {
    const { show, second } = twoLists([80]);
    withFader(show, { kind: 'list', id: second }, { startsWhenRaised: true });
    const d = desk(show);
    d.say(mara, { command: 'fader', fader: 1, level: 0.5 });
    const other = desk(show, JSON.parse(JSON.stringify(await d.live.saved())) as never);
    expect([other.level(6), other.fader(1)]).toEqual([
      near(0.4),
      expect.objectContaining({ level: 0.5, real: 0.5 }),
    ]);
  });
});

describe('in the cue before', () => {
  const heads = (more: object = {}): MutableShow => {
    const show = exampleShow();
    apply(show, 'change-list', { id: 'main', set: { prePosition: true } });
    const wash = (n: number, values: Record<string, number>, times: object = {}): void =>
      void apply(show, 'record-cue', {
        listId: 'main',
        number: n * 1000,
        ...times,
        values: Object.entries(values).map(([attribute, level]) => ({
          fixtureId: idOf(show, 101),
          attribute,
          level,
        })),
      });
    wash(1, { Dimmer: 1, Pan: 0.2 }, { up_s: 0, down_s: 0 });
    wash(2, { Dimmer: 0 }, { up_s: 1, down_s: 3 });
    wash(3, { Dimmer: 1, Pan: 0.8 }, { up_s: 2, down_s: 2 });
    if (Object.keys(more).length > 0) apply(show, 'change-cue', { id: id(show, 3), set: more });
    return show;
  };
  test('a head that goes dark moves once it is dark, before the cue that lights it', () => {
    const d = desk(heads());
    d.say(mara, { command: 'go' });
    d.pass(0.1);
    d.say(mara, { command: 'go' });
    d.pass(3.4);
    expect(d.level(101, 'Pan')).toEqual(near(0.2));
    d.pass(1.2);
    expect([d.level(101, 'Pan'), d.source(101, 'Pan')]).toEqual([
      near(0.8),
      'moves early for cue 3',
    ]);
    expect(d.level(101)).toBe(0);
  });
  test('not where the cue says otherwise', () => {
    const d = desk(heads({ prePosition: false }));
    d.say(mara, { command: 'goto', cue: '1', time: 0 });
    d.say(mara, { command: 'go' });
    d.pass(8);
    expect(d.level(101, 'Pan')).toEqual(near(0.2));
  });
});

describe('hold for focus', () => {
  test('a held light stays whatever plays, with who and since when, until it is let off', () => {
    const d = desk(ladder());
    d.say(mara, { command: 'focus', fixtures: [1, 5], level: 0.7, on: true });
    d.say(mara, { command: 'go' });
    d.say(mara, { command: 'blackout', on: true });
    d.pass(3);
    d.say(mara, { command: 'release-all', time: 0 });
    expect([d.level(1), d.level(5), d.source(5)]).toEqual([
      near(0.7),
      near(0.7),
      'held for focus by Mara Kell',
    ]);
    expect(d.live.over('mara').focus).toMatchObject([
      { by: 'Mara Kell', level: 0.7 },
      { by: 'Mara Kell' },
    ]);
    d.say(mara, { command: 'park', fixtures: [5], attribute: 'Dimmer', level: 0.1, on: true });
    expect(d.level(5)).toEqual(near(0.1));
    d.say(mara, { command: 'focus', fixtures: [1], on: false, level: 1 });
    expect([d.level(1), d.live.over('mara').focus.length]).toEqual([0, 1]);
    expect(d.say(mara, { command: 'focus', on: false, level: 1 })).toMatchObject({
      message: 'Let off 1 fixture',
    });
    expect(d.say(mara, { command: 'focus', fixtures: [77], on: true, level: 1 })).toMatchObject({
      refused: true,
    });
  });
});

describe('cue actions', () => {
  const acting = (show: MutableShow, actions: object[]): ReturnType<typeof desk> => {
    set(show, 1, { actions });
    return desk(show);
  };
  test('a cue starts, moves, pauses and releases another list', () => {
    const { show, second } = twoLists([40, 80]);
    set(show, 2, { actions: [{ do: 'list', list: second, what: 'goto', cue: 2000 }] });
    set(show, 3, { actions: [{ do: 'list', list: second, what: 'release' }] });
    const d = acting(show, [{ do: 'list', list: second, what: 'start' }]);
    const at: (number | null | undefined)[] = [];
    for (let i = 0; i < 3; i++) {
      d.say(mara, { command: 'go' });
      d.pass(0.2);
      at.push(d.list(second)?.cueNumber ?? null);
    }
    expect(at).toEqual([1000, 2000, null]);
  });

  test('paused by a cue, another list stands in the middle of its fade, and its own cue is not', () => {
    const { show, second } = twoLists([40, 80]);
    set(show, 2, { actions: [{ do: 'list', list: second, what: 'pause' }] });
    const d = acting(show, [{ do: 'list', list: second, what: 'start' }]);
    d.say(mara, { command: 'go' });
    d.pass(0.2);
    const before = d.list(second)?.elapsed_s;
    d.say(mara, { command: 'go' });
    d.pass(1);
    expect([d.list(second)?.paused, d.list()?.paused]).toEqual([true, false]);
    expect(d.list(second)?.elapsed_s).toBeCloseTo(before ?? -1, 1);
  });

  test('faders, flashes, holds, remotes and macros', () => {
    const { show, second } = twoLists([80]);
    apply(show, 'set-fader', {
      set: {
        number: 1,
        name: 'Lanterns',
        holds: { kind: 'list', id: second },
        mode: 'proportional',
        flash: 'full',
        startsWhenRaised: true,
      },
    });
    const fader = [...show.faders.keys()][0];
    const d = acting(show, [
      { do: 'fader', fader, level: 0.5, time_s: 2 },
      { do: 'let-off' },
      { do: 'remotes', on: true },
      { do: 'flash', fader, on: false },
    ]);
    d.say(mara, { command: 'focus', fixtures: [5], level: 1, on: true });
    d.say(mara, { command: 'go' });
    d.pass(1);
    expect([d.level(6), d.level(5), d.live.remotes]).toEqual([near(0.8 * 0.25), 0, true]);
  });

  test('OSC and MIDI go out as their standards write them', () => {
    const d = acting(ladder(), [
      { do: 'osc', address: '/bell/1', args: [1, 0.5, 'ship'] },
      { do: 'midi', kind: 'note-on', channel: 3, number: 60, value: 100 },
    ]);
    d.say(mara, { command: 'go' });
    expect(d.sent.osc.map((p) => readOsc(p))).toEqual([
      { address: '/bell/1', args: [1, 0.5, 'ship'] },
    ]);
    expect(d.sent.midi.map((b) => readMidi(b))).toEqual([
      { kind: 'note-on', channel: 3, number: 60, value: 100 },
    ]);
  });

  test('what fails is reported, and stops neither the others nor the cue', async () => {
    const { show, second } = twoLists([80]);
    apply(show, 'add-sound', { name: 'Bell', data: 'data:audio/wav;base64,AAAA' });
    const sound = [...show.sounds.keys()][0];
    const d = acting(show, [
      { do: 'list', list: second, what: 'go' },
      { do: 'sound', sound },
      { do: 'fader', fader: 'gone', level: 1, time_s: 0 },
      { do: 'osc', address: '/x', args: [] },
    ]);
    d.edit(mara, 'delete-list', { id: second });
    d.sent.problem = 'nobody listens on that port';
    d.say(mara, { command: 'go' });
    d.pass(3);
    await Promise.resolve();
    await Promise.resolve();
    expect(d.level(1)).toBe(1);
    expect(d.live.actions.reports.map((r) => [r.cue, r.text])).toEqual([
      ['1', 'Its action is for a list that has been deleted.'],
      [
        '1',
        '“Bell” was not heard: no screen plays sound, nor does the player’s machine. Switch it on in Run, or say in Time where sounds are heard.',
      ],
      ['1', 'Its action is for a fader that has been deleted.'],
      ['1', 'OSC was not sent: nobody listens on that port'],
    ]);
    d.listeners.count = 1;
    d.say(mara, { command: 'goto', cue: '4' });
    expect(d.live.actions.reports.length).toBe(4);
  });

  test('lists that start each other in a circle end after eight, with a report', () => {
    const { show, second } = twoLists([10, 20]);
    apply(show, 'change-list', { id: second, set: { atEnd: 'loop' } });
    for (const n of [1, 2])
      set(show, n, { actions: [{ do: 'list', list: second, what: 'go' }] }, second);
    const d = acting(show, [{ do: 'list', list: second, what: 'go' }]);
    d.say(mara, { command: 'go' });
    expect(d.live.actions.reports.map((r) => r.text)).toEqual([
      'Lists start each other in a circle: stopped after 8 of them.',
    ]);
  });
});

test('a cue’s parts have times of their own, and its curve bends its fades', () => {
  const show = ladder();
  cue(show, 1, { 5: 100, 6: 100 });
  set(show, 1, {
    curve: 'ease-in',
    parts: [
      {
        number: 1,
        name: 'Late',
        up_s: 4,
        down_s: 4,
        delay_s: 1,
        family_s: {},
        note: '',
        curve: 'linear',
      },
    ],
  });
  apply(show, 'set-values', {
    cells: [
      { cueId: id(show, 1), fixtureId: idOf(show, 6), attribute: 'Dimmer', times: { part: 1 } },
    ],
  });
  expect(show.valuesOf(id(show, 1)).get(slotKey(idOf(show, 6), 'Dimmer'))?.part).toBe(1);
  const d = desk(show);
  d.say(mara, { command: 'go' });
  d.pass(1);
  expect([d.level(5), d.level(6), d.list()?.total_s]).toEqual([near(0.25), 0, 5]);
  d.pass(2);
  expect([d.level(5), d.level(6)]).toEqual([1, near(0.5)]);
});

test('a hand that moves on before the clock has answered leads one cue in', () => {
  const show = exampleShow();
  for (const n of [1, 2, 3]) cue(show, n, { 1: n * 20 }, { up_s: 4, down_s: 4 });
  const d = desk(show);
  d.say(mara, { command: 'goto', cue: '1', time: 0 });
  d.pass(1);
  // What the clock says of it comes with the next frame.
  for (const position of [0.02, 0.1, 0.3]) d.live.command(mara, { command: 'hand', position });
  d.pass(0.1);
  expect(d.list()).toMatchObject({ cueNumber: 2000, hand: 0.3 });
  // At its end it is over, and the next touch leads the next one in.
  d.say(mara, { command: 'hand', position: 1 });
  d.pass(0.1);
  expect(d.list()).toMatchObject({ cueNumber: 2000, hand: null });
  d.say(mara, { command: 'hand', position: 0.1 });
  expect(d.list()).toMatchObject({ cueNumber: 3000, hand: 0.1 });
});
