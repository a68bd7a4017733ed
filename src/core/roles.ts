/** What people may be in a show. */

/** Owner and programmer may edit; a viewer (a designer in the house) leaves notes; a volunteer has the pages given to them. */
export type Role = 'owner' | 'programmer' | 'operator' | 'viewer' | 'volunteer';

/** What people are in a show, from most to least. */
export const ROLES = ['owner', 'programmer', 'operator', 'viewer', 'volunteer'] as const;

/** `an owner`, `a viewer`: for sentences that begin with it, in capitals. */
export const aRole = (role: Role): string => (/^[aeiou]/.test(role) ? `An ${role}` : `A ${role}`);

/** Who may change a show. */
export const EDITORS: readonly Role[] = ['owner', 'programmer'];

/** Everybody who sees the whole show. */
/** Those who play a show and set levels in it. */
export const PLAYERS: readonly Role[] = ['owner', 'programmer', 'operator'];

/** Who may see all of a show. */
export const LOOKERS: readonly Role[] = ['owner', 'programmer', 'operator', 'viewer'];
