/** What each role is for, as people choose one. */
import { ROLES, type Role } from '@/core/roles';

/** What each role does, in words. */
export const MEANS: Record<Role, string> = {
  owner: 'decides who is in the show, and everything below',
  programmer: 'patches, records, plays',
  operator: 'plays and sets levels, changes no cue',
  viewer: 'looks, calls cues, leaves notes: a designer in the house',
  volunteer: 'has the sheets given to them, and nothing else',
};
/** Roles as a choice. */
export const ROLE_OPTIONS = ROLES.map((r) => ({ value: r, label: r }));
