import { LIVE, LIVE_NAMES } from '../core/live/commands.ts';
import { apply, exampleShow, idOf, sheet } from '../core/testing/example.ts';
import type { MutableShow } from '../core/show/show.ts';
import { FREES_AFTER_S } from './boards.ts';
import { desk, iden, mara, tam, yrsa } from './simulated-desk.ts';
import type { Actor } from './actor.ts';
import { mayNotCommand } from './may.ts';

function ready(): MutableShow {
  const show = exampleShow();
  for (const [number, level] of [
    [1000, 1],
    [2000, 0.5],
    [3000, 0.2],
  ] as const)
    apply(show, 'record-cue', {
      listId: 'main',
      number,
      name: `Cue ${number / 1000}`,
      up_s: 0,
      values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level }],
    });
  apply(show, 'make-list', { name: 'Band' });
  const band = [...show.lists.values()].find((l) => l.name === 'Band')?.id ?? '';
  apply(show, 'record-cue', {
    listId: band,
    number: 1000,
    up_s: 0,
    values: [{ fixtureId: idOf(show, 2), attribute: 'Dimmer', level: 1 }],
  });
  apply(show, 'set-fader', {
    set: { name: 'Band', holds: { kind: 'list', id: band }, mode: 'proportional', flash: 'full' },
  });
  return show;
}
const bandOf = (d: ReturnType<typeof desk>): string =>
  [...d.show.lists.values()].find((l) => l.name === 'Band')?.id ?? '';
const faderId = (d: ReturnType<typeof desk>): string => [...d.show.faders.keys()][0] ?? '';
const here = (...people: Actor[]): ReturnType<typeof desk> => {
  const d = desk(ready());
  for (const p of people) d.here.add(p.userId);
  return d;
};

