/** What a hand is told back: what each of its parts stands for now. */
import { exampleShow } from '../testing/example.ts';
import { levelOfAct, Told, type Telling } from './tells.ts';

const show = exampleShow();
const telling = (playback: object): Telling => ({
  playback: {
    lists: [],
    faders: [],
    boards: [],
    played: [],
    blackout: false,
    master: 1,
    ...playback,
  },
  selection: [],
  values: new Map(),
  you: { userId: 'mara', name: 'Mara Kell' },
  time_s: null,
  levelOfUnit: () => 0.25,
});

test('a fader stands where it is, its flash is lit while it flashes; one that is not there is dark', () => {
  const now = telling({ faders: [{ id: 'f', level: 0.4, flash: true }] });
  const still = telling({ faders: [{ id: 'f', level: 0.4, flash: false }] });
  const fader = { do: 'fader', fader: 'f' } as const;
  const flash = { do: 'flash', fader: 'f' } as const;
  expect(levelOfAct(show, now, fader)).toBe(0.4);
  expect([now, still, telling({})].map((n) => levelOfAct(show, n, flash))).toEqual([1, 0, 0]);
  expect(levelOfAct(show, telling({}), fader)).toBeUndefined();
});

test('GO is lit while its list plays, pause while it stands, back never; without a list it is the first', () => {
  const now = telling({
    lists: [
      { id: 'main', active: true, paused: false },
      { id: 'band', active: false, paused: true },
    ],
  });
  const told = (list: string | undefined, what: 'go' | 'pause' | 'back') =>
    levelOfAct(show, now, { do: 'list', list, what } as never);
  expect([told('main', 'go'), told('band', 'go'), told(undefined, 'go')]).toEqual([1, 0, 1]);
  expect([told('main', 'pause'), told('band', 'pause'), told(undefined, 'pause')]).toEqual([
    0, 1, 0,
  ]);
  expect(told('main', 'back')).toBe(0);
});

test('the master stands where it is, blackout is lit while it is dark; a key that only selects is told nothing', () => {
  const now = telling({ master: 0.7, blackout: true });
  expect(levelOfAct(show, now, { do: 'master' })).toBe(0.7);
  expect(levelOfAct(show, now, { do: 'blackout' })).toBe(1);
  expect(levelOfAct(show, telling({}), { do: 'blackout' })).toBe(0);
  expect(levelOfAct(show, now, { do: 'none' } as never)).toBeUndefined();
});

test('what is new is told once; what was moved by hand is told when the hand has let go', () => {
  const told = new Told();
  expect(told.stands('cc.1.7', 0.5, 0)).toBe('told');
  expect(told.stands('cc.1.7', 0.5, 10)).toBe('knows');
  told.movedTo('cc.1.7', 0.8, 20);
  expect(told.stands('cc.1.7', 0.8, 30)).toBe('knows');
  expect(told.stands('cc.1.7', 0.2, 30)).toBe('later');
  expect(told.stands('cc.1.7', 0.2, 5000)).toBe('told');
});
