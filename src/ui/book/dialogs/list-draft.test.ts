/** A list that is opened and kept as it was plays as it did. */
import { ListRow } from '@/core/lists/rows';
import { draftOf, ListDraft, setOf } from './list-draft';

const list = (more: object): ListRow =>
  ListRow.parse({ id: 'l', number: 2, name: 'Lanterns', back_s: 3, ...more });
const kept = (row: ListRow): object => setOf(ListDraft.parse(draftOf(row)), row);

test('what is said of it stays, what is not said is as it was', () => {
  expect(
    kept(list({ release_s: 90, intensity: 'ltp', priority: 70, atEnd: 'loop' })),
  ).toMatchObject({
    back_s: 3,
    release_s: 90,
    intensity: 'ltp',
    priority: 70,
    atEnd: 'loop',
    tracking: true,
  });
  expect(kept(list({}))).not.toHaveProperty('chase');
});

test('a chase in seconds a step stays one, until its speed is touched', () => {
  const chase = { on: true, speed: { step_s: 0.7 }, share: 0.25, direction: 'bounce', count: 3 };
  const row = list({ chase });
  expect(kept(row)).toMatchObject({ chase });
  const draft = draftOf(row);
  expect(setOf({ ...draft, bpm: '90' }, row).chase?.speed).toEqual({ bpm: 90 });
  expect(setOf({ ...draft, count: '' }, row).chase).not.toHaveProperty('count');
});

test.each<[Partial<ListDraft>, string]>([
  [{ name: ' ' }, 'It needs a name.'],
  [{ back: 'soon' }, 'no time'],
  [{ priority: '101' }, 'From 0 to 100.'],
  [{ bpm: '0' }, 'From 1 to 1200.'],
  [{ share: '-5' }, 'From 0 to 100 %.'],
  [{ count: '0' }, 'Whole rounds'],
])('%o is refused in words', (wrong, says) => {
  const read = ListDraft.safeParse({ ...draftOf(list({})), ...wrong });
  expect(read.error?.issues[0]?.message).toContain(says);
});
