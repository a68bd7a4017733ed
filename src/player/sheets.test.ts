/** Every kind of piece that plays, touched by every role: who may, from where. */
import { ROLES, type Role } from '../core/roles.ts';
import { cue, idOf, sheet } from '../core/testing/example.ts';
import type { Actor } from './actor.ts';
import { desk, mara } from './simulated-desk.ts';

const setUp = () => {
  const d = desk();
  const first = cue(d.show, 1, { 1: 100 });
  d.edit(mara, 'set-fader', {
    set: { name: 'Wash', holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
  });
  d.edit(mara, 'record-look', {
    name: 'Warm',
    values: [{ fixtureId: idOf(d.show, 2), attribute: 'Dimmer', level: 1 }],
  });
  const fader = [...d.show.faders.keys()][0] ?? '';
  const look = [...d.show.looks.keys()][0] ?? '';
  const playing = [
    { kind: 'list', list: 'main', press: 'go' },
    { kind: 'cue', cue: first },
    { kind: 'fader', fader, as: 'upright' },
    { kind: 'fader', fader, as: 'flash' },
    { kind: 'to', fader, level: 0.5, time_s: 0 },
    { kind: 'master', as: 'upright' },
    { kind: 'master', as: 'blackout' },
    { kind: 'tile', of: 'look', id: look, press: 'play' },
    { kind: 'action', action: { do: 'release-looks' } },
    { kind: 'release-all' },
  ];
  const still = [
    { kind: 'level' },
    { kind: 'words', text: 'x' },
    { kind: 'tile', of: 'look', id: look, press: 'give' },
  ];
  const { sheet: given, pieces } = sheet(d.show, 'Given', [...playing, ...still]);
  const { pieces: others } = sheet(d.show, 'Not theirs', [playing[0] ?? {}]);
  return {
    d,
    given,
    plays: pieces.slice(0, playing.length),
    still: pieces.slice(playing.length),
    others,
  };
};
const touch = (piece: string) => ({ command: 'touch' as const, piece, level: 0.5, on: true });
const actor = (role: Role, pages: string[] = []): Actor => ({
  userId: `a ${role}`,
  name: role,
  role,
  ...(role === 'volunteer' ? { pages } : {}),
});

const MAY: Record<Role, boolean> = {
  owner: true,
  programmer: true,
  operator: true,
  viewer: false,
  volunteer: true,
};

test.each(ROLES)('%s: what may be touched is played, everything else refused', (role) => {
  const { d, given, plays, still } = setUp();
  d.say(mara, { command: 'remotes', on: true });
  d.say(mara, { command: 'board', do: 'leave' });
  const by = actor(role, [given]);
  for (const piece of plays) {
    const kind = d.show.sheetpieces.get(piece)?.is.kind;
    const answer = d.say(by, touch(piece));
    expect([kind, 'ok' in answer]).toEqual([kind, MAY[role]]);
    d.pass(1);
  }
  for (const piece of still) expect(d.say(by, touch(piece))).toHaveProperty('code');
});

test('a volunteer plays the sheets that were given, while remotes are on, and no other', () => {
  const { d, given, plays, others } = setUp();
  const nell = actor('volunteer', [given]);
  const first = touch(plays[0] ?? '');
  expect(d.say(nell, first)).toMatchObject({ code: 'remotes' });
  d.say(mara, { command: 'remotes', on: true });
  expect(d.say(nell, touch(others[0] ?? ''))).toMatchObject({ code: 'not-found' });
  expect(d.say(nell, first)).toMatchObject({ ok: true });
  expect(d.say(nell, { command: 'act', piece: plays[8] ?? '' })).toMatchObject({
    code: 'forbidden',
  });
  // Given to all volunteers, it is theirs as well.
  const { sheet } = d.show.sheetpieces.get(others[0] ?? '') ?? { sheet: '' };
  const row = d.show.sheets.get(sheet);
  if (!row) throw new Error('no sheet');
  d.show.apply([
    { table: 'sheets', id: sheet, before: row, after: { ...row, given: ['volunteer'] } },
  ]);
  expect(d.say(nell, touch(others[0] ?? ''))).not.toMatchObject({ code: 'not-found' });
});
