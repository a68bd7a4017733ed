/** Actions as they are typed: what makes one, and what is said at which field where it does not. */
import fc from 'fast-check';
import { CueAction } from '@/core/cues/rows';
import { exampleShow } from '@/core/testing/example';
import { ACTION_KINDS, ActionDraft, actionOf, draftOf, firstDraft } from './action-draft';

const plain = firstDraft(exampleShow(), ['f1']);
const wrongAt = (set: Partial<ActionDraft>): [string, string][] => {
  const read = ActionDraft.safeParse({ ...plain, ...set });
  return read.success ? [] : read.error.issues.map((i) => [i.path.join('.'), i.message]);
};

test('every kind makes an action that a cue can have', () => {
  const full = { ...plain, fader: 'fd', macro: 'Lamp on', sound: 's' };
  for (const kind of ACTION_KINDS) {
    expect(wrongAt({ ...full, kind })).toEqual([]);
    expect(CueAction.parse(actionOf({ ...full, kind })).do).toBe(kind);
  }
});

test('a list goes to a cue only where one is named', () => {
  expect(actionOf({ ...plain, cue: '2.5', what: 'goto' })).toMatchObject({ cue: 2500 });
  expect(actionOf({ ...plain, cue: '2.5', what: 'start' })).not.toHaveProperty('cue');
  expect(wrongAt({ what: 'goto', cue: 'x' })).toEqual([['cue', 'Say which cue, like 2 or 2.5.']]);
});

test('percents, times and MIDI numbers have their bounds, and say so where they stand', () => {
  const fader = { kind: 'fader', fader: 'fd' } as const;
  expect(wrongAt({ ...fader, level: '101' })).toEqual([['level', 'A level goes from 0 to 100 %.']]);
  expect(wrongAt({ ...fader, level: '' })).toHaveLength(1);
  expect(wrongAt({ ...fader, time: 'soon' })[0]?.[0]).toBe('time');
  expect(wrongAt({ kind: 'fader', fader: '' })[0]?.[1]).toMatch(/no faders yet/);
  expect(wrongAt({ kind: 'midi', channel: '17' })[0]?.[0]).toBe('channel');
  expect(wrongAt({ kind: 'midi', value: '128' })[0]?.[0]).toBe('value');
  expect(actionOf({ ...plain, ...fader, level: '60', time: '2.5' })).toMatchObject({
    level: 0.6,
    time_s: 2.5,
  });
});

test('OSC arguments are numbers where they read as such', () => {
  const d = ActionDraft.parse({ ...plain, kind: 'osc', address: ' /cue ', args: '1 -0.5 word' });
  expect(actionOf(d)).toEqual({ do: 'osc', address: '/cue', args: [1, -0.5, 'word'] });
  expect(wrongAt({ kind: 'osc', address: 'cue' })[0]?.[0]).toBe('address');
});

test('fields of another kind stop nothing', () => {
  expect(wrongAt({ kind: 'let-off', level: 'x', channel: 'x', address: 'x' })).toEqual([]);
});

const NAMED = ['quay', 'deck'];
const anyAction = fc.oneof(
  fc.record({
    do: fc.constant('list' as const),
    list: fc.constantFrom(...NAMED),
    what: fc.constantFrom('start', 'go', 'pause', 'release'),
  }),
  fc.record({
    do: fc.constant('list' as const),
    list: fc.constantFrom(...NAMED),
    what: fc.constant('goto'),
    cue: fc.integer({ min: 1, max: 9_999_999 }),
  }),
  fc.record({
    do: fc.constant('fader' as const),
    fader: fc.constantFrom(...NAMED),
    level: fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000),
    time_s: fc.integer({ min: 0, max: 300_000 }).map((n) => n / 1000),
  }),
  fc.record({
    do: fc.constant('flash' as const),
    fader: fc.constantFrom(...NAMED),
    on: fc.boolean(),
  }),
  fc.record({ do: fc.constantFrom('release-looks' as const, 'let-off' as const) }),
  fc.record({ do: fc.constant('remotes' as const), on: fc.boolean() }),
  fc.record({
    do: fc.constant('osc' as const),
    address: fc.constantFrom('/', '/cue', '/house/4'),
    args: fc.array(
      fc.oneof(
        fc.integer({ min: -999, max: 999 }),
        fc.constantFrom('word', 'two words', '12', '', '-0.5', 'a"b', 'say "so" \\', '1e5'),
      ),
      { maxLength: 16 },
    ),
  }),
  fc.record({
    do: fc.constant('midi' as const),
    kind: fc.constantFrom('note-on', 'note-off', 'control', 'program'),
    channel: fc.integer({ min: 1, max: 16 }),
    number: fc.integer({ min: 0, max: 127 }),
    value: fc.integer({ min: 0, max: 127 }),
  }),
  fc.record({
    do: fc.constant('show-control' as const),
    device: fc.integer({ min: 0, max: 127 }),
    command: fc.constantFrom('go', 'stop', 'resume'),
    cue: fc.constantFrom('12', '12.5'),
  }),
  fc.record({ do: fc.constant('bytes' as const), bytes: fc.constantFrom('90 3C 7F', 'F0 7E F7') }),
  fc.record({
    do: fc.constant('macro' as const),
    fixtures: fc.constant(['f1', 'f2']),
    macro: fc.constantFrom('Lamp on', 'Reset'),
  }),
  fc.record({ do: fc.constant('sound' as const), sound: fc.constantFrom(...NAMED) }),
);

test('an action that is opened and kept is the same action, of every kind', () => {
  const show = exampleShow();
  fc.assert(
    fc.property(anyAction, (action) => {
      const read = CueAction.parse(action);
      const draft = ActionDraft.safeParse(draftOf(show, [], read));
      expect(draft.error?.issues ?? []).toEqual([]);
      expect(draft.data && actionOf(draft.data)).toEqual(read);
    }),
    { numRuns: Number(process.env.RUNS ?? 300) },
  );
});
