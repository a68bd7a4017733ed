import { rangeOf } from './range';

test('a range is from, to and how much of the end, never beyond the file', () => {
  expect(rangeOf('bytes=0-', 100)).toEqual({ from: 0, to: 100 });
  expect(rangeOf('bytes=10-19', 100)).toEqual({ from: 10, to: 20 });
  expect(rangeOf('bytes=90-500', 100)).toEqual({ from: 90, to: 100 });
  expect(rangeOf('bytes=-10', 100)).toEqual({ from: 90, to: 100 });
  expect(rangeOf('bytes=-500', 100)).toEqual({ from: 0, to: 100 });
});
test('what is no range is answered with the whole, and one that lies beyond the file is said so', () => {
  for (const odd of [null, '', 'bytes=-', 'bytes=a-b', 'lines=1-2', 'bytes=1-2,4-5', 'bytes=9-3'])
    expect(rangeOf(odd, 100)).toBeUndefined();
  expect(rangeOf('bytes=100-', 100)).toBeNull();
  expect(rangeOf('bytes=-0', 100)).toBeNull();
});
