/** Channels by which the database tells processes what has happened. */
export const CHANNEL = 'wingman_change';
export const MEMBERS_CHANNEL = 'wingman_members';
export const AIR_CHANNEL = 'wingman_air';
