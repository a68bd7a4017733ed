/** What cues do beside their light, asked directly: each action, what is said where it cannot be, and where it ends. */
import type { CueAction } from '../core/cues/rows.ts';
import { idOf as tableId } from '../core/show/fields.ts';
import { apply, cue, exampleShow, idOf } from '../core/testing/example.ts';
import { changeOf } from '../core/show/fields-of.ts';
import { refuse } from '../core/refusal.ts';
import { CueActions } from './cue-actions.ts';
import type { Faders } from './faders.ts';
import type { Playbacks } from './lists/playbacks.ts';

const FILE = {
  sha256: 'a'.repeat(64),
  bytes: 9,
  kind: 'wav' as const,
  length_s: 3,
  rate_hz: 48_000,
  channels: 2,
};

function acting(answer: object = { ok: true }) {
  const show = exampleShow();
  const cueId = cue(show, 2.5, { 1: 50 });
  apply(show, 'set-fader', {
    set: {
      number: 3,
      name: 'Wash',
      holds: { kind: 'list', id: 'main' },
      mode: 'proportional',
      flash: 'full',
    },
  });
  const fader = [...show.faders.keys()][0] ?? '';
  show.apply([changeOf('sounds', null, { id: 'bell', name: 'Bell', file: FILE })]);
  const did: unknown[][] = [];
  const noting =
    (what: string) =>
    (...given: unknown[]) => {
      did.push([what, ...given]);
      return answer;
    };
  const at: { cue: number | null; heard: number; problem: string | undefined } = {
    cue: null,
    heard: 1,
    problem: undefined,
  };
  const counts = { reported: 0 };
  const actions: CueActions = new CueActions({
    show,
    lists: {
      at: () => at.cue,
      go: noting('go'),
      pause: noting('pause'),
      release: noting('release'),
      goTo: noting('goto'),
    } as unknown as Playbacks,
    faders: {
      move: (row: { number: number }, ...rest: unknown[]) => noting('move')(row.number, ...rest),
      press: (row: { number: number }, on: boolean) => noting('press')(row.number, on),
    } as unknown as Faders,
    outside: {
      osc: (bytes) => (did.push(['osc', bytes.length]), Promise.resolve(at.problem)),
      midi: (bytes) => (did.push(['midi', ...bytes]), Promise.resolve(at.problem)),
    },
    releaseLooks: () => void did.push(['looks']),
    letOff: () => void did.push(['let off']),
    remotes: (on) => void did.push(['remotes', on]),
    macro: (numbers, name) => noting('macro')(numbers, name) as { ok: true },
    sound: (id) => (did.push(['sound', id]), at.heard),
    reported: () => void counts.reported++,
    now: () => new Date('2026-11-24T19:30:00.000Z'),
  });
  const run = (...of: object[]): void => {
    const row = show.cues.get(tableId('cues').parse(cueId));
    if (row) actions.run({ ...row, actions: of as CueAction[] });
  };
  const since = (): unknown[][] => did.splice(0);
  const texts = (): string[] => actions.reports.splice(0).map((r) => r.text);
  return { show, actions, run, since, texts, at, counts, fader };
}

test('lists are started where they stand still, and released where they play; the rest as it is said', () => {
  const a = acting();
  const list = (what: string, more: object = {}) => ({ do: 'list', list: 'main', what, ...more });
  const all = [
    list('start'),
    list('go'),
    list('pause'),
    list('release'),
    list('goto', { cue: 2500 }),
  ];
  a.run(...all);
  expect(a.since()).toEqual([
    ['go', 'main', null],
    ['go', 'main', null],
    ['pause', 'main', true],
    ['goto', 'main', '2.5', undefined],
  ]);
  a.at.cue = 1000;
  a.run(...all);
  expect(a.since().map(([what]) => what)).toEqual(['go', 'pause', 'release', 'goto']);
  expect(a.texts()).toEqual([]);
});

test('faders, looks, hands let off, remotes, macros and sounds', () => {
  const a = acting();
  a.run(
    { do: 'fader', fader: a.fader, level: 0.5, time_s: 2 },
    { do: 'flash', fader: a.fader, on: true },
    { do: 'release-looks' },
    { do: 'let-off' },
    { do: 'remotes', on: false },
    { do: 'macro', fixtures: [idOf(a.show, 1), 'gone'], macro: 'Lamp on' },
    { do: 'sound', sound: 'bell' },
  );
  expect(a.since()).toEqual([
    ['move', 3, 0.5, 2, true],
    ['press', 3, true],
    ['looks'],
    ['let off'],
    ['remotes', false],
    ['macro', [1], 'Lamp on'],
    ['sound', 'bell'],
  ]);
  expect(a.texts()).toEqual([]);
});

