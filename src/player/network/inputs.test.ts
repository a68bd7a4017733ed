/** Another desk merged into the show on air: from when, and what becomes of it when it is lost. */
import type { InputRow } from '../../core/inputs/rows.ts';
import type { ShowMessage } from '../clock-messages.ts';
import { desk, mara } from '../simulated-desk.ts';
import { HOLDS_MS, LETS_GO_MS, makeInputs, TAKES_OVER_MS } from './inputs.ts';

const SOURCE = { name: 'House desk', address: '10.0.0.9', priority: 100, sequence: 1, at_ms: 0 };

function house(merge: InputRow['merge'] = 'highest') {
  const d = desk();
  d.edit(mara, 'set-input', {
    set: { name: 'House', port: 'sacn/7', universe: 1, merge, on: true },
  });
  let now_ms = 0;
  let onAir = true;
  let heard: Uint8Array | null = null;
  let wanted: ReadonlySet<string> = new Set();
  const told: (Extract<ShowMessage, { do: 'input' }> & { first: number | null })[] = [];
  const inputs = makeInputs({
    onAir: () => (onAir ? d.live : undefined),
    shows: () => [d.live],
    tell: (m) => {
      if (m.do === 'input') told.push({ ...m, first: m.levels?.[0] ?? null });
    },
    ports: () => ({
      want: (_, ports) => (wanted = ports),
      shown: () => (heard ? { ...SOURCE, slots: heard } : null),
    }),
    cards: () => [{ name: 'lights', addresses: [], link: 'up', isOwn: false }],
    now_ms: () => now_ms,
  });
  const [row] = [...d.show.inputs.values()];
  if (!row) throw new Error('no input');
  return {
    d,
    row,
    inputs,
    told,
    wanted: () => [...wanted],
    hears: (level: number) => inputs.shows('sacn/7', (heard = Uint8Array.of(level))),
    loses: () => {
      heard = null;
      inputs.gone('sacn/7');
    },
    pass: (ms: number) => {
      for (const end = now_ms + ms; now_ms < end;) {
        now_ms += 100;
        inputs.look();
      }
    },
    air: (on: boolean) => (onAir = on),
    state: () => inputs.seen(d.live)[0],
  };
}

test('what is heard is merged at once into the universe that it is of', () => {
  const h = house();
  h.pass(100);
  expect(h.wanted()).toEqual(['sacn/7']);
  h.hears(120);
  expect(h.told.at(-1)).toMatchObject({ universe: 1, source: h.row.id, first: 120 });
  expect(h.state()).toMatchObject({ state: 'heard', from: { name: 'House desk' } });
});

test('what is only looked at changes nothing, and is taken when it is wanted', () => {
  const h = house('look');
  h.pass(100);
  h.hears(120);
  h.pass(1000);
  expect(h.told).toEqual([]);
  expect(h.inputs.levels(h.row)?.[0]).toBe(120);
});

test('lost it holds, then lets go evenly, and is gone', () => {
  const h = house();
  h.pass(100);
  h.hears(200);
  h.loses();
  h.pass(HOLDS_MS - 200);
  expect(h.told.map((t) => t.first)).toEqual([200]);
  expect(h.state()?.state).toBe('held');
  h.pass(200 + LETS_GO_MS / 2);
  expect(h.told.at(-1)?.first).toBeGreaterThan(80);
  expect(h.told.at(-1)?.first).toBeLessThan(120);
  h.pass(LETS_GO_MS);
  expect(h.told.at(-1)?.levels).toBeNull();
  const falling = h.told.slice(1, -1).map((t) => t.first ?? 0);
  falling.slice(1).forEach((level, i) => expect(level).toBeLessThanOrEqual(falling[i] ?? 0));
  expect(h.state()?.state).toBe('silent');
});

test('back in time nothing is seen of it', () => {
  const h = house();
  h.pass(100);
  h.hears(200);
  h.loses();
  h.pass(HOLDS_MS - 1000);
  h.hears(200);
  h.pass(HOLDS_MS * 2);
  expect(new Set(h.told.map((t) => t.first))).toEqual(new Set([200]));
});

test('it is off the wire when the show leaves the air, the input goes, or merges no more; and on it again', () => {
  const h = house();
  h.pass(100);
  h.hears(200);
  h.air(false);
  h.pass(100);
  expect(h.told.at(-1)?.levels).toBeNull();
  h.air(true);
  h.pass(100);
  expect(h.told.at(-1)?.first).toBe(200);
  const { id, ...set } = h.row;
  h.d.edit(mara, 'set-input', { id, set: { ...set, merge: 'look' } });
  h.pass(100);
  expect(h.told.at(-1)?.levels).toBeNull();
  h.d.edit(mara, 'set-input', { id, set: { ...set, universe: 2 } });
  h.pass(100);
  expect(h.told.at(-1)).toMatchObject({ universe: 2, first: 200 });
  h.d.edit(mara, 'delete-input', { id });
  h.pass(100);
  expect(h.told.at(-1)).toMatchObject({ universe: 2, levels: null });
});

test('a backup follows what the other house sends, holds it when that is lost, and goes over to its own when somebody takes over', () => {
  const h = house('follow');
  h.pass(100);
  h.hears(120);
  expect(h.told.at(-1)).toMatchObject({ first: 120, instead: true, fade_ms: TAKES_OVER_MS });
  h.hears(130);
  expect(h.told.at(-1)).toMatchObject({ first: 130, instead: true, fade_ms: 0 });
  h.loses();
  h.pass(HOLDS_MS * 20);
  // Receivers come over to a house that sends what they last had.
  expect(h.told.at(-1)).toMatchObject({ first: 130 });
  expect(h.state()).toMatchObject({ state: 'held' });
  const { id, ...set } = h.row;
  h.d.edit(mara, 'set-input', { id, set: { ...set, merge: 'look' } });
  h.pass(100);
  expect(h.told.at(-1)).toMatchObject({ levels: null, fade_ms: TAKES_OVER_MS });
});

test('what comes from another universe, or by another card from now on, is no longer merged as it was', () => {
  const h = house();
  h.pass(100);
  h.hears(120);
  const { id, ...set } = h.row;
  h.d.edit(mara, 'set-input', { id, set: { ...set, card: 'lights' } });
  h.pass(100);
  expect(h.told.at(-1)).toMatchObject({ source: id, levels: null });
  expect(h.wanted()).toEqual(['sacn/7 by lights']);
  // Nothing can come by a card without an address, and that is said.
  expect(h.state()).toMatchObject({
    state: 'silent',
    problem: 'The card “lights” has no address: nothing is heard.',
  });
});
