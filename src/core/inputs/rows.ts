/** Universes of other desks that this show looks at, and merges into its own. */
import { z } from 'zod';
import { DESK_PORT_PATTERN } from '../hands/rows.ts';
import { Name, idOf, Universe } from '../show/fields.ts';

const SACN_LAST = 63_999;

export const InputRow = z.object({
  id: idOf('inputs'),
  name: Name,
  port: z
    .string()
    .regex(DESK_PORT_PATTERN, 'An input is a universe, like sacn/5 or artnet/0.0.4.')
    .refine((p) => !p.startsWith('sacn/') || Number(p.slice(5)) <= SACN_LAST, 'At most 63999.'),
  /** The universe of the show that it is of: beside this one it is shown, and into it merged. */
  universe: Universe,
  /**
   * `look` changes nothing; `highest` puts the higher of both on the wire, address by address; `follow` sends theirs instead
   * of ours, and goes on with it when they are lost: this house is the other one's backup.
   */
  merge: z.enum(['look', 'highest', 'follow']),
  on: z.boolean(),
});
export type InputRow = z.infer<typeof InputRow>;
