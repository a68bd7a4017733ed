/** The book of the show: script and calls, parts, blocks, other lists, faders, actions, a sound. */
import { parseCueNumber } from '../src/core/cues/number.ts';
import { familyOf } from '../src/core/rig/attributes.ts';
import type { MutableShow } from '../src/core/show/show.ts';
import { NIGHT_FERRY_SCRIPT } from './script.ts';

type EditFn = (name: string, params: unknown) => void;

/** The script without its cue marks, and the words that each mark stood before. */
function calls(): { text: string; at: { number: number; from: number; to: number }[] } {
  const mark = /\[LX (\d+(?:\.\d+)?)\]/g;
  let text = '';
  let last = 0;
  const at: { number: number; from: number; to: number }[] = [];
  for (const m of NIGHT_FERRY_SCRIPT.matchAll(mark)) {
    text += NIGHT_FERRY_SCRIPT.slice(last, m.index);
    last = m.index + m[0].length;
    const rest = NIGHT_FERRY_SCRIPT.slice(last);
    // Up to the end of the phrase: what an operator listens for.
    const words = /^[^\s,.;?!]+(?: [^\s,.;?!]+){0,2}[!?]?/.exec(rest)?.[0] ?? '';
    at.push({
      number: parseCueNumber(m[1] ?? '') ?? 0,
      from: text.length,
      to: text.length + words.length,
    });
  }
  return { text: text + NIGHT_FERRY_SCRIPT.slice(last), at };
}

/** One second of a struck bell: 8 kHz, 8 bit, mono. */
function bell(): string {
  const rate = 8000;
  const samples = Uint8Array.from({ length: rate }, (_, i) => {
    const t = i / rate;
    const wave =
      Math.sin(2 * Math.PI * 660 * t) * 0.5 +
      Math.sin(2 * Math.PI * 1386 * t) * 0.3 +
      Math.sin(2 * Math.PI * 1980 * t) * 0.2;
    return Math.round(128 + 120 * wave * Math.exp(-3.2 * t));
  });
  const head = new DataView(new ArrayBuffer(44));
  const word = (at: number, s: string): void =>
    [...s].forEach((c, i) => head.setUint8(at + i, c.charCodeAt(0)));
  word(0, 'RIFF');
  head.setUint32(4, 36 + samples.length, true);
  word(8, 'WAVEfmt ');
  head.setUint32(16, 16, true);
  head.setUint16(20, 1, true);
  head.setUint16(22, 1, true);
  head.setUint32(24, rate, true);
  head.setUint32(28, rate, true);
  head.setUint16(32, 1, true);
  head.setUint16(34, 8, true);
  word(36, 'data');
  head.setUint32(40, samples.length, true);
  return `data:audio/wav;base64,${Buffer.concat([Buffer.from(head.buffer), samples]).toString('base64')}`;
}