describe('boards', () => {
  test('a list or a page of faders may have a board of its own; the show’s board does not play it then', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'go' });
    expect(d.say(tam, { command: 'go', list: bandOf(d) })).toMatchObject({ code: 'board' });
    // Whoever is on the show's board is asked, and gives it.
    expect(d.say(tam, { command: 'board', do: 'take', thing: { list: bandOf(d) } })).toMatchObject({
      ok: true,
      message: 'Mara Kell was asked',
    });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: {
        kind: 'asked',
        thing: { list: bandOf(d) },
        text: 'Tam Brevik asks for the board of list “Band”.',
      },
    });
    expect(d.say(tam, { command: 'go', list: bandOf(d) })).toMatchObject({
      code: 'board',
      message: 'Mara Kell is on the board. Ask for it.',
    });
    expect(
      d.say(tam, { command: 'board', do: 'hand', thing: { list: bandOf(d) }, to: 'mara' }),
    ).toMatchObject({ code: 'board' });
    expect(
      d.say(mara, { command: 'board', do: 'hand', thing: { list: bandOf(d) }, to: 'tam' }),
    ).toMatchObject({ ok: true });
    expect(d.live.holder?.name).toBe('Mara Kell');
    expect(d.say(tam, { command: 'go', list: bandOf(d) })).toMatchObject({ ok: true });
    expect(d.say(mara, { command: 'go', list: bandOf(d) })).toMatchObject({
      code: 'board',
      message: 'Tam Brevik is on the board of list “Band”. Ask for it.',
    });
    d.say(mara, { command: 'board', do: 'hand', thing: { faders: 1 }, to: 'tam' });
    expect(d.say(mara, { command: 'fader', fader: 1, level: 1 })).toMatchObject({
      code: 'board',
      message: expect.stringContaining('faders 1–8'),
    });
    d.pass(0.2);
    expect(d.say(mara, { command: 'go' })).toMatchObject({ ok: true });
    d.say(tam, { command: 'board', do: 'leave', thing: { list: bandOf(d) } });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: { text: 'Tam Brevik has left the board of list “Band”: it is yours with the show’s.' },
    });
    expect(d.say(mara, { command: 'go', list: bandOf(d) })).toMatchObject({ code: 'end' });
  });

  test('an owner who makes a board of its own over somebody else’s tells them; one who has gone is waited for', () => {
    const d = here(mara, tam, yrsa);
    d.say(mara, { command: 'go' });
    d.say(yrsa, { command: 'board', do: 'take', thing: { list: bandOf(d) } });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: { kind: 'taken', text: 'Yrsa Oddny has taken the board of list “Band”.' },
    });
    d.here.delete('mara');
    d.live.personLeft('mara');
    expect(d.say(tam, { command: 'board', do: 'take', thing: { faders: 1 } })).toMatchObject({
      code: 'board',
      message: expect.stringContaining('free in 30 s'),
    });
    expect(d.say(tam, { command: 'board', do: 'ask', thing: { list: 'gone' } })).toMatchObject({
      code: 'board',
    });
    expect(d.say(yrsa, { command: 'board', do: 'take', thing: { list: 'gone' } })).toMatchObject({
      code: 'not-found',
    });
  });

  test('asked for, it is handed over with a word on what is next; a version is kept, and both are told', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'go' });
    expect(d.say(tam, { command: 'board', do: 'ask', note: 'from cue 3' })).toMatchObject({
      ok: true,
      message: 'Mara Kell was asked',
    });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: { kind: 'asked', text: 'Tam Brevik asks for the board: “from cue 3”' },
    });
    d.say(mara, { command: 'board', do: 'refuse', to: 'tam' });
    expect(d.words.at(-1)).toMatchObject({ to: 'tam', word: { kind: 'declined' } });
    expect(
      d.say(mara, { command: 'board', do: 'hand', to: 'tam', note: 'next is LX 2 on “cast off”' }),
    ).toMatchObject({ ok: true });
    expect(d.words.at(-1)).toMatchObject({
      to: 'tam',
      word: {
        kind: 'handed',
        text: 'You are on the board now, from Mara Kell: “next is LX 2 on “cast off””',
      },
    });
    expect(d.live.holder?.name).toBe('Tam Brevik');
    expect(d.versions).toEqual([
      'board: handed the board over to Tam Brevik: “next is LX 2 on “cast off”” (Mara Kell)',
    ]);
    expect(
      d.noted.filter((n) => n.kind === 'board').map((n) => [n.by.name, n.text]),
    ).toContainEqual([
      'Mara Kell',
      'Handed the board over to Tam Brevik: “next is LX 2 on “cast off””',
    ]);
  });

  test('it is handed over by who has it, to somebody who is here and may play', () => {
    const d = here(mara, iden);
    d.say(mara, { command: 'go' });
    expect(d.say(tam, { command: 'board', do: 'hand', to: 'mara' })).toMatchObject({
      code: 'board',
    });
    expect(d.say(mara, { command: 'board', do: 'hand', to: 'tam' })).toMatchObject({
      code: 'not-found',
    });
    expect(d.say(mara, { command: 'board', do: 'hand', to: 'iden' })).toMatchObject({
      code: 'forbidden',
    });
    expect(d.live.holder?.name).toBe('Mara Kell');
  });

  test('an owner takes it, and whoever had it is told', () => {
    const d = here(mara, yrsa);
    d.say(mara, { command: 'go' });
    d.say(yrsa, { command: 'board', do: 'take' });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: { kind: 'taken', text: 'Yrsa Oddny has taken the board.' },
    });
    expect(d.versions).toHaveLength(1);
  });

  test('a lost connection keeps playing, keeps the board for 30 s, and frees it then; who comes back in time has it still', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'go' });
    const leave = (): void => {
      d.here.delete('mara');
      d.live.personLeft('mara');
    };
    const freeIn = (): number | null | undefined =>
      d.live.playback().boards.find((b) => b.userId === 'mara')?.freeIn_s;
    expect(freeIn()).toBeNull();
    leave();
    expect(freeIn()).toBeCloseTo(FREES_AFTER_S, 1);
    d.pass(FREES_AFTER_S - 5);
    expect(freeIn()).toBeCloseTo(5, 1);
    d.live.together.look();
    expect(d.say(tam, { command: 'go' })).toMatchObject({
      code: 'board',
      message:
        'Mara Kell is on the board and has lost the connection; it is free in 5 s. Ask for it.',
    });
    d.here.add('mara');
    d.live.together.boards.presence('mara', true);
    d.pass(60);
    d.live.together.look();
    expect([d.live.holder?.name, freeIn()]).toEqual(['Mara Kell', null]);
    leave();
    d.pass(FREES_AFTER_S + 1);
    d.live.together.look();
    expect(d.live.holder).toBeNull();
    expect(d.level(1)).toBeCloseTo(1, 5);
    expect(d.say(tam, { command: 'go' })).toMatchObject({ ok: true });
  });

  test('it outlives the process: after a crash it is the same person’s, while they come back', async () => {
    const d = here(mara);
    d.say(mara, { command: 'go' });
    const saved = await d.live.saved();
    const again = desk(ready(), JSON.parse(JSON.stringify(saved)) as typeof saved);
    again.here.add('tam');
    expect(again.say(tam, { command: 'go' })).toMatchObject({ code: 'board' });
  });

  test('a role that ends leaves the board free at once', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'go' });
    d.live.together.boards.withdrawn('mara');
    expect(d.say(tam, { command: 'go' })).toMatchObject({ ok: true });
  });
});

