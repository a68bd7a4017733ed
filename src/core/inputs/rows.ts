/** Universes of other desks that this show looks at, and merges into its own. */
import { z } from 'zod';
import { Name, idOf, Universe } from '../show/fields.ts';

/** `sacn/5`, or `artnet/0.0.4` as net, sub-net and universe. */
const PORT_PATTERN =
  /^(?:sacn\/(?:[1-9]\d{0,4})|artnet\/(?:\d{1,2}|1[01]\d|12[0-7])\.(?:\d|1[0-5])\.(?:\d|1[0-5]))$/;
const SACN_LAST = 63_999;

export const InputRow = z.object({
  id: idOf('inputs'),
  name: Name,
  port: z
    .string()
    .regex(PORT_PATTERN, 'An input is a universe, like sacn/5 or artnet/0.0.4.')
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
