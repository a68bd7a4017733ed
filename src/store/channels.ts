/** Channels by which the database tells processes what has happened. */
export const CHANNEL = 'wingman_change';
/** Told when somebody’s place in a show changes. */
export const MEMBERS_CHANNEL = 'wingman_members';
/** Told when another show goes on air. */
export const AIR_CHANNEL = 'wingman_air';