test('messages leave in the bytes of their standards, and what keeps them is told later, with its cue', async () => {
  const a = acting();
  const all = [
    { do: 'osc', address: '/go', args: [] },
    { do: 'midi', kind: 'note-on', channel: 1, number: 60, value: 100 },
    { do: 'show-control', device: 1, command: 'go', cue: '7' },
    { do: 'bytes', bytes: 'F0 7E F7' },
  ];
  a.run(...all);
  await new Promise((done) => setImmediate(done));
  expect(a.since()).toEqual([
    ['osc', 8],
    ['midi', 0x90, 60, 100],
    ['midi', 0xf0, 0x7f, 1, 2, 1, 1, 0x37, 0xf7],
    ['midi', 0xf0, 0x7e, 0xf7],
  ]);
  expect(a.texts()).toEqual([]);
  a.at.problem = 'nobody listens';
  a.run(...all);
  await new Promise((done) => setImmediate(done));
  expect(a.actions.reports[0]).toEqual({
    at: '2026-11-24T19:30:00.000Z',
    cue: '2.5',
    text: 'OSC was not sent: nobody listens',
  });
  expect(a.counts.reported).toBe(4);
  expect(a.texts().slice(1)).toEqual([
    'MIDI was not sent: nobody listens',
    'Show control was not sent: nobody listens',
    'The bytes were not sent: nobody listens',
  ]);
});

test('what is gone, refused or heard nowhere is said, and stops nothing that comes after it', () => {
  const a = acting(refuse('nothing', 'No.'));
  a.at.heard = 0;
  a.run(
    { do: 'list', list: 'gone', what: 'go' },
    { do: 'list', list: 'main', what: 'go' },
    { do: 'fader', fader: 'gone', level: 1, time_s: 0 },
    { do: 'fader', fader: a.fader, level: 1, time_s: 0 },
    { do: 'flash', fader: 'gone', on: true },
    { do: 'macro', fixtures: ['gone'], macro: 'Lamp on' },
    { do: 'macro', fixtures: [idOf(a.show, 1)], macro: 'Lamp on' },
    { do: 'sound', sound: 'gone' },
    { do: 'sound', sound: 'bell' },
    { do: 'let-off' },
  );
  expect(a.texts()).toEqual([
    'Its action is for a list that has been deleted.',
    'No.',
    'Its action is for a fader that has been deleted.',
    'No.',
    'Its flash is for a fader that has been deleted.',
    'The fixtures of “Lamp on” have been deleted.',
    'No.',
    'Its sound has been deleted.',
    '“Bell” was not heard: no screen plays sound, nor does the player’s machine. Switch it on in Run, or say in Time where sounds are heard.',
  ]);
  expect(a.since().at(-1)).toEqual(['let off']);
});

test('an action that was pressed answers at once; what goes wrong later says who pressed it', async () => {
  const a = acting();
  expect(a.actions.press('Sheet 1', { do: 'let-off' })).toEqual({ ok: true });
  expect(a.actions.press('Sheet 1', { do: 'sound', sound: 'gone' })).toMatchObject({
    code: 'nothing',
    message: 'Its sound has been deleted.',
  });
  expect(a.actions.reports).toEqual([]);
  a.at.problem = 'nobody listens';
  a.actions.press('Sheet 1', { do: 'osc', address: '/go', args: [] });
  await new Promise((done) => setImmediate(done));
  expect(a.actions.reports).toMatchObject([{ cue: '', from: 'Sheet 1' }]);
});

test('lists that start each other end after eight, and twenty reports are kept', () => {
  const a = acting();
  const row = a.show.cuesOf(tableId('lists').parse('main'))[0];
  if (!row) throw new Error('no cue');
  let runs = 0;
  const round = { ...row, actions: [{ do: 'let-off' }] as CueAction[] };
  const again = (): void => {
    runs++;
    a.actions.run(round);
  };
  (a.actions as unknown as { needs: { letOff: () => void } }).needs.letOff = again;
  again();
  expect(runs).toBe(9);
  expect(a.texts()).toEqual(['Lists start each other in a circle: stopped after 8 of them.']);
  for (let i = 0; i < 25; i++) a.run({ do: 'sound', sound: `gone ${i}` });
  expect(a.actions.reports).toHaveLength(20);
  a.run();
  expect(a.actions.reports).toHaveLength(20);
});
