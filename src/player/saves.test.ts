/** What plays is kept: soon after it changes, again while it fades, and in words where the database takes nothing at the end. */
import type { Logger } from 'pino';
import { cue, exampleShow } from '../core/testing/example.ts';
import { until } from '../core/testing/until.ts';
import type { Keeping } from './keeping.ts';
import type { SavedShow } from './saved-show.ts';
import { Saves } from './saves.ts';
import { desk, mara } from './simulated-desk.ts';

function house() {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  const d = desk(show);
  const written: SavedShow[] = [];
  const database = { isAway: false, asked: 0 };
  const folder = { isFull: false };
  const keeping = {
    write: (_id: string, _player: string, state: SavedShow) => {
      database.asked++;
      if (database.isAway) return Promise.reject(new Error('away'));
      written.push(state);
      return Promise.resolve();
    },
    leave: () => Promise.resolve(!folder.isFull),
  };
  const saves = new Saves({
    shows: new Map([['ferry', d.live]]),
    keeping: keeping as unknown as Keeping,
    playerId: 'player',
    log: { warn: () => undefined } as unknown as Logger,
  });
  return { d, saves, written, database, folder };
}

test('what changes now is written at once, and what changed while it was written once more', async () => {
  const { d, saves, written } = house();
  d.say(mara, { command: 'go' });
  saves.touched('ferry', 'now');
  await until(() => written.length > 0);
  expect(written[0]?.lists).toHaveLength(1);
  for (let i = 0; i < 10; i++) saves.touched('ferry', 'now');
  await until(() => written.length > 1);
  await saves.all();
});

test('while the database is away playing goes on, and it is tried again until it is back', async () => {
  const { saves, written, database } = house();
  database.isAway = true;
  saves.touched('ferry', 'now');
  await until(() => database.asked > 0);
  expect(written).toEqual([]);
  database.isAway = false;
  await until(() => written.length > 0);
  expect(await saves.all()).toEqual([]);
});

test('at a stop that the database does not take it is said what stood there, and where it is', async () => {
  const { d, saves, database, folder } = house();
  database.isAway = true;
  d.say(mara, { command: 'go' });
  d.pass(10);
  d.say(mara, { command: 'set', fixtures: [2, 3], attribute: 'Dimmer', level: 0.4 });
  expect(await saves.all()).toEqual([
    `The database could not take what “${d.live.name}” plays (cue 1, 2 values that are not recorded). It is kept in the data folder, and comes back with the next start.`,
  ]);
  d.say(mara, { command: 'clear' });
  d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 0.4 });
  expect((await saves.all())[0]).toContain('(cue 1, 1 value that is not recorded)');
  d.say(mara, { command: 'clear' });
  folder.isFull = true;
  expect(await saves.all()).toEqual([
    `The database could not take what “${d.live.name}” plays (cue 1). It could not be kept in the data folder either, and is lost with this stop.`,
  ]);
});
