/** Runs of universes in one line, and where later ones go. */
import { isRefusal } from '../refusal';
import { planEdit } from '../edits/plan-edit';
import { newShowRows } from '../rig/defaults';
import { MutableShow } from '../show/show';

let show: MutableShow;
let n = 0;
function plan(name: string, params: unknown) {
  const planned = planEdit(show, 'owner', name, params, `r${n++}`);
  if (!isRefusal(planned)) show.apply(planned.changes);
  return planned;
}
const routes = (): string[] =>
  [...show.routes.values()]
    .sort((a, b) => a.universe - b.universe || a.protocol.localeCompare(b.protocol))
    .map((r) => `${r.universe} ${r.protocol} ${r.wire} ${r.destination} ${r.priority}`);
const run = { from: 1, to: 3, protocol: 'sacn', destination: 'multicast', wire: 11, priority: 120 };
beforeEach(() => {
  show = new MutableShow();
  show.apply(newShowRows('Routes'));
});

test('a run goes there, counted on, instead of where it went over that protocol', () => {
  expect(plan('map-universes', run)).toMatchObject({
    summary: 'Sent universes 1 to 3 over sACN to multicast',
  });
  expect(routes()).toEqual([
    '1 artnet 0 node 100',
    '1 sacn 11 multicast 120',
    '2 sacn 12 multicast 120',
    '3 sacn 13 multicast 120',
  ]);
  // The route that is changed stays the same one, so that it goes on being counted.
  expect([...show.routes.keys()]).toContain('sacn-1');
  expect(plan('map-universes', run)).toMatchObject({ code: 'nothing' });
});

test('beside what is there, where that is wanted', () => {
  plan('map-universes', { ...run, to: 1, destination: '10.0.0.7', instead: false });
  expect(routes()).toEqual(['1 artnet 0 node 100', '1 sacn 1 node 100', '1 sacn 11 10.0.0.7 120']);
});

test.each([
  [
    'a number that another universe has there',
    { ...run, from: 2, to: 4, wire: 1, destination: 'node' },
    /Universe 1 goes to 1 there already/,
  ],
  ['a run that ends before it begins', { ...run, from: 4 }, /ends after it begins/],
  ['Art-Net multicast', { ...run, protocol: 'artnet' }, /no multicast/],
  ['past the last sACN universe', { ...run, wire: 63_998 }, /1 to 63999/],
  [
    'past the last port address',
    { ...run, protocol: 'artnet', destination: 'broadcast', wire: 32_766 },
    /end at 32767/,
  ],
])('%s is refused', (_, params, says) => {
  const before = routes();
  const refused = plan('map-universes', params);
  expect(isRefusal(refused) && JSON.stringify(refused)).toMatch(says);
  expect(routes()).toEqual(before);
});

test('universes that are patched later go the same way, and the sentence says where', () => {
  plan('map-universes', { ...run, others: true });
  const patched = plan('patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 1,
    universe: 9,
    address: 1,
  });
  expect(patched).toMatchObject({
    summary: expect.stringContaining('universe 9 now goes to multicast'),
  });
  expect(routes().at(-1)).toBe('9 sacn 19 multicast 120');
});

test('the same universe goes to several places, and by several cards; each is a stream of its own', () => {
  const route = {
    universe: 1,
    protocol: 'sacn',
    destination: 'multicast',
    wire: 1,
    priority: 100,
    on: true,
  };
  plan('set-route', { set: route });
  plan('set-route', { set: { ...route, card: 'eth1' } });
  plan('set-route', { set: { ...route, destination: '10.0.0.9' } });
  expect(routes().filter((r) => r.startsWith('1 sacn'))).toHaveLength(4);
  expect(plan('set-route', { set: { ...route, card: 'eth1' } })).toMatchObject({ code: 'clash' });
  // Whole as it is sent: without a card it is the house’s again, and there that stream is already.
  const own = [...show.routes.values()].find((r) => r.card === 'eth1');
  expect(plan('set-route', { id: own?.id, set: route })).toMatchObject({ code: 'clash' });
  plan('set-route', { id: own?.id, set: { ...route, destination: '10.0.0.11' } });
  expect(show.routes.get(own?.id ?? '')).not.toHaveProperty('card');
});

test.each([
  ['sacn', 'nodes'],
  ['sacn', 'broadcast'],
  ['artnet', 'multicast'],
])('%s has no %s', (protocol, destination) => {
  const set = { universe: 1, protocol, destination, wire: 9, priority: 100, on: true };
  expect(plan('set-route', { set })).toMatchObject({ code: 'invalid' });
});
