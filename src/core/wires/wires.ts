/** What the house has said of its network: by which card lights are reached, what it is called there. */
import { z } from 'zod';
import { CardName } from '../show/fields.ts';

const NAME_BYTES = 63;

export const Wires = z.object({
  /** How receivers see this house (E1.31-2018 clause 6.2.2), and nodes in its poll replies. */
  sourceName: z
    .string()
    .trim()
    .min(1, 'A source has a name.')
    .refine((t) => new TextEncoder().encode(t).length <= NAME_BYTES, 'A name of 63 bytes at most.')
    .default('Wingman'),
  /** The card by which everything leaves that names none; null: the machine decides. */
  card: CardName.nullable().default(null),
  /** Somebody has said where the lights are. */
  asked: z.boolean().default(false),
  /** Universe whose synchronisation sACN packets wait for (clause 6.3); 0: none. */
  sync: z.number().int().min(0, 'From 1; 0 is none.').max(63_999, 'At most 63999.').default(0),
  /** An ArtSync after each frame of several Art-Net universes. */
  artSync: z.boolean().default(false),
});
export type Wires = z.infer<typeof Wires>;
export const WIRES: Wires = Wires.parse({});
