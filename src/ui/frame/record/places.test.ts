/** Where a record is offered to go. */
import { cue, exampleShow } from '@/core/testing/example';
import { placesIn } from './places';

const show = exampleShow();
for (const n of [1, 2, 2.001, 5]) cue(show, n, { 1: n * 10 });
const cues = show.cuesOf('main');
const at = (n: number) => cues.find((c) => c.number === n * 1000);
const NONE = { taken: undefined, onStage: undefined, looked: undefined };
const said = (of: Partial<Parameters<typeof placesIn>[1]>): string[] =>
  placesIn(cues, { ...NONE, ...of }).map((p) => `${p.says}: ${p.number ?? 'no room'}`);

test('with nothing in question, at the end', () => {
  expect(said({})).toEqual(['at the end: 6']);
});

test('the cue on stage, next to it, and the one that is looked at', () => {
  expect(said({ onStage: at(5), looked: at(1) })).toEqual([
    'into 5, on stage: 5',
    'after 5: 6',
    'before 5: 3',
    'at the end: 6',
    'into 1, looked at: 1',
  ]);
});

test('what was taken goes back first, whatever is on stage', () => {
  expect(said({ taken: at(1), onStage: at(5), looked: at(1) }).slice(0, 1)).toEqual([
    'back into 1: 1',
  ]);
  expect(said({ taken: at(1), onStage: at(5), looked: at(5) }).at(-1)).toBe('into 5, on stage: 5');
});

test('where there is no number left, that is said', () => {
  expect(said({ looked: at(2) })).toContain('after 2: no room');
});
