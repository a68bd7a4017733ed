import { Sources, SOURCES_KEPT } from './sources.ts';

const packet = (universe: number, sequence: number) => ({
  protocol: 'sacn' as const,
  universe,
  source: 'Desk',
  priority: 100,
  sequence,
  slots: new Uint8Array(512),
  terminated: false,
});

test('a thousand sources are remembered; of more, those that were heard the longest ago are forgotten', () => {
  const s = new Sources();
  for (let i = 0; i < SOURCES_KEPT; i++) s.note(`sacn/1/${i}`, packet(1, 1), i);
  s.note('sacn/1/0', packet(1, 2), SOURCES_KEPT);
  for (let i = 0; i < 300; i++) s.note(`sacn/2/${i}`, packet(2, 1), SOURCES_KEPT + 1 + i);
  expect(s.heard.size).toBe(SOURCES_KEPT);
  expect([0, 1, 300, 301].map((i) => s.heard.has(`sacn/1/${i}`))).toEqual([
    true,
    false,
    false,
    true,
  ]);
  for (let i = 0; i < 3000; i++) s.announce(`cid${i}`, 'Desk', 0, [1, 2], i);
  expect(s.announced.size).toBe(SOURCES_KEPT);
  expect(s.announced.has('cid2999')).toBe(true);
});

test('a source that says its universes again does not make another forgotten, and a page that comes again adds nothing', () => {
  const s = new Sources();
  for (let i = 0; i < SOURCES_KEPT; i++) s.announce(`cid${i}`, 'Desk', 0, [i + 1], i);
  for (let n = 0; n < 50; n++) s.announce('cid999', 'Desk', 1, [7, 8], 2000 + n);
  expect(s.announced.size).toBe(SOURCES_KEPT);
  expect(s.announced.get('cid999')?.universes).toEqual([1000, 7, 8]);
  s.announce('cid999', 'Desk', 0, [3], 3000);
  expect(s.announced.get('cid999')?.universes).toEqual([3]);
});

test('packets out of order are counted and not shown; after a lost source any sequence is new; the largest gap is of the last minute', () => {
  const s = new Sources();
  s.note('a', packet(1, 200), 0);
  s.note('a', packet(1, 190), 20);
  expect(s.heard.get('a')).toMatchObject({ sequence: 200, packets: 1, outOfOrder: 1 });
  s.note('a', packet(1, 201), 30);
  s.note('a', packet(1, 190), 2600);
  expect(s.heard.get('a')).toMatchObject({ sequence: 190, packets: 3, outOfOrder: 1 });
  expect(Math.max(...(s.heard.get('a')?.gaps ?? []).map((g) => g.ms))).toBe(2570);
  let at = 2600;
  for (let n = 0; n < 80; n++) s.note('a', packet(1, (191 + n) % 256), (at += 1000));
  expect(Math.max(...(s.heard.get('a')?.gaps ?? []).map((g) => g.ms))).toBe(1000);
});