describe('the log of GOs', () => {
  test('who, what, from where, and how late after the call', () => {
    const d = here(mara, iden);
    d.say(mara, { command: 'go' });
    expect(d.say(iden, { command: 'call', do: 'go' })).toMatchObject({
      ok: true,
      message: 'Called cue 2',
    });
    expect(d.live.playback().calls[0]).toMatchObject({ by: 'Iden Vale', listId: 'main' });
    d.pass(0.75);
    d.say({ ...mara, via: 'Run on a computer' }, { command: 'go' });
    expect(
      d.noted
        .filter((n) => n.kind === 'go')
        .map((n) => [n.by.name, n.text, n.data?.from, n.data?.late_ms, n.data?.calledBy]),
    ).toEqual([
      ['Mara Kell', 'GO: cue 1 “Cue 1”', 'a screen', null, null],
      ['Mara Kell', 'GO: cue 2 “Cue 2”', 'Run on a computer', 750, 'Iden Vale'],
    ]);
    expect(d.live.playback().calls).toEqual([]);
  });

  test('a call is for the GO that comes within a minute, and a refused GO is none', () => {
    const d = here(mara, tam, iden);
    d.say(mara, { command: 'go' });
    d.say(iden, { command: 'call', do: 'go' });
    d.pass(61);
    expect(d.live.playback().calls).toEqual([]);
    expect(d.say(tam, { command: 'go' })).toMatchObject({ code: 'board' });
    expect(d.noted.filter((n) => n.kind === 'go')).toHaveLength(1);
  });
});

describe('a call that nobody followed', () => {
  test('is over after a minute: gone from every screen, and a GO that comes later was not late after it', () => {
    const d = here(mara, iden);
    d.say(mara, { command: 'go' });
    d.say(iden, { command: 'call', do: 'go' });
    d.pass(59);
    d.live.together.look();
    expect(d.live.playback().calls).toHaveLength(1);
    d.pass(2);
    expect(d.live.playback().calls).toEqual([]);
    d.say(mara, { command: 'go' });
    expect(d.noted.filter((n) => n.kind === 'go').at(-1)?.data).toMatchObject({
      late_ms: null,
      calledBy: null,
    });
  });

  test('screens are told when it is over', () => {
    const d = here(mara, iden);
    d.say(mara, { command: 'go' });
    d.say(iden, { command: 'call', do: 'go' });
    d.pass(61);
    const before = d.told.count;
    d.live.together.look();
    expect(d.told.count).toBe(before + 1);
    d.live.together.look();
    expect(d.told.count).toBe(before + 1);
  });
});

