/**
 * What plays goes on as if nothing had happened, whatever is done before: on another player that takes it up from what was
 * saved, and where somebody changes the rig. Chance commands on a show with a bit of everything.
 */
import fc from 'fast-check';
import type { MutableShow } from '../core/show/show.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { readSaved } from './saved-show.ts';
import { desk, mara } from './simulated-desk.ts';

type Desk = ReturnType<typeof desk>;

const idNamed = <Row extends { id: string; name: string }>(
  rows: ReadonlyMap<string, Row>,
  name: string,
): string => [...rows.values()].find((r) => r.name === name)?.id ?? '';

function withEffects(show: MutableShow): void {
  const spread = { turns: 0, groups: 0, blocks: 1, wings: 1 };
  const track = { attribute: 'Dimmer', width: 1, offset: 0, base: 0 };
  const endless = {
    name: 'Breathe',
    tracks: [{ ...track, wave: 'sine', mode: 'relative', size: 0.4 }],
    speed: { round_s: 3 },
    direction: 'forward',
    spread,
  };
  const twice = {
    name: 'Twice',
    tracks: [{ ...track, wave: 'triangle', mode: 'absolute', size: 0.5, base: 0.2 }],
    speed: { beats: 2 },
    direction: 'bounce',
    rounds: 2,
    out_s: 1,
    spread,
  };
  for (const set of [endless, twice]) apply(show, 'set-effect', { set });
}

/** Follows, a link, a delay, an effect, colour and position in the main list. */
function withMainList(show: MutableShow, effect: string): void {
  for (let n = 1; n <= 6; n++)
    cue(
      show,
      n,
      { [n]: 100, [((n + 2) % 6) + 1]: n === 4 ? null : 30 },
      { up_s: n % 3 === 0 ? 0 : n * 0.7, down_s: 2.2 },
    );
  const id = (n: number): string =>
    show.cuesOf('main').find((c) => c.number === n * 1000)?.id ?? '';
  const change = (n: number, set: object): void =>
    void apply(show, 'change-cue', { id: id(n), set });
  change(2, { follow_s: 1.3 });
  change(4, { after_s: 0.4 });
  change(5, { delay_s: 0.7, link: { to: id(3), times: 2 } });
  apply(show, 'record-cue', {
    listId: 'main',
    number: 3500,
    up_s: 1.5,
    values: [
      {
        fixtureId: idOf(show, 2),
        attribute: 'Dimmer',
        level: 0.6,
        effect: { id: effect, phase: 0.1 },
      },
      { fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.8 },
      { fixtureId: idOf(show, 11), attribute: 'ColorAdd_R', level: 0.3 },
    ],
  });
}

function withChase(show: MutableShow): string {
  const chase = { on: true, speed: { bpm: 70 }, share: 0.6, direction: 'bounce' };
  apply(show, 'make-list', { name: 'Chase', set: { chase } });
  const list = idNamed(show.lists, 'Chase');
  [0.2, 0.9, 0.5].forEach((level, i) =>
    apply(show, 'record-cue', {
      listId: list,
      number: (i + 1) * 1000,
      up_s: 0.4,
      values: [
        { fixtureId: idOf(show, 6), attribute: 'Dimmer', level },
        { fixtureId: idOf(show, 11), attribute: 'Dimmer', level: 1 - level },
      ],
    }),
  );
  return list;
}

function withTrack(show: MutableShow, effect: string, byBeats: string): void {
  apply(show, 'make-list', { name: 'Track', set: {} });
  const list = idNamed(show.lists, 'Track');
  const at: Record<string, number> = {};
  [0.8, 0.1, 0.6].forEach((level, i) => {
    const runs = i > 0 ? { effect: { id: i === 1 ? effect : byBeats, phase: 0 } } : {};
    const { changes } = apply(show, 'record-cue', {
      listId: list,
      number: (i + 1) * 1000,
      up_s: 0.8,
      values: [{ fixtureId: idOf(show, 12), attribute: 'Dimmer', level, ...runs }],
    });
    at[changes.find((c) => c.table === 'cues')?.id ?? ''] = i * 1.5;
  });
  apply(show, 'place-cues', { list, at });
  const tempo = [{ at_s: 0.4, bpm: 100, beats: 3 }];
  const time = { on: true, tempo, marks: [], end_s: 6, atEnd: 'loop' };
  apply(show, 'change-list', { id: list, set: { time } });
}

