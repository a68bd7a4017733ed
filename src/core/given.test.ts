import { given } from './given.ts';

test('fields without a value are left out, whatever is false or nothing else is kept', () => {
  const kept = given({ a: undefined, b: null, c: 0, d: '', e: false });
  expect(Object.keys(kept)).toEqual(['b', 'c', 'd', 'e']);
  expect({ fade_s: 2, ...given({ fade_s: undefined }) }).toEqual({ fade_s: 2 });
});
