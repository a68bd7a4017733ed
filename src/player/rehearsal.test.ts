import { nightFerryRows } from '../../demo/night-ferry.ts';
import { MutableShow } from '../core/show/show.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { rehearse } from './rehearsal.ts';

test('the whole of The Night Ferry plays through, and every cue is met', () => {
  const show = new MutableShow();
  show.apply(nightFerryRows());
  const done = rehearse(show, 'main');
  expect(done.cues).toBe(show.cuesOf('main').length);
  expect(done.played_s).toBeGreaterThan(200);
  expect(done.met.map((m) => m.text).some((t) => t.includes('travel while lit in cue 5'))).toBe(
    true,
  );
  expect(done.met.some((m) => m.text.includes('never reached'))).toBe(false);
});

test('what fails, what is dark and what is never reached is told with its cue', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  cue(show, 2, { 1: 0 });
  const third = cue(show, 3, { 2: 70 });
  cue(show, 4, { 3: 70 });
  apply(show, 'change-cue', {
    id: first,
    set: { actions: [{ do: 'fader', fader: 'gone', level: 1, time_s: 0 }] },
  });
  apply(show, 'change-cue', { id: third, set: { link: { to: first } } });
  const texts = rehearse(show, 'main').met.map((m) => m.text);
  expect(texts).toEqual([
    'Cue 1: Its action is for a fader that has been deleted.',
    'The stage is dark when cue 2 has ended.',
    'Cue 4 is never reached.',
  ]);
});

test('a round that never ends is left after ten minutes, and the rest is played on by hand', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  const second = cue(show, 2, { 1: 70 });
  cue(show, 3, { 1: 20 });
  for (const [id, to] of [
    [first, second],
    [second, first],
  ])
    apply(show, 'change-cue', {
      id,
      set: { follow_s: 5, ...(id === second ? { link: { to } } : {}) },
    });
  const done = rehearse(show, 'main');
  expect(done.met.map((m) => m.text)).toEqual([
    'It goes on by itself for more than ten minutes: played on by hand from here.',
  ]);
  expect(done.cues).toBe(3);
  expect(done.played_s).toBeGreaterThan(600);
  expect(done.played_s).toBeLessThan(700);
});

test('of many that are never reached eight are named', () => {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  for (let n = 2; n <= 11; n++) cue(show, n, { 1: 5 * n });
  apply(show, 'change-cue', { id: first, set: { link: { to: first } } });
  expect(rehearse(show, 'main').met).toEqual([
    { cueId: expect.any(String), text: 'Cues 2, 3, 4, 5, 6, 7, 8, 9 … are never reached.' },
  ]);
});

test('how long it took is counted, what went by is not; heads that travel in the dark are no matter', () => {
  const show = exampleShow();
  cue(show, 1, { 101: 0 });
  let now = 1000;
  const done = rehearse(show, 'main', () => (now += 250));
  expect([done.took_ms, done.cues]).toEqual([250, 1]);
  expect(done.met).toEqual([]);
});

test('it leaves the show as it is', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  const before = JSON.stringify([...show.rows()]);
  rehearse(show, 'main');
  expect(JSON.stringify([...show.rows()])).toBe(before);
  expect(rehearse(exampleShow(), 'main').cues).toBe(0);
  expect(idOf(show, 1)).not.toBe('');
});
