/** A list that goes through palettes: a cue for each, that follows it. */
import { apply, exampleShow, idOf, refused } from '../testing/example.ts';

const withPalettes = () => {
  const show = exampleShow();
  for (const [name, level] of [
    ['Low', 0.2],
    ['High', 0.9],
  ] as const)
    apply(show, 'record-palette', {
      family: 'intensity',
      name,
      values: [1, 2].map((n) => ({ fixtureId: idOf(show, n), attribute: 'Dimmer', level })),
    });
  return { show, ids: [...show.palettes.keys()] };
};
const things = (ids: readonly string[]) => ids.map((id) => ({ kind: 'palette' as const, id }));

test('a cue for each in its order, in the time that was said, following what it is of', () => {
  const { show, ids } = withPalettes();
  const { summary } = apply(show, 'make-list-of', { of: things(ids), fade_s: 4, name: 'Steps' });
  expect(summary).toBe('Made list 2 “Steps” of 2 cues, each 4 s');
  const list = [...show.lists.values()].find((l) => l.name === 'Steps');
  const cues = show.cuesOf(list?.id ?? '');
  expect(cues.map((c) => [c.number, c.name, c.up_s, c.down_s])).toEqual([
    [1000, 'Low', 4, 4],
    [2000, 'High', 4, 4],
  ]);
  const values = [...show.valuesOf(cues[1]?.id ?? '').values()];
  expect(values.map((v) => [v.fixtureId, v.palette, v.level])).toEqual(
    [1, 2].map((n) => [idOf(show, n), ids[1], expect.closeTo(0.9, 3)]),
  );
});

test('looks go in by reference, and a name that is taken gets a number', () => {
  const { show } = withPalettes();
  apply(show, 'record-look', {
    name: 'Storm',
    values: [{ fixtureId: idOf(show, 3), attribute: 'Dimmer', level: 0.5 }],
  });
  const look = [...show.looks.keys()][0] ?? '';
  apply(show, 'make-list-of', { of: [{ kind: 'look', id: look }] });
  apply(show, 'make-list-of', { of: [{ kind: 'look', id: look }] });
  expect([...show.lists.values()].slice(1).map((l) => l.name)).toEqual(['Storm', 'Storm 2']);
  const list = [...show.lists.values()].at(-1);
  const [cue] = show.cuesOf(list?.id ?? '');
  expect([...show.valuesOf(cue?.id ?? '').values()].map((v) => v.look)).toEqual([look]);
});

test('one of which a palette is gone is not made at all', () => {
  const { show, ids } = withPalettes();
  apply(show, 'delete-palette', { id: ids[0] });
  expect(refused(show, 'make-list-of', { of: things(ids) }).message).toBe(
    'The palette that was to be cue 1 has been deleted meanwhile. No list was made.',
  );
  expect(show.lists.size).toBe(1);
});
