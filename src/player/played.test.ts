/** Palettes, looks and effects that play by themselves: in their time, over and under what else plays, and gone in it. */
import { apply, cue, exampleShow, idOf, sheet } from '../core/testing/example.ts';
import type { MutableShow } from '../core/show/show.ts';
import type { PlayedKind } from '../core/palettes/rows.ts';
import { desk, mara, tam, yrsa } from './simulated-desk.ts';

const near = (v: number): number => expect.closeTo(v, 2);

function shelf(): { show: MutableShow; id: (kind: PlayedKind) => string } {
  const show = exampleShow();
  apply(show, 'record-palette', {
    family: 'intensity',
    name: 'Glow',
    values: [1, 2].map((n) => ({ fixtureId: idOf(show, n), attribute: 'Dimmer', level: 0.6 })),
  });
  apply(show, 'record-look', {
    name: 'Dusk',
    values: [{ fixtureId: idOf(show, 3), attribute: 'Dimmer', level: 0.8 }],
  });
  apply(show, 'set-effect', {
    set: {
      name: 'Up',
      tracks: [
        {
          attribute: 'Dimmer',
          wave: 'steps',
          mode: 'relative',
          size: 1,
          base: 0,
          width: 1,
          offset: 0,
          steps: [
            { level: 0.7, share: 1 },
            { level: 0.7, share: 1 },
          ],
        },
      ],
      speed: { hz: 1 },
      direction: 'forward',
      spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
    },
  });
  const of = { palette: show.palettes, look: show.looks, effect: show.effects } as const;
  const named = { palette: 'Glow', look: 'Dusk', effect: 'Up' } as const;
  return {
    show,
    id: (kind) => [...of[kind].values()].find((r) => r.name === named[kind])?.id ?? '',
  };
}
const on = (kind: PlayedKind, id: string, more: object = {}) => ({
  command: 'play' as const,
  kind,
  id,
  on: true,
  ...more,
});

test('a palette plays on the units that it was made for, in its own time, and lets go in it', () => {
  const { show, id } = shelf();
  const d = desk(show);
  d.edit(mara, 'change-palette', { id: id('palette'), set: { play_s: 4 } });
  expect(d.say(tam, on('palette', id('palette')))).toMatchObject({
    ok: true,
    message: 'Palette 1 “Glow” plays on 2 units',
  });
  d.pass(2);
  expect([d.level(1), d.level(2), d.level(3)]).toEqual([near(0.3), near(0.3), 0]);
  d.pass(2);
  expect(d.source(1)).toBe('palette 1 “Glow”, played by Tam Brevik');
  expect(d.live.playback().played).toMatchObject([{ kind: 'palette', by: 'Tam Brevik' }]);
  d.say(tam, on('palette', id('palette'), { on: false }));
  d.pass(2);
  expect(d.level(1)).toEqual(near(0.3));
  d.pass(2.1);
  expect([d.level(1), d.source(1), d.live.playback().played]).toEqual([0, 'default', []]);
  // Nobody's programmer has anything of it.
  expect(d.live.held('tam').values).toEqual([]);
});

test('a look plays in a time that is said, on chosen units alone; other units in their place', () => {
  const { show, id } = shelf();
  const d = desk(show);
  expect(d.say(mara, on('look', id('look'), { fixtures: [1] }))).toMatchObject({
    code: 'not-found',
    message: 'Look 1 “Dusk” says nothing for 1. Nothing was played.',
  });
  d.say(mara, on('look', id('look'), { fixtures: [3], time: 0 }));
  d.pass(0.1);
  expect(d.level(3)).toEqual(near(0.8));
  d.say(mara, on('palette', id('palette'), { fixtures: [1], time: 0 }));
  d.pass(0.1);
  expect([d.level(1), d.level(2)]).toEqual([near(0.6), 0]);
  d.say(mara, on('palette', id('palette'), { fixtures: [2], time: 0 }));
  d.pass(0.1);
  expect([d.level(1), d.level(2)]).toEqual([0, near(0.6)]);
});

