/** Which of several sources counts, and what becomes of it. */
import {
  hearSource,
  loseSource,
  lostSources,
  nothingHeard,
  shownBy,
  type Source,
} from './received';

const source = (priority: number, sequence: number, level: number, at_ms = 0): Source => ({
  name: `at ${priority}`,
  address: '10.0.0.1',
  priority,
  sequence,
  slots: new Uint8Array(512).fill(level),
  at_ms,
});

test('the first counts until one of a higher priority comes; one of the same priority does not take over', () => {
  const u = nothingHeard('sacn');
  expect(hearSource(u, 'a', source(100, 1, 10)).is).toBe('other');
  expect(hearSource(u, 'b', source(100, 1, 20)).is).toBe('beside');
  expect(hearSource(u, 'a', source(100, 2, 11))).toMatchObject({ is: 'next' });
  expect(hearSource(u, 'c', source(110, 1, 30)).is).toBe('other');
  expect(shownBy(u)?.slots[0]).toBe(30);
  expect(hearSource(u, 'a', source(100, 3, 12)).is).toBe('beside');
});

test('when it ends, the next one takes over with its next packet, and nothing is shown in between', () => {
  const u = nothingHeard('sacn');
  hearSource(u, 'a', source(120, 1, 10));
  hearSource(u, 'b', source(100, 1, 20));
  expect(loseSource(u, 'b')).toBeNull();
  hearSource(u, 'b', source(100, 2, 20));
  expect(loseSource(u, 'a')?.[0]).toBe(10);
  expect(shownBy(u)).toBeNull();
  expect(hearSource(u, 'b', source(100, 3, 21)).is).toBe('other');
  expect(shownBy(u)?.slots[0]).toBe(21);
});

test('packets that come late are left out; Art-Net is taken as it comes', () => {
  const u = nothingHeard('sacn');
  hearSource(u, 'a', source(100, 9, 10));
  expect(hearSource(u, 'a', source(100, 8, 50)).is).toBe('old');
  expect(shownBy(u)?.slots[0]).toBe(10);
  const art = nothingHeard('artnet');
  hearSource(art, 'a', source(100, 9, 10));
  expect(hearSource(art, 'a', source(100, 8, 50)).is).toBe('next');
});

test('a source is lost after its time', () => {
  const u = nothingHeard('sacn');
  hearSource(u, 'a', source(100, 1, 10, 0));
  hearSource(u, 'b', source(100, 1, 10, 2000));
  expect(lostSources(u, 2501)).toEqual(['a']);
  const art = nothingHeard('artnet');
  hearSource(art, 'a', source(100, 1, 10, 0));
  expect([lostSources(art, 9000), lostSources(art, 10_001)]).toEqual([[], ['a']]);
});

test('a flood of sources is not followed', () => {
  const u = nothingHeard('sacn');
  for (let i = 0; i < 1000; i++) hearSource(u, `s${i}`, source(100, 1, 1));
  expect(u.sources.size).toBeLessThan(100);
});
