/** Who may what: the whole table, so that a changed rule is a changed line here. */
import { ROLES } from './roles.ts';
import { ACTS, HOUSE_RIGHTS, mayNotHere, type Act, type Standing } from './rights.ts';

const at = (more: Partial<Standing>): Standing => ({
  house: 'guest',
  role: null,
  isLocked: false,
  ...more,
});
const ALL = 'owner programmer operator viewer volunteer';
const LOOKERS = 'owner programmer operator viewer';

const BY_ROLE: Record<string, string> = {
  'come in': ALL,
  'see my sheets': ALL,
  'give live commands': ALL,
  'see the stage': LOOKERS,
  'see the show': LOOKERS,
  'make edits': LOOKERS,
  'copy the show': LOOKERS,
  play: 'owner programmer operator',
  program: 'owner programmer',
  'decide about the show': 'owner',
};
const WHEN_LOCKED = [
  'know who I am',
  'lock and unlock',
  'sign out everywhere',
  'come in',
  'see the stage',
];
const OF_THE_HOUSE: Record<string, string> = {
  'fill the library': 'owner maker',
  'choose the wires': 'owner maker',
  'put faults into the simulated house': 'owner maker',
  'make shows': 'owner maker',
  'run the house': 'owner',
  'copy the show': 'owner maker',
};

test.each(ACTS)('%s: by role, by right in the house, locked, and signed out', (act: Act) => {
  expect(mayNotHere(null, act)?.code).toBe('unauthorized');
  const roles = ROLES.filter((role) => mayNotHere(at({ house: 'owner', role }), act) === null).join(
    ' ',
  );
  expect(roles).toBe(BY_ROLE[act] ?? ALL);
  const strangers = mayNotHere(at({ house: 'owner' }), act)?.code;
  expect(strangers).toBe(act in BY_ROLE ? 'not-found' : undefined);
  const rights = HOUSE_RIGHTS.filter(
    (house) => mayNotHere(at({ house, role: 'owner' }), act) === null,
  ).join(' ');
  expect(rights).toBe(OF_THE_HOUSE[act] ?? 'owner maker guest');
  expect(mayNotHere(at({ house: 'owner', role: 'owner', isLocked: true }), act)?.code).toBe(
    WHEN_LOCKED.includes(act) ? undefined : 'locked',
  );
});

test('each refusal is a sentence that says who may', () => {
  for (const act of ACTS) {
    for (const role of [...ROLES, null]) {
      const no = mayNotHere(at({ role }), act);
      if (no) expect(no.message).toMatch(/^[A-Z].{15,}[.]$/);
    }
  }
});
