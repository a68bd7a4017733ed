/** What was kept is parsed when it comes back: older states have defaults, a broken part costs itself alone. */
import { exampleShow } from '../core/testing/example.ts';
import { NOTHING_SAVED, readSaved } from './saved-show.ts';
import { desk } from './simulated-desk.ts';

const owner = { userId: 'mara', name: 'Mara', role: 'owner' } as const;

test('what a show plays comes back as it was kept', async () => {
  const d = desk(exampleShow());
  d.live.command(owner, { command: 'master', level: 0.6 });
  d.live.command(owner, { command: 'remotes', on: true });
  d.live.command(owner, { command: 'select', fixtures: ['f1'] });
  const kept: unknown = JSON.parse(JSON.stringify(await d.live.saved()));
  const read = readSaved(kept);
  expect(read?.lost).toEqual([]);
  expect(read?.saved).toEqual(kept);
  expect(read?.saved).toMatchObject({ master: 0.6, remotes: true });
});

test('a state from before there were boards, faders and sections has their defaults, and its holder the board', () => {
  const older = {
    lists: [['main', { cueId: null, cueNumber: null }]],
    programmers: [],
    master: 0.8,
    blackout: true,
    holder: { userId: 'mara', name: 'Mara' },
    engine: null,
  };
  expect(readSaved(older)).toEqual({
    lost: [],
    saved: {
      ...NOTHING_SAVED,
      lists: older.lists,
      master: 0.8,
      blackout: true,
      boards: [{ thing: 'show', userId: 'mara', name: 'Mara', since: '' }],
    },
  });
});

test('a part that cannot be read begins anew, and the others stay', () => {
  const read = readSaved({
    master: 'loud',
    blackout: true,
    programmers: [['mara', { name: 'Mara' }]],
    tempo_bpm: 90,
    engine: { keys: 'none' },
  });
  expect(read?.lost.sort()).toEqual(['engine', 'master', 'programmers']);
  expect(read?.saved).toMatchObject({
    master: 1,
    blackout: true,
    programmers: [],
    tempo_bpm: 90,
    engine: null,
  });
});

test.each([null, undefined, 'state', 7, []])('%j is no state', (kept) =>
  expect(readSaved(kept)).toBeNull(),
);
