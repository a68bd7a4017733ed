/** From which state two shows are merged: the newest that both have. Another one would undo what somebody made. */
import { randomUUID } from 'node:crypto';
import { ShowStore } from './commit.ts';
import { mergeInto, otherFromShow, previewMerge } from './coming-together.ts';
import { copyShow } from './copies.ts';
import { withCrew, mara, must } from './simulated-crew.ts';
import { createShow } from './shows.ts';

const crew = withCrew();
let store: ShowStore;
const NOTHING_DECIDED = { rules: [], choices: {} };
beforeAll(() => void (store = new ShowStore(crew.db)));

const fresh = async (name: string): Promise<string> =>
  must(await createShow(crew.db, mara.userId, name)).id;
const copyOf = async (id: string, name: string): Promise<string> =>
  must(await copyShow(store, id, mara.userId, name)).id;
const patch = async (id: string, first: number): Promise<void> =>
  void must(
    await store.edit(id, mara, {
      edit: 'patch-fixtures',
      params: { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, first },
      editId: randomUUID(),
    }),
  );
const numbers = async (id: string): Promise<number[]> =>
  [...((await store.open(id))?.show.fixtures.values() ?? [])]
    .map((f) => f.number)
    .sort((a, b) => a - b);
const merge = async (into: string, from: string): Promise<string> => {
  const other = must(await otherFromShow(store, from));
  const { said } = must(await previewMerge(store, into, other, NOTHING_DECIDED));
  must(await mergeInto(store, into, mara, other, NOTHING_DECIDED, randomUUID()));
  return said;
};

test('a copy comes back into the show that it is of; and the show into its copy', async () => {
  const show = await fresh('Ferry');
  await patch(show, 1);
  const copy = await copyOf(show, 'Ferry, tour');
  await patch(show, 2);
  await patch(copy, 3);
  expect(await merge(copy, show)).toBe('since this show was copied from it');
  expect(await numbers(copy)).toEqual([1, 2, 3]);
  expect(await numbers(show)).toEqual([1, 2]);
  // The copy has all of the show by now: what it has more is what comes.
  expect(await merge(show, copy)).toBe('since this show was merged into it last');
  expect(await numbers(show)).toEqual([1, 2, 3]);
  await patch(copy, 4);
  expect(await merge(show, copy)).toBe('since it was merged here last');
  expect(await numbers(show)).toEqual([1, 2, 3, 4]);
});

test('a copy that has gone on, straight into the show that it is of', async () => {
  const show = await fresh('Ferry');
  await patch(show, 1);
  const copy = await copyOf(show, 'Ferry, tour');
  await patch(show, 2);
  await patch(copy, 3);
  expect(await merge(show, copy)).toBe('since it was copied from here');
  expect(await numbers(show)).toEqual([1, 2, 3]);
});

test.each([
  ['the older into the newer', true],
  ['the newer into the older', false],
])(
  'of two copies of one show, %s: what the show did between them is nobody’s deletion',
  async (_, intoNewer) => {
    const show = await fresh('Ferry');
    await patch(show, 1);
    const older = await copyOf(show, 'Older');
    await patch(show, 2);
    const newer = await copyOf(show, 'Newer');
    await patch(older, 3);
    await patch(newer, 4);
    const [into, from] = intoNewer ? [newer, older] : [older, newer];
    expect(await merge(into, from)).toBe('since both were copied from one show');
    expect(await numbers(into)).toEqual([1, 2, 3, 4]);
  },
);

test('what is deleted on one side since then goes on the other; a state of this very show, and a show of others, are no other side', async () => {
  const show = await fresh('Ferry');
  await patch(show, 1);
  await patch(show, 2);
  const copy = await copyOf(show, 'Ferry, tour');
  const second = [...((await store.open(copy))?.show.fixtures.values() ?? [])].find(
    (f) => f.number === 2,
  );
  must(
    await store.edit(copy, mara, {
      edit: 'delete-fixtures',
      params: { ids: [second?.id] },
      editId: randomUUID(),
    }),
  );
  await merge(show, copy);
  expect(await numbers(show)).toEqual([1]);
  const itself = must(await otherFromShow(store, show));
  expect(await previewMerge(store, show, itself, NOTHING_DECIDED)).toMatchObject({
    code: 'conflict',
    message: expect.stringContaining('an older state of this very show'),
  });
  const stranger = must(await otherFromShow(store, await fresh('Sunday')));
  expect(await previewMerge(store, show, stranger, NOTHING_DECIDED)).toMatchObject({
    code: 'unrelated',
    message: expect.stringContaining('“Sunday” and this show do not come from one another'),
  });
  expect(await otherFromShow(store, randomUUID())).toMatchObject({ code: 'not-found' });
});
