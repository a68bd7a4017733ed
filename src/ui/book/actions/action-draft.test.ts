/** Actions as they are typed: what makes one, and what is said at which field where it does not. */
import { CueAction } from '@/core/cues/rows';
import { exampleShow } from '@/core/testing/example';
import { ACTION_KINDS, ActionDraft, actionOf, firstDraft } from './action-draft';

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