function withFaders(show: MutableShow, effect: string, chase: string): void {
  const values = [
    { fixtureId: idOf(show, 13), attribute: 'Dimmer', level: 0.8 },
    { fixtureId: idOf(show, 13), attribute: 'ColorAdd_G', level: 0.2 },
    { fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.5 },
  ];
  apply(show, 'record-look', { name: 'Storm', values });
  apply(show, 'record-group', { name: 'Front', fixtures: [1, 2, 3].map((n) => idOf(show, n)) });
  const look = { kind: 'look', id: idNamed(show.looks, 'Storm') };
  const group = { kind: 'group', id: idNamed(show.groups, 'Front') };
  const list = { kind: 'list', id: chase };
  const runs = { kind: 'effect', id: effect };
  const all: [holds: object, more: object][] = [
    [look, { others: { come: 'travel' } }],
    [list, { startsWhenRaised: true, releasesAtZero: true }],
    [group, { mode: 'inhibiting' }],
    [runs, { mode: 'rate' }],
    [{ kind: 'list', id: 'main' }, { mode: 'rate' }],
    [group, { flash: 'solo' }],
    [runs, { mode: 'size' }],
    [list, { flash: 'toggle' }],
  ];
  all.forEach(([holds, more], i) =>
    apply(show, 'set-fader', {
      set: {
        number: i + 1,
        name: `Fader ${i + 1}`,
        holds,
        mode: 'proportional',
        flash: 'full',
        ...more,
      },
    }),
  );
}

function made(): MutableShow {
  const show = exampleShow();
  withEffects(show);
  const effect = idNamed(show.effects, 'Breathe');
  withMainList(show, effect);
  const chase = withChase(show);
  withTrack(show, effect, idNamed(show.effects, 'Twice'));
  withFaders(show, effect, chase);
  return show;
}

interface Step {
  /** Without ids, which differ from show to show: lists, looks and effects by their names. */
  command: Record<string, unknown>;
  pass_s: number;
}

const level = fc.integer({ min: 0, max: 10 }).map((n) => n / 10);
const time = fc.constantFrom(undefined, 0, 0.5, 2);
const list = fc.constantFrom(undefined, 'Chase', 'Track');
const isOn = fc.boolean();
const say = (command: string, params: Record<string, fc.Arbitrary<unknown>> = {}) =>
  fc.record(params).map((p): Step['command'] => ({ command, ...p }));
const aFader = fc.integer({ min: 1, max: 8 });
const someCommand = fc.oneof(
  say('go', { list }),
  say('go', { list }),
  say('back', { list }),
  say('pause', { list, on: isOn }),
  say('goto', { cue: fc.constantFrom('1', '3', '3.5', '6'), time }),
  say('cut'),
  say('arm', { cue: fc.constantFrom('2', '5') }),
  say('rate', { list, rate: fc.constantFrom(0.5, 1, 2) }),
  say('hand', { position: fc.option(level) }),
  say('track', {
    list: fc.constant('Track'),
    do: fc.constantFrom('play', 'pause', 'leave'),
    at_s: fc.option(fc.constantFrom(0.7, 2, 4.4), { nil: undefined }),
  }),
  say('release', { list, time }),
  say('list-master', { list, level, time }),
  say('chase-speed', { list: fc.constant('Chase'), bpm: fc.constantFrom(40, 200) }),
  say('release-all', { time }),
  say('fader', { fader: aFader, level, time, take: isOn }),
  say('flash', { fader: fc.constant(8), on: isOn }),
  say('play', { kind: fc.constant('look'), id: fc.constant('Storm'), on: isOn, time }),
  say('play', {
    kind: fc.constant('effect'),
    id: fc.constantFrom('Breathe', 'Twice'),
    on: isOn,
    time,
    fixtures: fc.constant([2, 3]),
  }),
  say('set', {
    fixtures: fc.constantFrom([1], [2], [12]),
    attribute: fc.constant('Dimmer'),
    level,
    fade_s: fc.constantFrom(0, 1),
  }),
  say('effect', {
    fixtures: fc.constant([3]),
    effect: fc.constantFrom('Breathe', 'Twice'),
    on: isOn,
  }),
  say('clear'),
  say('letgo', { fade_s: fc.constantFrom(0, 1.5) }),
  say('bring-back'),
  say('blind', { on: isOn }),
  say('guard', { fixtures: fc.constantFrom([2], [6]), on: isOn, time }),
  say('park', { fixtures: fc.constantFrom([3], [12]), on: isOn }),
  say('focus', { fixtures: fc.constant([5]), level, on: isOn }),
  say('master', { level }),
  say('blackout', { on: isOn }),
  say('tempo', { bpm: fc.constantFrom(60, 180) }),
);
const someSteps = (maxLength: number): fc.Arbitrary<Step[]> =>
  fc.array(
    fc.record({ command: someCommand, pass_s: fc.integer({ min: 0, max: 30 }).map((n) => n / 10) }),
    { maxLength },
  );