describe('sheets and remotes', () => {
  const nell: Actor = { userId: 'nell', name: 'Nell Strand', role: 'volunteer', pages: [] };
  function paged() {
    const d = here(mara, tam);
    const made = sheet(
      d.show,
      'The service',
      [
        { kind: 'list', list: 'main', press: 'go' },
        { kind: 'to', fader: faderId(d), level: 1, time_s: 0 },
        { kind: 'cue', cue: d.show.cuesOf('main')[2]?.id },
        { kind: 'fader', fader: faderId(d), as: 'upright' },
      ],
      ['Next', 'Band', 'Third'],
    );
    const touch = (by: Actor, n: number, more: { level?: number } = {}) =>
      d.say(by, { command: 'touch', piece: made.pieces[n - 1] ?? 'none', ...more });
    return { d, touch, who: { ...nell, pages: [made.sheet] } };
  }

  test('a sheet in a volunteer’s hand plays while remotes are on, whoever is on the board; switched off, it does nothing and says so', () => {
    const { d, touch, who } = paged();
    d.say(mara, { command: 'go' });
    expect(touch(who, 1)).toMatchObject({ code: 'remotes' });
    d.say(mara, { command: 'remotes', on: true });
    // It says over whose board it went, to both.
    expect(touch(who, 1)).toMatchObject({
      ok: true,
      message: 'Cue 2. Played over Mara Kell, who is on the board',
    });
    expect(d.words.at(-1)).toMatchObject({
      to: 'mara',
      word: {
        kind: 'over',
        text: 'Nell Strand pressed “Next” on sheet “The service”, over the board, which is yours.',
      },
    });
    expect(d.list()?.cueNumber).toBe(2000);
    expect(d.noted.at(-1)).toMatchObject({
      kind: 'go',
      by: { name: 'Nell Strand' },
      data: { from: 'sheet “The service”' },
    });
    touch(who, 3);
    expect(d.list()?.cueNumber).toBe(3000);
    const told = d.words.length;
    expect(touch(who, 4, { level: 0.4 })).toEqual({
      ok: true,
    });
    expect(d.words).toHaveLength(told);
    expect(d.fader(1)?.level).toBeCloseTo(0.4);
    touch(who, 2);
    expect(d.fader(1)?.level).toBe(1);
    touch(who, 2);
    expect(d.fader(1)?.level).toBe(0);
  });

  test('a volunteer has the sheets given to them and nothing else; a piece whose cue is gone says so', () => {
    const { d, touch, who } = paged();
    d.say(mara, { command: 'remotes', on: true });
    expect(touch(nell, 1)).toMatchObject({ code: 'not-found' });
    expect(touch(who, 5, { level: 1 })).toMatchObject({
      code: 'not-found',
    });
    expect(touch(who, 9)).toMatchObject({ code: 'not-found' });
    for (const command of [
      { command: 'go' },
      { command: 'fader', fader: 1, level: 1 },
      { command: 'call', do: 'go' },
      { command: 'board', do: 'take' },
    ] as const)
      expect(d.say(who, command)).toMatchObject({ code: 'forbidden' });
    d.edit(mara, 'delete-cue', { id: d.show.cuesOf('main')[2]?.id });
    expect(touch(who, 3)).toMatchObject({
      code: 'not-found',
      message: 'This piece can do nothing: its cue has been deleted.',
    });
  });

  test('a phone is a remote: what plays is refused while they are off', () => {
    const d = here(mara);
    const phone: Actor = { ...mara, remote: true };
    const commands: Parameters<typeof d.say>[1][] = [
      { command: 'go' },
      { command: 'blackout', on: true },
      { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 },
      { command: 'park', fixtures: [1], attribute: 'Dimmer', level: 1, on: true },
      { command: 'board', do: 'take' },
    ];
    for (const command of commands)
      expect(d.say(phone, command)).toMatchObject({ code: 'remotes' });
    expect([d.list()?.cueNumber ?? null, d.level(1), d.live.playback().blackout]).toEqual([
      null,
      0,
      false,
    ]);
    d.say(mara, { command: 'remotes', on: true });
    for (const command of commands) expect(d.say(phone, command)).toMatchObject({ ok: true });
  });

  test('nothing at all goes by a phone while remotes are off, but a call; and what a role may not, may nobody by any way', () => {
    for (const command of LIVE_NAMES) {
      expect([command, mayNotCommand({ ...yrsa, remote: true }, command, false)?.code]).toEqual([
        command,
        command === 'call' ? undefined : 'remotes',
      ]);
      expect([command, mayNotCommand({ ...yrsa, remote: true }, command, true)]).toEqual([
        command,
        null,
      ]);
      expect([command, mayNotCommand(yrsa, command, false)]).toEqual([command, null]);
      expect([command, mayNotCommand(iden, command, true)?.code]).toEqual([
        command,
        LIVE[command].roles.includes('viewer') ? undefined : 'forbidden',
      ]);
      expect([command, mayNotCommand(nell, command, true)?.code]).toEqual([
        command,
        LIVE[command].roles.includes('volunteer') ? undefined : 'forbidden',
      ]);
    }
  });

  test('a remote control by OSC plays only while remotes are on', () => {
    const d = here(mara);
    expect(d.live.fromRemote({ command: 'go' })).toMatchObject({ code: 'remotes' });
    expect(d.list()?.cueNumber ?? null).toBeNull();
    d.say(mara, { command: 'remotes', on: true });
    expect(d.live.fromRemote({ command: 'go' })).toMatchObject({ ok: true });
    expect(
      d.live.fromRemote({ command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ code: 'forbidden' });
  });
});

describe('programming together', () => {
  test('two who hold the same light are both told, once; the latest touch is on stage', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.3 });
    expect(d.words).toHaveLength(0);
    d.say(tam, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8 });
    expect(d.words.map((w) => [w.to, w.word.text])).toEqual([
      ['tam', 'Mara Kell holds intensity of 1 too. Your touch is the latest: it is on stage.'],
      [
        'mara',
        'Tam Brevik has taken hold of intensity of 1, which you hold too. Theirs is the latest: it is on stage.',
      ],
    ]);
    expect(d.level(1)).toBeCloseTo(0.8, 5);
    for (let i = 0; i < 10; i++)
      d.say(tam, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8 - i * 0.01 });
    expect(d.words).toHaveLength(2);
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.1 });
    expect(d.level(1)).toBeCloseTo(0.1, 5);
  });

  test('nobody is told of what is held blind', () => {
    const d = here(mara, tam);
    d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.3 });
    d.say(tam, { command: 'blind', on: true });
    d.say(tam, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.8 });
    expect(d.words).toHaveLength(0);
    expect(d.level(1)).toBeCloseTo(0.3, 5);
  });

  test('what was given to somebody is theirs alone to set and to record; others ask', () => {
    const d = here(mara, tam, yrsa);
    d.edit(yrsa, 'set-part', {
      set: {
        name: 'The band',
        userId: 'mara',
        userName: 'Mara Kell',
        fixtures: [idOf(d.show, 2)],
        lists: [bandOf(d)],
      },
    });
    expect(
      d.say(tam, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ code: 'part', message: expect.stringContaining('which is Mara Kell’s') });
    expect(
      d.say(mara, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ ok: true });
    expect(() => d.edit(yrsa, 'change-list', { id: bandOf(d), set: { back_s: 5 } })).toThrow(
      'list “Band” of part “The band”, which is Mara Kell’s',
    );
    expect(() => d.edit(mara, 'change-list', { id: bandOf(d), set: { back_s: 5 } })).not.toThrow();
    const part = [...d.show.parts.keys()][0] ?? '';
    expect(d.say(tam, { command: 'ask', part })).toMatchObject({
      ok: true,
      message: 'Mara Kell was asked',
    });
    d.edit(yrsa, 'delete-part', { id: part });
    expect(
      d.say(tam, { command: 'set', fixtures: [2], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ ok: true });
  });
});
