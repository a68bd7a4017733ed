/** Which universes of others are received. */
import { planEdit } from '../edits/plan-edit';
import { apply, exampleShow } from '../testing/example';

const INPUT = { name: 'House', port: 'sacn/7', universe: 1, merge: 'look', on: true };
const plan = (show: ReturnType<typeof exampleShow>, set: unknown) =>
  planEdit(show, 'owner', 'set-input', { set }, 'new');

test('an input is added, changed and deleted; one universe is one input', () => {
  const show = exampleShow();
  apply(show, 'set-input', { set: INPUT });
  const [row] = [...show.inputs.values()];
  expect(row).toMatchObject(INPUT);
  expect(plan(show, { ...INPUT, name: 'Again' })).toMatchObject({ code: 'clash' });
  // Of the same number by another card it is another one.
  expect(plan(show, { ...INPUT, name: 'Again', card: 'eth1' })).toHaveProperty('changes');
  apply(show, 'set-input', { id: row?.id, set: { ...INPUT, merge: 'highest' } });
  expect([...show.inputs.values()]).toMatchObject([{ merge: 'highest' }]);
  apply(show, 'delete-input', { id: row?.id });
  expect(show.inputs.size).toBe(0);
});

test.each(['sacn/0', 'sacn/64000', 'artnet/128.0.0', 'artnet/0.16.0', 'dmx/1', ''])(
  '%s is no universe of another desk',
  (port) => {
    expect(plan(exampleShow(), { ...INPUT, port })).toMatchObject({ code: 'invalid' });
  },
);
