import { BEAT_MS, goOnFrom } from './players.ts';

/** E1.31 clause 6.7.2: thrown away when the difference to the last one, as a signed byte, is in -20 < d <= 0. */
const taken = (next: number, last: number): boolean => {
  const d = (((next - last) & 255) ^ 128) - 128;
  return !(d <= 0 && d > -20);
};

test('however many packets went out since the last beat, the next ones are taken', () => {
  for (const last of [0, 1, 100, 255]) {
    for (let waited = 0; waited <= BEAT_MS / 1000 + 0.6; waited += 0.05) {
      const next =
        goOnFrom({ at: 1000, sequences: { 'sacn/1': last } }, 1000 + waited)['sacn/1'] ?? -1;
      // A still stage sends about one a second, a moving one 44.
      for (let sent = 0; sent <= Math.ceil(waited * 44); sent++)
        expect(taken(next + 1, (last + sent) % 256)).toBe(true);
    }
  }
});

test('without a beat nothing is known, and sequences begin anew', () => {
  expect(goOnFrom(null, 5)).toEqual({});
});
