/**
 * What a live command is, said once: checking, roles, boards, the journal, remote controls and the documents derive from
 * the nouns that have some (`commands.ts`). What it does to what plays is a line of `src/player/carry-out.ts`, which the type
 * checker misses until it is there (decision 0030).
 */
import { z } from 'zod';
import type { Role } from '../roles.ts';

/** Whose board it is that decides: the list's that it names (or the first list's), that of its fader's page, the show's. */
export type Board = 'list' | 'page' | 'show';

/** How a remote control says it over OSC: `/wingman/go`, `/wingman/list/2/go`, `/wingman/fader/3`. */
export interface OscForm {
  path: string;
  /** Where it may stand: by itself, under a list's number, or with a fader's number after it. */
  at: readonly ('show' | 'list' | 'fader')[];
  /**
   * What its first argument is: a button (0 is its lifting, which says nothing), a switch (absent is on), a level (held
   * to 0…1), or text. The last three go into the parameter `into`.
   */
  argument: 'button' | 'switch' | 'level' | 'text';
  into?: string;
}

/** A live command and all that is known of it. */
export interface LiveDefinition<
  Name extends string,
  Params extends z.ZodRawShape,
  Plays extends boolean,
  House extends boolean,
> {
  command: Name;
  /** What it does, in a sentence for whoever writes programs. */
  says: string;
  params: Params;
  roles: readonly Role[];
  /** Absent: nobody's board stands against it. */
  board?: Board;
  /** Plays lists, faders or masters: nothing that is typed ever keeps it waiting. */
  plays?: Plays;
  /** About which show is on air, the command line, timecode, or the network: the house answers it, and no show. */
  ofHouse?: House;
  /** By it a show goes on: whoever gives it wants it on stage, and is told where it is not. */
  goesOn?: true;
  /** Noted in the journal under these words, with who, from where and how late after its call. */
  journal?: string;
  /** Taken from phones and pages also while remotes are off: it plays nothing. */
  withoutRemotes?: true;
  osc?: OscForm;
}

/** A live command with the schema of its message: `{command, …params}`. */
export const defineLive = <
  const Name extends string,
  Params extends z.ZodRawShape,
  const Plays extends boolean = false,
  const House extends boolean = false,
>(
  live: LiveDefinition<Name, Params, Plays, House>,
) => ({ ...live, schema: z.object({ command: z.literal(live.command), ...live.params }) });
