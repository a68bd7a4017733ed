/** Light over a cue list. */
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { lightOver } from './light-over.ts';

const show = exampleShow();
const units = show.fixtures.size;
const share = (percent: number): number => Math.round((percent / units) * 10) / 10;

cue(show, 1, { 1: 50, 2: 100 });
cue(show, 2, { 2: 20 });
cue(show, 3, { 1: null });

test('light tracks, and ends where it is let go', () => {
  const { cues, light } = lightOver(show, 'main');
  expect(cues.map((c) => c.number)).toEqual([1000, 2000, 3000]);
  expect(light).toEqual([share(150), share(70), share(20)]);
});

test('what a cue moves is counted by unit and family, and only what it sets', () => {
  const moving = exampleShow();
  cue(moving, 1, { 1: 100 });
  const [first] = moving.cuesOf('main');
  const set = (attribute: string, level: number) => ({
    cueId: first?.id,
    fixtureId: idOf(moving, 101),
    attribute,
    set: { level },
  });
  apply(moving, 'set-values', { cells: [set('Pan', 0.2), set('Tilt', 0.4)] });
  cue(moving, 2, { 1: 50 });
  const { moves } = lightOver(moving, 'main');
  expect(moves.position).toEqual([share(100), 0]);
  expect(moves.colour).toEqual([0, 0]);
});

test('a list without cues has no light, and a rig without units none to share', () => {
  expect(lightOver(show, 'nobody')).toMatchObject({ cues: [], light: [] });
});
