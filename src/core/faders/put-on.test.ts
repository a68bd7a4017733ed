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

test('faders change places under the numbers that they have; one undo puts them back', () => {
  const { show, look } = withLook();
  for (const number of [1, 4, 9])
    apply(show, 'put-on-fader', { holds: { kind: 'look', id: look }, number });
  const at = (): number[] => ids.map((id) => show.faders.get(id)?.number ?? 0);
  const ids = faders(show)
    .sort((a, b) => a.number - b.number)
    .map((f) => f.id);
  const [a, b, c] = ids;
  const { changes } = apply(show, 'order-faders', { ids: [c, a, b] });
  expect(at()).toEqual([4, 9, 1]);
  expect(changes).toHaveLength(3);
  expect(refused(show, 'order-faders', { ids: [c, a, b] }).code).toBe('nothing');
  expect(refused(show, 'order-faders', { ids: [a, a] }).code).toBe('not-found');
  expect(refused(show, 'order-faders', { ids: [a, 'gone'] }).code).toBe('not-found');
});

test('a page of faders is called so, and by its numbers again', () => {
  const { show } = withLook();
  const names = () => show.settings.get('show')?.faderPages;
  apply(show, 'name-fader-page', { page: 2, name: 'Practicals' });
  expect(names()).toEqual({ '2': 'Practicals' });
  expect(refused(show, 'name-fader-page', { page: 2, name: 'Practicals' }).code).toBe('nothing');
  expect(apply(show, 'name-fader-page', { page: 2, name: '' }).summary).toBe(
    'Faders 9 to 16 have no name any more',
  );
  expect(names()).toEqual({});
});

describe('what is held becomes a list', () => {
  const values = (show: ReturnType<typeof exampleShow>) =>
    [1, 2].map((n) => ({ fixtureId: idOf(show, n), attribute: 'Dimmer', level: 0.7 }));
  test('with its fader, in one step', () => {
    const show = exampleShow();
    const { summary } = apply(show, 'record-list', {
      name: 'Front wash',
      up_s: 2,
      values: values(show),
      fader: true,
    });
    expect(summary).toBe('Recorded list 2 “Front wash” with 2 values, on fader 1');
    const list = [...show.lists.values()].find((l) => l.name === 'Front wash');
    expect(show.cuesOf(list?.id ?? '')).toMatchObject([{ number: 1000, up_s: 2, down_s: 2 }]);
    expect(faders(show)).toMatchObject([
      { holds: { kind: 'list', id: list?.id }, startsWhenRaised: true, releasesAtZero: true },
    ]);
  });
  test('a name that is taken is counted on; nothing held is refused', () => {
    const show = exampleShow();
    apply(show, 'record-list', { name: 'Wash', values: values(show) });
    apply(show, 'record-list', { name: 'Wash', values: values(show) });
    expect([...show.lists.values()].map((l) => l.name)).toContain('Wash 2');
    expect(show.faders.size).toBe(0);
    expect(refused(show, 'record-list', { name: 'Empty', values: [] }).code).toBe('nothing');
  });
  test('a look comes under a fader as it is recorded, one that is there does not again', () => {
    const show = exampleShow();
    apply(show, 'record-look', { name: 'Warm', values: values(show), fader: true });
    expect(faders(show)).toMatchObject([{ holds: { kind: 'look' }, name: 'Warm' }]);
    const id = [...show.looks.keys()][0];
    apply(show, 'record-look', {
      id,
      values: [{ fixtureId: idOf(show, 3), attribute: 'Dimmer', level: 1 }],
      fader: true,
    });
    expect(show.faders.size).toBe(1);
  });
});