test('an effect rides on what plays, also where a cue goes under it, and says so', () => {
  const { show, id } = shelf();
  cue(show, 1, { 1: 50 }, { up_s: 0, down_s: 0 });
  cue(show, 2, { 1: 30 }, { up_s: 0, down_s: 0 });
  const d = desk(show);
  expect(d.say(mara, on('effect', id('effect')))).toMatchObject({ code: 'not-found' });
  d.say(mara, { command: 'go' });
  d.say(mara, on('effect', id('effect'), { fixtures: [1, 2], time: 1 }));
  d.pass(2);
  expect([d.level(1), d.level(2)]).toEqual([near(0.7), near(0.2)]);
  expect(d.source(1)).toMatch(/^cue 1.*, with effect 1 “Up”, played by Mara Kell$/);
  d.say(mara, { command: 'go' });
  d.pass(0.1);
  expect(d.level(1)).toEqual(near(0.5));
  // What a hand holds, it does not move.
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.9 });
  d.pass(0.1);
  expect([d.level(1), d.source(1)]).toEqual([near(0.9), 'programmer of Mara Kell']);
  d.say(mara, { command: 'clear' });
  d.say(mara, on('effect', id('effect'), { on: false, time: 1 }));
  d.pass(0.5);
  expect(d.level(1)).toEqual(near(0.4));
  d.pass(1);
  expect([d.level(1), d.level(2)]).toEqual([near(0.3), 0]);
});

test('what is changed shows at once; what is deleted lets go', () => {
  const { show, id } = shelf();
  const d = desk(show);
  d.say(mara, on('palette', id('palette'), { time: 0 }));
  d.pass(0.1);
  d.edit(mara, 'record-palette', {
    id: id('palette'),
    family: 'intensity',
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 0.2 }],
  });
  d.pass(0.1);
  expect(d.level(1)).toEqual(near(0.2));
  d.edit(mara, 'delete-palette', { id: id('palette') });
  d.pass(3);
  expect([d.level(1), d.level(2), d.live.playback().played]).toEqual([0, 0, []]);
  expect(d.say(mara, on('palette', 'gone'))).toMatchObject({ code: 'not-found' });
});

test('release everything lets go of them, and a board stands against them', () => {
  const { show, id } = shelf();
  const d = desk(show);
  d.here.add('mara');
  d.here.add('tam').add('yrsa');
  d.say(tam, on('palette', id('palette'), { time: 0 }));
  d.pass(0.1);
  d.say(tam, { command: 'release-all', time: 1 });
  d.pass(1.2);
  expect([d.level(1), d.live.playback().played]).toEqual([0, []]);
  d.say(yrsa, { command: 'board', do: 'take' });
  expect(d.say(tam, on('palette', id('palette')))).toMatchObject({ refused: true });
  expect(d.level(1)).toBe(0);
});

test('a piece of a sheet plays, and lets go; one that is given plays nothing', () => {
  const { show, id } = shelf();
  const d = desk(show);
  const { pieces } = sheet(d.show, 'Service', [
    { kind: 'tile', of: 'palette', id: id('palette'), press: 'play' },
    { kind: 'tile', of: 'palette', id: id('palette'), press: 'give' },
  ]);
  const [piece = '', given = ''] = pieces;
  d.say(mara, { command: 'touch', piece });
  d.pass(2.1);
  expect(d.level(1)).toEqual(near(0.6));
  d.say(mara, { command: 'touch', piece });
  d.pass(2.1);
  expect(d.level(1)).toBe(0);
  expect(d.say(mara, { command: 'touch', piece: given })).toMatchObject({ code: 'nothing' });
  d.edit(mara, 'delete-palette', { id: id('palette') });
  expect(d.say(mara, { command: 'touch', piece })).toMatchObject({
    message: 'This piece can do nothing: its palette has been deleted.',
  });
});

