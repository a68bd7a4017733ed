/** Universes of other desks that this show looks at, and merges into its own. */
import { z } from 'zod';
import { DESK_PORT_PATTERN } from '../hands/rows.ts';
import { CardName, Name, idOf, Universe } from '../show/fields.ts';

const SACN_LAST = 63_999;

/** A universe that this house listens to, and what comes of it. */
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
  /** The network card by which it comes; absent: by any. */
  card: CardName.optional(),
});
export type InputRow = z.infer<typeof InputRow>;

/** A universe as it is listened to: from everywhere, or by one card. */
export const heardAs = ({ port, card }: Pick<InputRow, 'port' | 'card'>): string =>
  card === undefined ? port : `${port}${BY}${card}`;
const BY = ' by ';
/** @returns the universe, and the card by which it comes; null: by any */
export function heardBy(heard: string): { port: string; card: string | null } {
  const at = heard.indexOf(BY);
  return at < 0
    ? { port: heard, card: null }
    : { port: heard.slice(0, at), card: heard.slice(at + BY.length) };
}
