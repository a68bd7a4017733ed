/** What is said of the stage to programs that ask: levels and bytes as they are, each with where it comes from. */
import { apply, cue, exampleShow } from '../core/testing/example.ts';
import { sourceRuns, stageReport } from './report.ts';
import { desk, mara } from './simulated-desk.ts';

function playing() {
  const show = exampleShow();
  cue(show, 1, { 1: 50 }, { up_s: 4, down_s: 4 });
  cue(show, 2, { 2: 100 });
  apply(show, 'set-fader', {
    set: {
      number: 5,
      name: 'Wash',
      holds: { kind: 'list', id: 'main' },
      mode: 'proportional',
      flash: 'full',
    },
  });
  const d = desk(show);
  d.here.add(mara.userId);
  d.say(mara, { command: 'go' });
  d.pass(1);
  return d;
}

test('levels by fixture with their sources, bytes by universe, lists with how far they are', () => {
  const d = playing();
  d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 0.25 });
  d.pass(0.1);
  const said = stageReport(d.live, true) as {
    fixtures: Record<string, Record<string, { level: number; source: string }>>;
    universes: Record<string, number[]>;
  };
  const level = d.level(1);
  expect(level).toBeGreaterThan(0.1);
  expect(said.fixtures['1']?.Dimmer).toEqual({
    level: Math.round(level * 1e6) / 1e6,
    source: d.source(1),
  });
  expect(said.fixtures['2']?.Dimmer).toEqual({ level: 0.25, source: d.source(2) });
  expect(said.universes['1']).toHaveLength(512);
  expect(said.universes['1']?.slice(0, 2)).toEqual([Math.round(level * 255), 64]);
  expect(said).toMatchObject({
    lists: [
      {
        id: 'main',
        cue: '1',
        next: '2',
        progress: expect.closeTo(1.1 / 4, 1),
        total_s: 4,
        paused: false,
        running: true,
      },
    ],
    faders: [{ number: 5, name: 'Wash', level: 1, gives: 1, waiting: false }],
    played: [],
    master: 1,
    blackout: false,
    holder: 'Mara Kell',
    onAir: true,
  });
});

test('of a list that plays nothing there is no cue, and it is as far as it goes; off the air that is said', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50 });
  expect(stageReport(desk(show).live, false)).toMatchObject({
    lists: [{ cue: null, next: '1', progress: 1, running: false }],
    onAir: false,
    holder: null,
  });
  const { live } = desk(show);
  const dark = {
    show,
    slots: live.slots,
    shared: null,
    source: () => '',
    playback: () => live.playback(),
  };
  expect(stageReport(dark, false)).toMatchObject({ fixtures: {}, universes: {} });
});

test('bytes of one source that lie beside each other are one run; what forces a byte goes before', () => {
  const d = playing();
  const live = {
    show: d.show,
    slots: d.live.slots,
    shared: d.live.shared,
    source: () => 'cue 1',
    playback: () => d.live.playback(),
  };
  const runs = (forced: Record<number, string> = {}, universe = 1) =>
    sourceRuns(live, universe, (address) => forced[address]);
  const [first] = runs();
  expect(first).toMatchObject({ from: 1, text: 'cue 1' });
  expect(first?.to).toBeGreaterThanOrEqual(6);
  expect(runs({ 3: 'forced' }).slice(0, 3)).toEqual([
    { from: 1, to: 2, text: 'cue 1' },
    { from: 3, to: 3, text: 'forced' },
    { from: 4, to: first?.to, text: 'cue 1' },
  ]);
  expect(runs({ 500: 'forced', 501: 'forced' }).at(-1)).toEqual({
    from: 500,
    to: 501,
    text: 'forced',
  });
  expect([runs({}, 77), sourceRuns({ ...live, shared: null }, 1, () => 'x')]).toEqual([[], []]);
});

test('a byte that another level scales names both', () => {
  const d = playing();
  const { slots, shared } = d.live;
  const scaled = [...slots.channelDimmer].findIndex((dimmer) => dimmer >= 0);
  expect(scaled).toBeGreaterThanOrEqual(0);
  const dimmer = slots.channelDimmer[scaled] ?? -1;
  const place = slots.coarse[scaled] ?? 0;
  const live = {
    show: d.show,
    slots,
    shared,
    source: (slot: number) => (slot === dimmer ? 'fader 5' : 'cue 1'),
    playback: () => d.live.playback(),
  };
  const universe = slots.universes[place >> 9] ?? 0;
  const run = sourceRuns(live, universe, () => undefined).find(
    (r) => r.from <= (place & 511) + 1 && (place & 511) + 1 <= r.to,
  );
  expect(run?.text).toBe('cue 1, intensity from fader 5');
});
