/** What a write changes beyond its cue: whatever the list and whatever is written, what is said is what the cues show then. */
import fc from 'fast-check';
import { planEdit } from '../edits/plan-edit';
import { isRefusal } from '../refusal';
import type { MutableShow, RowChange } from '../show/show';
import { apply, cue, exampleShow, idOf } from '../testing/example';
import { consequences } from './consequences';
import { stateAt } from './tracking';

/** By cue that stays: its slots that show something else afterwards, from whole states of both. */
function asSeen(show: MutableShow, changes: readonly RowChange[]): Map<string, string[]> {
  const after = show.clone();
  after.apply(changes);
  const seen = new Map<string, string[]>();
  for (const now of after.cuesOf('main')) {
    const was = show.cues.get(now.id);
    if (was?.listId !== 'main') continue;
    const [a, b] = [stateAt(show, 'main', was.number), stateAt(after, 'main', now.number)];
    const level = (of: typeof a, key: string): number | null => of.get(key)?.value.level ?? null;
    const differ = [...new Set([...a.keys(), ...b.keys()])].filter(
      (key) => level(a, key) !== level(b, key),
    );
    if (differ.length > 0) seen.set(now.id, differ.sort());
  }
  return seen;
}
const asSaid = (show: MutableShow, changes: readonly RowChange[]): Map<string, string[]> =>
  new Map(
    consequences(show, changes).map((c) => [c.cueId, c.differences.map((d) => d.key).sort()]),
  );

const Levels = fc.dictionary(
  fc.constantFrom('1', '2', '3', '4'),
  fc.option(
    fc.integer({ min: 0, max: 4 }).map((n) => n * 25),
    { nil: null, freq: 5 },
  ),
  { minKeys: 1 },
);
const Cue = fc.record({ levels: Levels, block: fc.boolean() });
const Write = fc.oneof(
  fc.record({
    do: fc.constant('record' as const),
    at: fc.integer({ min: 1, max: 24 }),
    levels: Levels,
  }),
  fc.record({
    do: fc.constant('delete' as const),
    i: fc.nat(11),
    n: fc.integer({ min: 1, max: 2 }),
  }),
  fc.record({ do: fc.constant('block' as const), i: fc.nat(11), on: fc.boolean() }),
  fc.record({
    do: fc.constant('renumber' as const),
    i: fc.nat(11),
    to: fc.integer({ min: 1, max: 24 }),
  }),
  fc.record({
    do: fc.constant('remove' as const),
    i: fc.nat(11),
    unit: fc.integer({ min: 1, max: 4 }),
  }),
  fc.record({ do: fc.constant('tracking' as const), on: fc.boolean() }),
);

type Written =
  | { do: 'record'; at: number; levels: Record<string, number | null> }
  | { do: 'delete'; i: number; n: number }
  | { do: 'block'; i: number; on: boolean }
  | { do: 'renumber'; i: number; to: number }
  | { do: 'remove'; i: number; unit: number }
  | { do: 'tracking'; on: boolean };
let made = 0;
function planned(show: MutableShow, write: Written): readonly RowChange[] {
  const cues = show.cuesOf('main');
  const at = (i: number): string => cues[i % Math.max(1, cues.length)]?.id ?? 'none';
  const plan = (name: string, params: unknown): readonly RowChange[] => {
    const done = planEdit(show, 'owner', name, params, `w${made++}`);
    return isRefusal(done) ? [] : done.changes;
  };
  switch (write.do) {
    case 'record':
      return plan('record-cue', {
        listId: 'main',
        number: write.at * 500,
        values: Object.entries(write.levels).map(([n, percent]) => ({
          fixtureId: idOf(show, Number(n)),
          attribute: 'Dimmer',
          level: percent === null ? null : percent / 100,
        })),
      });
    case 'delete':
      return plan('delete-cue', {
        ids: [...new Set(Array.from({ length: write.n }, (_, k) => at(write.i + k)))],
      });
    case 'block':
      return plan('block-cue', { ids: [at(write.i)], on: write.on });
    case 'renumber':
      return plan('renumber-cues', { ids: [at(write.i)], from: write.to * 500, step: 1000 });
    case 'remove':
      return plan('remove-from-cue', {
        cueId: at(write.i),
        slots: [{ fixtureId: idOf(show, write.unit), attribute: 'Dimmer' }],
      });
    case 'tracking':
      return plan('change-list', { id: 'main', set: { tracking: write.on } });
  }
}

test('what is said is what is seen, slot by slot, in every cue that stays', () => {
  fc.assert(
    fc.property(
      fc.array(Cue, { minLength: 1, maxLength: 10 }),
      fc.boolean(),
      fc.array(Write, { maxLength: 3 }),
      Write,
      (cues, tracks, earlier, write) => {
        const show = exampleShow();
        cues.forEach(({ levels, block }, i) => {
          const id = cue(show, i + 1, levels);
          if (block) {
            const done = planEdit(show, 'owner', 'block-cue', { ids: [id], on: true }, 'b');
            if (!isRefusal(done)) show.apply(done.changes);
          }
        });
        if (!tracks) apply(show, 'change-list', { id: 'main', set: { tracking: false } });
        for (const w of earlier) show.apply(planned(show, w));
        const changes = planned(show, write);
        expect(asSaid(show, changes)).toEqual(asSeen(show, changes));
      },
    ),
    { numRuns: 300 },
  );
});

test('in the order of the list, with what was and what will be, and without the cue that is aimed at', () => {
  const show = exampleShow();
  const sets: Record<number, number>[] = [{ 1: 50 }, { 2: 2 }, { 2: 3 }, { 1: 10 }];
  const ids = sets.map((levels, i) => cue(show, i + 1, levels));
  const changes = planned(show, { do: 'record', at: 2, levels: { 1: 75, 3: 20 } });
  const found = consequences(show, changes, new Set([ids[0] ?? '']));
  expect(found.map((c) => [c.number, c.slots])).toEqual([
    [2000, 2],
    [3000, 2],
    [4000, 1],
  ]);
  expect(found[0]?.differences).toEqual([
    { key: `${idOf(show, 1)}:Dimmer`, before: 0.5, after: 0.75 },
    { key: `${idOf(show, 3)}:Dimmer`, before: null, after: 0.2 },
  ]);
});
