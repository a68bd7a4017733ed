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

test('it leaves the show as it is', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  const before = JSON.stringify([...show.rows()]);
  rehearse(show, 'main');
  expect(JSON.stringify([...show.rows()])).toBe(before);
  expect(rehearse(exampleShow(), 'main').cues).toBe(0);
  expect(idOf(show, 1)).not.toBe('');
});