export function writeBook(edit: EditFn, show: MutableShow, id: (number: number) => string): void {
  const cue = (n: number): string =>
    show.cuesOf('main').find((c) => c.number === Math.round(n * 1000))?.id ?? '';
  const set = (n: number, fields: Record<string, unknown>): void =>
    edit('change-cue', { id: cue(n), set: fields });
  const group = (name: string): string =>
    [...show.groups.values()].find((g) => g.name === name)?.id ?? '';
  const list = (name: string): string =>
    [...show.lists.values()].find((l) => l.name === name)?.id ?? '';
  const fader = (name: string): string =>
    [...show.faders.values()].find((f) => f.name === name)?.id ?? '';
  const members = (name: string): string[] => show.groups.get(group(name))?.fixtures ?? [];

  edit('change-list', { id: 'main', set: { prePosition: true } });
  const { text, at } = calls();
  edit('import-script', { title: 'The Night Ferry', format: 'plain', text });
  const scriptId = [...show.scripts.keys()][0] ?? '';
  for (const { number, from, to } of at)
    edit('set-call', { scriptId, cueId: cue(number / 1000), from, to });
  const standby = [...show.calls.values()].find((c) => c.cueId === cue(6));
  if (standby) edit('change-call', { id: standby.id, standby: text.indexOf('(The deck shudders') });

  // Other departments are called from the same script.
  for (const name of ['Sound', 'Flies']) edit('set-department', { set: { name } });
  const department = (name: string): string =>
    [...show.departments.values()].find((d) => d.name === name)?.id ?? '';
  const prompts: [name: string, label: string, words: string][] = [
    ['Flies', 'Q 1, gangway out', 'The deck shudders'],
    ['Sound', 'Q 3, engine', 'Down and up and down and over'],
    ['Sound', 'Q 4, engine out', 'The noise falls away'],
    ['Flies', 'Q 2, sky cloth in', 'Wide, wide'],
  ];
  for (const [name, label, words] of prompts) {
    const from = text.indexOf(words);
    if (from >= 0)
      edit('set-prompt', {
        set: { scriptId, department: department(name), label, from, to: from + words.length },
      });
  }

  // Act two begins from nothing but itself; so does what follows the dark.
  edit('block-cue', { ids: [cue(23), cue(47)], on: true });
  const intoPart = (
    n: number,
    part: object,
    which: (fixtureId: string, attribute: string) => boolean,
  ): void => {
    set(n, { parts: [{ number: 1, family_s: {}, note: '', ...part }] });
    const cells = [...show.valuesOf(cue(n)).values()]
      .filter((v) => which(v.fixtureId, v.attribute))
      .map((v) => ({
        cueId: v.cueId,
        fixtureId: v.fixtureId,
        attribute: v.attribute,
        times: { part: 1 },
      }));
    edit('set-values', { cells });
  };
  const sky = new Set([...members('Cyc top'), ...members('Cyc foot')]);
  intoPart(
    20,
    { name: 'Sky', up_s: 25, down_s: 25, delay_s: 2, note: 'The sky takes its time' },
    (f) => sky.has(f),
  );
  intoPart(
    34,
    { name: 'Heads', up_s: 9, down_s: 9, delay_s: 0 },
    (_, a) => familyOf(a) === 'position',
  );
  set(5, { family_s: { position: 4, colour: 3 }, familyDelay_s: { position: 1 } });
  set(19, { curve: 'ease-in' });
  set(48, { curve: 'smooth' });
  set(41, { link: { to: cue(40), times: 2 } });
  set(54, { after_s: 3 });

  set(6, { operatorNote: 'Let the mate finish turning upstage. Pistons run on their own.' });
  set(12, {
    designerNote: 'Colder on her face, or is it the paper?',
    operatorNote: 'She breathes before “Dear”.',
  });
  set(16, { operatorNote: 'Fast. The follow finds the coat.' });
  set(42, { operatorNote: 'Blackout feel, but the water stays.' });
  set(47, { note: 'Blocked: the dark before it is never to creep in here.' });

  // Other lists: lanterns that sway, the band’s chase, haze.
  edit('make-list', {
    name: 'Lanterns',
    set: { atEnd: 'loop', keepsThroughRelease: true, release_s: 4 },
  });
  edit('make-list', {
    name: 'Band',
    set: {
      priority: 60,
      chase: { on: true, speed: { bpm: 104 }, share: 0.6, direction: 'bounce' },
    },
  });
  edit('make-list', { name: 'Haze', set: {} });
  const dim = (fixtureIds: readonly string[], level: number): object[] =>
    fixtureIds.map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level }));
  const record = (
    name: string,
    number: number,
    cueName: string,
    up_s: number,
    values: object[],
  ): void =>
    edit('record-cue', { listId: list(name), number: number * 1000, name: cueName, up_s, values });
  const [port, starboard] = members('Lanterns');
  record('Lanterns', 1, 'Still', 3, dim(members('Lanterns'), 0.4));
  record('Lanterns', 2, 'Sway to port', 2.5, [
    ...dim([port ?? ''], 0.6),
    ...dim([starboard ?? ''], 0.25),
  ]);
  record('Lanterns', 3, 'Sway back', 2.5, [
    ...dim([port ?? ''], 0.25),
    ...dim([starboard ?? ''], 0.6),
  ]);
  for (const c of show.cuesOf(list('Lanterns')).slice(1))
    edit('change-cue', { id: c.id, set: { after_s: 0.2 } });
  members('Front pars').forEach((f, i, all) =>
    record('Band', i + 1, `Step ${i + 1}`, 0, [
      ...dim([f], 0.9),
      ...(i > 0 ? dim([all[i - 1] ?? ''], 0) : []),
      ...(i < all.length - 1 ? dim([all[i + 1] ?? ''], 0) : []),
    ]),
  );
  record('Haze', 1, 'Idle', 1, [
    { fixtureId: id(91), attribute: 'Fog1', level: 0.15 },
    { fixtureId: id(91), attribute: 'Fan1', level: 0.3 },
  ]);
  record('Haze', 2, 'Fog', 1, [
    { fixtureId: id(91), attribute: 'Fog1', level: 0.8 },
    { fixtureId: id(91), attribute: 'Fan1', level: 0.7 },
  ]);

  const look = (name: string): string =>
    [...show.looks.values()].find((l) => l.name === name)?.id ?? '';
  const effect = (name: string): string =>
    [...show.effects.values()].find((e) => e.name === name)?.id ?? '';
  const put = (name: string, kind: string, holds: string, more: object): void =>
    edit('set-fader', {
      set: { name, holds: { kind, id: holds }, mode: 'proportional', flash: 'full', ...more },
    });
  put('FOH', 'group', group('FOH warm'), { mode: 'inhibiting' });
  put('Sides', 'group', group('Sides L'), { mode: 'inhibiting' });
  put('House', 'group', group('House'), { keepsThroughRelease: true });
  put('Band', 'list', list('Band'), {
    startsWhenRaised: true,
    releasesAtZero: true,
    flash: 'solo',
  });
  put('Sky', 'group', group('Cyc top'), { mode: 'inhibiting' });
  put('Lanterns', 'list', list('Lanterns'), { startsWhenRaised: true });
  put('Storm', 'look', look('Storm'), {});
  put('Lamplight', 'look', look('Lantern light'), { others: { come: 'travel' } });
  put('Shimmer', 'effect', effect('Shimmer'), { mode: 'size' });
  put('Pace', 'list', 'main', { mode: 'rate' });
  edit('name-fader-page', { page: 1, name: 'The ferry' });
  edit('name-fader-page', { page: 2, name: 'Effects' });

  edit('add-sound', { name: 'Ship’s bell', data: bell() });
  const sound = [...show.sounds.keys()][0];
  set(4, { actions: [{ do: 'sound', sound }] });
  set(6, {
    actions: [
      { do: 'osc', address: '/engine/steam', args: [1] },
      { do: 'list', list: list('Haze'), what: 'start' },
    ],
  });
  set(11, { actions: [{ do: 'list', list: list('Haze'), what: 'goto', cue: 2000 }] });
  set(13, {
    actions: [
      { do: 'fader', fader: fader('Band'), level: 0.8, time_s: 2 },
      { do: 'list', list: list('Lanterns'), what: 'start' },
    ],
  });
  set(16, {
    actions: [
      { do: 'fader', fader: fader('Band'), level: 0, time_s: 0 },
      { do: 'midi', kind: 'note-on', channel: 1, number: 48, value: 100 },
    ],
  });
  set(22, {
    actions: [{ do: 'list', list: list('Haze'), what: 'release' }, { do: 'release-looks' }],
  });
  set(24, { actions: [{ do: 'remotes', on: false }, { do: 'let-off' }] });
  set(41, { actions: [{ do: 'osc', address: '/sound/thunder', args: [0.8] }] });
  set(58, { actions: [{ do: 'list', list: list('Lanterns'), what: 'release' }] });
}