test('an effect of so many rounds plays no more after its last one, and a press plays it anew', () => {
  const { show, id } = shelf();
  const effect = show.effects.get(id('effect'));
  const d = desk(show);
  d.edit(mara, 'set-effect', {
    id: id('effect'),
    set: { ...effect, id: undefined, number: undefined, rounds: 2, out_s: 0.5 },
  });
  d.say(mara, on('effect', id('effect'), { fixtures: [1], time: 0 }));
  d.pass(1.9);
  expect([d.level(1), d.live.playback().played.length]).toEqual([near(0.2), 1]);
  // Its time out is still its own.
  d.pass(0.4);
  expect(d.live.playback().played).toHaveLength(1);
  d.pass(0.5);
  expect([d.level(1), d.live.playback().played]).toEqual([0, []]);
  // Played again in the frame in which it ends, it plays.
  d.say(mara, on('effect', id('effect'), { fixtures: [1], time: 0 }));
  d.pass(2.5);
  expect(d.live.playback().played).toHaveLength(1);
  for (let frame = 0; frame < 4; frame++) {
    d.say(mara, on('effect', id('effect'), { fixtures: [1], time: 0 }));
    d.pass(1 / 44);
  }
  d.pass(1);
  expect([d.level(1), d.live.playback().played.length]).toEqual([near(0.2), 1]);
  d.pass(2);
  expect([d.level(1), d.live.playback().played]).toEqual([0, []]);
  // Through a change of the rig in the middle as well.
  d.say(mara, on('effect', id('effect'), { fixtures: [1], time: 0 }));
  d.pass(1);
  d.edit(mara, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 900,
    universe: 9,
    address: 1,
  });
  d.pass(0.5);
  expect([d.level(1), d.live.playback().played.length]).toEqual([near(0.2), 1]);
  d.pass(1.5);
  expect([d.level(1), d.live.playback().played]).toEqual([0, []]);
});

test('what plays comes back with the next player', async () => {
  const { show, id } = shelf();
  const d = desk(show);
  d.say(mara, on('palette', id('palette'), { time: 0 }));
  d.say(mara, on('effect', id('effect'), { fixtures: [1, 3], time: 0 }));
  d.pass(0.5);
  const other = desk(show, JSON.parse(JSON.stringify(await d.live.saved())) as never);
  expect([other.level(1), other.level(2), other.level(3)]).toEqual([
    near(0.8),
    near(0.6),
    near(0.2),
  ]);
  other.say(mara, on('effect', id('effect'), { on: false, time: 0 }));
  other.pass(0.1);
  expect([other.level(1), other.level(3)]).toEqual([near(0.6), 0]);
});

test('what an edit lets a played thing say besides is no later than the rest of it: what played after it stays', () => {
  const { show } = shelf();
  const colour = (attribute: string, level: number, unit = 11): object => ({
    fixtureId: idOf(show, unit),
    attribute,
    level,
  });
  // Two that differ: it says nothing of what is not in it.
  const values = [colour('ColorAdd_R', 0.4), colour('ColorAdd_R', 0.2, 12)];
  apply(show, 'record-palette', { family: 'colour', name: 'Rose', scope: 'fixtures', values });
  apply(show, 'record-look', { name: 'Moss', values: [colour('ColorAdd_G', 0.3)] });
  const rose = [...show.palettes.values()].find((p) => p.name === 'Rose');
  const moss = [...show.looks.values()].find((l) => l.name === 'Moss');
  const d = desk(show);
  d.say(mara, on('palette', rose?.id ?? '', { time: 0 }));
  d.say(mara, on('look', moss?.id ?? '', { time: 0 }));
  d.pass(0.5);
  d.edit(mara, 'record-palette', {
    id: rose?.id,
    family: 'colour',
    name: 'Rose',
    how: 'merge',
    values: [colour('ColorAdd_G', 0.9), colour('ColorAdd_B', 0.2)],
  });
  d.pass(0.5);
  expect([d.level(11, 'ColorAdd_G'), d.level(11, 'ColorAdd_B')]).toEqual([near(0.3), near(0.2)]);
});