/** @returns what was answered */
function take(d: Desk, { command, pass_s }: Step): string {
  const named: [key: string, rows: ReadonlyMap<string, { id: string; name: string }>][] = [
    ['list', d.show.lists],
    ['effect', d.show.effects],
    ['id', command.kind === 'look' ? d.show.looks : d.show.effects],
  ];
  const told = { ...command };
  for (const [key, rows] of named)
    if (typeof told[key] === 'string') told[key] = idNamed(rows, told[key]);
  const answer = d.say(mara, told as never);
  d.pass(pass_s);
  return 'message' in answer ? String(answer.message) : '';
}

const SEEN: readonly (readonly [unit: number, attribute: string])[] = [
  ...[1, 2, 3, 4, 5, 6, 11, 12, 13, 101].map((n) => [n, 'Dimmer'] as const),
  [101, 'Pan'],
  [11, 'ColorAdd_R'],
  [13, 'ColorAdd_G'],
];
const FRAME = 1 / 44;

/** Both play on, and go on taking commands. */
function goOnAlike(one: Desk, other: Desk, after: readonly Step[]): void {
  const alike = (): void => {
    for (const [unit, attribute] of SEEN) {
      const off = Math.abs(one.level(unit, attribute) - other.level(unit, attribute));
      // A frame may fall elsewhere.
      expect([unit, attribute, off < 0.035]).toEqual([unit, attribute, true]);
    }
  };
  for (const d of [one, other]) d.pass(FRAME);
  alike();
  for (const step of after) {
    expect(take(other, step)).toBe(take(one, step));
    alike();
  }
  for (let n = 0; n < 8; n++) {
    for (const d of [one, other]) d.pass(0.5);
    alike();
  }
}

const numRuns = Number(process.env.RUNS ?? 60);

test('saved at any moment, another player goes on from it, and does what it is told as the first would', () =>
  fc.assert(
    fc.asyncProperty(someSteps(10), someSteps(5), async (before, after) => {
      const first = desk(made());
      let now_s = 0;
      for (const step of before) {
        take(first, step);
        now_s += step.pass_s;
      }
      const kept = readSaved(JSON.parse(JSON.stringify(await first.live.saved())));
      expect(kept?.lost).toEqual([]);
      goOnAlike(first, desk(first.show, kept?.saved, now_s), after);
    }),
    { numRuns },
  ));

test('saved while the next step of a chase is on its way to the lists, it goes on with that step', async () => {
  const first = desk(made());
  take(first, { command: { command: 'go', list: 'Chase' }, pass_s: 0.3 });
  // By this speed the step is over already.
  take(first, { command: { command: 'chase-speed', list: 'Chase', bpm: 200 }, pass_s: 0 });
  const kept = readSaved(JSON.parse(JSON.stringify(await first.live.saved())));
  goOnAlike(first, desk(first.show, kept?.saved, 0.3), []);
});

/** Patches two dimmers that nothing plays. */
const patch = (d: Desk): void =>
  d.edit({ ...mara, role: 'owner' }, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 2,
    first: 60,
    universe: 3,
    address: 1,
    label: 'New #',
  });

function changedAfter(before: readonly Step[], after: readonly Step[]): void {
  const [left, changed] = [desk(made()), desk(made())];
  for (const step of before) for (const d of [left, changed]) take(d, step);
  patch(changed);
  goOnAlike(left, changed, after);
}

test('a change of the rig at any moment is seen nowhere else', () =>
  fc.assert(fc.property(someSteps(10), someSteps(5), changedAfter), { numRuns }));

test.each<[string, Step['command']]>([
  ['a fader over its travel', { command: 'fader', fader: 1, level: 0.1, take: true, time: 2 }],
  [
    'an effect that comes in',
    { command: 'play', kind: 'effect', id: 'Breathe', on: true, fixtures: [2, 3] },
  ],
])('a change of the rig leaves %s on its way', (_which, command) =>
  changedAfter([{ command, pass_s: 0 }], []),
);
