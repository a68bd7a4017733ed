/** Putting something under a hand in one step. */
import { apply, exampleShow, idOf, refused } from '../testing/example.ts';
import type { FaderRow } from './rows.ts';

const withLook = () => {
  const show = exampleShow();
  apply(show, 'record-look', {
    name: 'Warm',
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.8 }],
  });
  return { show, look: [...show.looks.keys()][0] ?? '' };
};
const faders = (show: ReturnType<typeof exampleShow>): FaderRow[] =>
  [...show.faders.values()].sort((a, b) => a.number - b.number);

test('it goes on the first free fader under its own name, and brings up', () => {
  const { show, look } = withLook();
  apply(show, 'put-on-fader', { holds: { kind: 'list', id: 'main' } });
  const { summary } = apply(show, 'put-on-fader', { holds: { kind: 'look', id: look } });
  expect(summary).toBe('The look “Warm” is on fader 2');
  expect(faders(show)).toMatchObject([
    { number: 1, mode: 'proportional', startsWhenRaised: true, releasesAtZero: true },
    { number: 2, name: 'Warm', mode: 'proportional', holds: { kind: 'look', id: look } },
  ]);
});

test('an effect is sized, or paced where that is said; nothing else is', () => {
  const { show, look } = withLook();
  apply(show, 'add-standard-effects', {});
  const effect = [...show.effects.keys()][0] ?? '';
  apply(show, 'put-on-fader', { holds: { kind: 'effect', id: effect } });
  apply(show, 'put-on-fader', { holds: { kind: 'effect', id: effect }, mode: 'rate' });
  expect(faders(show).map((f) => f.mode)).toEqual(['size', 'rate']);
  const wrong = (holds: object, mode: string): string =>
    refused(show, 'put-on-fader', { holds, mode }).message;
  expect(wrong({ kind: 'look', id: look }, 'size')).toContain(
    'A fader that sizes holds an effect.',
  );
  expect(wrong({ kind: 'look', id: look }, 'rate')).toContain('holds a list or an effect');
  expect(wrong({ kind: 'effect', id: effect }, 'inhibiting')).toContain('sized or paced');
});

test('on a fader that is there it takes the place of what that held, and says so', () => {
  const { show, look } = withLook();
  apply(show, 'put-on-fader', { holds: { kind: 'list', id: 'main' } });
  const { summary } = apply(show, 'put-on-fader', {
    number: 1,
    holds: { kind: 'look', id: look },
  });
  expect(summary).toMatch(/^The look “Warm” is on fader 1, instead of “/);
  expect(faders(show)).toHaveLength(1);
  expect(faders(show)[0]).not.toHaveProperty('startsWhenRaised');
});

test('what is gone cannot be put anywhere', () => {
  const { show } = withLook();
  expect(refused(show, 'put-on-fader', { holds: { kind: 'palette', id: 'gone' } }).message).toBe(
    'This palette has been deleted meanwhile.',
  );
  expect(show.faders.size).toBe(0);
});
