/** Times of a record as they are typed. */
import { timesOf, wrongTime } from './use-record';

test('down goes as up does unless it is said; none said leaves the cue its own', () => {
  expect(timesOf({ up: '5', down: '' })).toEqual({ up_s: 5, down_s: 5 });
  expect(timesOf({ up: '5', down: '7.5' })).toEqual({ up_s: 5, down_s: 7.5 });
  expect(timesOf({ up: '', down: '2' })).toEqual({ down_s: 2 });
  expect(timesOf({ up: ' ', down: '' })).toEqual({});
});

test('what is no time is said, and nothing is planned of it', () => {
  expect(wrongTime('soon')).toMatch(/soon/);
  expect(wrongTime('')).toBeUndefined();
  expect(timesOf({ up: 'soon', down: '' })).toBeUndefined();
  expect(timesOf({ up: '1', down: '-3' })).toBeUndefined();
});
