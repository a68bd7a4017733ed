/** Hands at the machine of the player: what they play, by whose right, and what they are told. */
import { showControlMessage } from '../../core/output/show-control.ts';
import type { LiveCommand } from '../../core/live/commands.ts';
import type { HandsState } from '../../core/live/messages.ts';
import { bindingKey, type HandAct } from '../../core/hands/rows.ts';
import { cue, sheet } from '../../core/testing/example.ts';
import { isRefusal } from '../../core/refusal.ts';
import type { Actor } from '../actor.ts';
import { desk, mara } from '../simulated-desk.ts';
import { makeTimecodes } from '../timecode.ts';
import { makeHands } from './hands.ts';
import type { MidiPorts } from './native-midi.ts';

const bind = (control: string, act: HandAct) => ({ [bindingKey(1, control)]: act });

function here(set: object = {}, bindings: Record<string, HandAct> = {}) {
  const d = desk();
  cue(d.show, 1, { 1: 100 });
  cue(d.show, 2, { 1: 50 });
  d.edit(mara, 'set-fader', {
    set: { name: 'Wash', holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
  });
  const faderId = [...d.show.faders.keys()][0] ?? '';
  d.edit(mara, 'set-hand', {
    set: { name: 'Wing', kind: 'midi', at: 'player', port: '', pages: ['', 'two'], ...set },
  });
  const handId = [...d.show.hands.keys()][0] ?? '';
  for (const [key, act] of Object.entries(bindings)) {
    const [page = '1', control = ''] = key.split(':');
    d.edit(mara, 'bind', { hand: handId, page: Number(page), control, act });
  }
  const played: { by: Actor; command: LiveCommand; answer: unknown }[] = [];
  const told: HandsState[] = [];
  const sent: number[][] = [];
  const wanted: string[][] = [];
  const looks = { count: 0 };
  const air = { on: true };
  const hands = makeHands({
    onAir: () => (air.on ? d.live : undefined),
    shows: () => [d.live],
    timecodes: makeTimecodes(() => performance.now()),
    play: (show, by, command) =>
      void played.push({
        by,
        command,
        answer: command.command === 'type' ? null : show.whoever(command as never, by),
      }),
    tell: (_, state) => void told.push(state),
  });
  const midi: MidiPorts = {
    look: () => void looks.count++,
    names: () => ['Port'],
    problem: () => null,
    send: (_, bytes) => void sent.push([...bytes]),
    close: () => undefined,
  };
  const desks = {
    want: (_: string, ports: ReadonlySet<string>) => void wanted.push([...ports]),
    names: () => ['sacn/5'],
    problem: () => 'The second line is dead.',
    close: () => undefined,
  };
  hands.use({ midi: [midi], desks });
  return {
    d,
    hands,
    played,
    told,
    sent,
    air,
    wanted,
    looks,
    faderId,
    handId,
    commands: () => played.map((p) => p.command),
  };
}

test('a key is GO by the right of the hand, once for a press', () => {
  const h = here({}, bind('note.1.36', { do: 'list', what: 'go' }));
  h.hands.bytes('Port', [0x90, 36, 100]);
  h.hands.bytes('Port', [0x80, 36, 0]);
  expect(h.commands()).toEqual([{ command: 'go' }]);
  expect(h.played[0]?.by).toMatchObject({
    role: 'operator',
    name: 'the hand “Wing”',
    remote: true,
  });
  expect(h.d.list()?.cueNumber).toBe(1000);
});

test('off the air, and while it is learned with, it plays nothing, and what was heard is shown', () => {
  const h = here({}, bind('note.1.36', { do: 'list', what: 'go' }));
  h.air.on = false;
  h.hands.bytes('Port', [0x90, 36, 100]);
  h.air.on = true;
  h.d.say(mara, { command: 'learn', hand: h.handId, on: true });
  h.hands.bytes('Port', [0x90, 36, 0]);
  h.hands.bytes('Port', [0x90, 36, 90]);
  expect(h.commands()).toEqual([]);
  h.hands.tell();
  expect(h.told.at(-1)?.heard[h.handId]).toEqual({ 'note.1.36': 90 / 127 });
  h.d.say(mara, { command: 'learn', hand: h.handId, on: false });
  h.hands.bytes('Port', [0x90, 36, 0]);
  h.hands.bytes('Port', [0x90, 36, 90]);
  expect(h.commands()).toEqual([{ command: 'go' }]);
});

test('of a flood of moves the first is played at once, and then the latest', async () => {
  const h = here({}, bind('cc.1.7', { do: 'master' }));
  for (let i = 0; i < 5000; i++) h.hands.bytes('Port', [0xb0, 7, i % 100]);
  expect(h.commands()).toEqual([{ command: 'master', level: 0 }]);
  await new Promise((done) => setTimeout(done, 60));
  expect(h.commands()).toEqual([
    { command: 'master', level: 0 },
    { command: 'master', level: 99 / 127 },
  ]);
});

test('a thousand presses are not a thousand GOs', () => {
  const h = here({}, bind('note.1.36', { do: 'blackout' }));
  for (let i = 0; i < 2000; i++) h.hands.bytes('Port', [i % 2 ? 0x80 : 0x90, 36, 100]);
  expect(h.commands()).toHaveLength(200);
});

test('what a key holds ends with its lift: after its page was turned, while it is learned with, after a flood', () => {
  const h = here();
  const flash = { do: 'flash', fader: h.faderId } as const;
  const put = (page: number, control: string, act: HandAct) =>
    h.d.edit(mara, 'bind', { hand: h.handId, page, control, act });
  put(1, 'note.1.40', flash);
  put(1, 'note.1.41', { do: 'page', by: 1 });
  put(2, 'note.1.40', { do: 'list', what: 'go' });
  put(2, 'note.1.41', { do: 'page', by: -1 });
  put(1, 'note.1.36', { do: 'blackout' });
  const key = (note: number, down: boolean): void =>
    h.hands.bytes('Port', [down ? 0x90 : 0x80, note, 100]);
  const flashes = () => h.commands().filter((c) => c.command === 'flash');
  const [on, off] = [true, false].map((is) => ({ command: 'flash', fader: 1, on: is }));

  key(40, true);
  key(41, true);
  key(41, false);
  key(40, false);
  expect(flashes()).toEqual([on, off]);
  // The other page's key does what it is there for, at its own press.
  key(40, true);
  expect(h.commands().at(-1)).toEqual({ command: 'go' });
  key(40, false);
  key(41, true);
  key(41, false);

  key(40, true);
  h.d.say(mara, { command: 'learn', hand: h.handId, on: true });
  key(40, false);
  h.d.say(mara, { command: 'learn', hand: h.handId, on: false });
  expect(flashes()).toEqual([on, off, on, off]);

  key(40, true);
  for (let i = 0; i < 1000; i++) key(36, i % 2 === 0);
  key(40, false);
  expect(flashes()).toEqual([on, off, on, off, on, off]);
  // Of one that was never let through nothing is ended.
  key(40, true);
  key(40, false);
  expect(flashes()).toHaveLength(6);
});

test('a device that is pulled out lets go of what it held', () => {
  const h = here();
  h.d.edit(mara, 'bind', {
    hand: h.handId,
    page: 1,
    control: 'note.1.40',
    act: { do: 'flash', fader: h.faderId },
  });
  h.hands.bytes('Port', [0x90, 40, 127]);
  expect(h.d.fader(1)?.flash).toBe(true);
  h.hands.gone('Port');
  expect(h.d.fader(1)?.flash).toBe(false);
});

test('pages turn, and each has its own', () => {
  const h = here(
    {},
    {
      ...bind('note.1.50', { do: 'page', by: 1 }),
      ...bind('note.1.36', { do: 'blackout' }),
      [bindingKey(2, 'note.1.36')]: { do: 'list', what: 'go' },
    },
  );
  h.hands.bytes('Port', [0x90, 50, 1]);
  h.hands.bytes('Port', [0x90, 36, 1]);
  expect(h.commands()).toEqual([{ command: 'go' }]);
  h.hands.tell();
  expect(h.told.at(-1)?.pages).toEqual({ [h.handId]: 2 });
});

test('keys are lit and motors led by what plays, and told once', () => {
  const h = here(
    {},
    { ...bind('cc.1.7', { do: 'master' }), ...bind('note.1.36', { do: 'blackout' }) },
  );
  h.hands.tell();
  expect(h.sent).toEqual([
    [0xb0, 7, 127],
    [0x90, 36, 0],
  ]);
  h.hands.tell();
  h.d.say(mara, { command: 'blackout', on: true });
  h.hands.tell();
  expect(h.sent.slice(2)).toEqual([[0x90, 36, 127]]);
});

describe('show control', () => {
  const send = (h: ReturnType<typeof here>, m: Parameters<typeof showControlMessage>[0]): void =>
    h.hands.bytes('Port', [...showControlMessage(m)]);

  test('GO, GO of a cue, stop and resume, for its device and for all', () => {
    const h = here({ showControl: 5 });
    send(h, { device: 5, command: 'go' });
    send(h, { device: 6, command: 'go' });
    expect(h.d.list()?.cueNumber).toBe(1000);
    // Two at once would be one (decision 0012).
    h.d.pass(1);
    send(h, { device: 127, command: 'go', cue: '2' });
    expect(h.d.list()?.cueNumber).toBe(2000);
    expect(h.commands()).toEqual([
      { command: 'go', list: 'main' },
      { command: 'go', list: 'main' },
    ]);
    send(h, { device: 5, command: 'go', cue: '1' });
    expect(h.commands().at(-1)).toEqual({ command: 'goto', list: 'main', cue: '1' });
    send(h, { device: 5, command: 'stop' });
    send(h, { device: 5, command: 'stop' });
    h.d.pass(0.1);
    expect(h.d.list()?.paused).toBe(true);
    send(h, { device: 5, command: 'resume' });
    h.d.pass(0.1);
    expect(h.d.list()?.paused).toBe(false);
    send(h, { device: 5, command: 'all-off' });
    expect(h.d.live.blackout).toBe(true);
    send(h, { device: 5, command: 'restore' });
    expect(h.d.live.blackout).toBe(false);
  });

  test('a set moves the fader of that number; a list or a fader that is not there moves nothing', () => {
    const h = here({ showControl: 5 });
    send(h, { device: 5, command: 'set', control: 1, value: 16_383 });
    expect(h.d.fader(1)?.level).toBe(1);
    send(h, { device: 5, command: 'set', control: 9, value: 1 });
    send(h, { device: 5, command: 'go', cue: '1', list: '77' });
    expect(h.commands()).toHaveLength(1);
  });

  test('a hand without a device takes none', () => {
    const h = here();
    send(h, { device: 127, command: 'go' });
    expect(h.commands()).toEqual([]);
  });
});

test('pieces of a sheet are touched: a fader’s follows, a flash is held, a list’s goes once for a press', async () => {
  const h = here();
  const made = sheet(h.d.show, 'Wing', [
    { kind: 'fader', fader: h.faderId, as: 'level' },
    { kind: 'fader', fader: h.faderId, as: 'flash' },
    { kind: 'list', list: 'main', press: 'go' },
  ]);
  const [fader, flash, list] = made.pieces;
  const put = (control: string, piece = ''): void =>
    void h.d.edit(mara, 'bind', { hand: h.handId, page: 1, control, act: { do: 'piece', piece } });
  put('cc.1.7', fader);
  put('note.1.40', flash);
  put('note.1.41', list);
  h.hands.bytes('Port', [0xb0, 7, 127]);
  await new Promise((done) => setTimeout(done, 60));
  h.hands.bytes('Port', [0x90, 40, 127]);
  h.hands.bytes('Port', [0x80, 40, 0]);
  h.hands.bytes('Port', [0x90, 41, 127]);
  h.hands.bytes('Port', [0x80, 41, 0]);
  expect(h.commands()).toEqual([
    { command: 'touch', piece: fader, level: 1 },
    { command: 'touch', piece: flash, on: true },
    { command: 'touch', piece: flash, on: false },
    { command: 'touch', piece: list },
  ]);
  h.d.edit(mara, 'delete-pieces', { ids: [list] });
  h.hands.bytes('Port', [0x90, 41, 127]);
  expect(h.played).toHaveLength(4);
});

test('a key types its line once, and turns its page once, however it is lifted; pages go round both ways', () => {
  const h = here(
    { pages: ['', 'two', 'three'] },
    {
      ...bind('note.1.36', { do: 'line', text: '1 at full' }),
      ...bind('note.1.50', { do: 'page', by: -1 }),
      [bindingKey(3, 'note.1.50')]: { do: 'page', by: 1 },
    },
  );
  const press = (note: number): void => {
    h.hands.bytes('Port', [0x90, note, 100]);
    h.hands.bytes('Port', [0x80, note, 0]);
  };
  const page = (): number | undefined => h.hands.state(h.d.live).pages[h.handId];
  press(36);
  expect(h.commands()).toEqual([{ command: 'type', text: '1 at full' }]);
  press(50);
  expect(page()).toBe(3);
  press(50);
  expect(page()).toBe(1);
  press(50);
  h.d.edit(mara, 'set-hand', {
    id: h.handId,
    set: { name: 'Wing', kind: 'midi', at: 'player', port: '', pages: ['', 'two'] },
  });
  // Its last page was taken away.
  expect(page()).toBe(2);
});

test('screens are told what is there: ports and problems where there are hands, new ports at once, and nothing twice', () => {
  const h = here();
  expect(h.hands.state(h.d.live)).toMatchObject({
    ports: ['Port', 'sacn/5'],
    problems: ['The second line is dead.'],
    pages: { [h.handId]: 1 },
    heard: { [h.handId]: {} },
  });
  h.hands.tell();
  h.hands.tell();
  expect(h.told).toHaveLength(1);
  h.hands.bytes('Port', [0xb0, 9, 64]);
  h.hands.tell();
  expect(h.told[1]?.heard[h.handId]).toEqual({ 'cc.1.9': 64 / 127 });
  h.d.edit(mara, 'delete-hand', { id: h.handId });
  expect(h.hands.state(h.d.live)).toMatchObject({ problems: [], pages: {} });
});

test('universes are listened to for desks alone, and devices are looked for where a hand is one', () => {
  const h = here({ kind: 'desk', port: 'sacn/5' });
  h.hands.look();
  expect([h.wanted.at(-1), h.looks.count]).toEqual([['sacn/5'], 0]);
  h.d.edit(mara, 'set-hand', {
    id: h.handId,
    set: { name: 'Wing', kind: 'midi', at: 'player', port: '', pages: [''] },
  });
  h.hands.look();
  expect([h.wanted.at(-1), h.looks.count]).toEqual([[], 1]);
});

test('what a cue sends by MIDI goes to every device, and to the first of the ways to them alone', () => {
  const h = here();
  h.hands.sendAll([0xf0, 1, 0xf7]);
  expect(h.sent).toEqual([[0xf0, 1, 0xf7]]);
});

test('another desk is a hand of its universe alone', () => {
  const h = here({ kind: 'desk', port: 'sacn/5' }, bind('slot.17', { do: 'master' }));
  h.hands.moved('sacn/6', [{ control: 'slot.17', value: 0.5, on: true, isKey: false }]);
  h.hands.bytes('Port', [0xb0, 7, 1]);
  expect(h.commands()).toEqual([]);
  h.hands.moved('sacn/5', [{ control: 'slot.17', value: 0.5, on: true, isKey: false }]);
  expect(h.commands()).toEqual([{ command: 'master', level: 0.5 }]);
});

test('a kind that its machine cannot hear, and a universe that is none, are refused', () => {
  const d = desk();
  for (const set of [
    { kind: 'keyboard', at: 'player', port: '' },
    { kind: 'gamepad', at: 'player', port: '' },
    { kind: 'desk', port: 'sacn/5' },
    { kind: 'desk', at: 'player', port: 'sacn/0' },
    { kind: 'desk', at: 'player', port: 'artnet/200.0.0' },
  ])
    expect(() => d.edit(mara, 'set-hand', { set: { name: 'Odd', pages: [''], ...set } })).toThrow();
  expect(isRefusal(d.say(mara, { command: 'learn', hand: 'nobody', on: true }))).toBe(true);
});

test('displays say what their parts do on this page, in letters that they have, and only what is new', () => {
  const h = here(
    { displays: { bytes: 'F0 7D 01 nn cc tt F7', letters: 6 } },
    {
      '1:cc.3.7': { do: 'master' },
      '2:cc.3.7': { do: 'line', text: 'Größe…' },
      '1:note.1.36': { do: 'page', by: 1 },
    },
  );
  const texts = (): string[] =>
    h.sent
      .splice(0)
      .filter((b) => b[0] === 0xf0)
      .map(
        (b) => `${b.slice(0, 5).join(' ')} ${String.fromCharCode(...b.slice(5, -1))} ${b.at(-1)}`,
      );
  h.hands.tell();
  expect(texts().sort()).toEqual(['240 125 1 36 0 next p 247', '240 125 1 7 2 Grand  247']);
  h.hands.tell();
  expect(texts()).toEqual([]);
  h.hands.bytes('Port', [0x90, 36, 100]);
  h.hands.tell();
  expect(texts().sort()).toEqual(
    ['240 125 1 36 0        247', '240 125 1 7 2 Grosse 247'].map((t) =>
      t.replace('Grosse', 'Gro?e.'),
    ),
  );
  h.hands.gone('Port');
  h.hands.tell();
  expect(texts()).toHaveLength(2);
});

test('a pattern of displays that is no such message is refused', () => {
  const h = here();
  for (const bytes of ['F0 7D tt', '7D 01 tt F7', 'F0 7D 90 tt F7', 'F0 7D F7', 'F0 tt tt F7']) {
    const displays = { bytes, letters: 6 };
    const set = { name: 'Other', kind: 'midi', port: '', pages: [''], displays };
    expect(() => h.d.edit(mara, 'set-hand', { set })).toThrow('Like F0 7D 01 nn tt F7');
  }
});
