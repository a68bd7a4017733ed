/** Every edit and every live command against every role: who may what, written out. */
import { EDITS } from './edits/list.ts';
import { planEdit } from './edits/plan-edit.ts';
import { ROLES, type Role } from './roles.ts';
import { LIVE as COMMANDS } from './live/commands.ts';
import { exampleShow } from './testing/example.ts';

/** o owner, p programmer, b board operator, v viewer (designer), n volunteer. */
const LETTERS: Record<Role, string> = {
  owner: 'o',
  programmer: 'p',
  operator: 'b',
  viewer: 'v',
  volunteer: 'n',
};
const letters = (roles: readonly Role[]): string =>
  ROLES.filter((r) => roles.includes(r))
    .map((r) => LETTERS[r])
    .join('');

/** All other edits are for owners and programmers. */
const WIDER: Record<string, string> = {
  'add-note': 'opbv',
  'delete-note': 'opbv',
  'reply-note': 'opbv',
  'give-note': 'opbv',
  'like-cue': 'opbv',
};

describe('edits', () => {
  test.each([...EDITS.values()].flatMap((e) => ROLES.map((role) => [e.name, role] as const)))(
    '%s by %s',
    (name, role) => {
      const allowed = (WIDER[name] ?? 'op').includes(LETTERS[role]);
      const planned = planEdit(exampleShow(), role, name, {}, 'x');
      if (allowed) expect(planned).not.toMatchObject({ code: 'forbidden' });
      else expect(planned).toMatchObject({ refused: true, code: 'forbidden' });
    },
  );
});

const LIVE: Record<string, string> = {
  learn: 'op',
  timecode: 'opb',
  track: 'opb',
  act: 'opb',
  go: 'opb',
  back: 'opb',
  pause: 'opb',
  goto: 'opb',
  cut: 'opb',
  arm: 'opb',
  rate: 'opb',
  hand: 'opb',
  release: 'opb',
  'release-all': 'opb',
  'list-master': 'opb',
  fader: 'opb',
  flash: 'opb',
  'chase-speed': 'opb',
  chase: 'opb',
  play: 'opb',
  focus: 'opb',
  remotes: 'opb',
  'rename-node': 'op',
  rdm: 'op',
  'take-in': 'opb',
  set: 'opb',
  'set-many': 'opb',
  palette: 'opb',
  nudge: 'opb',
  fan: 'opb',
  times: 'opb',
  'try-effect': 'opb',
  colour: 'opb',
  aim: 'opb',
  flip: 'opb',
  look: 'opb',
  effect: 'opb',
  home: 'opb',
  take: 'opb',
  keep: 'opb',
  'bring-back': 'opb',
  highlight: 'opb',
  blind: 'opb',
  tempo: 'opb',
  type: 'opb',
  master: 'opb',
  blackout: 'opb',
  clear: 'opb',
  letgo: 'opb',
  like: 'opb',
  air: 'opb',
  guard: 'opb',
  park: 'opb',
  'macro-cancel': 'opb',
  board: 'opb',
  ask: 'opb',
  check: 'op',
  macro: 'op',
  step: 'opbv',
  select: 'opbv',
  call: 'opbv',
  'answer-call': 'opbv',
  'left-light': 'opb',
  'keep-part': 'opb',
  touch: 'opbn',
};

test('live commands, each with those who may give it', () => {
  expect(
    Object.fromEntries(
      Object.values(COMMANDS).map(({ command, roles }) => [command, letters(roles)]),
    ),
  ).toEqual(LIVE);
});
