import type { Actor } from './actor.ts';

/** Something for the show's journal. */
export interface Noted {
  kind: 'go' | 'call' | 'board' | 'refused';
  by: Pick<Actor, 'userId' | 'name'>;
  text: string;
  data?: Record<string, unknown>;
}
