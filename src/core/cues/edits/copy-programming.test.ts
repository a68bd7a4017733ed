/** Programming of one unit goes over to others. */
import {
  apply,
  cue,
  exampleShow,
  idOf,
  idsOf,
  levelIn,
  patchOf,
  refused,
} from '../../testing/example.ts';

describe('copying programming', () => {
  test('the others do what the one does, in every cue and group, and stop what they did', () => {
    const show = exampleShow();
    cue(show, 1, { 1: 80, 2: 10 });
    cue(show, 2, { 1: 30 });
    cue(show, 3, { 2: 99 });
    apply(show, 'record-group', { name: 'Bow', fixtures: idsOf(show, 1) });
    apply(show, 'copy-programming', { from: idOf(show, 1), to: idsOf(show, 2, 3) });
    for (const n of [2, 3])
      expect([1, 2, 3].map((c) => levelIn(show, c, n, 'Dimmer'))).toEqual([0.8, 0.3, 0.3]);
    expect([...show.groups.values()][0]?.fixtures).toEqual(idsOf(show, 1, 2, 3));
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 1), to: idsOf(show, 2, 3) }).message,
    ).toMatch(/already do what 1 does/);
  });

  test('new units are patched and do what the one does in one step; undone in one', () => {
    const show = exampleShow();
    cue(show, 1, { 2: 70 });
    const group = [...show.groups.values()].find((g) => g.fixtures.includes(idOf(show, 2)));
    const { changes } = apply(show, 'copy-programming', {
      from: idOf(show, 2),
      fresh: { quantity: 2, first: 80, universe: 8, address: 10 },
    });
    expect([80, 81].map((n) => [patchOf(show, n), levelIn(show, 1, n, 'Dimmer')])).toEqual([
      ['8.10', 0.7],
      ['8.11', 0.7],
    ]);
    if (group)
      expect(show.groups.get(group.id)?.fixtures).toEqual(
        expect.arrayContaining(idsOf(show, 80, 81)),
      );
    show.apply(
      [...changes].reverse().map((c) => ({ ...c, before: c.after, after: c.before })) as never,
    );
    expect(show.fixtureByNumber(80)).toBeUndefined();
    expect(levelIn(show, 1, 81, 'Dimmer')).toBeUndefined();
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 2), fresh: { quantity: 0 } }).message,
    ).toBe('Make at least one unit.');
    expect(
      refused(show, 'copy-programming', { from: idOf(show, 2), fresh: { quantity: 1, first: 2 } })
        .message,
    ).toContain('exists already');
  });

  test('own times go along, and what the other unit cannot do is named', () => {
    const show = exampleShow();
    apply(show, 'record-cue', {
      listId: 'main',
      number: 1000,
      values: [
        { fixtureId: idOf(show, 101), attribute: 'Dimmer', level: 1, fade_s: 9 },
        { fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.2 },
      ],
    });
    const { summary } = apply(show, 'copy-programming', {
      from: idOf(show, 101),
      to: idsOf(show, 4),
    });
    expect(summary).toMatch(/not possible there: pan/);
    expect([...show.values.values()].find((v) => v.fixtureId === idOf(show, 4))).toMatchObject({
      attribute: 'Dimmer',
      level: 1,
      fade_s: 9,
    });
  });
});
