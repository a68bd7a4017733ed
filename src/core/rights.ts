/**
 * What a person may do here: one function, asked by every route, socket and page. Single edits and live commands say
 * themselves for which roles they are (`planEdit`, core/live/commands.ts); this decides whether somebody comes that far.
 */
import { EDITORS, LOOKERS, PLAYERS, ROLES, aRole, type Role } from './roles.ts';
import { refuse, type Refusal } from './refusal.ts';

/** In the house as a whole: its owner; may make shows; has only what they are invited to. */
export const HOUSE_RIGHTS = ['owner', 'maker', 'guest'] as const;
export type HouseRight = (typeof HOUSE_RIGHTS)[number];

/** Who asks, and as what, at this moment. */
export interface Standing {
  house: HouseRight;
  /** In the show that is asked for; null for strangers and for those whose time is over. */
  role: Role | null;
  isLocked: boolean;
}

interface Rule {
  /** From a locked screen as well. */
  whenLocked?: true;
  house?: readonly HouseRight[];
  /** Absent: not about a show. */
  roles?: readonly Role[];
  /** Why others may not. */
  otherwise?: string;
}

const OWNER: readonly Role[] = ['owner'];
const MAKERS: readonly HouseRight[] = ['owner', 'maker'];
const NO_SHOWS =
  'You have the shows that you are invited to, and make none of your own. An owner of the house gives that right.';
const NO_LIBRARY =
  'Types of the house are kept by those who make shows here. In a show that you program, a file can be taken in for that show.';
const NO_WIRES =
  'By which card lights are reached is said by those who make shows in this house. Nothing was changed.';
const NO_FAULTS =
  'Faults of the simulated house are switched by those who make shows in this house. Nothing was changed.';
const DECIDES =
  'Only an owner of the show decides about its people, its back-ups and whether it is kept.';

const RULES = {
  'know who I am': { whenLocked: true },
  'lock and unlock': { whenLocked: true },
  'sign out everywhere': { whenLocked: true },
  'change my settings': {},
  'read my inbox': {},
  'list my shows': {},
  'accept an invitation': {},
  'look at the simulated node': {},
  'put faults into the simulated house': { house: MAKERS, otherwise: NO_FAULTS },
  'look at the wires': {},
  'choose the wires': { house: MAKERS, otherwise: NO_WIRES },
  'bring a file along': {},
  'look into the library': {},
  'fill the library': { house: MAKERS, otherwise: NO_LIBRARY },
  'make shows': { house: MAKERS, otherwise: NO_SHOWS },
  'run the house': {
    house: ['owner'],
    otherwise: 'Only an owner of the house decides what accounts may do here.',
  },
  'come in': { whenLocked: true, roles: ROLES },
  'see the stage': { whenLocked: true, roles: LOOKERS },
  'see my sheets': { roles: ROLES },
  'give live commands': { roles: ROLES },
  'see the show': { roles: LOOKERS },
  'make edits': { roles: LOOKERS },
  'copy the show': { roles: LOOKERS, house: MAKERS, otherwise: NO_SHOWS },
  play: { roles: PLAYERS },
  program: { roles: EDITORS },
  'decide about the show': { roles: OWNER, otherwise: DECIDES },
} satisfies Record<string, Rule>;

/** Everything that somebody may be asked about. */
export type Act = keyof typeof RULES;
/** All of them. */
export const ACTS = Object.keys(RULES) as Act[];

/**
 * Null where it is allowed. A show that somebody is not in does not exist for them (`not-found`).
 * @param standing null for somebody who is not signed in
 */
export function mayNotHere(standing: Standing | null, act: Act): Refusal | null {
  const rule: Rule = RULES[act];
  if (!standing) return refuse('unauthorized', 'Sign in first.');
  if (standing.isLocked && !rule.whenLocked)
    return refuse('locked', 'This screen is locked. Give your PIN first; nothing was changed.');
  if (rule.roles) {
    if (standing.role === null)
      return refuse('not-found', 'This show does not exist, or you are not one of its people.');
    if (!rule.roles.includes(standing.role))
      return refuse(
        'forbidden',
        rule.house
          ? `${aRole(standing.role)} cannot do this.`
          : (rule.otherwise ?? forRole(standing.role, rule.roles)),
      );
  }
  if (rule.house && !rule.house.includes(standing.house))
    return refuse('forbidden', rule.otherwise ?? 'This is not one of your rights in this house.');
  return null;
}

function forRole(role: Role, roles: readonly Role[]): string {
  if (role === 'volunteer')
    return 'A volunteer has the pages given to them, and nothing else of the show.';
  if (roles === PLAYERS) return `${aRole(role)} can look at this show, but not play it.`;
  return `${aRole(role)} cannot change this show. Ask its owner for the programmer’s role.`;
}
